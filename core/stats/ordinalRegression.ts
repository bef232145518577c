import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { links, type LinkName } from './links.ts';
import { maximise } from './maximise.ts';
import { symmetricBetween } from './normal.ts';

const ordinalDefaults = {
  link: 'probit' as LinkName,
  /** Chance that an answer is a slip, uniform over the categories. */
  lapse: 0,
};

export type OrdinalOptions = Partial<typeof ordinalDefaults> & {
  /** Independent normal priors on the coefficients, one a column of X; left out, the prior is flat. */
  prior?: { mean: readonly number[]; sd: readonly number[] };
};

export type OrdinalFit = {
  /** Cut points τ₀ < … < τ_{K−2}. */
  thresholds: number[];
  /** Coefficients β, one a column of X. */
  coefficients: number[];
  /** Standard errors of the coefficients from the observed information. */
  standardErrors: number[];
  /** Standard errors of the cut points (delta method for the second and later). */
  thresholdErrors: number[];
  logLikelihood: number;
  /** −2 (log L − log L of the saturated model over distinct rows of X). */
  deviance: number;
  converged: boolean;
};

function check(X: readonly (readonly number[])[], y: readonly number[], weights: readonly number[]) {
  if (X.length === 0) throw new RangeError('invalid X; no rows');
  if (y.length !== X.length) throw new RangeError(`invalid y; ${X.length} rows in X but ${y.length} answers`);
  if (weights.length !== X.length)
    throw new RangeError(`invalid weights; ${X.length} rows but ${weights.length} weights`);
  const columns = X[0]!.length;
  X.forEach((row, i) => {
    if (row.length !== columns) throw new RangeError(`invalid X; row ${i} has ${row.length} columns, not ${columns}`);
    if (!row.every(Number.isFinite)) throw new RangeError(`invalid X; row ${i} holds a value that is not a number`);
  });
  y.forEach((value, i) => {
    if (!Number.isInteger(value) || value < 0)
      throw new RangeError(`invalid y; not a category from 0 up in row ${i}: ${value}`);
  });
  weights.forEach((w, i) => {
    if (!(w >= 0)) throw new RangeError(`invalid weight; negative or not a number in row ${i}: ${w}`);
  });
}

/** Log-likelihood of the saturated model: every distinct row of X has its own free category chances. */
function saturated(X: readonly (readonly number[])[], y: readonly number[], weights: readonly number[]): number {
  const groups = new Map<string, Map<number, number>>();
  X.forEach((row, i) => {
    const key = row.join(' ');
    const counts = groups.get(key) ?? new Map<number, number>();
    counts.set(y[i]!, (counts.get(y[i]!) ?? 0) + weights[i]!);
    groups.set(key, counts);
  });
  let sum = 0;
  for (const counts of groups.values()) {
    const total = [...counts.values()].reduce((a, b) => a + b, 0);
    for (const n of counts.values()) if (n > 0) sum += n * Math.log(n / total);
  }
  return sum;
}

/**
 * Cumulative-link regression P(Y ≤ k) = (1 − λ)·F(τ_k − x·β) + λ(k + 1)/K, by maximum (posterior) likelihood.
 *
 * Source: P. McCullagh (1980), Regression models for ordinal data, J. R. Stat. Soc. B 42, 109–142.
 * With two categories and no lapse it is ordinary binomial regression: τ₀ is minus the intercept.
 * The cut points are worked on as τ₀ and the logs of the gaps, so that they stay in order.
 *
 * @param X rows of covariates, without a column of ones
 * @param y category of each row, 0 … K − 1, every category up to the highest being possible
 * @param weights how often each row was seen
 * @throws RangeError naming the row, when the data do not fit together
 * @example ordinalRegression([[1.69], [1.88]], [0, 1], [53, 60], { link: 'logit' })
 */
export function ordinalRegression(
  X: readonly (readonly number[])[],
  y: readonly number[],
  weights: readonly number[] = X.map(() => 1),
  options: OrdinalOptions = {},
): OrdinalFit {
  const { link: linkName, lapse, prior } = { ...ordinalDefaults, ...options };
  check(X, y, weights);
  if (!(lapse >= 0 && lapse < 1)) throw new RangeError(`invalid lapse; not in [0, 1): ${lapse}`);
  const link = links[linkName];
  const K = Math.max(...y) + 1;
  if (K < 2) throw new RangeError('invalid y; all answers are in the lowest category');
  const cuts = K - 1;
  const p = X[0]!.length;
  const n = cuts + p;

  // Centred and scaled columns make the information well conditioned (dose columns lie far from zero).
  const total = weights.reduce((a, b) => a + b, 0);
  const centre = Array.from({ length: p }, (_, j) => X.reduce((s, row, i) => s + weights[i]! * row[j]!, 0) / total);
  const scale = centre.map((c, j) => {
    const variance = X.reduce((s, row, i) => s + weights[i]! * (row[j]! - c) ** 2, 0) / total;
    return variance > 0 ? Math.sqrt(variance) : 1;
  });
  const Z = X.map((row) => row.map((value, j) => (value - centre[j]!) / scale[j]!));

  const thresholdsOf = (x: Float64Array): number[] => {
    const tau = [x[0]!];
    for (let k = 1; k < cuts; k++) tau.push(tau[k - 1]! + Math.exp(x[k]!));
    return tau;
  };
  const objective = (x: Float64Array, gradient: Float64Array): number => {
    gradient.fill(0);
    const tau = thresholdsOf(x);
    let sum = 0;
    for (let i = 0; i < Z.length; i++) {
      const w = weights[i]!;
      if (w === 0) continue;
      const row = Z[i]!;
      let eta = 0;
      for (let j = 0; j < p; j++) eta += row[j]! * x[cuts + j]!;
      const k = y[i]!;
      const high = k < cuts ? tau[k]! - eta : Infinity;
      const low = k > 0 ? tau[k - 1]! - eta : -Infinity;
      const chance = (1 - lapse) * symmetricBetween(link.cdf, low, high) + lapse / K;
      sum += w * Math.log(chance);
      const dHigh = k < cuts ? ((1 - lapse) * w * link.density(high)) / chance : 0;
      const dLow = k > 0 ? ((1 - lapse) * w * link.density(low)) / chance : 0;
      for (let j = 0; j < p; j++) gradient[cuts + j]! -= (dHigh - dLow) * row[j]!;
      // τ_k depends on τ₀ and on every gap up to k.
      gradient[0]! += dHigh - dLow;
      for (let m = 1; m < cuts; m++) {
        const gap = Math.exp(x[m]!);
        if (k >= m) gradient[m]! += dHigh * gap;
        if (k - 1 >= m) gradient[m]! -= dLow * gap;
      }
    }
    if (prior)
      for (let j = 0; j < p; j++) {
        const beta = x[cuts + j]! / scale[j]!;
        const off = (beta - prior.mean[j]!) / prior.sd[j]!;
        sum -= 0.5 * off * off;
        gradient[cuts + j]! -= off / prior.sd[j]! / scale[j]!;
      }
    return sum;
  };

  const start = new Float64Array(n);
  let below = 0;
  for (let k = 0; k < cuts; k++) {
    below += y.reduce((s, value, i) => s + (value === k ? weights[i]! : 0), 0);
    const share = Math.min(0.98, Math.max(0.02, below / total));
    const at = Math.log(share / (1 - share)) * (linkName === 'probit' ? 0.6 : 1);
    start[k] = k === 0 ? at : Math.log(Math.max(0.05, at - thresholdsOf(start.subarray(0, k) as Float64Array)[0]!) / k);
  }
  const top = maximise(objective, start, { maxIterations: 100, tolerance: 1e-13 });

  // Back to the scale of the data: β = b/s, τ = t + Σ β·centre.
  const coefficients = Array.from({ length: p }, (_, j) => top.x[cuts + j]! / scale[j]!);
  const shift = coefficients.reduce((s, b, j) => s + b * centre[j]!, 0);
  const thresholds = thresholdsOf(top.x).map((t) => t + shift);
  const cholesky = new CholeskyDecomposition(top.information);
  const covariance = cholesky.isPositiveDefinite() ? cholesky.solve(Matrix.eye(n)) : Matrix.zeros(n, n).fill(NaN);
  const jacobian = Matrix.zeros(n, n);
  for (let k = 0; k < cuts; k++) {
    jacobian.set(k, 0, 1);
    for (let m = 1; m <= k; m++) jacobian.set(k, m, Math.exp(top.x[m]!));
    for (let j = 0; j < p; j++) jacobian.set(k, cuts + j, centre[j]! / scale[j]!);
  }
  for (let j = 0; j < p; j++) jacobian.set(cuts + j, cuts + j, 1 / scale[j]!);
  const errors = jacobian.mmul(covariance).mmul(jacobian.transpose()).diagonal().map(Math.sqrt);

  const atTop = new Float64Array(n);
  const penalised = objective(top.x, atTop);
  const penalty = prior ? coefficients.reduce((s, b, j) => s + 0.5 * ((b - prior.mean[j]!) / prior.sd[j]!) ** 2, 0) : 0;
  const logLikelihood = penalised + penalty;
  return {
    thresholds,
    coefficients,
    standardErrors: errors.slice(cuts),
    thresholdErrors: errors.slice(0, cuts),
    logLikelihood,
    deviance: 2 * (saturated(X, y, weights) - logLikelihood),
    converged: top.converged,
  };
}
