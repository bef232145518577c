import fc from 'fast-check';
import { CholeskyDecomposition, inverse as invert, Matrix } from 'ml-matrix';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { fitMixed } from './mixed.ts';
import type { MixedData } from './mixedLayout.ts';
import { readShelf } from './readShelf.ts';
import { Shelf } from './shelf.ts';
import { shelfInputSchema, type ShelfSetting } from './shelfInput.ts';
import { cholesky, inverse, multiply, multiplySparse, solve } from './spd.ts';
import { translate, translateInputSchema } from './translate.ts';
import { PRODUCTS } from './products.ts';

const positive = (n: number, seed: number) => {
  const random = seededRandom(seed);
  const b = Matrix.zeros(n, n).apply(function (this: Matrix, i: number, j: number) {
    this.set(i, j, random.normal());
  });
  return b.mmul(b.transpose()).add(Matrix.eye(n).mul(0.5));
};

describe('spd', () => {
  test.each([1, 2, 3, 5, 23, 24, 25, 49, 97, 201])(
    'factor, inverse and solution of %i unknowns as ml-matrix has them',
    (n) => {
      const a = positive(n, n);
      const flat = Float64Array.from(a.to1DArray());
      const logDet = cholesky(flat, n);
      const reference = new CholeskyDecomposition(a).lowerTriangularMatrix;
      let expected = 0;
      for (let i = 0; i < n; i++) {
        expected += 2 * Math.log(reference.get(i, i));
        for (let j = 0; j <= i; j++) expect(Math.abs(flat[i * n + j]! - reference.get(i, j))).toBeLessThan(1e-8);
      }
      expect(logDet).toBeCloseTo(expected, 8);
      const inv = invert(a);
      const mine = inverse(flat, n);
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) expect(Math.abs(mine[i * n + j]! - inv.get(i, j))).toBeLessThan(1e-7);
      const x = Float64Array.from({ length: n }, (_, i) => Math.sin(i));
      const want = inv.mmul(Matrix.columnVector([...x])).to1DArray();
      solve(flat, n, x);
      want.forEach((v, i) => expect(Math.abs(x[i]! - v)).toBeLessThan(1e-7));

      // Several at once, each with more behind it that is left alone; and one of which most is 0.
      const many = Array.from({ length: 7 }, (_, c) => Float64Array.from({ length: n + 2 }, (_, i) => Math.cos(i + c)));
      const wantMany = many.map((v) => inv.mmul(Matrix.columnVector([...v.subarray(0, n)])).to1DArray());
      multiply(mine, n, many);
      many.forEach((v, c) => {
        wantMany[c]!.forEach((w, i) => expect(Math.abs(v[i]! - w)).toBeLessThan(1e-7));
        expect([...v.subarray(n)]).toEqual([Math.cos(n + c), Math.cos(n + 1 + c)]);
      });
      const few = Float64Array.from({ length: n + 2 }, (_, i) => (i % 17 === 0 ? 1 + i : 0));
      const wantFew = inv.mmul(Matrix.columnVector([...few.subarray(0, n)])).to1DArray();
      multiplySparse(mine, n, few);
      wantFew.forEach((w, i) => expect(Math.abs(few[i]! - w)).toBeLessThan(1e-6));
    },
  );

  test('the machine code is that of its text', async () => {
    const { productsSource } = await import('../../bin/lib/products.ts');
    expect(await productsSource()).toContain(PRODUCTS.slice(0, 112));
    expect((await productsSource()).replace(/[^A-Za-z0-9+/=]/g, '')).toContain(PRODUCTS.slice(-100));
  });

  test('what is not positive definite is said', () => {
    expect(cholesky(Float64Array.of(1, 2, 2, 1), 2)).toBeNaN();
  });
});

/** −2 restricted log likelihood from the definition, with dense matrices: Harville (1977), J. Am. Stat. Assoc. 72, eq. 4.1. */
function restricted(data: MixedData, sd: Float64Array, residual: number, slopes: Float64Array): number {
  const n = data.y.length;
  const V = Matrix.zeros(n, n);
  const slope = (i: number) => (data.slopes ? slopes[data.slopes.index[i]!]! : 1);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      let v = i === j ? residual * (data.share?.[i] ?? 1) + (data.known?.[i] ?? 0) : 0;
      data.random.forEach((r, k) => {
        if (r.index[i]! >= 0 && r.index[i] === r.index[j])
          v += sd[k]! ** 2 * (r.coef?.[i] ?? 1) * (r.coef?.[j] ?? 1) * slope(i) * slope(j);
      });
      V.set(i, j, v);
    }
  const X = Matrix.zeros(n, data.fixedLevels);
  for (const f of data.fixed)
    for (let i = 0; i < n; i++)
      if (f.index[i]! >= 0)
        X.set(i, f.index[i]!, X.get(i, f.index[i]!) + (f.coef?.[i] ?? 1) * (f.sloped ? slope(i) : 1));
  const y = Matrix.columnVector([...data.y].map((v, i) => v - (data.slopes ? slope(i) * data.slopes.offset[i]! : 0)));
  const logDet = (m: Matrix) =>
    2 *
    // Symmetric to the last digit, as the library wants it.
    new CholeskyDecomposition(Matrix.add(m, m.transpose()).div(2)).lowerTriangularMatrix
      .diag()
      .reduce((s, v) => s + Math.log(v), 0);
  const Vi = invert(V);
  const XVX = X.transpose().mmul(Vi).mmul(X);
  const beta = invert(XVX).mmul(X.transpose()).mmul(Vi).mmul(y);
  const r = Matrix.sub(y, X.mmul(beta));
  return (
    logDet(V) + logDet(XVX) + r.transpose().mmul(Vi).mmul(r).get(0, 0) + (n - data.fixedLevels) * Math.log(2 * Math.PI)
  );
}

/** A small shelf: models with slopes, cutters within models, blades within cutters, vinyls within types, some rows weighed. */
function small(seed: number): MixedData {
  const random = seededRandom(seed);
  const n = 46;
  const pick = (k: number) => Int32Array.from({ length: n }, () => Math.floor(random.uniform() * k));
  const cutter = pick(7);
  const vinyl = pick(9);
  const model = cutter.map((c) => c % 3);
  const blade = cutter.map((c) => c * 2 + Math.floor(random.uniform() * 2));
  const weighed = (i: number) => i % 11 === 0;
  const load = Array.from({ length: 9 }, () => 0.3 * random.normal());
  const minus = new Float64Array(n).fill(-1);
  const kappa = [0.8, 1, 1.3];
  return {
    y: Float64Array.from(
      cutter,
      (c, i) => model[i]! + kappa[model[i]!]! * (load[vinyl[i]!]! - 0.05 * c) + 0.06 * random.normal(),
    ),
    known: Float64Array.from({ length: n }, (_, i) => (i % 3 === 0 ? 0.0025 : 0)),
    share: Float64Array.from({ length: n }, (_, i) => (i % 5 === 0 ? 2 : 1)),
    fixed: [
      { index: model },
      { index: Int32Array.from({ length: n }, (_, i) => (weighed(i) ? 3 : -1)), coef: minus, sloped: true },
    ],
    fixedLevels: 4,
    random: [
      { levels: 4, index: vinyl.map((v, i) => (weighed(i) ? -1 : v % 4)) },
      { levels: 9, index: vinyl.map((v, i) => (weighed(i) ? -1 : v)) },
      { levels: 7, index: cutter, coef: minus },
      { levels: 14, index: blade, coef: minus },
    ],
    slopes: {
      count: 3,
      index: model,
      offset: Float64Array.from({ length: n }, (_, i) => (weighed(i) ? 4.6 + 0.1 * (i % 4) : 0)),
      sd: new Float64Array(3).fill(0.35),
    },
  };
}

describe('fitMixed', () => {
  test.each([1, 2, 3])('the criterion is that of its definition, and nothing near is better (%i)', (seed) => {
    const data = small(seed);
    const { at, objective, converged } = fitMixed(data);
    expect(converged).toBe(true);
    const { sd, residualVariance, slopes } = at.par;
    const of = (s: Float64Array, r: number, k: Float64Array) =>
      restricted(data, s, r, k) + k.reduce((sum, v) => sum + (Math.log(v) / 0.35) ** 2, 0);
    expect(of(sd, residualVariance, slopes)).toBeCloseTo(objective, 6);
    const slack = 2e-5;
    sd.forEach((v, k) => {
      for (const f of [0.97, 1.03]) {
        const moved = sd.slice();
        moved[k] = v * f;
        expect(of(moved, residualVariance, slopes)).toBeGreaterThan(objective - slack);
      }
    });
    for (const f of [0.97, 1.03]) expect(of(sd, residualVariance * f, slopes)).toBeGreaterThan(objective - slack);
    slopes.forEach((v, k) => {
      for (const f of [0.97, 1.03]) {
        const moved = slopes.slice();
        moved[k] = v * f;
        expect(of(sd, residualVariance, moved)).toBeGreaterThan(objective - slack);
      }
    });
  });

  test('rows that weigh alike are fitted without going over them, step for step as if they were gone over', () => {
    const { y, random, fixed } = small(4);
    const plain: MixedData = {
      y,
      fixed: [{ index: fixed[0]!.index }],
      fixedLevels: 3,
      random: random.map((r) => ({ levels: r.levels, index: r.index })),
    };
    const [quick, long] = [fitMixed(plain), fitMixed({ ...plain, share: new Float64Array(y.length).fill(1) })];
    expect(quick.iterations).toBe(long.iterations);
    expect(quick.objective).toBeCloseTo(long.objective, 8);
    quick.at.par.sd.forEach((v, k) => expect(v).toBeCloseTo(long.at.par.sd[k]!, 6));
  });

  test('leverage and variances are those of the mixed model equations', () => {
    const data = small(5);
    const { at } = fitMixed(data);
    const { leverage } = at.rowForms();
    // A row predicted as it stands has the variance its leverage says.
    for (const i of [0, 1, 7, 23]) {
      const slope = at.par.slopes[data.slopes!.index[i]!]!;
      const { variance, mean } = at.predict(
        data.fixed.flatMap((f) =>
          f.index[i]! < 0 ? [] : [[f.index[i]!, (f.coef?.[i] ?? 1) * (f.sloped ? slope : 1)] as [number, number]],
        ),
        data.random.flatMap((r, k) =>
          r.index[i]! < 0 ? [] : [[k, r.index[i]!, (r.coef?.[i] ?? 1) * slope] as [number, number, number]],
        ),
      );
      expect(variance).toBeCloseTo(leverage[i]!, 10);
      expect(mean + slope * data.slopes!.offset[i]!).toBeCloseTo(at.fitted[i]!, 10);
    }
  });
});

describe('translate', () => {
  const rows = (n: number, seed: number) => {
    const random = seededRandom(seed);
    return Array.from({ length: n }, (_, i) => ({
      a: `a${i % 5}`,
      b: `b${Math.floor(random.uniform() * 4)}`,
      value: Math.exp(1 + 0.2 * (i % 5) + 0.1 * random.normal()),
    }));
  };
  const input = (over: object) =>
    translateInputSchema.parse({
      scale: 'log',
      terms: ['a', 'b'],
      observations: rows(60, 3),
      predict: [{ a: 'a1', b: 'b2' }, { a: 'nobody' }, {}],
      ...over,
    });

  test('the log scale is the linear one of logarithms', () => {
    const log = translate(input({}));
    const linear = translate(
      input({ scale: 'linear', observations: rows(60, 3).map((r) => ({ ...r, value: Math.log(r.value) })) }),
    );
    expect(log.criterion).toBeCloseTo(linear.criterion, 6);
    log.predictions.forEach((p, i) => expect(Math.log(p.value)).toBeCloseTo(linear.predictions[i]!.value, 8));
    expect(log.predictions[1]!.unknown).toEqual(['a', 'b']);
    expect(log.predictions[2]).toEqual(log.predictions[1]);
    expect(log.predictions[0]!.meanInterval.low).toBeGreaterThan(log.predictions[0]!.interval.low);
  });

  test('a value with a large standard error says little', () => {
    const observations: object[] = rows(60, 3);
    const plain = translate(input({}));
    const off = { a: 'a1', b: 'b2', value: 40 };
    const sure = translate(input({ observations: [...observations, off] }));
    const unsure = translate(input({ observations: [...observations, { ...off, se: 400 }] }));
    const at = (t: typeof plain) => t.predictions[0]!.mean;
    expect(Math.abs(at(unsure) - at(plain))).toBeLessThan(0.02);
    expect(Math.abs(at(sure) - at(plain))).toBeGreaterThan(3 * Math.abs(at(unsure) - at(plain)));
  });

  test('names that objects have of their own are names like others', () => {
    const observations = rows(60, 4).map((r, i) => ({ ...r, a: i % 2 ? '__proto__' : 'constructor' }));
    const { effects } = translate(input({ observations, predict: [{ a: '__proto__' }] }));
    expect(Object.keys(effects.a!).sort()).toEqual(['__proto__', 'constructor']);
  });

  test.each([
    [
      {
        observations: [
          { a: 'x', b: 'y', value: 1 },
          { a: 'x', b: 'y', value: -2 },
        ],
      },
      'observations.1.value',
      'no logarithm',
    ],
    [
      {
        observations: [
          { a: 'x', value: 1 },
          { a: 'x', b: 'y', value: 2 },
        ],
      },
      'observations.0',
      'has no "b"',
    ],
    [{ terms: ['a'] }, 'observations.0', '"b" is not one of the terms'],
    [{ predict: [{ c: 'x' }] }, 'predict.0', '"c" is not one of the terms'],
    [{ terms: ['a', 'value'] }, 'terms.1', 'not called "value"'],
    [{ level: 1 }, 'level', ''],
  ])('bad input is told where: %j', (over, path, message) => {
    const { error } = translateInputSchema.safeParse({
      scale: 'log',
      terms: ['a', 'b'],
      observations: rows(9, 1),
      ...over,
    });
    expect(error!.issues[0]!.path.join('.')).toBe(path);
    expect(error!.issues[0]!.message).toContain(message);
  });

  test('a term of one level is told from nothing: it varies not at all', () => {
    const observations = rows(60, 5).map((r) => ({ ...r, c: 'only' }));
    const with3 = translate(
      input({ terms: ['c', 'a', 'b'], observations, predict: [{ a: 'a1', b: 'b2', c: 'only' }] }),
    );
    const with2 = translate(input({ observations: rows(60, 5), predict: [{ a: 'a1', b: 'b2' }] }));
    expect(with3.variances.c).toEqual({ variance: 0, sd: 0, levels: 1 });
    expect(with3.effects.c!.only).toEqual({ effect: 0, se: 0 });
    expect(with3.criterion).toBe(with2.criterion);
    expect(with3.predictions[0]).toEqual(with2.predictions[0]);
  });

  test('values that do not vary are refused', () => {
    const observations = rows(9, 1).map((r) => ({ ...r, value: 3 }));
    expect(() => translate(input({ observations }))).toThrow('all values are the same');
  });
});

const row = (
  model: string,
  cutter: string,
  vinyl: string,
  z: number,
  more: Partial<ShelfSetting> = {},
): ShelfSetting => ({
  model,
  cutter,
  vinyl,
  type: 'smooth',
  z,
  se: 0.03,
  step: 0,
  foreign: 1,
  ...more,
});
/** Two models on unlike scales, three cutters each, six vinyls. */
function twoModels(seed: number, islands = false): ShelfSetting[] {
  const random = seededRandom(seed);
  const load = [-0.4, -0.2, 0, 0.15, 0.3, 0.5];
  return ['north', 'south'].flatMap((model, m) =>
    [0, 1, 2].flatMap((c) =>
      load.map((v, i) =>
        row(
          model,
          `c${c}`,
          `v${islands ? m : ''}${i}`,
          2 * m + (m ? 1.4 : 0.7) * (v - 0.1 * (c - 1)) + 0.03 * random.normal(),
        ),
      ),
    ),
  );
}

describe('Shelf', () => {
  test('finds axis, slope and the offset of a cutter, and translates between scales', () => {
    const rows = twoModels(1).filter((r) => !(r.model === 'south' && r.cutter === 'c0' && r.vinyl === 'v5'));
    const shelf = Shelf.fit(rows);
    expect(shelf.slopeOf('south') / shelf.slopeOf('north')).toBeGreaterThan(1.7);
    expect(shelf.slopeOf('south') / shelf.slopeOf('north')).toBeLessThan(2.3);
    const said = shelf.predict({ model: 'south', cutter: 'c0', type: 'smooth', vinyl: 'v5' });
    expect(said.basis).toBe('vinyl and cutter');
    expect(said.z!).toBeCloseTo(2 + 1.4 * (0.5 + 0.1), 1);
    expect(said.interval!.low).toBeLessThan(2.84);
    expect(said.interval!.high).toBeGreaterThan(2.84);
    const [light, heavy] = ['c0', 'c2'].map((c) => shelf.offsetOf('north', c)!);
    expect(light!.offset).toBeLessThan(0);
    expect(heavy!.offset).toBeGreaterThan(0);
    expect(light!.settings).toBe(6);
  });

  test('falls back: new cutter, unknown vinyl, unknown model', () => {
    const shelf = Shelf.fit(twoModels(2));
    const known = shelf.predict({ model: 'north', cutter: 'c1', type: 'smooth', vinyl: 'v2' });
    const fresh = shelf.predict({ model: 'north', cutter: 'new', type: 'smooth', vinyl: 'v2' });
    const typed = shelf.predict({ model: 'north', cutter: 'c1', type: 'smooth', vinyl: 'nobody has it' });
    expect([known.basis, fresh.basis, typed.basis]).toEqual(['vinyl and cutter', 'vinyl', 'type']);
    expect(fresh.sd!).toBeGreaterThan(known.sd!);
    expect(typed.sd!).toBeGreaterThan(fresh.sd!);
    expect(shelf.predict({ model: 'east', type: 'smooth', vinyl: 'v2' }).basis).toBe('nothing');
    expect(shelf.predict({ model: 'north', type: 'flock', vinyl: 'w' }).basis).toBe('nothing');
    expect(Shelf.fit([]).predict({ model: 'north', type: 'smooth', vinyl: 'v2' }).basis).toBe('nothing');
  });

  test('models without a vinyl in common cannot be compared, until cutters of both are weighed', () => {
    const rows = twoModels(3, true);
    const apart = Shelf.fit(rows);
    expect(apart.comparable('north', 'south')).toBe(false);
    expect(apart.predict({ model: 'north', cutter: 'c0', type: 'smooth', vinyl: 'v15' }).basis).toBe('not comparable');
    // North c1 gives 100 g at z = 0; south c1 gives 100 g at z = 2.
    const scales = [-0.3, 0, 0.3].flatMap((x) => [
      { model: 'north', cutter: 'c1', z: 0.7 * x, grams: 100 * Math.exp(x) },
      { model: 'south', cutter: 'c1', z: 2 + 1.4 * x, grams: 100 * Math.exp(x) },
    ]);
    const weighed = Shelf.fit(rows, scales);
    expect(weighed.comparable('north', 'south')).toBe(true);
    const said = weighed.predict({ model: 'north', cutter: 'c0', type: 'smooth', vinyl: 'v15' });
    expect(said.basis).toBe('vinyl and cutter');
    expect(said.z!).toBeCloseTo(0.7 * 0.6, 1);
  });

  test('scales on models that nobody cut on tie nothing, and harm nothing', () => {
    const rows = twoModels(8);
    const apart = [-0.3, 0, 0.3].map((x) => ({ model: 'east', cutter: 'c', z: x, grams: 100 * Math.exp(x) }));
    const [plain, with_] = [Shelf.fit(rows), Shelf.fit(rows, apart)];
    const asked = { model: 'south', cutter: 'c1', type: 'smooth', vinyl: 'v3' };
    expect(with_.predict(asked)).toEqual(plain.predict(asked));
    expect(with_.predict({ ...asked, model: 'east' }).basis).toBe('nothing');
    expect(Shelf.fit([], apart).predict(asked).basis).toBe('nothing');
    // Weighed as well as cut on: then a model that was only weighed is reached.
    const tied = Shelf.fit(rows, [
      ...apart,
      ...apart.map((r) => ({ ...r, model: 'north', cutter: 'c1', z: 0.7 * r.z })),
    ]);
    const there = tied.predict({ model: 'east', cutter: 'c', type: 'smooth', vinyl: 'v3' });
    expect(there.basis).toBe('vinyl');
    expect(Number.isFinite(there.z!)).toBe(true);
    expect(there.z!).toBeCloseTo(0.15, 0);
  });

  test('one more setting taken in is what a new fit with the same variances says', () => {
    const rows = twoModels(4);
    const late = [
      row('north', 'late', 'v1', -0.05),
      row('north', 'late', 'new', 0.4),
      row('south', 'late', 'new', 2.9),
    ];
    let grown: Shelf | undefined = Shelf.fit(rows);
    for (const r of late) grown = grown?.add(r);
    const full = Shelf.fit([...rows, ...late]);
    for (const asked of [
      { model: 'north', cutter: 'late', type: 'smooth', vinyl: 'v4' },
      { model: 'south', cutter: 'c1', type: 'smooth', vinyl: 'new' },
      { model: 'south', cutter: 'late', type: 'smooth', vinyl: 'v4' },
    ]) {
      const [a, b] = [grown!.predict(asked), full.predict(asked)];
      expect(a.basis).toBe(b.basis);
      expect(Math.abs(a.z! - b.z!)).toBeLessThan(0.25 * b.sd!);
      expect(a.sd! / b.sd!).toBeGreaterThan(0.7);
      expect(a.sd! / b.sd!).toBeLessThan(1.4);
    }
    expect(Math.abs(grown!.offsetOf('north', 'late')!.offset - full.offsetOf('north', 'late')!.offset)).toBeLessThan(
      0.05,
    );
    expect(grown!.add(row('west', 'c', 'v1', 0))).toBeUndefined();
  });

  test('a wild setting is told and does not rule', () => {
    const rows = twoModels(5);
    const at = rows.findIndex((r) => r.model === 'north' && r.cutter === 'c1' && r.vinyl === 'v3');
    const bent = rows.map((r, i) => (i === at ? { ...r, z: r.z + 1.2 } : r));
    const [clean, wild] = [Shelf.fit(rows), Shelf.fit(bent)];
    expect(wild.wild().map((w) => w.row)).toEqual([at]);
    const asked = { model: 'south', cutter: 'c2', type: 'smooth', vinyl: 'v3' };
    expect(Math.abs(wild.predict(asked).z! - clean.predict(asked).z!)).toBeLessThan(0.05);
  });

  test('check coupons of known vinyls sharpen the offset of a new cutter', () => {
    const shelf = Shelf.fit(twoModels(6));
    const on = { model: 'north', cutter: 'new' };
    const before = shelf.offsetOf('north', 'new')!.sd;
    const advice = shelf.sharpen(
      on,
      [0, 1, 2, 3].map((i) => ({ type: 'smooth', vinyl: `v${i}` })),
    );
    expect(advice).toHaveLength(2);
    expect(advice[0]!.sd).toBeLessThan(before);
    expect(advice[1]!.sd).toBeLessThan(advice[0]!.sd);
  });

  test('"comparable" is exactly what a walk from model to model over vinyls and scales reaches', () => {
    const link = fc.record({ model: fc.integer({ min: 0, max: 5 }), vinyl: fc.integer({ min: 0, max: 7 }) });
    fc.assert(
      fc.property(
        fc.array(link, { minLength: 2, maxLength: 9 }),
        fc.array(fc.integer({ min: 0, max: 5 }), { maxLength: 3 }),
        (links, weighed) => {
          const settings = links.map((l, i) => row(`m${l.model}`, `c${i}`, `v${l.vinyl}`, 0.01 * i));
          const scales = weighed.map((m, i) => ({ model: `m${m}`, cutter: `s${i}`, z: 0.1 * i, grams: 80 + i }));
          const shelf = Shelf.fit(settings, scales);
          const reached = new Set([links[0]!.model]);
          for (let grew = true; grew;) {
            const size = reached.size;
            for (const a of links)
              for (const b of links) if (reached.has(a.model) && a.vinyl === b.vinyl) reached.add(b.model);
            if (weighed.some((m) => reached.has(m))) weighed.forEach((m) => reached.add(m));
            grew = reached.size > size;
          }
          for (const m of new Set([...links.map((l) => l.model), ...weighed]))
            expect(shelf.comparable(`m${links[0]!.model}`, `m${m}`)).toBe(reached.has(m));
        },
      ),
      { numRuns: 40 },
    );
  });

  test('the command-line door names every model and cutter', () => {
    const input = shelfInputSchema.parse({
      format: 'versipel-shelf/1',
      settings: twoModels(7),
      predict: [{ model: 'south', cutter: 'c1', type: 'smooth', vinyl: 'v1' }],
    });
    const told = readShelf(input);
    expect(Object.keys(told.models)).toEqual(['north', 'south']);
    expect(told.models.north!.comparable).toEqual(['south']);
    expect(told.cutters).toHaveLength(6);
    expect(told.predictions[0]!.basis).toBe('vinyl and cutter');
  });
});
