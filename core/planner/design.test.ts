import { describe, expect, test } from 'vitest';
import { limitsOf, shippedModels, strengthAxis } from '../controls/index.ts';
import { coldPrior, posterior, type GradedCell } from '../window/index.ts';
import { choosePlace, whyOneMore, worthwhile } from './choose.ts';
import { designBatch } from './design.ts';
import { dixonMood } from './dixonMood.ts';

const axisOf = (key: string) => strengthAxis(shippedModels.findLast((m) => m.key === key)!);
const seen = (strength: number, grade: string): GradedCell =>
  ({ coupon: 'one', strength, figures: [{ grades: [{ passes: 1, grade }] }] }) as GradedCell;
const positionsFor = (...args: Parameters<typeof designBatch>) => designBatch(...args).cells.map((c) => c.position);
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
      expect(design.cells).toHaveLength(6);
      for (const { position: p } of design.cells) {
        expect(p).toBeGreaterThanOrEqual(min);
        expect(p).toBeLessThanOrEqual(max);
      }
      expect(designBatch(post, { count: 6, wanted: 'clean' })).toEqual(design);
      expect(design.after).toBeGreaterThan(design.now + 0.05);
    },
  );
  test('spread where nothing is known, near the edges where much is', () => {
    const wide = positionsFor(believe('marlow-24'), { count: 6, wanted: 'clean' });
    expect(new Set(wide).size).toBe(6);
    const graded = [80, 95, 110, 120, 130, 140, 160, 180].map((s) =>
      seen(s, s < 105 ? 'uncut' : s < 115 ? 'hangs' : s < 150 ? 'clean' : 'scored'),
    );
    const near = designBatch(believe('marlow-24', graded), { count: 4, wanted: 'clean' });
    const close = near.cells.map((c) => c.position);
    expect(Math.max(...close) - Math.min(...close)).toBeLessThan(Math.max(...wide) - Math.min(...wide));
    // On a fine axis no place stands twice.
    expect(new Set(close).size).toBe(4);
    // Little is left to learn, and it says so.
    expect(near.after - near.now).toBeLessThan(0.05);
    expect(near.spread.after).toBeLessThan(near.spread.now);
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
    const positions = positionsFor(post, { count: 6, wanted: 'clean' });
    expect(positions).toHaveLength(6);
    for (const p of positions) expect(positions.filter((o) => o === p).length).toBeLessThanOrEqual(2);
  });
  test('few cells are expected to cut the mat', () => {
    const post = believe('marlow-24');
    const spared = positionsFor(post, { count: 8, wanted: 'clean', through: 0.5 });
    const bold = positionsFor(post, { count: 8, wanted: 'clean', through: 8 });
    const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
    expect(sum(spared)).toBeLessThan(sum(bold));
    // Where through is what is wanted there is nothing to spare.
    expect(sum(positionsFor(post, { count: 6, wanted: 'through' }))).toBeGreaterThan(sum(spared) * (6 / 8));
  });
});

describe('ways of cutting', () => {
  const ways = [1, 2, 3].map((passes) => ({ passes, faster: 0 }));
  test('where two passes are open too, cells lie at lighter strengths for them', () => {
    const { cells } = designBatch(believe('marlow-24'), { count: 9, wanted: 'clean', ways });
    expect(cells).toHaveLength(9);
    const post = believe('marlow-24');
    const load = ({ position, way }: (typeof cells)[number]) =>
      Math.log(position / 100) + 0.3 * Math.log(way.passes) - 0.08 * way.faster;
    expect(cells.map(load)).toEqual([...cells.map(load)].sort((a, b) => a - b));
    // A second pass is no better than the right strength: the choice keeps to one.
    expect(choosePlace(post, 'clean', ways).place.way.passes).toBe(1);
  });
  test('where one pass does not reach, a second is chosen', () => {
    const graded = [300, 340, 370, 400].map((s) => seen(s, 'hangs'));
    const { place, chance } = choosePlace(believe('marlow-24', graded), 'clean', ways);
    expect(place.way.passes).toBeGreaterThan(1);
    expect(chance).toBeGreaterThan(choosePlace(believe('marlow-24', graded), 'clean').chance + 0.05);
  });
  test('through: the lightest place that is sure, or the surest', () => {
    const graded = [100, 120, 140, 160, 180, 200].map((s) => seen(s, s < 150 ? 'scored' : 'through'));
    const { place, chance } = choosePlace(believe('marlow-24', graded), 'through');
    expect(chance).toBeGreaterThanOrEqual(0.95);
    expect(place.position).toBeGreaterThan(150);
    expect(worthwhile(designBatch(believe('marlow-24'), { count: 6, wanted: 'through' }))).toBe(true);
  });
});

describe('when it is enough', () => {
  const small = { now: 0.93, after: 0.935 };
  const both = [seen(90, 'hangs'), seen(120, 'clean'), seen(180, 'scored')];
  test('little to gain and both sides seen: enough', () => expect(whyOneMore(small, both, 'clean')).toBeUndefined());
  test('much to gain: one more', () => expect(whyOneMore({ now: 0.8, after: 0.9 }, both, 'clean')).toBe('gain'));
  test('an edge nobody has seen, or cells that contradict each other: one more, but not for ever', () => {
    const open = [seen(90, 'hangs'), seen(120, 'clean')];
    expect(whyOneMore(small, open, 'clean')).toBe('open');
    // Laid round a number that others found, one side is enough.
    expect(whyOneMore(small, open, 'clean', true)).toBeUndefined();
    const torn = [...both, seen(200, 'uncut')];
    expect(whyOneMore(small, torn, 'clean')).toBe('torn');
    const again = (coupon: string) => ({ ...seen(130, 'clean'), coupon });
    expect(whyOneMore(small, [...torn, again('two')], 'clean')).toBe('torn');
    expect(whyOneMore(small, [...torn, again('two'), again('three')], 'clean')).toBeUndefined();
    expect(whyOneMore(small, [...open, again('two')], 'clean')).toBeUndefined();
    expect(whyOneMore(small, [seen(150, 'scored')], 'through')).toBe('open');
    expect(whyOneMore(small, [seen(150, 'scored'), seen(190, 'through')], 'through')).toBeUndefined();
  });
});

describe('up and down', () => {
  /**
   * The example of Dixon & Mood (1948): heights of drop of explosive, in steps of 0.3 on a log scale; 31 of 60 went off. The rarer
   * misses lie 2 at 0.8, 18 at 1.1, 9 at 1.4. Counts and results as remembered from the paper: mean 1.32, sd 0.17.
   */
  test('the worked example of its paper', () => {
    const at = (level: number, count: number, hit: boolean) => Array(count).fill({ level, hit });
    const trials = [
      ...at(4, 1, true),
      ...at(3, 10, true),
      ...at(2, 18, true),
      ...at(1, 2, true),
      ...at(2, 9, false),
      ...at(1, 18, false),
      ...at(0, 2, false),
    ];
    const { mean, sd } = dixonMood(trials, 0.3);
    expect(0.8 + mean).toBeCloseTo(1.32, 2);
    expect(sd).toBeCloseTo(0.17, 2);
  });
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
