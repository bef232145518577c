import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { limitsOf, type Axis } from '../controls/index.ts';
import { maximise, normalBetween, normalCdf, seededRandom } from '../stats/index.ts';
import type { GradedCell } from './cells.ts';
import { importanceDefaults, importanceSample, type Sample } from './importanceSample.ts';
import {
  at,
  cutPoints,
  hasFixedLoads,
  loadsOf,
  logPosterior,
  parametersFor,
  sharedKinds,
  unwhiten,
  type LogPosterior,
  type Parameters,
  type Target,
} from './likelihood.ts';
import type { Prior } from './prior.ts';

/** One draw of everything a cut depends on, ready to predict with. */
export type Draw = {
  /** Cut points τ₀ … τ₃ for the occasion asked about. */
  tau: [number, number, number, number];
  /** Noise of the next cut, with what occasions not yet seen add to it. */
  sigma: number;
  beta: number;
  /** γ: load lost as the blade goes e times faster. */
  gamma: number;
  gain: number;
  /** Log load of every position, lowest first, before the gain; shared between draws where it does not depend on them. */
  loads: Float64Array;
};

export type Posterior = {
  axis: Axis;
  draws: Draw[];
  effectiveSize: number;
  rounds: number;
  converged: boolean;
};

export type PosteriorOptions = {
  seed: number;
  target?: Target;
  /**
   * What the coming cut meets for the first time (a blade, a colour) is drawn for every draw instead of being added to its noise: the
   * chances are the same on average, and a coupon can be planned to find it out.
   */
  learnable?: boolean;
} & Partial<typeof importanceDefaults>;

/**
 * Posterior of the cut model for one vinyl on one cutter.
 *
 * @param axis the strength axis
 * @param prior what is believed before any cell
 * @param cells graded cells, their strengths being positions of the axis; may be empty
 * @throws RangeError when a cell lies outside the axis
 */
export function posterior(
  axis: Axis,
  prior: Prior,
  cells: readonly GradedCell[],
  options: PosteriorOptions,
): Posterior {
  const { seed, target = {}, learnable = false, ...sampling } = options;
  const { min, max } = limitsOf(axis);
  cells.forEach((c, i) => {
    if (!(c.strength >= min && c.strength <= max))
      throw new RangeError(`cell ${i + 1}: ${axis.word} position ${c.strength} is outside ${min} to ${max}`);
  });
  const p = parametersFor(axis, prior, cells, target);
  const f = logPosterior(p, cells);
  const { sample, converged } =
    cells.length >= MANY
      ? sampleMany(p, f, cells, seed, sampling.draws ?? importanceDefaults.draws)
      : sampleFew(p, f, seed, sampling);

  // What the coming cut meets for the first time adds to its noise; a coupon is always new.
  const known = new Map(p.effects.map((e, i) => [`${e.kind} ${e.level}`, p.effectStart + i]));
  let unseen = prior.effects.coupon ** 2;
  let toLearn = 0;
  const offsets: number[] = [];
  for (const kind of sharedKinds) {
    if (!p.effects.some((e) => e.kind === kind)) continue;
    const place = known.get(`${kind} ${target[kind] ?? ''}`);
    if (place === undefined && learnable) toLearn += prior.effects[kind] ** 2;
    else if (place === undefined) unseen += prior.effects[kind] ** 2;
    else offsets.push(place);
  }

  // Where the evidence has one speed alone, what another would do is as it was believed before.
  const guess = seededRandom(seed + 1);
  const fixedLoads = hasFixedLoads(p) ? loadsOf(p, p.mean) : undefined;
  const draws = sample.draws.map((z): Draw => {
    const theta = unwhiten(p, z);
    const gain = Math.exp(theta[at.gain]!);
    const offset = offsets.reduce((s, i) => s + theta[i]!, 0) + (toLearn > 0 ? Math.sqrt(toLearn) * guess.normal() : 0);
    const [tau0, tau1, tau2, tau3] = cutPoints(p, theta);
    return {
      tau: [tau0 - offset, tau1 - offset, tau2 - offset, tau3 - offset],
      sigma: Math.sqrt(Math.exp(2 * theta[at.sigma]!) + unseen),
      beta: Math.exp(theta[at.passes]!),
      gamma:
        p.speed.at < 0
          ? prior.speed.median * Math.exp(prior.speed.sdlog * guess.normal())
          : Math.exp(theta[p.speed.at]!),
      gain,
      loads: fixedLoads ?? loadsOf(p, theta),
    };
  });
  return { axis, draws, effectiveSize: sample.effectiveSize, rounds: sample.rounds, converged };
}

/** From so many cells on the posterior is as good as normal, and every look at all of them costs. */
const MANY = 3000;
/** Cells that a first look at many is taken from. */
const FIRST_LOOK = 600;

type Sampled = { sample: Sample; converged: boolean };

function sampleFew(
  p: Parameters,
  f: LogPosterior,
  seed: number,
  sampling: Partial<typeof importanceDefaults>,
): Sampled {
  const top = maximise(f, new Float64Array(p.count), { tolerance: 1e-8 });
  return {
    sample: importanceSample(f, top.x, top.information, seededRandom(seed), sampling),
    converged: top.converged,
  };
}

/**
 * Draws of the posterior of many cells: its mode is looked for in a part of them and put right on all by scoring steps (Berndt, Hall,
 * Hall & Hausman 1974), and the normal approximation there is drawn from as it stands (Bernstein–von Mises; Gelman et al. 2013,
 * Bayesian Data Analysis, ch. 4).
 */
function sampleMany(
  p: Parameters,
  f: LogPosterior,
  cells: readonly GradedCell[],
  seed: number,
  draws: number,
): Sampled {
  const coupons = [...new Set(cells.map((c) => c.coupon))];
  const every = Math.ceil(cells.length / FIRST_LOOK);
  let top: { x: Float64Array; information: Matrix; converged: boolean };
  if (coupons.length < 20 * every)
    // Few long coupons: too few scores to go by, but their cells come out alike and are quickly looked at.
    top = maximise(f, new Float64Array(p.count), { tolerance: 1e-6 });
  else {
    // Whole coupons, so that what cells of one have in common is seen.
    const some = new Set(coupons.filter((_, i) => i % every === 0));
    const part = cells.filter((c) => some.has(c.coupon));
    top = byScoring(f, byScoring(logPosterior(p, part), new Float64Array(p.count), 1e-3).x, 1e-4);
  }
  const { x, information, converged } = top;
  if (!converged) return sampleFew(p, f, seed, { draws });
  const random = seededRandom(seed);
  const root = new CholeskyDecomposition(information).lowerTriangularMatrix;
  const sample = Array.from({ length: draws }, () => {
    // Solving Lᵀz = e gives z the inverse information as its covariance.
    const z = Float64Array.from({ length: p.count }, () => random.normal());
    for (let i = p.count - 1; i >= 0; i--) {
      for (let k = i + 1; k < p.count; k++) z[i]! -= root.get(k, i) * z[k]!;
      z[i]! /= root.get(i, i);
    }
    for (let i = 0; i < p.count; i++) z[i]! += x[i]!;
    return z;
  });
  return { sample: { draws: sample, effectiveSize: draws, rounds: 0 }, converged };
}

/** Maximum by steps whose information is that of the scores; each costs one look at the cells. */
function byScoring(f: LogPosterior, start: Float64Array, tolerance: number) {
  const n = start.length;
  const scores = new Float64Array(n * n);
  const gradient = new Float64Array(n);
  let x = start;
  let value = f(x, gradient, scores);
  let information = Matrix.eye(n);
  let converged = false;
  for (let round = 0; round < 30 && !converged; round++) {
    information = new Matrix(n, n);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) information.set(i, j, scores[i * n + j]! + (i === j ? 1 : 0));
    const move = new CholeskyDecomposition(information).solve(Matrix.columnVector(gradient)).to1DArray();
    // Half of this is the gain still to be had.
    const decrement = move.reduce((sum, m, i) => sum + m * gradient[i]!, 0);
    converged = decrement < tolerance;
    if (converged) break;
    let size = 1;
    for (; size > 1e-3; size /= 2) {
      const next = x.map((v, i) => v + size * move[i]!);
      const reached = f(next, gradient, scores);
      if (reached > value) {
        x = next;
        value = reached;
        break;
      }
    }
    if (size <= 1e-3) break;
  }
  return { x, information, converged };
}

/** Chance of the wanted result for one draw at a load. Slips are not part of it: they happen at the tap, not at the blade. */
export function chanceOf(draw: Draw, load: number, wanted: 'clean' | 'through'): number {
  const { tau, sigma } = draw;
  if (wanted === 'through') return normalCdf((load - tau[3]) / sigma);
  const low = (tau[1] - load) / sigma;
  const high = (tau[2] - load) / sigma;
  // Most draws are certain at most loads: Φ(−6.5) is 4·10⁻¹¹.
  if (low > 6.5 || high < -6.5) return 0;
  if (low < -6.5 && high > 6.5) return 1;
  return normalBetween(low, high);
}

/** Chances of the five grades for one draw at a load, uncut first. */
export function gradeChances(draw: Draw, load: number): number[] {
  const { tau, sigma } = draw;
  const below = tau.map((t) => normalCdf((t - load) / sigma));
  return [below[0]!, below[1]! - below[0]!, below[2]! - below[1]!, below[3]! - below[2]!, 1 - below[3]!];
}
