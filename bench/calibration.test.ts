import { expect, test } from 'vitest';
import * as calibration from './calibration.ts';
import * as inference from './inference.ts';

test('a small run is honest: the stated chance is near the true one, the intervals hold most edges', () => {
  // 24 cases: loose bounds that a model sure of itself without reason does not meet. The benchmark has the narrow figures.
  const cases = calibration.makeCases(3, 12);
  const groups = Object.values(calibration.run(cases, 3));
  const n = groups.reduce((s, g) => s + g.n, 0);
  const off = groups.reduce((s, g) => s + g.n * (g.stated - g.true), 0) / n;
  expect(n).toBe(24);
  expect(Math.abs(off)).toBeLessThan(0.2);
  const held = groups.reduce((s, g) => s + g.covered, 0) / groups.reduce((s, g) => s + g.edges, 0);
  expect(held).toBeGreaterThan(0.7);
});

test('cases come from a file of the same form as they are made in', () => {
  for (const bench of [calibration, inference]) {
    const made = bench.makeCases(5, 2);
    expect(bench.casesSchema.parse(JSON.parse(JSON.stringify(made)))).toEqual(made);
    expect(bench.makeCases(5, 2)).toEqual(made);
    expect(bench.casesSchema.safeParse({ ...made, format: 'other' }).success).toBe(false);
  }
});
