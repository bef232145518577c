import { describe, expect, test } from 'vitest';
import { gradeWords } from '../grades/index.ts';
import { seededRandom } from '../stats/index.ts';
import { fitEvenness, zoneOf } from './index.ts';

const thresholds = [-0.15, 0, 0.42, 0.72] as const;
const grid = (n: number) =>
  Array.from({ length: n * n }, (_, i) => ({ x: (i % n) * 100_000, y: Math.floor(i / n) * 100_000 }));
const gradeAt = (load: number) => gradeWords[thresholds.filter((t) => load > t).length]!;

describe('how evenly a cutter presses', () => {
  test('a corner that cuts light is found and named', () => {
    // The same check run twice: one figure a place says little.
    const places = [...grid(4), ...grid(4)].map((p) => ({
      ...p,
      grade: gradeAt(p.x < 150_000 && p.y > 150_000 ? -0.09 : 0.06),
    }));
    const found = fitEvenness({ places, thresholds: [...thresholds], sigma: 0.03 });
    expect(found.odd).toBeDefined();
    expect(found.odd!.high).toBeLessThan(0);
    expect(zoneOf(found.odd!, places)).toBe('lower left');
    expect(found.range).toBeGreaterThan(0.05);
    // Once is not enough to be sure.
    const once = fitEvenness({ places: places.slice(0, 16), thresholds: [...thresholds], sigma: 0.03 });
    expect(once.places[0]!.high - once.places[0]!.low).toBeGreaterThan(found.places[0]!.high - found.places[0]!.low);
  });
  test('a mat that cuts alike shows nothing', () => {
    const places = grid(3).map((p) => ({ ...p, grade: 'clean' as const }));
    const found = fitEvenness({ places, thresholds: [...thresholds], sigma: 0.07 });
    expect(found.odd).toBeUndefined();
    for (const p of found.places) expect(Math.abs(p.offset)).toBeLessThan(0.02);
  });
  test('true offsets drawn from the field lie in their 90 % intervals nine times in ten', () => {
    const random = seededRandom(4);
    const places = grid(3);
    const length = 0.6 * 200_000;
    // A smooth field of the same kind, written as a sum of waves (Rahimi & Recht 2007).
    let inside = 0;
    let all = 0;
    for (let round = 0; round < 120; round++) {
      const waves = Array.from({ length: 60 }, () => ({
        a: random.normal() / length,
        b: random.normal() / length,
        c: 2 * Math.PI * random.uniform(),
      }));
      const field = places.map(
        ({ x, y }) => 0.08 * Math.sqrt(2 / 60) * waves.reduce((s, w) => s + Math.cos(w.a * x + w.b * y + w.c), 0),
      );
      const mean = field.reduce((a, b) => a + b, 0) / 9;
      const graded = places.map((p, i) => ({ ...p, grade: gradeAt(field[i]! + 0.05 * random.normal()) }));
      const found = fitEvenness({ places: graded, thresholds: [...thresholds], sigma: 0.05 });
      found.places.forEach((f, i) => {
        all++;
        if (field[i]! - mean >= f.low && field[i]! - mean <= f.high) inside++;
      });
    }
    expect(inside / all).toBeGreaterThan(0.85);
    expect(inside / all).toBeLessThan(0.96);
  });
  test('two places are too few', () => {
    expect(() =>
      fitEvenness({ places: grid(1).map((p) => ({ ...p, grade: 'clean' })), thresholds: [...thresholds], sigma: 0.1 }),
    ).toThrow('fewer than three');
  });
});
