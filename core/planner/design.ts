import { limitsOf, positionsOf } from '../controls/index.ts';
import { seededRandom } from '../stats/index.ts';
import { chanceOf, gradeChances, priorDefaults, type Draw, type Posterior } from '../window/index.ts';

export const designDefaults = {
  /** Draws of the posterior that outcomes are imagined with. */
  draws: 320,
  /** Imagined outcomes of the cells chosen so far that a further cell is weighed under. */
  paths: 40,
  /** Places a cell may go to, at most; more are thinned evenly in load. */
  places: 44,
  /** Cells of one coupon that are expected to cut right through, at most: they hurt the mat. */
  through: 1.6,
  seed: 1,
};
export type DesignOptions = { count: number; wanted: 'clean' | 'through'; passes?: number } & Partial<
  typeof designDefaults
>;

export type Design = {
  /** Positions, lightest first; one may stand twice where noise is what is unknown. */
  positions: number[];
  /** Chance of the wanted result at the setting that would be chosen now, and as it is expected after the coupon. */
  now: number;
  after: number;
};

/** log load that a number of passes adds, for a draw. */
const added = (draw: Draw, passes: number) => (passes > 1 ? draw.beta * Math.log(passes) : 0);

/** What the choice hangs on: too little, right, too much; or through and not. */
function outcomesOf(draw: Draw, load: number, wanted: 'clean' | 'through'): number[] {
  const [uncut, hangs, clean, scored, through] = gradeChances(draw, load) as [number, number, number, number, number];
  const { lapse } = priorDefaults;
  const heard = (chance: number, share: number) => (1 - lapse) * chance + lapse * share;
  return wanted === 'clean'
    ? [heard(uncut + hangs, 2 / 5), heard(clean, 1 / 5), heard(scored + through, 2 / 5)]
    : [heard(1 - through, 4 / 5), heard(through, 1 / 5)];
}

/** Places worth asking about: those where something may change, thinned evenly. */
function placesFor(
  post: Posterior,
  draws: readonly Draw[],
  wanted: 'clean' | 'through',
  passes: number,
  most: number,
): number[] {
  const { min } = limitsOf(post.axis);
  const open = positionsOf(post.axis).filter((p) => {
    // Where nearly every draw says the same, a cell teaches nothing.
    const mean = [0, 0, 0];
    for (const d of draws)
      outcomesOf(d, d.gain * d.loads[p - min]! + added(d, passes), wanted).forEach(
        (c, i) => (mean[i]! += c / draws.length),
      );
    return Math.max(...mean) < 0.975;
  });
  const all = open.length >= 3 ? open : positionsOf(post.axis);
  if (all.length <= most) return all;
  const heft = (p: number) => draws.reduce((s, d) => s + d.gain * d.loads[p - min]!, 0) / draws.length;
  const [from, to] = [heft(all[0]!), heft(all.at(-1)!)];
  const thin = new Set<number>();
  let at = 0;
  for (let i = 0; i < most; i++) {
    const load = from + ((to - from) * i) / (most - 1);
    while (at < all.length - 1 && heft(all[at]!) < load) at++;
    thin.add(all[at]!);
  }
  return [...thin];
}

/** A part of the draws, evenly taken. */
function someOf(post: Posterior, most: number): Draw[] {
  const stride = Math.max(1, Math.floor(post.draws.length / most));
  return post.draws.filter((_, i) => i % stride === 0).slice(0, most);
}

/** Chances of every outcome at a place, outcome by outcome, for every draw. */
function chancesAt(
  post: Posterior,
  draws: readonly Draw[],
  position: number,
  wanted: 'clean' | 'through',
  passes: number,
): Float64Array {
  const { min } = limitsOf(post.axis);
  const kinds = wanted === 'clean' ? 3 : 2;
  const table = new Float64Array(draws.length * kinds);
  draws.forEach((d, s) =>
    outcomesOf(d, d.gain * d.loads[position - min]! + added(d, passes), wanted).forEach(
      (c, k) => (table[k * draws.length + s] = c),
    ),
  );
  return table;
}

/**
 * What cells at given places are worth: the chance of the wanted result at the setting that would be chosen now, and as it is
 * expected once they are graded.
 */
export function worthOfCells(
  post: Posterior,
  positions: readonly number[],
  options: Omit<DesignOptions, 'count'>,
): Pick<Design, 'now' | 'after'> {
  const { wanted, passes = 1, draws: most, paths, seed } = { ...designDefaults, ...options };
  const random = seededRandom(seed);
  const draws = someOf(post, most);
  const weights = Array.from({ length: paths }, () => new Float64Array(draws.length).fill(1 / draws.length));
  for (const position of positions)
    imagine(
      weights,
      chancesAt(post, draws, position, wanted, passes),
      wanted === 'clean' ? 3 : 2,
      draws.length,
      random,
    );
  return worthOf(post, draws, wanted, passes, weights);
}

const plogp = (p: number) => (p > 1e-12 ? p * Math.log(p) : 0);

/**
 * Chooses the cells of the next coupon as a batch: each cell is the one that is expected to tell most about what the choice hangs
 * on, given what the cells before it may come out as. The gain of a cell is the mutual information between its outcome and the
 * parameters, H(mean over draws) − mean over draws of H, under weights that carry imagined outcomes of the cells already chosen.
 * Outcomes are told apart only as far as they matter (too little, clean, too much). Low to high; places may repeat.
 *
 * Sources: expected information of an experiment, Lindley (1956); greedy batches by imagined outcomes, as in BatchBALD (Kirsch,
 * van Amersfoort & Gal 2019), whose joint entropy is sampled here; information over draws of a posterior, Houlsby et al. (2011).
 */
export function designBatch(post: Posterior, options: DesignOptions): Design {
  const { count, wanted, passes = 1, draws: most, paths, places, through, seed } = { ...designDefaults, ...options };
  const random = seededRandom(seed);
  const { min } = limitsOf(post.axis);
  const draws = someOf(post, most);
  const n = draws.length;
  const candidates = placesFor(post, draws, wanted, passes, places);
  const kinds = wanted === 'clean' ? 3 : 2;
  // Chances of every outcome at every place for every draw, and how uncertain the outcome is when the draw is known.
  const chances = candidates.map((p) => chancesAt(post, draws, p, wanted, passes));
  const noise = chances.map((table) => {
    const h = new Float64Array(n);
    for (let s = 0; s < n; s++) for (let k = 0; k < kinds; k++) h[s]! -= plogp(table[k * n + s]!);
    return h;
  });
  const cutsThrough = candidates.map(
    (p) => draws.reduce((sum, d) => sum + gradeChances(d, d.gain * d.loads[p - min]! + added(d, passes))[4]!, 0) / n,
  );
  const weights = Array.from({ length: paths }, () => new Float64Array(n).fill(1 / n));
  const positions: number[] = [];
  // On a fine axis a neighbour tells as much as the same place again, and more if the model is a little wrong; a coarse one has no
  // neighbours to go to.
  const often = candidates.length >= 2 * count ? 1 : Math.max(2, Math.ceil(count / candidates.length));
  const used = new Uint8Array(candidates.length);
  let throughSoFar = 0;
  // Kept to its share as the cells are chosen, so that the last ones are not all pushed to one side.
  const allowance = wanted === 'through' ? Infinity : through;
  for (let cell = 0; cell < count; cell++) {
    let best = -1;
    let bestGain = -Infinity;
    for (let c = 0; c < candidates.length; c++) {
      if (used[c]! >= often) continue;
      if (throughSoFar + cutsThrough[c]! > allowance) continue;
      let gain = 0;
      for (const w of cell === 0 ? weights.slice(0, 1) : weights) {
        for (let k = 0; k < kinds; k++) {
          let mean = 0;
          const row = chances[c]!.subarray(k * n, (k + 1) * n);
          for (let s = 0; s < n; s++) mean += w[s]! * row[s]!;
          gain -= plogp(mean);
        }
        const h = noise[c]!;
        for (let s = 0; s < n; s++) gain -= w[s]! * h[s]!;
      }
      if (cell === 0) gain *= paths;
      if (gain > bestGain + 1e-12) {
        bestGain = gain;
        best = c;
      }
    }
    if (best < 0) best = lightest(cutsThrough, used);
    used[best]!++;
    positions.push(candidates[best]!);
    throughSoFar += cutsThrough[best]!;
    imagine(weights, chances[best]!, kinds, n, random);
  }
  const order = new Map(
    positionsOf(post.axis).map((p) => [p, draws.reduce((s, d) => s + d.gain * d.loads[p - min]!, 0)]),
  );
  positions.sort((a, b) => order.get(a)! - order.get(b)! || a - b);
  return { positions, ...worthOf(post, draws, wanted, passes, weights) };
}

/** The place least likely to be cut through, among those used least. */
function lightest(cutsThrough: readonly number[], used: Uint8Array): number {
  const least = Math.min(...used);
  let best = used.indexOf(least);
  cutsThrough.forEach((t, c) => {
    if (used[c] === least && t < cutsThrough[best]!) best = c;
  });
  return best;
}

/** Gives every path an outcome of a cell, drawn from what that path expects, and weighs its draws by it. */
function imagine(
  weights: Float64Array[],
  table: Float64Array,
  kinds: number,
  n: number,
  random: { uniform: () => number },
): void {
  // One in each slice of the unit interval, in mixed order: all outcomes come up as often as they should.
  const marks = weights.map((_, i) => (i + random.uniform()) / weights.length);
  for (let i = marks.length - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [marks[i], marks[j]] = [marks[j]!, marks[i]!];
  }
  weights.forEach((w, path) => {
    let mark = marks[path]!;
    let kind = kinds - 1;
    for (let k = 0; k < kinds; k++) {
      let mean = 0;
      for (let s = 0; s < n; s++) mean += w[s]! * table[k * n + s]!;
      if (mark < mean) {
        kind = k;
        break;
      }
      mark -= mean;
    }
    let total = 0;
    for (let s = 0; s < n; s++) total += w[s] = w[s]! * table[kind * n + s]!;
    for (let s = 0; s < n; s++) w[s]! /= total;
  });
}

/** The chance of the wanted result at the best place now, and on average at the best place of every imagined outcome. */
function worthOf(
  post: Posterior,
  draws: readonly Draw[],
  wanted: 'clean' | 'through',
  passes: number,
  weights: readonly Float64Array[],
): { now: number; after: number } {
  const { min } = limitsOf(post.axis);
  const all = positionsOf(post.axis);
  const every = Math.max(1, Math.ceil(all.length / 120));
  const rows = all
    .filter((_, i) => i % every === 0)
    .map((p) => Float64Array.from(draws, (d) => chanceOf(d, d.gain * d.loads[p - min]! + added(d, passes), wanted)));
  const mean = (row: Float64Array, w: Float64Array) => row.reduce((s, c, i) => s + c * w[i]!, 0);
  // Both from the same paths, so that what the sampling of paths adds falls out of their difference.
  const average = new Float64Array(draws.length);
  for (const w of weights) w.forEach((v, s) => (average[s]! += v / weights.length));
  const flat = new Float64Array(draws.length).fill(1 / draws.length);
  const best = (w: Float64Array) => Math.max(...rows.map((row) => mean(row, w)));
  const now = best(flat);
  return { now, after: now + weights.reduce((s, w) => s + best(w), 0) / weights.length - best(average) };
}
