import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Ring } from './rings.ts';
import { weedingLineDefaults, weedingLines } from './weedingLines.ts';

const rect = (x: number, y: number, width: number, height: number): Ring => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];
const square = (x: number, y: number, side: number): Ring => rect(x, y, side, side);
const hole = (x: number, y: number, side: number): Ring => square(x, y, side).reverse();
const area = { x: 0, y: 0, width: 200_000, height: 200_000 };

describe('lines that cut waste into strips', () => {
  test('what a hand holds is not cut', () => {
    expect(weedingLines([square(10_000, 10_000, 40_000)], { ...area, width: 79_000, height: 70_000 }).lines).toEqual(
      [],
    );
  });
  test('they go where they cost least: through the rows with the widest pieces, so little waste is cut', () => {
    // A bar across from 40 to 50 mm and one from 120 to 130: both rows of lines lie in them, at the bars' ends only.
    const bar = (y: number): Ring => rect(5_000, y, 190_000, 10_000);
    const { lines, lengthUm, strips, widest } = weedingLines([bar(60_000), bar(130_000)], area);
    expect(strips).toBe(3);
    expect(widest).toBeLessThanOrEqual(weedingLineDefaults.strip);
    expect(lines).toHaveLength(4);
    expect(lengthUm).toBeLessThan(4 * 5_000);
  });
  test('a large hole is cut as well, a small one is lifted whole', () => {
    const frame = [square(10_000, 10_000, 180_000), hole(20_000, 20_000, 160_000)];
    expect(weedingLines(frame, area).lines.some(([[a]]) => a > 20_000 && a < 30_000)).toBe(true);
    const eyelet = [square(60_000, 0, 60_000), hole(70_000, 10_000, 40_000)];
    for (const [[a, y], [b]] of weedingLines(eyelet, area).lines)
      expect(y > 10_000 && y < 50_000 && b > 70_000 && a < 110_000).toBe(false);
  });
  test('no line comes nearer to a piece than it may, and no strip is wider than a hand (300 random sheets)', () => {
    const { clear, strip } = weedingLineDefaults;
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 9 }),
            fc.integer({ min: 0, max: 9 }),
            fc.integer({ min: 2_000, max: 18_000 }),
            fc.boolean(),
          ),
          { minLength: 1, maxLength: 40 },
        ),
        (cells) => {
          const taken = new Map(cells.map(([i, j, side, open]) => [`${i} ${j}`, { i, j, side, open }]));
          const rings = [...taken.values()].flatMap(({ i, j, side, open }) => [
            square(i * 20_000, j * 20_000, side),
            ...(open && side > 6_000 ? [hole(i * 20_000 + 2_000, j * 20_000 + 2_000, side - 4_000)] : []),
          ]);
          const { lines, widest } = weedingLines(rings, area);
          expect(widest).toBeLessThanOrEqual(strip);
          for (const [[a, b], [c, d]] of lines)
            for (const { i, j, side } of taken.values()) {
              // Distance between a box and a line that is level or upright.
              const dx = Math.max(i * 20_000 - Math.max(a, c), Math.min(a, c) - (i * 20_000 + side), 0);
              const dy = Math.max(j * 20_000 - Math.max(b, d), Math.min(b, d) - (j * 20_000 + side), 0);
              expect(Math.hypot(dx, dy)).toBeGreaterThanOrEqual(clear - 60);
            }
        },
      ),
      { numRuns: 300, seed: 7 },
    );
  });
  test('not fewer by any other choice of rows: against every choice on a small sheet', () => {
    const rings = [rect(0, 30_000, 150_000, 60_000), rect(20_000, 100_000, 170_000, 70_000)];
    const { lines } = weedingLines(rings, area);
    const rows = [...new Set(lines.map(([[, y]]) => y))].sort((a, b) => a - b);
    const { clear, stroke } = weedingLineDefaults;
    const cost = (y: number) => {
      const at = rings
        .filter((r) => y > r[0]![1] - clear && y < r[2]![1] + clear)
        .map((r) => [r[0]![0] - clear, r[1]![0] + clear] as const)
        .sort((p, q) => p[0] - q[0]);
      let [x, sum] = [0, 0];
      for (const [a, b] of [...at, [200_000, 200_000] as const]) {
        if (a - x >= weedingLineDefaults.shortest) sum += a - x + stroke;
        x = b;
      }
      return sum;
    };
    let best = Infinity;
    for (let p = 40_000; p <= 80_000; p += 1_000)
      for (let q = Math.max(120_000, p); q <= p + 80_000; q += 1_000) best = Math.min(best, cost(p) + cost(q));
    expect(rows).toHaveLength(2);
    expect(rows.reduce((s, y) => s + cost(y), 0)).toBe(best);
  });
});
