import { describe, expect, test } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { crossingCount, edgesOfPen, segmentsOf } from './crowding.ts';

const lines = (...points: [number, number][][]) =>
  points.map((p) => ({ closed: false, points: p.map(([x, y]) => ({ x, y })) }));

describe('crossings of straight pieces', () => {
  test('a cross is one, shared ends and parallels are none, a five-pointed star drawn in one go is five', () => {
    expect(
      crossingCount(
        segmentsOf(
          lines(
            [
              [0, 0],
              [9, 9],
            ],
            [
              [0, 9],
              [9, 0],
            ],
          ),
          false,
        ),
        10,
      ),
    ).toBe(1);
    expect(
      crossingCount(
        segmentsOf(
          lines([
            [0, 0],
            [9, 0],
            [9, 9],
          ]),
          true,
        ),
        10,
      ),
    ).toBe(0);
    expect(
      crossingCount(
        segmentsOf(
          lines(
            [
              [0, 0],
              [9, 0],
            ],
            [
              [0, 1],
              [9, 1],
            ],
          ),
          false,
        ),
        10,
      ),
    ).toBe(0);
    const star = Array.from({ length: 5 }, (_, i): [number, number] => [
      Math.cos((i * 4 * Math.PI) / 5),
      Math.sin((i * 4 * Math.PI) / 5),
    ]);
    expect(crossingCount(segmentsOf(lines(star), true), 10)).toBe(5);
  });
  test('as many as by force on 60 random sets', () => {
    const random = seededRandom(5);
    for (let set = 0; set < 60; set++) {
      const n = 2 + Math.floor(60 * random.uniform());
      const s = Float64Array.from({ length: 4 * n }, () => Math.round(1000 * random.uniform()));
      let force = 0;
      for (let a = 0; a < n; a++)
        for (let b = a + 1; b < n; b++) {
          const side = (i: number, x: number, y: number) =>
            Math.sign((s[i + 2]! - s[i]!) * (y - s[i + 1]!) - (s[i + 3]! - s[i + 1]!) * (x - s[i]!));
          const [p, q] = [4 * a, 4 * b];
          if (
            side(p, s[q]!, s[q + 1]!) * side(p, s[q + 2]!, s[q + 3]!) < 0 &&
            side(q, s[p]!, s[p + 1]!) * side(q, s[p + 2]!, s[p + 3]!) < 0
          )
            force++;
        }
      expect(crossingCount(s, 1e6)).toBe(force);
    }
  });
  test('beyond the most it stops, and so it does where lines lie too close to be counted', () => {
    const random = seededRandom(6);
    const many = Float64Array.from({ length: 4 * 3000 }, () => random.uniform());
    expect(crossingCount(many, 20_000)).toBe(Infinity);
    const comb = Float64Array.from(
      { length: 4 * 20_000 },
      (_, i) => [Math.floor(i / 4), 0, Math.floor(i / 4), 1e4][i % 4]!,
    );
    expect(crossingCount(comb, 20_000)).toBe(Infinity);
  });
  test('a pen covers a rectangle along each piece', () => {
    expect([...edgesOfPen(Float64Array.from([0, 0, 10, 0]), 4)]).toEqual([
      0, 2, 10, 2, 10, 2, 10, -2, 10, -2, 0, -2, 0, -2, 0, 2,
    ]);
  });
});
