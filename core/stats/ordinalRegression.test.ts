import fc from 'fast-check';
import { expect, test } from 'vitest';
import { ordinalRegression } from './ordinalRegression.ts';

const ladder = [
  [0, 0],
  [0, 1],
  [1, 0],
  [1, 1],
  [1, 2],
  [2, 1],
  [2, 2],
  [2, 2],
] as const;
const X = ladder.map(([x]) => [x]);
const y = ladder.map(([, k]) => k);

test('cut points stay in order and answers rise with the covariate', () => {
  const fit = ordinalRegression(X, y);
  expect(fit.converged).toBe(true);
  expect(fit.thresholds[1]!).toBeGreaterThan(fit.thresholds[0]!);
  expect(fit.coefficients[0]!).toBeGreaterThan(0);
  expect(fit.deviance).toBeGreaterThan(0);
});

test('weights are repeats', () => {
  const weights = y.map((_, i) => 1 + (i % 3));
  const repeated = y.flatMap((_, i) => Array.from({ length: weights[i]! }, () => i));
  const a = ordinalRegression(X, y, weights);
  const b = ordinalRegression(
    repeated.map((i) => X[i]!),
    repeated.map((i) => y[i]!),
  );
  expect(a.coefficients[0]!).toBeCloseTo(b.coefficients[0]!, 6);
  expect(a.logLikelihood).toBeCloseTo(b.logLikelihood, 8);
});

test('moving and stretching the covariate changes nothing but its scale', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.double({ min: 0.1, max: 20, noNaN: true }),
      (shift, stretch) => {
        const moved = ordinalRegression(
          X.map(([x]) => [x! * stretch + shift]),
          y,
        );
        const plain = ordinalRegression(X, y);
        expect(moved.logLikelihood).toBeCloseTo(plain.logLikelihood, 6);
        expect(moved.coefficients[0]! * stretch).toBeCloseTo(plain.coefficients[0]!, 4);
      },
    ),
    { numRuns: 25 },
  );
});

test('a prior holds back what separated data would send to infinity', () => {
  const fit = ordinalRegression([[0], [1], [2], [3]], [0, 0, 1, 1], undefined, { prior: { mean: [0], sd: [2] } });
  expect(fit.converged).toBe(true);
  expect(fit.coefficients[0]!).toBeGreaterThan(0.5);
  expect(fit.coefficients[0]!).toBeLessThan(6);
});

test('says what is wrong and where', () => {
  expect(() => ordinalRegression([], [])).toThrow('no rows');
  expect(() => ordinalRegression([[1], [2, 3]], [0, 1])).toThrow('row 1 has 2 columns, not 1');
  expect(() => ordinalRegression([[1], [NaN]], [0, 1])).toThrow('row 1 holds a value that is not a number');
  expect(() => ordinalRegression([[1]], [-1])).toThrow('not a category from 0 up in row 0: -1');
  expect(() => ordinalRegression([[1], [2]], [0, 1], [1, -1])).toThrow('negative or not a number in row 1: -1');
  expect(() => ordinalRegression([[1], [2]], [0, 0])).toThrow('lowest category');
});
