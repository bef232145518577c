import { normalQuantile } from '../stats/index.ts';
import { cholesky, solve } from './spd.ts';
import { fitMixed, type MixedFit } from './mixed.ts';
import type { Factored } from './factored.ts';
import type { MixedData } from './mixedLayout.ts';
import {
  type ShelfSetting,
  type ShelfScale,
  type ShelfWanted,
  type Term,
  TERMS,
  shelfDefaults,
  SIGN,
} from './shelfInput.ts';
import { Names, type VinylFacts, named, factsOf, shares } from './shelfFacts.ts';

/** What a translated place rests on. */
export type Basis =
  /** Others cut this vinyl on models that can be compared, and this cutter has settings of its own. */
  | 'vinyl and cutter'
  /** The same, but the cutter is new: any of its model. */
  | 'vinyl'
  /** Nobody cut this vinyl: from its type. */
  | 'type'
  /** This vinyl was cut only on models that share nothing with this one. */
  | 'not comparable'
  /** Nobody shared anything for this model. */
  | 'nothing';

export type ShelfPrediction = {
  basis: Basis;
  /** Centre of the window in nominal log load of the model, its standard deviation, and the interval. Left out where nothing is said. */
  z?: number;
  sd?: number;
  interval?: { low: number; high: number };
  /** How many people cut the vinyl, and on how many models. */
  crafters: number;
  models: number;
};

export type CutterOffset = {
  /** Against the middle of its model, in log load: above 0 it cuts heavier, and wants lower numbers. */
  offset: number;
  sd: number;
  settings: number;
};

/** One more row taken in: C·w, the variance it was met with, how far off it was. */
type Correction = { solved: Float64Array; fresh: Map<string, number>; spread: number; off: number };
type ShelfState = {
  settings: readonly ShelfSetting[];
  names: Record<Term, Names>;
  models: Names;
  /** Models that can be compared have the same root. */
  root: Int32Array;
  vinylFacts: Map<string, VinylFacts>;
  typeRoots: Map<string, Set<number>>;
  cutterRows: Map<string, number>;
  fit: MixedFit | undefined;
  /** σ² of each model as a multiple of that of all. */
  sigma: Float64Array;
  /** For each row how many standard deviations it lies from what all others say of it. */
  surprise: Float64Array;
  corrections: readonly Correction[];
};

/**
 * All shared settings, read together: an axis and a slope a cutter model, type and vinyl, cutter and blade, batch.
 *
 *   z = α_m + κ_m·(type + vinyl + batch − cutter − blade) + ε,  Var ε = σ_m² + s² + step²/12
 *
 * A kitchen scale's reading is a row of the same likelihood, with the grams in place of the vinyl. Sources: Finlay & Wilkinson
 * (1963); Henderson (1950); REML as in `fitMixed`.
 */
export class Shelf {
  private readonly state: ShelfState;
  private constructor(state: ShelfState) {
    this.state = state;
  }
  get settings(): readonly ShelfSetting[] {
    return this.state.settings;
  }

  /** Reads all settings and scales together. The same rows in the same order give the same shelf, to the digit. */
  static fit(settings: readonly ShelfSetting[], allScales: readonly ShelfScale[] = []): Shelf {
    // Grams have a zero of their own, which only a model that was both weighed and cut on ties to the vinyls.
    const cutOn = new Set(settings.map((r) => r.model));
    const scales = allScales.some((r) => cutOn.has(r.model)) ? allScales : [];
    const names = Object.fromEntries(TERMS.map((t) => [t, new Names()])) as Record<Term, Names>;
    const models = new Names();
    const n = settings.length + scales.length;
    const model = new Int32Array(n);
    const random = TERMS.map(() => new Int32Array(n).fill(-1));
    const y = new Float64Array(n);
    const known = new Float64Array(n);
    const offset = new Float64Array(n);
    settings.forEach((r, i) => {
      model[i] = models.of(r.model);
      TERMS.forEach((t, k) => (random[k]![i] = names[t].of(named[t](r))));
      y[i] = r.z;
      known[i] = (r.se ** 2 + r.step ** 2 / 12) * r.foreign;
    });
    scales.forEach((r, s) => {
      const i = settings.length + s;
      model[i] = models.of(r.model);
      const at = { ...r, type: '' };
      random[TERMS.indexOf('cutter')]![i] = names.cutter.of(named.cutter(at));
      random[TERMS.indexOf('blade')]![i] = names.blade.of(named.blade(at));
      y[i] = r.z;
      known[i] = shelfDefaults.scaleSd ** 2;
      offset[i] = Math.log(r.grams);
    });
    const count = models.levels.size;
    const facts = factsOf(settings, scales, models);
    const none = new Float64Array(0);
    const state: ShelfState = {
      settings,
      names,
      models,
      ...facts,
      fit: undefined,
      sigma: none,
      surprise: none,
      corrections: [],
    };
    if (n === 0) return new Shelf(state);

    // Fixed: α of each model; the grams' own zero, where any were weighed.
    const fixed: MixedData['fixed'] = [{ index: model }];
    if (scales.length > 0)
      fixed.push({
        index: Int32Array.from({ length: n }, (_, i) => (i < settings.length ? -1 : count)),
        coef: new Float64Array(n).fill(-1),
        sloped: true,
      });
    const vinylsOf = Array.from({ length: count }, () => new Set<number>());
    settings.forEach((_, i) => vinylsOf[model[i]!]!.add(random[1]![i]!));
    scales.forEach((_, s) => vinylsOf[model[settings.length + s]!]!.add(-2 - s));
    const data: MixedData = {
      y,
      known,
      share: new Float64Array(n).fill(1),
      fixed,
      fixedLevels: count + (scales.length > 0 ? 1 : 0),
      random: TERMS.map((t, k) => ({
        levels: names[t].levels.size,
        index: random[k]!,
        coef: new Float64Array(n).fill(SIGN[t]),
      })),
      slopes: {
        count,
        index: model,
        offset,
        sd: Float64Array.from(vinylsOf, (v) =>
          v.size < shelfDefaults.slopeVinyls ? shelfDefaults.slopeSdFew : shelfDefaults.slopeSd,
        ),
      },
      usual: [...TERMS.map((t) => shelfDefaults.usual[t]), shelfDefaults.usual.residual],
    };
    const { tolerance } = shelfDefaults;
    let fit = fitMixed(data, { tolerance });
    let surprise = surprises(fit.at);
    const sigma = new Float64Array(count).fill(1);
    for (let round = 0; round < shelfDefaults.rounds; round++) {
      const share = shares(fit.at, surprise, model, sigma, settings.length);
      const change = share.reduce((most, v, i) => Math.max(most, Math.abs(Math.log(v / data.share![i]!))), 0);
      if (change < 0.2) break;
      data.share = share;
      fit = fitMixed(data, { tolerance, start: fit.at.par });
      surprise = surprises(fit.at);
    }
    return new Shelf({ ...state, fit, sigma, surprise });
  }

  private get at(): Factored {
    return this.state.fit!.at;
  }

  /** α of a model: where its axis stands for the vinyl that is like all on the middle one of its cutters. */
  axisOf(model: string): number {
    const m = this.state.models.find(model);
    return m < 0 || !this.state.fit ? 0 : this.at.fixed[m]!;
  }
  /** Standard deviation of a term in log load. */
  spreadOf(term: Term): number {
    return this.state.fit?.at.par.sd[TERMS.indexOf(term)] ?? shelfDefaults.usual[term].median;
  }
  /** κ of a model. */
  slopeOf(model: string): number {
    const m = this.state.models.find(model);
    return m < 0 || !this.state.fit ? 1 : this.at.par.slopes[m]!;
  }
  /** σ of a model: what is left between a setting and what the shelf says of it, beside its own uncertainty. */
  residualSd(model: string): number {
    const m = this.state.models.find(model);
    return this.state.fit
      ? Math.sqrt(this.at.par.residualVariance * (m < 0 ? 1 : this.state.sigma[m]!))
      : shelfDefaults.usual.residual.median;
  }

  /** What the shelf says of a vinyl, in log load: its type and itself. */
  loadOf(vinyl: string, type: string): number {
    if (!this.state.fit) return 0;
    const of = (term: 'type' | 'vinyl', name: string) => {
      const level = this.state.names[term].find(name);
      return level < 0 ? 0 : this.at.effects[TERMS.indexOf(term)]![level]!;
    };
    return of('type', type) + of('vinyl', vinyl);
  }

  /** How much heavier an entry of a model's list cuts than it is called, in log load. */
  entryOf(model: string, entry: string): number {
    const level = this.state.names.entry.find(named.entry({ model, type: '', entry }));
    return level < 0 || !this.state.fit ? 0 : this.at.effects[TERMS.indexOf('entry')]![level]!;
  }

  /** Whether a chain of shared vinyls and weighed cutters leads from one model to the other. */
  comparable(a: string, b: string): boolean {
    const [x, y] = [this.state.models.find(a), this.state.models.find(b)];
    return x >= 0 && y >= 0 && this.state.root[x] === this.state.root[y];
  }

  /** Settings that contradict all others, with how far off they are (standard deviations). */
  wild(): { row: number; off: number }[] {
    return [...this.state.surprise.keys()]
      .filter((i) => i < this.state.settings.length && Math.abs(this.state.surprise[i]!) > shelfDefaults.wild)
      .map((row) => ({ row, off: this.state.surprise[row]! }));
  }

  private parts(r: ShelfWanted & { entry?: string | undefined }, m: number) {
    const slope = this.at.par.slopes[m]!;
    const random: [number, number, number][] = [];
    const fresh: [string, number][] = [];
    TERMS.forEach((t, k) => {
      const name = named[t](r);
      const level = this.state.names[t].find(name);
      // What is not said stands in the middle, as in the rows; but a cutter and a vinyl are always some cutter and vinyl.
      if (name === undefined && t !== 'cutter' && t !== 'vinyl') return;
      random.push([k, level, SIGN[t] * slope]);
      if (level < 0 && name !== undefined) fresh.push([`${t} ${name}`, SIGN[t] * slope * this.at.par.sd[k]!]);
    });
    return { fixed: [[m, 1]] as [number, number][], random, fresh };
  }

  private solved(r: ShelfWanted & { entry?: string | undefined }, m: number) {
    const { fixed, random, fresh } = this.parts(r, m);
    const base = this.at.predict(fixed, random);
    const row = new Map<number, number>();
    for (const [c, v] of fixed) row.set(c, (row.get(c) ?? 0) + v);
    for (const [k, level, v] of random) {
      const c = level < 0 ? -1 : this.at.column(k, level);
      if (c >= 0) row.set(c, (row.get(c) ?? 0) + v * this.at.par.sd[k]!);
    }
    let { mean, variance } = base;
    const along: number[] = [];
    for (const c of this.state.corrections) {
      let dot = 0;
      for (const [column, v] of row) dot += v * c.solved[column]!;
      for (const [name, v] of fresh) dot += v * (c.fresh.get(name) ?? 0);
      along.push(dot);
      mean += (dot * c.off) / c.spread;
      variance -= dot ** 2 / c.spread;
    }
    return { mean, variance, base, fresh, along };
  }

  /** Where the window of a vinyl should lie on a cutter. */
  predict(r: ShelfWanted, level = shelfDefaults.level): ShelfPrediction {
    const facts = r.vinyl === undefined ? undefined : this.state.vinylFacts.get(r.vinyl);
    const counts = { crafters: facts?.crafters.size ?? 0, models: facts?.models.size ?? 0 };
    const m = this.state.models.find(r.model);
    if (m < 0 || !this.state.fit) return { basis: 'nothing', ...counts };
    const here = this.state.root[m]!;
    let wanted: ShelfWanted = r;
    let basis: Basis;
    if (facts && facts.root === here)
      basis = this.state.cutterRows.has(named.cutter(r) ?? '') ? 'vinyl and cutter' : 'vinyl';
    else if (facts) return { basis: 'not comparable', ...counts };
    else {
      if (!this.state.typeRoots.get(r.type)?.has(here)) return { basis: 'nothing', ...counts };
      basis = 'type';
      wanted = { ...r, vinyl: undefined, batch: undefined };
    }
    const { mean, variance, base } = this.solved(wanted, m);
    // What slopes do not know adds to it: a place far from the middle hangs on them.
    const { slopeInformation, slopeShift, at } = this.state.fit;
    const count = this.state.models.levels.size;
    const gradient = new Float64Array(count);
    const row = this.parts(wanted, m);
    for (let g = 0; g < count; g++) {
      let dot = 0;
      for (const [c, v] of row.fixed) dot -= v * slopeShift[g]![c]!;
      for (const [k, l, v] of row.random) {
        const c = l < 0 ? -1 : at.column(k, l);
        if (c >= 0) dot -= v * at.par.sd[k]! * slopeShift[g]![c]!;
      }
      gradient[g] = dot;
    }
    gradient[m]! += base.mean - at.fixed[m]!;
    const total = variance + quadratic(slopeInformation, gradient, count) + this.residualSd(r.model) ** 2;
    const sd = Math.sqrt(Math.max(total, 0));
    const q = normalQuantile((1 + level) / 2);
    return { basis, z: mean, sd, interval: { low: mean - q * sd, high: mean + q * sd }, ...counts };
  }

  /**
   * Takes in one more setting without fitting anew: variances, slopes and α stay, effects move as they would (rank-one update of the
   * mixed model equations; Woodbury). A model or a link nobody had needs a new fit: the answer is then undefined.
   */
  add(r: ShelfSetting): Shelf | undefined {
    const m = this.state.models.find(r.model);
    if (m < 0 || !this.state.fit) return undefined;
    const facts = this.state.vinylFacts.get(r.vinyl);
    if (facts && facts.root !== this.state.root[m]) return undefined;
    const { mean, variance, base, along, fresh } = this.solved(r, m);
    const own = this.residualSd(r.model) ** 2 + (r.se ** 2 + r.step ** 2 / 12) * r.foreign;
    const solved = base.solved.slice();
    const freshNow = new Map(fresh);
    this.state.corrections.forEach((c, j) => {
      const share = along[j]! / c.spread;
      for (let k = 0; k < solved.length; k++) solved[k]! -= share * c.solved[k]!;
      for (const [name, v] of c.fresh) freshNow.set(name, (freshNow.get(name) ?? 0) - share * v);
    });
    const vinylFacts = new Map(this.state.vinylFacts);
    const crafters = new Set(facts?.crafters);
    if (r.person !== undefined) crafters.add(r.person);
    vinylFacts.set(r.vinyl, { root: this.state.root[m]!, crafters, models: new Set(facts?.models).add(r.model) });
    const cutterRows = new Map(this.state.cutterRows);
    const cutter = named.cutter(r);
    cutterRows.set(cutter!, (cutterRows.get(cutter!) ?? 0) + 1);
    const typeRoots = new Map(this.state.typeRoots);
    typeRoots.set(r.type, new Set(typeRoots.get(r.type)).add(this.state.root[m]!));
    const before = this.state.surprise;
    const surprise = new Float64Array(before.length + 1);
    surprise.set(before);
    surprise[before.length] = (r.z - mean) / Math.sqrt(variance + own);
    return new Shelf({
      ...this.state,
      settings: this.state.settings.concat([r]),
      vinylFacts,
      cutterRows,
      typeRoots,
      surprise,
      corrections: [...this.state.corrections, { solved, fresh: freshNow, spread: variance + own, off: r.z - mean }],
    });
  }

  /** How far a cutter, with the blade on it, lies from the middle of its model. Undefined where its model is new. */
  offsetOf(model: string, cutter: string, blade?: string): CutterOffset | undefined {
    const m = this.state.models.find(model);
    if (m < 0 || !this.state.fit) return undefined;
    const r = { model, cutter, blade, type: '' };
    const random: [number, number, number][] = (['cutter', 'blade'] as const).map((t) => [
      TERMS.indexOf(t),
      this.state.names[t].find(named[t](r)),
      1,
    ]);
    const { mean, variance } = this.at.predict([], random);
    let offset = mean;
    let spread = variance;
    for (const c of this.state.corrections) {
      let dot = 0;
      for (const [k, level, v] of random) {
        const column = level < 0 ? -1 : this.at.column(k, level);
        if (column >= 0) dot += v * this.at.par.sd[k]! * c.solved[column]!;
        else {
          const term = TERMS[k]!;
          dot += v * this.at.par.sd[k]! * (c.fresh.get(`${term} ${named[term](r)}`) ?? 0);
        }
      }
      offset += (dot * c.off) / c.spread;
      spread -= dot ** 2 / c.spread;
    }
    return { offset, sd: Math.sqrt(Math.max(0, spread)), settings: this.state.cutterRows.get(named.cutter(r)!) ?? 0 };
  }

  /**
   * What each setting says of its vinyl by itself, in log load: its axis, its slope and what is known of its machine taken away.
   */
  impliedLoads(): { vinyl: string; at: number; sd: number; row: number }[] {
    const { state } = this;
    if (!state.fit) return [];
    return state.settings.map((r, row) => {
      const slope = this.slopeOf(r.model);
      const machine = this.offsetOf(r.model, r.cutter, r.blade)!;
      const entry = r.entry === undefined ? 0 : this.entryOf(r.model, r.entry);
      return {
        vinyl: r.vinyl,
        at: (r.z - this.axisOf(r.model)) / slope + machine.offset + entry,
        sd: Math.hypot(Math.sqrt(r.se ** 2 + r.step ** 2 / 12) / slope, machine.sd),
        row,
      };
    });
  }

  /** What each setting of a cutter says of its offset by itself, in log load, and how far it lies from what all others say. */
  restsOf(model: string, cutter: string): { vinyl: string; z: number; se: number; off: number; wild: boolean }[] {
    const { state } = this;
    const m = state.models.find(model);
    if (m < 0 || !state.fit) return [];
    const name = named.cutter({ model, cutter, type: '' });
    return state.settings.flatMap((r, i) => {
      if (r.model !== model || named.cutter(r) !== name) return [];
      // Where it would be on the middle machine, against where it is.
      const { mean, variance } = this.solved({ ...r, cutter: undefined, blade: undefined }, m);
      const slope = this.slopeOf(model);
      const own = this.residualSd(model) ** 2 + (r.se ** 2 + r.step ** 2 / 12) * r.foreign;
      const others = Math.max(0, variance - (slope * this.spreadOf('cutter')) ** 2);
      return [
        {
          vinyl: r.vinyl,
          z: (mean - r.z) / slope,
          se: Math.sqrt(own + others) / slope,
          off: state.surprise[i]!,
          wild: Math.abs(state.surprise[i]!) > shelfDefaults.wild,
        },
      ];
    });
  }

  /**
   * Which vinyls, cut on a cutter as check coupons, would say most about its offset: greedy, each given those before it.
   * @param candidates vinyls that are known and comparable
   * @param se how closely a check coupon reads the centre
   * @returns the best `count` with the standard deviation of the offset once they were cut
   */
  sharpen(
    on: { model: string; cutter: string; blade?: string | undefined },
    candidates: readonly { type: string; vinyl: string }[],
    count = 2,
    se = 0.07,
  ): { vinyl: string; sd: number }[] {
    if (count === 0) return [];
    let best: { vinyl: string; sd: number; shelf: Shelf } | undefined;
    for (const v of candidates) {
      const place = this.predict({ ...on, ...v });
      if (place.z === undefined || place.basis === 'type') continue;
      const next = this.add({ ...on, ...v, z: place.z, se, step: 0, foreign: 1 });
      const sd = next?.offsetOf(on.model, on.cutter, on.blade)?.sd;
      if (next && sd !== undefined && (!best || sd < best.sd - 1e-9)) best = { vinyl: v.vinyl, sd, shelf: next };
    }
    if (!best) return [];
    const { vinyl, sd, shelf } = best;
    return [
      { vinyl, sd },
      ...shelf.sharpen(
        on,
        candidates.filter((v) => v.vinyl !== vinyl),
        count - 1,
        se,
      ),
    ];
  }
}

/** g′·A⁻¹·g. */
function quadratic(a: Float64Array, g: Float64Array, n: number): number {
  const l = a.slice();
  const x = g.slice();
  cholesky(l, n);
  solve(l, n, x);
  return x.reduce((sum, v, i) => sum + v * g[i]!, 0);
}

/** How far each row lies from what all others say of it, in standard deviations (deleted residuals; Cook & Weisberg 1982). */
function surprises(at: Factored): Float64Array {
  const { leverage } = at.rowForms();
  const { y, known, share } = at.data;
  return y.map((v, i) => {
    const w = at.weight[i]!;
    const left = Math.max(1e-6, 1 - w * leverage[i]!);
    const deleted = (v - at.fitted[i]!) / left;
    // Against the variance it would have if it were like the others, whatever weight it was given.
    const plain = at.par.residualVariance * Math.min(1, share?.[i] ?? 1) + (known?.[i] ?? 0);
    return deleted / Math.sqrt(plain + leverage[i]! / left);
  });
}
