import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { gaussHermite } from './gaussHermite.ts';
import { links, type LinkName } from './links.ts';
import { maximise } from './maximise.ts';
import { symmetricBetween } from './normal.ts';
import { ordinalRegression, type OrdinalFit } from './ordinalRegression.ts';
import { checked } from './options.ts';

export const ordinalMixedDefaults = { link: 'probit' as LinkName, nodes: 10 };

export type OrdinalMixedFit = Pick<
  OrdinalFit,
  'thresholds' | 'coefficients' | 'standardErrors' | 'logLikelihood' | 'converged'
> & {
  /** Standard deviation of what the answers of one group have in common. */
  sd: number;
};

/**
 * Cumulative-link regression with a normal effect for each group, P(Y ≤ k) = F(τ_k − x·β − u_g), by maximum likelihood; the
 * effects are integrated out by adaptive Gauss–Hermite quadrature about the mode of each group.
 *
 * Sources: model, Tutz & Hennevogl (1996), Random effects in ordinal regression models, Comput. Stat. Data Anal. 22, 537–557;
 * quadrature, Liu & Pierce (1994), A note on Gauss–Hermite quadrature, Biometrika 81, 624–629.
 *
 * @param X rows of covariates, without a column of ones
 * @param y category of each row, from 0
 * @param group number of the group of each row, from 0
 * @throws RangeError when the data do not fit together
 */
export function ordinalMixed(
  X: readonly (readonly number[])[],
  y: readonly number[],
  group: readonly number[],
  options: Partial<typeof ordinalMixedDefaults> = {},
): OrdinalMixedFit {
  const { link: linkName, nodes } = checked(
    { ...ordinalMixedDefaults, ...options },
    { link: undefined, nodes: { from: 1, to: 200, whole: true } },
  );
  if (group.length !== y.length) throw new RangeError(`invalid group; ${y.length} answers but ${group.length} groups`);
  const link = links[linkName];
  const rule = gaussHermite(nodes);
  const start = ordinalRegression(X, y, undefined, { link: linkName });
  const cuts = start.thresholds.length;
  const p = start.coefficients.length;
  const members = new Map<number, number[]>();
  group.forEach((g, i) => members.set(g, [...(members.get(g) ?? []), i]));

  const thresholdsOf = (x: Float64Array) => {
    const tau = [x[0]!];
    for (let k = 1; k < cuts; k++) tau.push(tau[k - 1]! + Math.exp(x[k]!));
    return tau;
  };
  const value = (x: Float64Array): number => {
    const tau = thresholdsOf(x);
    const sd = Math.exp(x[cuts + p]!);
    let sum = 0;
    for (const rows of members.values()) {
      const eta = rows.map((i) => X[i]!.reduce((s, v, j) => s + v * x[cuts + j]!, 0));
      /** Log of likelihood times density of the effect v, in its own sd. */
      const joint = (v: number) => {
        let log = -0.5 * v * v;
        rows.forEach((i, r) => {
          const k = y[i]!;
          const shift = eta[r]! + sd * v;
          const low = k > 0 ? tau[k - 1]! - shift : -Infinity;
          const high = k < cuts ? tau[k]! - shift : Infinity;
          log += Math.log(Math.max(symmetricBetween(link.cdf, low, high), 1e-300));
        });
        return log;
      };
      // Log-concave in v: Newton's steps by differences find its mode.
      let v = 0;
      let curvature = 1;
      const h = 1e-4;
      for (let round = 0; round < 50; round++) {
        const [below, here, above] = [joint(v - h), joint(v), joint(v + h)];
        curvature = Math.max(0.1, -(above - 2 * here + below) / (h * h));
        const step = (above - below) / (2 * h) / curvature;
        v += Math.max(-2, Math.min(2, step));
        if (Math.abs(step) < 1e-7) break;
      }
      const width = Math.SQRT2 / Math.sqrt(curvature);
      const logs = rule.map(({ x: node, w }) => Math.log(w) + node * node + joint(v + width * node));
      const top = Math.max(...logs);
      sum +=
        top + Math.log(logs.reduce((s, l) => s + Math.exp(l - top), 0)) + Math.log(width) - 0.5 * Math.log(2 * Math.PI);
    }
    return sum;
  };
  const objective = (x: Float64Array, gradient: Float64Array) => {
    for (let i = 0; i < x.length; i++) {
      const h = 1e-4;
      const moved = (by: number) => value(x.map((v, j) => (j === i ? v + by : v)));
      gradient[i] = (moved(h) - moved(-h)) / (2 * h);
    }
    return value(x);
  };
  const from = new Float64Array(cuts + p + 1);
  from[0] = start.thresholds[0]!;
  for (let k = 1; k < cuts; k++) from[k] = Math.log(start.thresholds[k]! - start.thresholds[k - 1]!);
  start.coefficients.forEach((b, j) => (from[cuts + j] = b));
  from[cuts + p] = Math.log(0.5);
  const top = maximise(objective, from, { maxIterations: 60, tolerance: 1e-11 });
  const cholesky = new CholeskyDecomposition(top.information);
  const errors = cholesky.isPositiveDefinite()
    ? cholesky.solve(Matrix.eye(from.length)).diagonal().map(Math.sqrt)
    : Array.from(from, () => NaN);
  return {
    thresholds: thresholdsOf(top.x),
    coefficients: Array.from(top.x.subarray(cuts, cuts + p)),
    standardErrors: errors.slice(cuts, cuts + p),
    sd: Math.exp(top.x[cuts + p]!),
    logLikelihood: top.value,
    converged: top.converged,
  };
}
