import { limitsOf } from '../controls/index.ts';
import { quickNormalCdf } from '../stats/index.ts';
import type { Draw, Posterior } from '../window/index.ts';

/** A way of cutting beside the strength: how often over the same line, and how much faster than the reading's speed (log). */
export type Way = { passes: number; faster: number };
export const plainWay: Way = { passes: 1, faster: 0 };

/** Where one cell goes. */
export type Place = { position: number; way: Way };

/** Draws as columns of numbers, so that sums over them run quickly. */
export type Columns = {
  n: number;
  tau: [Float64Array, Float64Array, Float64Array, Float64Array];
  sigma: Float64Array;
  beta: Float64Array;
  gamma: Float64Array;
  /** Log load of a place for every draw. */
  loads: (place: Place) => Float64Array;
  /** Its mean. */
  heft: (place: Place) => number;
};

function loadsAt(
  draws: readonly Draw[],
  gain: Float64Array,
  beta: Float64Array,
  gamma: Float64Array,
  at: number,
  more: number,
  faster: number,
): Float64Array {
  const n = gain.length;
  const loads = new Float64Array(n);
  for (let s = 0; s < n; s++) loads[s] = gain[s]! * draws[s]!.loads[at]! + beta[s]! * more - gamma[s]! * faster;
  return loads;
}

/** A part of the draws, evenly taken. */
export function columnsOf(post: Posterior, most: number): Columns {
  const stride = Math.max(1, Math.floor(post.draws.length / most));
  const draws = post.draws.filter((_, i) => i % stride === 0).slice(0, most);
  const { min } = limitsOf(post.axis);
  const column = (of: (d: Draw) => number) => Float64Array.from(draws, of);
  const [gain, beta, gamma] = [column((d) => d.gain), column((d) => d.beta), column((d) => d.gamma)];
  const loads = ({ position, way }: Place) =>
    loadsAt(draws, gain, beta, gamma, position - min, Math.log(way.passes), way.faster);
  // On a number axis every draw has the same loads: its mean is quickly had.
  const alike = draws.every((d) => d.loads === draws[0]!.loads);
  const means = [meanOf(gain), meanOf(beta), meanOf(gamma)] as const;
  return {
    n: draws.length,
    tau: [column((d) => d.tau[0]), column((d) => d.tau[1]), column((d) => d.tau[2]), column((d) => d.tau[3])],
    sigma: column((d) => d.sigma),
    beta,
    gamma,
    loads,
    heft: alike
      ? ({ position, way }) =>
          means[0] * draws[0]!.loads[position - min]! + means[1] * Math.log(way.passes) - means[2] * way.faster
      : (place) => meanOf(loads(place)),
  };
}

export const meanOf = (list: Float64Array): number => {
  let sum = 0;
  for (let s = 0; s < list.length; s++) sum += list[s]!;
  return sum / list.length;
};

/** Chance of the wanted result at some loads, for every draw. */
export function chancesAt({ n, tau, sigma }: Columns, loads: Float64Array, wanted: 'clean' | 'through'): Float64Array {
  const row = new Float64Array(n);
  for (let s = 0; s < n; s++) {
    const u = loads[s]!;
    row[s] =
      wanted === 'clean'
        ? quickNormalCdf((tau[2][s]! - u) / sigma[s]!) - quickNormalCdf((tau[1][s]! - u) / sigma[s]!)
        : quickNormalCdf((u - tau[3][s]!) / sigma[s]!);
  }
  return row;
}
