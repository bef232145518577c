import { describe, expect, test } from 'vitest';
import { limitsOf, passesOf, shippedModel, shippedModels, startingSetting, strengthAxis } from '../controls/index.ts';
import type { Grade } from '../grades/index.ts';
import { cellLimits, compareWays, decide, decideCells, planCoupon, type PlanInput } from './index.ts';

const [marlow, oxbow] = shippedModels as [(typeof shippedModels)[0], (typeof shippedModels)[0]];
const input = (change: Partial<PlanInput> = {}): PlanInput => ({
  format: 'versipel-plan/1',
  model: marlow,
  type: 'glitter',
  wanted: 'clean',
  target: {},
  cells: [],
  mode: 'new',
  also: [],
  count: 6,
  seed: 1,
  ...change,
});
const positions = (change: Partial<PlanInput> = {}) => planCoupon(input(change)).cells.map((c) => c.position);

describe('a first coupon', () => {
  test('runs low to high over the steps of the cutter, no place twice', () => {
    for (const model of [marlow, oxbow])
      for (let count = cellLimits.min; count <= cellLimits.max; count++) {
        const list = positions({ model, count });
        expect(list).toHaveLength(count);
        expect([...new Set(list)].sort((a, b) => a - b)).toEqual(list);
        const { min, max } = limitsOf(strengthAxis(model));
        expect(list[0]!).toBeGreaterThanOrEqual(min);
        expect(list.at(-1)!).toBeLessThanOrEqual(max);
      }
  });
  test('brackets where plain practice would look, and spares the mat', () => {
    const list = positions();
    expect(list[0]!).toBeLessThan(100);
    expect(list.at(-1)!).toBeGreaterThan(160);
    expect(list.at(-1)!).toBeLessThan(400);
  });
  test('every shipped model gets one, and on a list the lightest place comes first', () => {
    for (const model of shippedModels) {
      const list = positions({ model });
      expect(new Set(list).size).toBe(6);
      for (const cell of planCoupon(input({ model })).cells) expect(passesOf(model, cell.setting)).toBe(1);
    }
    const leaf = shippedModel('pellam-leaf', 1)!;
    const axis = strengthAxis(leaf);
    const shown = planCoupon(input({ model: leaf })).cells.map((c) => c.shown);
    expect(shown[0]).toMatch(/film|cling/);
    expect(axis.kind).toBe('list');
  });
  test('where through is wanted, the cells lie higher; where two passes are run, lower', () => {
    const clean = positions();
    const through = positions({ wanted: 'through' });
    through.forEach((p, i) => expect(p).toBeGreaterThan(clean[i]!));
    const twice = positions({ base: { ...startingSetting(marlow), steps: { force: 100, speed: 4, passes: 2 } } });
    expect(twice[3]!).toBeLessThan(clean[3]!);
  });
  test('a heavier type is looked for higher up', () => {
    expect(positions({ type: 'faux-leather' })[2]!).toBeGreaterThan(positions({ type: 'adhesive' })[2]!);
  });
  test('the same question gets the same plan', () => expect(planCoupon(input())).toEqual(planCoupon(input())));
  test('numbers cells and speaks the cutter’s words', () => {
    const plan = planCoupon(input({ model: oxbow }));
    expect(plan.cells.map((c) => c.number)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(plan.cells.every((c) => /^[1-9]½?$/.test(c.shown))).toBe(true);
    expect(plan.cells[0]!.setting.steps.passes).toBe(1);
  });
});

test('a second coupon looks closer', () => {
  const graded = (
    [
      [60, 'uncut'],
      [90, 'uncut'],
      [120, 'clean'],
      [150, 'scored'],
      [200, 'through'],
    ] as const
  ).map(([strength, grade]) => ({ coupon: 'first', strength, figures: [{ grades: [{ passes: 1, grade }] }] }));
  const first = positions();
  const second = positions({ cells: graded });
  expect(second.at(-1)! - second[0]!).toBeLessThan((first.at(-1)! - first[0]!) / 2);
  const plan = planCoupon(input({ cells: graded }));
  expect(plan.reason).toBe('narrowed');
  // It says what it is worth: more than nothing, and less once more is known.
  const worth = (p: typeof plan) => p.expected!.after - p.expected!.now;
  expect(worth(plan)).toBeGreaterThan(0.02);
  expect(worth(planCoupon(input()))).toBeGreaterThan(worth(plan));
});

describe('a coupon that checks', () => {
  const around = { position: 130, sd: 0.16 };
  test('somebody else’s number: few cells close round it', () => {
    const list = positions({ around, mode: 'check', count: 4 });
    for (const p of list) expect(Math.abs(Math.log(p / 130))).toBeLessThan(0.6);
    const wide = positions({ count: 4 });
    expect(list.at(-1)! / list[0]!).toBeLessThan(wide.at(-1)! / wide[0]!);
    const { place, expected } = planCoupon(input({ around, mode: 'check', count: 4 }));
    expect(place!.now.low).toBeGreaterThan(80);
    expect(place!.now.high).toBeLessThan(210);
    expect(place!.after.high - place!.after.low).toBeLessThan(place!.now.high - place!.now.low);
    expect(expected!.now).toBeGreaterThan(planCoupon(input()).expected!.now + 0.1);
    // Where through is wanted the number is the lightest sure place.
    const through = planCoupon(input({ around: { position: 180, sd: 0.16 }, wanted: 'through', count: 4 }));
    expect(through.place!.now.low).toBeLessThan(180);
    expect(through.place!.now.high).toBeGreaterThan(180);
  });
  test('another blade: what is known shifts as a whole, and can be found out', () => {
    const cells = [90, 105, 120, 135, 150, 165, 180, 200].map((strength, i) => ({
      coupon: 'first',
      blade: 'old',
      strength,
      figures: [
        {
          grades: [
            {
              passes: 1,
              grade: (['uncut', 'hangs', 'clean', 'clean', 'clean', 'scored', 'scored', 'through'] as const)[i]!,
            },
          ],
        },
      ],
    }));
    const same = planCoupon(input({ cells, target: { blade: 'old' }, count: 3 }));
    const other = planCoupon(input({ cells, target: { blade: 'new' }, mode: 'retune', count: 3 }));
    const gain = (p: typeof same) => p.expected!.after - p.expected!.now;
    expect(other.expected!.now).toBeLessThan(same.expected!.now);
    expect(gain(other)).toBeGreaterThan(gain(same));
  });
  test('passes and speed beside the strength, said in each cell', () => {
    const plan = planCoupon(input({ also: ['passes', 'speed'], count: 9 }));
    const settings = plan.cells.map((c) => c.setting.steps);
    expect(new Set(settings.map((s) => s.passes)).size).toBeGreaterThan(1);
    expect(new Set(settings.map((s) => s.speed)).size).toBeGreaterThan(1);
    for (const c of plan.cells)
      if (c.setting.steps.passes! > 1) expect(c.shown).toContain(`×${c.setting.steps.passes}`);
  });
  test('two light passes against one heavy: the same window, twice the time, so one it is, unless one does not reach', () => {
    const rows = compareWays(input({ also: ['passes'], around }));
    const [one, two] = rows as [(typeof rows)[0], (typeof rows)[0]];
    expect([one.passes, two.passes]).toEqual([1, 2]);
    expect(two.position).toBeLessThan(one.position);
    expect(two.time).toBeCloseTo(2 * one.time, 9);
    expect(one.chosen).toBe(true);
    const weak = [300, 340, 380, 400].map((strength) => ({
      coupon: 'first',
      strength,
      figures: [{ grades: [{ passes: 1, grade: 'hangs' as const }] }],
    }));
    expect(compareWays(input({ also: ['passes'], cells: weak })).find((r) => r.chosen)!.passes).toBeGreaterThan(1);
  });
});

describe('two camps', () => {
  const axis = strengthAxis(shippedModel('marlow-24', 1)!);
  const ask = { axis, type: 'smooth', camps: [97, 177] as const, wanted: 'clean', seed: 3 } as const;
  test('four cells within and between both numbers, lightest first, the same each time', () => {
    const cells = decideCells({ ...ask, count: 4 });
    expect(cells).toHaveLength(4);
    expect([...cells].sort((a, b) => a - b)).toEqual(cells);
    expect(decideCells({ ...ask, count: 4 })).toEqual(cells);
    expect(cells[0]!).toBeGreaterThan(60);
    expect(cells.at(-1)!).toBeLessThan(270);
  });
  test('what was seen says which number works: one, the other, both, neither', () => {
    const seen = (...grades: [number, Grade][]) =>
      decide(
        ask,
        grades.map(([position, g]) => ({ position, grade: g })),
      );
    expect(seen([90, 'clean'], [100, 'clean'], [160, 'scored'], [178, 'through']).verdict).toBe('first');
    expect(seen([90, 'uncut'], [100, 'uncut'], [160, 'clean'], [178, 'clean']).verdict).toBe('second');
    expect(seen([90, 'uncut'], [100, 'uncut'], [160, 'uncut'], [178, 'uncut']).verdict).toBe('neither');
    expect(
      decide({ ...ask, camps: [120, 130] }, [
        { position: 120, grade: 'clean' },
        { position: 130, grade: 'clean' },
      ]).verdict,
    ).toBe('either');
    // Nothing was cut: both camps are as likely, and nothing is said.
    expect(seen().verdict).toBe('open');
  });
  test('a plan for it is a coupon like any other; a camp off the axis is said', () => {
    const plan = planCoupon(input({ type: 'smooth', mode: 'decide', camps: [97, 177], count: 4 }));
    expect(plan.cells).toHaveLength(4);
    expect(() => planCoupon(input({ type: 'smooth', mode: 'decide', camps: [97, 900], count: 4 }))).toThrow(
      'camps: 900 is no place',
    );
  });
});
