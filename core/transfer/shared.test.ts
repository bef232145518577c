import { describe, expect, test } from 'vitest';
import { formatPosition, shippedModel, startingSetting, strengthAxis } from '../controls/index.ts';
import { gradeWords } from '../grades/index.ts';
import { seededRandom } from '../stats/index.ts';
import { coldPrior, fit, nominalLoad, type FitInput } from '../window/index.ts';
import { shelfKeeper } from './ask.ts';
import { centreOf, confirmedRow, gradedRow, settingRow, shelfModel } from './evidence.ts';
import { placeBeside, translateTo } from './onCutter.ts';
import { rankOf } from './rank.ts';
import { Shelf } from './shelf.ts';
import type { ShelfSetting } from './shelfInput.ts';

const marlow = shippedModel('marlow-24', 1)!;
const dial = shippedModel('oxbow-dial', 1)!;
const leaf = shippedModel('pellam-leaf', 1)!;

/** A reading of six cells of a vinyl whose window lies at a load. */
function reading(model: typeof marlow, load: number, cells = 8) {
  const axis = strengthAxis(model);
  const scale = nominalLoad(axis);
  const around = Array.from({ length: cells }, (_, i) => load - 0.5 + i / (cells - 1));
  const input: FitInput = {
    format: 'versipel-fit/1',
    model,
    type: 'smooth',
    wanted: 'clean',
    passes: 1,
    target: {},
    seed: 1,
    cells: around.map((u, i) => {
      let strength = axis.start!;
      for (let p = axis.kind === 'number' ? axis.min : 0; p <= (axis.kind === 'number' ? axis.max : 16); p++)
        if (Math.abs(scale.at(p) - u) < Math.abs(scale.at(strength) - u)) strength = p;
      const off = scale.at(strength) - load;
      return {
        coupon: `c${i % 2}`,
        strength,
        figures: [
          {
            grades: [
              { passes: 1, grade: gradeWords[off < -0.36 ? 0 : off < -0.21 ? 1 : off < 0.21 ? 2 : off < 0.5 ? 3 : 4]! },
            ],
          },
        ],
      };
    }),
  };
  return fit(input);
}

describe('evidence for the shelf', () => {
  test('the centre of a reading without its prior lies where the window does', () => {
    const axis = strengthAxis(marlow);
    for (const load of [-0.3, 0, 0.4]) {
      const centre = centreOf(axis, 'smooth', 'clean', reading(marlow, load).summary)!;
      expect(Math.abs(centre.z - load)).toBeLessThan(0.1);
      expect(centre.se).toBeLessThan(0.15);
    }
  });

  test('a reading that nobody cut for says nothing of its own', () => {
    const cold = fit({
      format: 'versipel-fit/1',
      model: marlow,
      type: 'smooth',
      wanted: 'clean',
      passes: 1,
      target: {},
      cells: [],
      seed: 1,
    });
    expect(centreOf(strengthAxis(marlow), 'smooth', 'clean', cold.summary)).toBeUndefined();
  });

  test('each depth and number of passes has an axis of its own; an entry of a list is named', () => {
    const twice = { ...startingSetting(marlow), steps: { ...startingSetting(marlow).steps, passes: 2 } };
    expect(shelfModel(marlow, twice)).not.toBe(shelfModel(marlow, startingSetting(marlow)));
    const where = { cutter: 'c', type: 'smooth', vinyl: 'v', person: 'p' };
    expect(confirmedRow(leaf, startingSetting(leaf), where).entry).toBe('2');
    expect(
      settingRow(marlow, startingSetting(marlow), 'clean', reading(marlow, 0).summary, where)!.entry,
    ).toBeUndefined();
  });
});

test('a place found at twice the speed is laid where it would be at the speed the model starts from', () => {
  const start = startingSetting(marlow);
  const fast = { ...start, steps: { ...start.steps, speed: start.steps.speed! * 2 } };
  const where = { cutter: 'c', type: 'smooth', vinyl: 'v', person: 'p' };
  const [at, moved] = [confirmedRow(marlow, start, where), confirmedRow(marlow, fast, where)];
  // γ·log 2, γ being 0.08 in the model of a cut: the same number cuts lighter when the blade goes fast.
  expect(at.z - moved.z).toBeCloseTo(0.08 * Math.log(2), 9);
  expect(moved.se).toBeGreaterThan(at.se);
  const { summary } = reading(marlow, 0);
  expect(settingRow(marlow, fast, 'clean', summary, where)!.z).toBeLessThan(
    settingRow(marlow, start, 'clean', summary, where)!.z,
  );
});

describe('a number on another cutter', () => {
  const rows: ShelfSetting[] = [];
  const load = { plain: 0, drift: 0.3, crumb: 0.45, thin: -0.3 };
  for (const model of [marlow, dial])
    for (const who of ['a', 'b', 'c'])
      for (const [vinyl, at] of Object.entries(load))
        if (!(model === dial && vinyl === 'crumb'))
          rows.push({
            model: shelfModel(model, startingSetting(model)),
            cutter: `${model.key} ${who}`,
            vinyl,
            type: 'smooth',
            person: who,
            z: at + (who === 'a' ? 0.1 : who === 'c' ? -0.1 : 0) + ((0.01 * rows.length) % 0.03),
            se: 0.05,
            step: 0,
            foreign: 1,
          });
  const shelf = Shelf.fit(rows);

  test('is a place on its axis, with an interval that holds it and a chance', () => {
    const said = translateTo(shelf, dial, { cutter: 'oxbow-dial b' }, { vinyl: 'crumb', type: 'smooth' }, 'clean');
    if (!('position' in said)) throw new Error(said.basis);
    const scale = nominalLoad(strengthAxis(dial));
    expect(Math.abs(scale.at(said.position) - 0.45)).toBeLessThan(0.2);
    expect(said.low).toBeLessThanOrEqual(said.position);
    expect(said.high).toBeGreaterThanOrEqual(said.position);
    expect(said.chance).toBeGreaterThan(0.7);
    expect(said.crafters).toBe(3);
    expect(said.shown.summary.recommended!.position).toBe(said.position);
    expect(said.shown.sentence).toContain(formatPosition(strengthAxis(dial), said.position));
  });

  test('a heavy machine is told a lower number than a light one', () => {
    const on = (who: string) => {
      const said = translateTo(
        shelf,
        marlow,
        { cutter: `marlow-24 ${who}` },
        { vinyl: 'drift', type: 'smooth' },
        'clean',
      );
      return 'position' in said ? said : undefined;
    };
    // Who needs more for the same vinyls has the lighter machine.
    expect(on('a')!.position).toBeGreaterThan(on('c')!.position);
    expect(on('a')!.offset).toBeLessThan(0);
    expect(placeBeside(marlow, on('a')!, 0.2)).toBeGreaterThan(placeBeside(marlow, on('a')!, 0));
  });

  test('a number beside all others ranks lower, a doubted one lower still, and doubt of the place costs', () => {
    const worth = (off: number, sd: number, at: 'proven' | 'doubted' = 'proven') =>
      rankOf('smooth', 'clean', off, sd, at).worth;
    expect(worth(0, 0.05)).toBeGreaterThan(worth(0.15, 0.05));
    expect(worth(0, 0.05)).toBeGreaterThan(worth(0, 0.2));
    expect(worth(0, 0.05)).toBeGreaterThan(worth(0, 0.05, 'doubted'));
  });

  test('the keeper answers what it knows, asks for what it does not, and grows a shelf by one', () => {
    const ask = shelfKeeper();
    expect(ask({ key: '1', ask: { kind: 'summary' } }).kind).toBe('unknown');
    const many = Array.from({ length: 5 }, (_, i) => rows.map((r) => ({ ...r, cutter: `${r.cutter}${i}` }))).flat();
    expect(ask({ key: '1', input: { settings: many, scales: [] }, ask: { kind: 'summary' } }).kind).toBe('summary');
    expect(ask({ key: '1', ask: { kind: 'summary' } }).kind).toBe('summary');
    const grown = { settings: [...many, { ...rows[0]!, cutter: 'late' }], scales: [] };
    const told = ask({ key: '2', input: grown, ask: { kind: 'offset', model: marlow, cutter: 'late' } });
    expect(told.kind === 'offset' && told.offset!.settings).toBe(1);
    expect(told.kind === 'offset' && told.rests).toHaveLength(1);
    expect(told.kind === 'offset' && told.sharpen.length).toBeGreaterThan(0);
  });
});

describe('a cut that did not come out', () => {
  const where = { cutter: 'c', type: 'smooth', vinyl: 'v', person: 'p' };
  const start = startingSetting(marlow);
  const row = (grade: 'uncut' | 'hangs' | 'clean' | 'scored' | 'through', wanted: 'clean' | 'through' = 'clean') =>
    gradedRow(marlow, start, wanted, grade, where)!;

  test('lies below what was wanted where it held, above where the carrier was cut, and says less the further off it was', () => {
    const order = (['through', 'scored', 'clean', 'hangs', 'uncut'] as const).map((g) => row(g));
    expect(order.map((r) => r.z)).toEqual(order.map((r) => r.z).toSorted((a, b) => a - b));
    expect(row('clean')).toEqual(confirmedRow(marlow, start, where));
    for (const g of ['hangs', 'scored'] as const) expect(row(g).se).toBeGreaterThan(row('clean').se);
    expect(row('uncut').se).toBeGreaterThan(row('hangs').se);
    expect(row('hangs', 'through').z).toBeGreaterThan(row('hangs').z);
  });

  test('holds against simulation: a number somewhere in the grade, gaps drawn from the prior of the type', () => {
    const random = seededRandom(5);
    const draw = ({ median, sdlog }: { median: number; sdlog: number }) => median * Math.exp(sdlog * random.normal());
    const { hangsGap, cleanGap, scoredGap } = coldPrior(strengthAxis(marlow), 'smooth');
    const off: Record<'hangs' | 'scored', number[]> = { hangs: [], scored: [] };
    for (let i = 0; i < 20_000; i++) {
      const [h, c, s] = [draw(hangsGap), draw(cleanGap), draw(scoredGap)];
      off.hangs.push(c / 2 + random.uniform() * h);
      off.scored.push(-(c / 2 + random.uniform() * s));
    }
    const mean = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0) / xs.length;
    for (const g of ['hangs', 'scored'] as const) {
      const told = row(g).z - row('clean').z;
      const sd = Math.sqrt(mean(off[g].map((x) => (x - mean(off[g])) ** 2)));
      expect(Math.abs(told - mean(off[g])), g).toBeLessThan(0.25 * sd);
      expect(row(g).se, g).toBeGreaterThan(0.8 * sd);
      expect(row(g).se, g).toBeLessThan(2.5 * sd);
    }
  });

  test('an entry of a list that did not do says nothing of how far the next is', () => {
    expect(gradedRow(leaf, startingSetting(leaf), 'clean', 'hangs', where)).toBeUndefined();
    expect(gradedRow(leaf, startingSetting(leaf), 'clean', 'clean', where)).toBeDefined();
  });
});
