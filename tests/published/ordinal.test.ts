import { readFileSync } from 'node:fs';
import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { describe, expect, test } from 'vitest';
import type { Axis } from '#core/controls/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { gaussHermite, maximise } from '#core/stats/index.ts';
import type { GradedCell } from '#core/window/index.ts';
import { at, cutPoints, logPosterior, parametersFor, unwhiten } from '../../core/window/likelihood.ts';
import type { Prior } from '../../core/window/prior.ts';

// The likelihood that reads coupons is a probit model of ordered grades. With a flat prior, no slips and the noise fixed at 1 its maximum is the
// maximum likelihood fit that books and R print: an ordered probit for grades, with occasions for factors and coupons for subjects.

const FLAT = 30;
const fixed = (median: number) => ({ median, sdlog: 1e-9 });
const free = (median: number) => ({ median, sdlog: FLAT });
const flat = (more: Partial<Prior>): Prior => ({
  centre: { mean: 0, sd: 1e3 },
  gainSd: 1e-9,
  hangsGap: free(0.7),
  cleanGap: free(0.7),
  scoredGap: free(0.7),
  sigma: fixed(1),
  passes: fixed(0.3),
  dialSd: 0.25,
  entrySd: 0.22,
  modifier: fixed(0.15),
  speed: fixed(0.08),
  wear: fixed(0.15),
  cellShare: 0,
  lapse: 0,
  effects: { coupon: 0, colour: 100, batch: 100, blade: 100, cutter: 100 },
  ...more,
});
/** So wide that nothing lies beyond it: the grades above are never seen. */
const ENDLESS = fixed(60);

const axisOf = (min: number, max: number): Axis & { start: number } => ({
  kind: 'number',
  key: 'force',
  word: 'force',
  role: 'strength',
  min,
  max,
  step: 1,
  scale: 'log',
  start: Math.round(Math.sqrt(min * max)),
});

/** The fit of some cells: its parameters on their own scale, their covariance, and the log likelihood. */
function fitted(axis: Axis, prior: Prior, cells: readonly GradedCell[]) {
  const p = parametersFor(axis, prior, cells);
  const f = logPosterior(p, cells);
  const top = maximise(f, new Float64Array(p.count), { tolerance: 1e-12, maxIterations: 500 });
  const theta = unwhiten(p, top.x);
  const inverse = new CholeskyDecomposition(top.information).solve(Matrix.eye(p.count));
  const covariance = (i: number, j: number) => inverse.get(i, j) * p.sd[i]! * p.sd[j]!;
  const place = (kind: string, level: string) =>
    p.effectStart + p.effects.findIndex((e) => e.kind === kind && e.level === level);
  return {
    theta,
    tau: cutPoints(p, theta),
    covariance,
    level: (kind: string, level: string) => theta[place(kind, level)]!,
    /** One level against another, as regressions print it: coefficient and standard error. */
    against: (kind: string, level: string, base: string) => {
      const [i, j] = [place(kind, level), place(kind, base)];
      return {
        coefficient: theta[i]! - theta[j]!,
        error: Math.sqrt(covariance(i, i) + covariance(j, j) - 2 * covariance(i, j)),
      };
    },
    logLikelihood: f(top.x) + top.x.reduce((s, z) => s + z * z, 0) / 2,
  };
}
const times = (n: number, cell: GradedCell): GradedCell[] => Array.from({ length: n }, () => cell);
const seen = (grade: number): GradedCell['figures'] => [{ grades: [{ passes: 1, grade: gradeWords[grade]! }] }];

/**
 * Beetles killed after five hours of carbon disulphide, by log₁₀ dose (mg/l): C. I. Bliss (1935), The calculation of the
 * dosage-mortality curve, Ann. Appl. Biol. 22, 134–167; fit as in A. J. Dobson, An Introduction to Generalized Linear
 * Models, section 7.3: probit −34.935 + 19.728 x, deviance 10.12. Here force is the dose and "hangs" is dead.
 */
test('beetle mortality (Bliss 1935, Dobson): place and gain of an axis', () => {
  const dose = [1.6907, 1.7242, 1.7552, 1.7842, 1.8113, 1.8369, 1.861, 1.8839];
  const beetles = [59, 60, 62, 56, 63, 59, 62, 60];
  const killed = [6, 13, 18, 28, 52, 53, 61, 60];
  const PER = 1e4;
  const positions = dose.map((x) => Math.round(10 ** x * PER));
  const axis = axisOf(positions[0]!, positions.at(-1)!);
  const cells = positions.flatMap((strength, i) => [
    ...times(beetles[i]! - killed[i]!, { coupon: 'a', strength, figures: seen(0) }),
    ...times(killed[i]!, { coupon: 'a', strength, figures: seen(1) }),
  ]);
  const prior = flat({
    gainSd: FLAT,
    hangsGap: ENDLESS,
    cleanGap: fixed(1),
    scoredGap: fixed(1),
    centre: { mean: 60, sd: 1e3 },
  });
  const fit = fitted(axis, prior, cells);
  const gain = Math.exp(fit.theta[at.gain]!);
  const slope = gain * Math.LN10;
  expect(Math.abs(slope - 19.728)).toBeLessThan(2e-3);
  expect(Math.abs(gain * Math.log(PER / axis.start) - fit.tau[0] - -34.935)).toBeLessThan(4e-3);
  // From memory, as common software prints it.
  expect(Math.abs(slope * Math.sqrt(fit.covariance(at.gain, at.gain)) - 1.484)).toBeLessThan(0.01);
  const saturated = beetles.reduce((s, n, i) => {
    const part = (k: number) => (k === 0 ? 0 : k * Math.log(k / n));
    return s + part(killed[i]!) + part(n - killed[i]!);
  }, 0);
  expect(2 * (saturated - fit.logLikelihood)).toBeCloseTo(10.12, 2);
});

type Fit = { coefficients: number[]; standardErrors: number[]; thresholds: number[]; logLikelihood: number };
const fixture = <T>(name: string) =>
  JSON.parse(readFileSync(new URL(`fixtures/${name}.json`, import.meta.url), 'utf8')) as T;
const near = (got: readonly number[], want: readonly number[], most: number) =>
  got.forEach((g, i) => expect(Math.abs(g - want[i]!)).toBeLessThan(most));
const spot = axisOf(10, 40);

test('Copenhagen housing (Venables & Ripley, section 7.3): colours, batches and blades agree with MASS::polr', () => {
  const { X, y, weights, probit } = fixture<{ X: number[][]; y: number[]; weights: number[]; probit: Fit }>('housing');
  // Influence, type of housing and contact, each with its first level as the base.
  const level = (x: number[], from: number, to: number) => `${x.slice(from, to).indexOf(1)}`;
  const cells = X.flatMap((x, i) =>
    times(weights[i]!, {
      coupon: 'a',
      strength: spot.start,
      figures: seen(y[i]!),
      colour: level(x, 0, 2),
      batch: level(x, 2, 5),
      blade: level(x, 5, 6),
    }),
  );
  const fit = fitted(spot, flat({ cleanGap: ENDLESS, scoredGap: fixed(1), centre: { mean: 30, sd: 1e3 } }), cells);
  const told = [
    ...['0', '1'].map((l) => fit.against('colour', l, '-1')),
    ...['0', '1', '2'].map((l) => fit.against('batch', l, '-1')),
    fit.against('blade', '0', '-1'),
  ];
  const base = fit.level('colour', '-1') + fit.level('batch', '-1') + fit.level('blade', '-1');
  near(
    told.map((c) => c.coefficient),
    probit.coefficients,
    2e-4,
  );
  near(
    told.map((c) => c.error),
    probit.standardErrors,
    5e-4,
  );
  near(
    fit.tau.slice(0, 2).map((t) => t - base),
    probit.thresholds,
    2e-4,
  );
  expect(fit.logLikelihood).toBeCloseTo(probit.logLikelihood, 3);
});

describe('bitterness of wine (Randall 1989), five grades', () => {
  // Made by R's package ordinal: fixtures/wine.R.
  const { X, y, judge, probit } = fixture<{
    X: number[][];
    y: number[];
    judge: number[];
    probit: { clm: Fit; clmm: Fit & { sd: number } };
  }>('wine');
  const cells = (coupon: (i: number) => string) =>
    X.map((x, i) => ({
      coupon: coupon(i),
      strength: spot.start,
      figures: seen(y[i]!),
      colour: `${x[0]}`,
      batch: `${x[1]}`,
    }));
  const check = (fit: ReturnType<typeof fitted>, want: Fit, most: number) => {
    const told = [fit.against('colour', '1', '0'), fit.against('batch', '1', '0')];
    const base = fit.level('colour', '0') + fit.level('batch', '0');
    near(
      told.map((c) => c.coefficient),
      want.coefficients,
      most,
    );
    near(
      told.map((c) => c.error),
      want.standardErrors,
      most,
    );
    near(
      fit.tau.map((t) => t - base),
      want.thresholds,
      most,
    );
  };
  test('all four cut points agree with clm', () => {
    const fit = fitted(
      spot,
      flat({}),
      cells(() => 'a'),
    );
    check(fit, probit.clm, 1e-3);
    expect(fit.logLikelihood).toBeCloseTo(probit.clm.logLikelihood, 4);
  });
  test('squares of one coupon agree with clmm, a judge tasting like himself', () => {
    const { effects, ...rest } = flat({});
    const fit = fitted(
      spot,
      { ...rest, effects: { ...effects, coupon: probit.clmm.sd } },
      cells((i) => `judge ${judge[i]}`),
    );
    // Five fixed nodes of quadrature here, ten adaptive ones there, with a judge as different as the noise is wide: within a third of a standard error.
    check(fit, probit.clmm, 0.1);
    expect(Math.abs(fit.logLikelihood - probit.clmm.logLikelihood)).toBeLessThan(0.1);
  });
});

test('the rule of Gauss and Hermite is that of Abramowitz & Stegun (1964), table 25.10', () => {
  const five = gaussHermite(5);
  [0, 0.958572464613819, 2.02018287045609].forEach((x, i) => expect(five[2 + i]!.x).toBeCloseTo(x, 12));
  [0.945308720482942, 0.393619323152241, 0.0199532420590459].forEach((w, i) =>
    expect(five[2 + i]!.w).toBeCloseTo(w, 12),
  );
});
