import { expect, test } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { weedTime, type WeededPart, type WeedWork } from './weedTime.ts';

const work = (more: Partial<WeedWork> = {}): WeedWork => ({
  holes: 12,
  pieces: 6,
  metres: 1.5,
  narrow: 3,
  slow: 1,
  ...more,
});

test('until there are clocks, common practice: more to lift takes longer, slow film too, and the interval is wide', () => {
  const usual = weedTime(work(), []);
  expect(usual.parts).toBe(0);
  expect(usual.minutes).toBeCloseTo(1 + 0.96 + 0.12 + 0.525 + 0.12, 2);
  expect(weedTime(work({ holes: 300 }), []).minutes).toBeGreaterThan(20);
  expect(weedTime(work({ slow: 1.4 }), []).minutes).toBeCloseTo(1.4 * usual.minutes, 1);
  expect(usual.low).toBeLessThan(0.6 * usual.minutes);
});

/** Parts of somebody who takes 12 s an inner piece and half a minute for the outside. */
const planted = (seed: number, n: number, share: number): WeededPart[] => {
  const random = seededRandom(seed);
  return Array.from({ length: n }, () => {
    const w = work({
      holes: Math.floor(60 * random.uniform()),
      pieces: 1 + Math.floor(20 * random.uniform()),
      metres: 0.3 + 4 * random.uniform(),
      narrow: Math.floor(10 * random.uniform()),
    });
    const minutes = 0.5 + 0.2 * w.holes + 0.03 * w.pieces + 0.5 * w.metres + 0.02 * w.narrow;
    return { ...w, minutes: minutes * (1 + share * random.normal()) };
  });
};

test('planted minutes are recovered from twenty clocks, better than common practice has them', () => {
  const parts = planted(5, 20, 0.1);
  for (const w of [work(), work({ holes: 40, metres: 3 }), work({ holes: 2, metres: 0.5 })]) {
    const truth = 0.5 + 0.2 * w.holes + 0.03 * w.pieces + 0.5 * w.metres + 0.02 * w.narrow;
    expect(Math.abs(weedTime(w, parts).minutes / truth - 1)).toBeLessThan(0.12);
    expect(Math.abs(weedTime(w, []).minutes / truth - 1)).toBeGreaterThan(0.12);
  }
});

test('the interval holds about eight times in ten, and narrows', () => {
  const parts = planted(6, 30, 0.3);
  const fresh = planted(7, 300, 0.3);
  const inside = fresh.filter((p) => {
    const { low, high } = weedTime(p, parts);
    return low <= p.minutes && p.minutes <= high;
  }).length;
  expect(inside / fresh.length).toBeGreaterThan(0.72);
  expect(inside / fresh.length).toBeLessThan(0.92);
  const width = (list: WeededPart[]) => weedTime(work(), list).high - weedTime(work(), list).low;
  expect(width(parts)).toBeLessThan(width([]));
});
