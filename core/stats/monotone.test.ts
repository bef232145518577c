import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isotonic, median, monotoneCubic, theilSen } from './index.ts';

const numbers = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 12 });

describe('isotonic regression', () => {
  test('pools neighbours that go the wrong way', () => {
    expect(isotonic([1, 3, 2, 4])).toEqual([1, 2.5, 2.5, 4]);
    expect(isotonic([3, 2, 1])).toEqual([2, 2, 2]);
    expect(isotonic([3, 1], [1, 3])).toEqual([1.5, 1.5]);
    expect(isotonic([])).toEqual([]);
  });
  test('never falls, keeps the sum, leaves what rises alone; no other rising sequence lies nearer', () => {
    fc.assert(
      fc.property(numbers, numbers, (y, other) => {
        const fit = isotonic(y);
        fit.forEach((v, i) => i > 0 && expect(v).toBeGreaterThanOrEqual(fit[i - 1]! - 1e-12));
        expect(fit.reduce((s, v) => s + v, 0)).toBeCloseTo(
          y.reduce((s, v) => s + v, 0),
          8,
        );
        const rising = [...other].sort((a, b) => a - b).slice(0, y.length);
        if (rising.length < y.length) return;
        const off = (z: readonly number[]) => y.reduce((s, v, i) => s + (v - z[i]!) ** 2, 0);
        expect(off(fit)).toBeLessThanOrEqual(off(rising) + 1e-9);
      }),
    );
  });
});

describe('the Theil–Sen line', () => {
  test('is the line itself on a line, and is not moved by one wild point in five', () => {
    const x = [1, 2, 3, 4, 5];
    expect(theilSen(x, [3, 5, 7, 9, 11])).toEqual({ slope: 2, intercept: 1 });
    expect(theilSen(x, [3, 5, 70, 9, 11])).toEqual({ slope: 2, intercept: 1 });
    expect(theilSen([2, 2], [1, 5]).slope).toBeNaN();
  });
  // Sen (1968), the worked example as it is printed in the paper, from memory: t = 1, 2, 3, 4, 10, 12, 18 and
  // x = 9, 15, 19, 20, 45, 55, 78 give b = 4.
  test('Sen (1968), section 6', () =>
    expect(theilSen([1, 2, 3, 4, 10, 12, 18], [9, 15, 19, 20, 45, 55, 78]).slope).toBe(4));
});

test('the median', () => {
  expect(median([3, 1, 2])).toBe(2);
  expect(median([4, 1, 3, 2])).toBe(2.5);
});

describe('the monotone cubic', () => {
  test('goes through its points, is straight through a line, and goes on straight', () => {
    const curve = monotoneCubic([0, 1, 3], [0, 2, 6]);
    for (const [x, y] of [
      [0, 0],
      [0.5, 1],
      [1, 2],
      [2, 4],
      [3, 6],
      [4, 8],
      [-1, -2],
    ] as const)
      expect(curve(x)).toBeCloseTo(y, 12);
    expect(() => monotoneCubic([1, 1], [0, 1])).toThrow('invalid x');
  });
  // Fritsch & Carlson (1980), the RPN 14 data of their figures (from memory): flat, then a steep rise. A plain cubic spline overshoots there.
  test('RPN 14: rises where the data rise and never overshoots', () => {
    const x = [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20];
    const y = [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994];
    const curve = monotoneCubic(x, y);
    let before = -1;
    for (let at = 7.99; at <= 20; at += 0.01) {
      const v = curve(at);
      expect(v).toBeGreaterThanOrEqual(before - 1e-12);
      expect(v).toBeLessThanOrEqual(0.999994 + 1e-12);
      before = v;
    }
  });
});
