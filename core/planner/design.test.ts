import { describe, expect, test } from 'vitest';
import { limitsOf, shippedModels, strengthAxis } from '../controls/index.ts';
import { coldPrior, posterior, type GradedCell } from '../window/index.ts';
import { designBatch } from './design.ts';
import { dixonMood } from './dixonMood.ts';

const axisOf = (key: string) => strengthAxis(shippedModels.findLast((m) => m.key === key)!);
const seen = (strength: number, grade: string): GradedCell =>
  ({ coupon: 'one', strength, figures: [{ grades: [{ passes: 1, grade }] }] }) as GradedCell;
const believe = (key: string, cells: GradedCell[] = []) => {
  const axis = axisOf(key);
  return posterior(axis, coldPrior(axis, 'smooth'), cells, { seed: 1 });
};

describe('the cells that teach most', () => {
  test.each(['marlow-24', 'oxbow-dial', 'pellam-leaf', 'whin-duo'])(
    '%s: lie on the axis, the same each time, and are worth cutting',
    (key) => {
      const post = believe(key);
      const { min, max } = limitsOf(axisOf(key));
      const design = designBatch(post, { count: 6, wanted: 'clean' });
      expect(design.positions).toHaveLength(6);
      for (const p of design.positions) {
        expect(p).toBeGreaterThanOrEqual(min);
        expect(p).toBeLessThanOrEqual(max);
      }
      expect(designBatch(post, { count: 6, wanted: 'clean' })).toEqual(design);
      expect(design.after).toBeGreaterThan(design.now + 0.05);
    },
  );
  test('spread where nothing is known, near the edges where much is', () => {
    const wide = designBatch(believe('marlow-24'), { count: 6, wanted: 'clean' }).positions;
    expect(new Set(wide).size).toBe(6);
    const graded = [80, 95, 110, 120, 130, 140, 160, 180].map((s) =>
      seen(s, s < 105 ? 'uncut' : s < 115 ? 'hangs' : s < 150 ? 'clean' : 'scored'),
    );
    const near = designBatch(believe('marlow-24', graded), { count: 4, wanted: 'clean' });
    expect(Math.max(...near.positions) - Math.min(...near.positions)).toBeLessThan(
      Math.max(...wide) - Math.min(...wide),
    );
    // On a fine axis no place stands twice.
    expect(new Set(near.positions).size).toBe(4);
    // Little is left to learn, and it says so.
    expect(near.after - near.now).toBeLessThan(0.05);
  });
  test('a dial with few stops is not repeated without end', () => {
    const axis = {
      kind: 'dial',
      key: 'd',
      word: 'dial',
      role: 'strength',
      stops: ['a', 'b', 'c', 'd'],
      halves: false,
    } as const;
    const post = posterior(
      { ...axis, stops: [...axis.stops] },
      coldPrior({ ...axis, stops: [...axis.stops] }, 'smooth'),
      [],
      { seed: 1 },
    );
    const { positions } = designBatch(post, { count: 6, wanted: 'clean' });
    expect(positions).toHaveLength(6);
    for (const p of positions) expect(positions.filter((o) => o === p).length).toBeLessThanOrEqual(2);
  });
  test('few cells are expected to cut the mat', () => {
    const post = believe('marlow-24');
    const spared = designBatch(post, { count: 8, wanted: 'clean', through: 0.5 }).positions;
    const bold = designBatch(post, { count: 8, wanted: 'clean', through: 8 }).positions;
    const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
    expect(sum(spared)).toBeLessThan(sum(bold));
    // Where through is what is wanted there is nothing to spare.
    expect(sum(designBatch(post, { count: 6, wanted: 'through' }).positions)).toBeGreaterThan(sum(spared) * (6 / 8));
  });
});

describe('up and down', () => {
  // The arithmetic of Dixon & Mood (1948) worked by hand on a small test: misses are the rarer kind, at levels 0, 0, 1, so N = 3, A = 1, B = 1.
  test('mean and spread from the rarer kind', () => {
    const trials = [
      { level: 1, hit: true },
      { level: 0, hit: false },
      { level: 1, hit: true },
      { level: 0, hit: false },
      { level: 1, hit: false },
      { level: 2, hit: true },
      { level: 1, hit: true },
    ];
    const { mean, sd } = dixonMood(trials, 0.1);
    expect(mean).toBeCloseTo(0.1 * (1 / 3 + 0.5), 12);
    expect(sd).toBeNaN();
    const spread = [0, 0, 1, 2, 3]
      .map((level) => ({ level, hit: false }))
      .concat(Array(6).fill({ level: 2, hit: true }));
    // N = 5, A = 6, B = 14: M = (5·14 − 36)/25 = 1.36.
    expect(dixonMood(spread, 1)).toEqual({ mean: 6 / 5 + 0.5, sd: 1.62 * (1.36 + 0.029) });
  });
  test('one-sided trials say no more than half a step beyond', () =>
    expect(
      dixonMood(
        [
          { level: 0, hit: false },
          { level: 1, hit: false },
        ],
        2,
      ).mean,
    ).toBe(3));
});
