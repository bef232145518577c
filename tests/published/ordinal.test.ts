import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { gaussHermite, ordinalMixed, ordinalRegression } from '#core/stats/index.ts';

/**
 * Beetles killed after five hours of carbon disulphide, by log₁₀ dose (mg/l): C. I. Bliss (1935), The calculation of the
 * dosage-mortality curve, Ann. Appl. Biol. 22, 134–167; fits as in A. J. Dobson, An Introduction to Generalized Linear
 * Models, section 7.3: logit −60.717 + 34.270 x, deviance 11.23; probit −34.935 + 19.728 x, deviance 10.12.
 */
const dose = [1.6907, 1.7242, 1.7552, 1.7842, 1.8113, 1.8369, 1.861, 1.8839];
const beetles = [59, 60, 62, 56, 63, 59, 62, 60];
const killed = [6, 13, 18, 28, 52, 53, 61, 60];

describe('beetle mortality (Bliss 1935, Dobson)', () => {
  const X = dose.flatMap((d) => [[d], [d]]);
  const y = dose.flatMap(() => [0, 1]);
  const weights = dose.flatMap((_, i) => [beetles[i]! - killed[i]!, killed[i]!]);
  test.each([
    ['logit', -60.717, 34.27, 11.23, 5.181, 2.912],
    ['probit', -34.935, 19.728, 10.12, 2.64, 1.484],
  ] as const)('%s', (link, intercept, slope, deviance, interceptError, slopeError) => {
    const fit = ordinalRegression(X, y, weights, { link });
    expect(-fit.thresholds[0]!).toBeCloseTo(intercept, 3);
    expect(fit.coefficients[0]!).toBeCloseTo(slope, 3);
    expect(fit.deviance).toBeCloseTo(deviance, 2);
    // Standard errors: Dobson's table for logit; for probit from memory, as common software prints them.
    expect(Math.abs(fit.thresholdErrors[0]! - interceptError)).toBeLessThan(0.01);
    expect(Math.abs(fit.standardErrors[0]! - slopeError)).toBeLessThan(0.01);
  });
});

describe('Copenhagen housing (Venables & Ripley, section 7.3)', () => {
  type Fit = { coefficients: number[]; standardErrors: number[]; thresholds: number[]; logLikelihood: number };
  const housing = JSON.parse(readFileSync(new URL('fixtures/housing.json', import.meta.url), 'utf8')) as {
    X: number[][];
    y: number[];
    weights: number[];
    logit: Fit;
    probit: Fit;
  };
  test('the fixture is the published fit', () => {
    // As the book prints them, from memory: 0.5664 1.2888 −0.5724 −0.3662 −1.0910 0.3603; Low|Medium −0.4961.
    expect(housing.logit.coefficients.map((c) => c.toFixed(4))).toEqual([
      '0.5664',
      '1.2888',
      '-0.5724',
      '-0.3662',
      '-1.0910',
      '0.3603',
    ]);
    expect(housing.logit.thresholds[0]!).toBeCloseTo(-0.4961, 3);
  });
  test.each(['logit', 'probit'] as const)('%s agrees with MASS::polr', (link) => {
    const fit = ordinalRegression(housing.X, housing.y, housing.weights, { link });
    const want = housing[link];
    fit.coefficients.forEach((c, i) => expect(Math.abs(c - want.coefficients[i]!)).toBeLessThan(2e-4));
    fit.thresholds.forEach((t, i) => expect(Math.abs(t - want.thresholds[i]!)).toBeLessThan(2e-4));
    fit.standardErrors.forEach((s, i) => expect(Math.abs(s - want.standardErrors[i]!)).toBeLessThan(2e-4));
    expect(fit.logLikelihood).toBeCloseTo(want.logLikelihood, 4);
    // A maximum likelihood fit is not beaten by another program's.
    expect(fit.logLikelihood).toBeGreaterThanOrEqual(want.logLikelihood - 1e-6);
  });
});

describe('bitterness of wine (Randall 1989)', () => {
  type Fit = { coefficients: number[]; standardErrors: number[]; thresholds: number[]; logLikelihood: number };
  // Made by R's package ordinal: fixtures/wine.R.
  const wine = JSON.parse(readFileSync(new URL('fixtures/wine.json', import.meta.url), 'utf8')) as {
    X: number[][];
    y: number[];
    judge: number[];
  } & Record<'logit' | 'probit', { clm: Fit; clmm: Fit & { sd: number } }>;
  const near = (got: number[], want: number[], digits: number) =>
    got.forEach((g, i) => expect(Math.abs(g - want[i]!)).toBeLessThan(digits));
  test('the fixture is the published fit', () => {
    // As the vignettes of the package print them, from memory: 2.503 and 1.528; with judges 3.063 and 1.835, variance 1.288.
    near(wine.logit.clm.coefficients, [2.503, 1.528], 1e-3);
    near(wine.logit.clmm.coefficients, [3.063, 1.835], 3e-3);
    expect(wine.logit.clmm.sd ** 2).toBeCloseTo(1.288, 2);
  });
  test.each(['logit', 'probit'] as const)('%s agrees with clm', (link) => {
    const fit = ordinalRegression(wine.X, wine.y, undefined, { link });
    const want = wine[link].clm;
    near(fit.coefficients, want.coefficients, 1e-5);
    near(fit.thresholds, want.thresholds, 1e-5);
    near(fit.standardErrors, want.standardErrors, 1e-4);
    expect(fit.logLikelihood).toBeCloseTo(want.logLikelihood, 7);
  });
  test.each(['logit', 'probit'] as const)('%s agrees with clmm, a judge tasting like himself', (link) => {
    const fit = ordinalMixed(wine.X, wine.y, wine.judge, { link, nodes: 10 });
    const want = wine[link].clmm;
    expect(fit.converged).toBe(true);
    near(fit.coefficients, want.coefficients, 5e-4);
    near(fit.thresholds, want.thresholds, 5e-4);
    near(fit.standardErrors, want.standardErrors, 2e-3);
    expect(Math.abs(fit.sd - want.sd)).toBeLessThan(5e-4);
    expect(fit.logLikelihood).toBeCloseTo(want.logLikelihood, 5);
  });
});

test('the rule of Gauss and Hermite is that of Abramowitz & Stegun (1964), table 25.10', () => {
  const five = gaussHermite(5);
  [0, 0.958572464613819, 2.02018287045609].forEach((x, i) => expect(five[2 + i]!.x).toBeCloseTo(x, 12));
  [0.945308720482942, 0.393619323152241, 0.0199532420590459].forEach((w, i) =>
    expect(five[2 + i]!.w).toBeCloseTo(w, 12),
  );
});
