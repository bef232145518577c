import { CholeskyDecomposition, EigenvalueDecomposition, Matrix } from 'ml-matrix';
import type { Random } from '../stats/index.ts';
import { checked, normalQuantile } from '../stats/index.ts';

export const importanceDefaults = {
  /** Points drawn in each round. */
  points: 1536,
  /** Rounds at most; a further round refits the proposal to the weighted points so far. */
  rounds: 4,
  /** Effective sample size that is good enough. */
  enough: 600,
  /** Draws handed back, all of equal weight. */
  draws: 1000,
  /** Share of points taken from the prior itself, so that no mode is missed. */
  defensive: 0.15,
};

type Gaussian = { mean: Float64Array; root: Matrix; logDeterminant: number; whitener: Matrix };

function gaussianFrom(mean: Float64Array, covariance: Matrix): Gaussian {
  const n = mean.length;
  let spread = covariance;
  let cholesky = new CholeskyDecomposition(spread);
  for (let ridge = 1e-10; !cholesky.isPositiveDefinite() && ridge < 1; ridge *= 10) {
    spread = Matrix.add(covariance, Matrix.eye(n).mul(ridge));
    cholesky = new CholeskyDecomposition(spread);
  }
  const root = cholesky.lowerTriangularMatrix;
  let logDeterminant = 0;
  for (let i = 0; i < n; i++) logDeterminant += Math.log(root.get(i, i));
  // Forward substitution of the unit matrix: the inverse of a triangular root.
  const whitener = Matrix.zeros(n, n);
  for (let j = 0; j < n; j++)
    for (let i = j; i < n; i++) {
      let sum = i === j ? 1 : 0;
      for (let k = j; k < i; k++) sum -= root.get(i, k) * whitener.get(k, j);
      whitener.set(i, j, sum / root.get(i, i));
    }
  return { mean, root, logDeterminant, whitener };
}

function logDensity(g: Gaussian, z: Float64Array): number {
  const n = z.length;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    let w = 0;
    for (let k = 0; k <= i; k++) w += g.whitener.get(i, k) * (z[k]! - g.mean[k]!);
    sum += w * w;
  }
  return -0.5 * sum - g.logDeterminant;
}

/** Covariance at the mode; directions the data speak about are widened, since the true posterior is not normal there. */
function laplaceCovariance(information: Matrix): Matrix {
  const eigen = new EigenvalueDecomposition(information, { assumeSymmetric: true });
  const v = eigen.eigenvectorMatrix;
  const spread = eigen.realEigenvalues.map((h) => (h > 1.05 ? 1.4 / h : 1 / Math.max(h, 0.7)));
  const covariance = v.mmul(Matrix.diag(spread)).mmul(v.transpose());
  return Matrix.add(covariance, covariance.transpose()).mul(0.5);
}

/** n standard normal points in d dimensions, one in each of n equal slices of every axis (McKay, Beckman & Conover 1979). */
function latinHypercube(n: number, d: number, random: Random): Float64Array[] {
  const points = Array.from({ length: n }, () => new Float64Array(d));
  const order = Array.from({ length: n }, (_, i) => i);
  for (let j = 0; j < d; j++) {
    for (let i = n - 1; i > 0; i--) {
      const k = Math.floor(random.uniform() * (i + 1));
      [order[i], order[k]] = [order[k]!, order[i]!];
    }
    for (let i = 0; i < n; i++) points[i]![j] = normalQuantile((order[i]! + random.uniform()) / n);
  }
  return points;
}

/** Points that must speak before their spread is taken for the next proposal. */
const FLAT_SIZE = 200;

/** Weights raised to the highest power up to 1 at which the effective sample size is still `enough`, summing to 1. */
function flattened(weights: readonly number[], enough: number): number[] {
  const raise = (power: number) => {
    const raised = weights.map((w) => (w > 0 ? w ** power : 0));
    const total = raised.reduce((a, b) => a + b, 0);
    return raised.map((w) => w / total);
  };
  const size = (list: number[]) => 1 / list.reduce((s, w) => s + w * w, 0);
  let low = 0;
  let high = 1;
  if (size(raise(1)) >= enough) return raise(1);
  for (let i = 0; i < 20; i++) {
    const mid = (low + high) / 2;
    if (size(raise(mid)) >= enough) low = mid;
    else high = mid;
  }
  return raise(low);
}

export type Sample = {
  /** Whitened draws of equal weight. */
  draws: Float64Array[];
  effectiveSize: number;
  rounds: number;
};

/**
 * Draws from a posterior that is standard normal before the data, by adaptive multiple importance sampling.
 *
 * The first proposal is the Laplace approximation, widened where the data speak, mixed with the prior; while the effective
 * sample size is too small the weighted points so far give the next proposal, and all points are weighted together against
 * the mixture of proposals. Source: Cornuet, Marin, Mira & Robert (2012), Adaptive multiple importance sampling, Scand. J.
 * Stat. 39, 798–812; balance heuristic of Veach & Guibas (1995). Systematic resampling: Kitagawa (1996).
 *
 * @param logTarget log posterior of a whitened point, up to a constant
 * @param mode its maximum
 * @param information minus its second derivatives there
 */
export function importanceSample(
  logTarget: (z: Float64Array) => number,
  mode: Float64Array,
  information: Matrix,
  random: Random,
  options: Partial<typeof importanceDefaults> = {},
): Sample {
  const { points, rounds, enough, draws, defensive } = checked(
    { ...importanceDefaults, ...options },
    {
      points: { from: 16, to: 100_000, whole: true },
      rounds: { from: 1, to: 100, whole: true },
      enough: { from: 1, to: 1e6 },
      draws: { from: 1, to: 100_000, whole: true },
      defensive: { from: 0, to: 1, open: 'to' },
    },
  );
  const d = mode.length;
  const prior = gaussianFrom(new Float64Array(d), Matrix.eye(d));
  const proposals: Gaussian[] = [gaussianFrom(mode, laplaceCovariance(information))];
  const z: Float64Array[] = [];
  const target: number[] = [];
  /** Densities of every point under the prior (first) and each proposal. */
  const under: number[][] = [];
  let weights: number[] = [];
  let effectiveSize = 0;

  for (let round = 0; round < rounds; round++) {
    const proposal = proposals[round]!;
    const fresh = latinHypercube(points, d, random);
    const fromPrior = Math.round(points * defensive);
    fresh.forEach((e, i) => {
      const point = new Float64Array(d);
      const source = i < fromPrior ? prior : proposal;
      for (let r = 0; r < d; r++) {
        let sum = source.mean[r]!;
        for (let c = 0; c <= r; c++) sum += source.root.get(r, c) * e[c]!;
        point[r] = sum;
      }
      z.push(point);
      target.push(logTarget(point));
      under.push([logDensity(prior, point), ...proposals.slice(0, round).map((g) => logDensity(g, point))]);
    });
    z.forEach((point, i) => under[i]!.push(logDensity(proposal, point)));
    const share = (1 - defensive) / (round + 1);
    const logs = z.map((_, i) => {
      const densities = under[i]!;
      const top = Math.max(...densities);
      const mixture = densities.reduce((s, l, k) => s + (k === 0 ? defensive : share) * Math.exp(l - top), 0);
      return target[i]! - top - Math.log(mixture);
    });
    const best = logs.reduce((a, b) => Math.max(a, b), -Infinity);
    weights = logs.map((l) => Math.exp(l - best));
    const total = weights.reduce((a, b) => a + b, 0);
    weights = weights.map((w) => w / total);
    effectiveSize = 1 / weights.reduce((s, w) => s + w * w, 0);
    if (effectiveSize >= enough || round === rounds - 1) break;
    // While a few points carry all the weight their spread says little: flatten the weights until enough points speak.
    const flat = flattened(weights, Math.min(FLAT_SIZE, points / 4));
    const mean = new Float64Array(d);
    z.forEach((point, i) => point.forEach((value, j) => (mean[j]! += flat[i]! * value)));
    const covariance = Matrix.zeros(d, d);
    z.forEach((point, i) => {
      if (flat[i]! < 1e-12) return;
      for (let a = 0; a < d; a++)
        for (let b = 0; b <= a; b++)
          covariance.set(a, b, covariance.get(a, b) + flat[i]! * (point[a]! - mean[a]!) * (point[b]! - mean[b]!));
    });
    for (let a = 0; a < d; a++)
      for (let b = 0; b <= a; b++) {
        // A few good points make a poor covariance: lean on the unit matrix until there are many.
        const trust = FLAT_SIZE / (FLAT_SIZE + 2 * d);
        const value = 1.2 * (trust * covariance.get(a, b) + (a === b ? (1 - trust) * 0.3 : 0));
        covariance.set(a, b, value);
        covariance.set(b, a, value);
      }
    proposals.push(gaussianFrom(mean, covariance));
  }

  const chosen: Float64Array[] = [];
  const first = random.uniform() / draws;
  let cumulative = 0;
  let i = -1;
  for (let k = 0; k < draws; k++) {
    const mark = first + k / draws;
    while (cumulative < mark && i < z.length - 1) cumulative += weights[++i]!;
    chosen.push(z[Math.max(0, i)]!);
  }
  return { draws: chosen, effectiveSize, rounds: proposals.length };
}
