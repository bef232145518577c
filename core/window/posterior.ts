import { limitsOf, type Axis } from '../controls/index.ts';
import { maximise, normalBetween, normalCdf, seededRandom } from '../stats/index.ts';
import type { GradedCell } from './cells.ts';
import { importanceDefaults, importanceSample } from './importanceSample.ts';
import {
  at,
  hasFixedLoads,
  loadsOf,
  logPosterior,
  parametersFor,
  sharedKinds,
  unwhiten,
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

export type PosteriorOptions = { seed: number; target?: Target } & Partial<typeof importanceDefaults>;

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
  const { seed, target = {}, ...sampling } = options;
  const { min, max } = limitsOf(axis);
  cells.forEach((c, i) => {
    if (!(c.strength >= min && c.strength <= max))
      throw new RangeError(`cell ${i + 1}: ${axis.word} position ${c.strength} is outside ${min} to ${max}`);
  });
  const p = parametersFor(axis, prior, cells, target);
  const f = logPosterior(p, cells);
  const top = maximise(f, new Float64Array(p.count), { tolerance: 1e-8 });
  const sample = importanceSample(f, top.x, top.information, seededRandom(seed), sampling);

  // What the coming cut meets for the first time adds to its noise; a coupon is always new.
  const known = new Map(p.effects.map((e, i) => [`${e.kind} ${e.level}`, p.effectStart + i]));
  let unseen = prior.effects.coupon ** 2;
  const offsets: number[] = [];
  for (const kind of sharedKinds) {
    if (!p.effects.some((e) => e.kind === kind)) continue;
    const place = known.get(`${kind} ${target[kind] ?? ''}`);
    if (place === undefined) unseen += prior.effects[kind] ** 2;
    else offsets.push(place);
  }

  const fixedLoads = hasFixedLoads(p) ? loadsOf(p, p.mean) : undefined;
  const draws = sample.draws.map((z): Draw => {
    const theta = unwhiten(p, z);
    const gain = Math.exp(theta[at.gain]!);
    const gap = Math.exp(theta[at.cleanGap]!);
    const offset = offsets.reduce((s, i) => s + theta[i]!, 0);
    const tau1 = theta[at.centre]! - gap / 2 - offset;
    const tau2 = tau1 + gap;
    return {
      tau: [tau1 - Math.exp(theta[at.hangsGap]!), tau1, tau2, tau2 + Math.exp(theta[at.scoredGap]!)],
      sigma: Math.sqrt(Math.exp(2 * theta[at.sigma]!) + unseen),
      beta: Math.exp(theta[at.passes]!),
      gain,
      loads: fixedLoads ?? loadsOf(p, theta),
    };
  });
  return { axis, draws, effectiveSize: sample.effectiveSize, rounds: sample.rounds, converged: top.converged };
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
