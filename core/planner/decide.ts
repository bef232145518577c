import { limitsOf, positionsOf, type Axis } from '../controls/index.ts';
import { gradeIndex, type Grade } from '../grades/index.ts';
import { quickNormalCdf, seededRandom } from '../stats/index.ts';
import { vinylTypes, type VinylTypeKey } from '../vinyls/index.ts';
import { nominalLoad, priorDefaults } from '../window/index.ts';

/**
 * Crafters fall into two camps, each with its number: which of the two works here is decided by a few cells.
 *
 * What may be true is drawn beforehand: the window lies where the first camp has it, where the second has it, or anywhere. Each draw says
 * of both numbers whether they come out as wanted, and how likely each grade is at each place. Cells are chosen one after the other for
 * what all of them together are expected to tell about those two answers (mutual information: Lindley 1956), and the answer is read from the
 * same draws (importance weights). The physics is that of core/window.
 */
export const decideDefaults = {
  cells: 4,
  /** What is believed beforehand: the first camp, the second, neither. */
  beforehand: [0.45, 0.45, 0.1] as const,
  /** Draws of each of the three. */
  draws: 500,
  /** How far the window of a camp's own may lie from its number, sd in log load; of neither, from the middle of both. */
  near: 0.1,
  anywhere: 0.7,
  /** A number works where it comes out as wanted this often. */
  works: 0.8,
  /** It is said to work, or not to, from this belief on. */
  sure: 0.6,
  /** Places that are looked at, in steps of so much log load, from so far below the lower number to so far above the upper one. */
  grid: 0.06,
  beyond: 0.4,
};

/** Both numbers, as places on the axis. */
export type TwoCamps = readonly [number, number];
export type Verdict2 = 'first' | 'second' | 'either' | 'neither' | 'open';

type Truth = {
  /** Loads at which one grade passes into the next. */
  tau: readonly [number, number, number, number];
  sigma: number;
  /** Whether each number works. */
  works: readonly [boolean, boolean];
  weight: number;
};

const LAPSE = priorDefaults.lapse;

/** Chances of the five grades at a load. */
function chances(t: Pick<Truth, 'tau' | 'sigma'>, u: number): number[] {
  const below = t.tau.map((tau, k) => (1 - LAPSE) * quickNormalCdf((tau - u) / t.sigma) + (LAPSE * (k + 1)) / 5);
  return [below[0]!, below[1]! - below[0]!, below[2]! - below[1]!, below[3]! - below[2]!, 1 - below[3]!];
}

function truths(axis: Axis, type: VinylTypeKey, camps: TwoCamps, wanted: 'clean' | 'through', seed: number): Truth[] {
  const random = seededRandom(seed);
  const load = nominalLoad(axis);
  const at = camps.map((p) => load.at(p)) as [number, number];
  const { near, anywhere, draws, beforehand, works } = decideDefaults;
  const logNormal = ({ median, sdlog }: { median: number; sdlog: number }) =>
    median * Math.exp(sdlog * random.normal());
  const places = [
    () => at[0] + near * random.normal(),
    () => at[1] + near * random.normal(),
    () => (at[0] + at[1]) / 2 + anywhere * random.normal(),
  ];
  return places.flatMap((place, which) =>
    Array.from({ length: draws }, () => {
      const centre = place();
      const gap = logNormal({ ...priorDefaults.cleanGap, median: vinylTypes[type].gap });
      const sigma = logNormal(priorDefaults.sigma);
      const scored = logNormal(priorDefaults.scoredGap);
      // Where through is wanted, a camp's number is one at which it falls out.
      const middle = wanted === 'clean' ? centre : centre - gap / 2 - scored - 2 * sigma;
      const [low, high] = [middle - gap / 2, middle + gap / 2];
      const tau = [low - logNormal(priorDefaults.hangsGap), low, high, high + scored] as const;
      const good = (u: number) => chances({ tau, sigma }, u)[gradeIndex[wanted]]! >= works * (1 - LAPSE);
      return { tau, sigma, works: [good(at[0]), good(at[1])] as const, weight: beforehand[which]! / draws };
    }),
  );
}

const classOf = (t: Truth) => (t.works[0] ? 1 : 0) + (t.works[1] ? 2 : 0);
const CLASSES = 4;
/** −x log x, 0 at 0. */
const entropy = (x: number) => (x > 0 ? -x * Math.log(x) : 0);

export type DecideInput = {
  axis: Axis;
  type: VinylTypeKey;
  camps: TwoCamps;
  wanted: 'clean' | 'through';
  count: number;
  seed: number;
};

/**
 * Where to cut to decide between two camps: places on the axis, lightest first. Each further cell is that which, with those chosen, is
 * expected to leave least doubt about which of the two numbers work.
 */
export function decideCells({ axis, type, camps, wanted, count, seed }: DecideInput): number[] {
  const all = truths(axis, type, camps, wanted, seed);
  const load = nominalLoad(axis);
  const ends = camps.map((p) => load.at(p));
  const { min, max } = limitsOf(axis);
  const [from, to] = [Math.min(...ends) - decideDefaults.beyond, Math.max(...ends) + decideDefaults.beyond];
  const candidates: number[] = [];
  for (const p of positionsOf(axis)) {
    const u = load.at(p);
    const last = candidates.at(-1);
    if (p < min || p > max || u < from || u > to) continue;
    if (last === undefined || Math.abs(u - load.at(last)) >= decideDefaults.grid || camps.includes(p))
      candidates.push(p);
  }
  const table = candidates.map((p) => all.map((t) => chances(t, load.at(p))));
  const kinds = all.map(classOf);
  // Each outcome so far: the weight of every truth that it leaves.
  let left: Float64Array[] = [Float64Array.from(all, (t) => t.weight)];
  const chosen: number[] = [];
  for (let n = 0; n < count; n++) {
    let best = 0;
    let least = Infinity;
    for (const [c, rows] of table.entries()) {
      let doubt = 0;
      for (const weights of left) {
        const sums = new Float64Array(5 * CLASSES);
        for (let w = 0; w < weights.length; w++) {
          const weight = weights[w]!;
          if (weight < 1e-9) continue;
          const row = rows[w]!;
          const kind = kinds[w]!;
          for (let g = 0; g < 5; g++) sums[g * CLASSES + kind]! += weight * row[g]!;
        }
        for (let g = 0; g < 5; g++) {
          let total = 0;
          for (let k = 0; k < CLASSES; k++) total += sums[g * CLASSES + k]!;
          if (total <= 0) continue;
          for (let k = 0; k < CLASSES; k++) doubt += total * entropy(sums[g * CLASSES + k]! / total);
        }
      }
      if (doubt < least - 1e-12) [least, best] = [doubt, c];
    }
    chosen.push(candidates[best]!);
    const rows = table[best]!;
    left = left
      .flatMap((weights) =>
        Array.from({ length: 5 }, (_, g) => Float64Array.from(weights, (weight, w) => weight * rows[w]![g]!)),
      )
      .filter((weights) => weights.reduce((s, x) => s + x, 0) > 1e-3);
  }
  return chosen.sort((a, b) => a - b);
}

/** Which of two numbers works, by graded cells: how much is believed of each, and the verdict where that is enough. */
export function decide(
  input: Omit<DecideInput, 'count'>,
  graded: readonly { position: number; grade: Grade }[],
): { verdict: Verdict2; first: number; second: number } {
  const { axis, type, camps, wanted, seed } = input;
  const load = nominalLoad(axis);
  let [sum, first, second, any] = [0, 0, 0, 0];
  for (const t of truths(axis, type, camps, wanted, seed)) {
    let weight = t.weight;
    for (const { position, grade } of graded) weight *= chances(t, load.at(position))[gradeIndex[grade]]!;
    sum += weight;
    if (t.works[0]) first += weight;
    if (t.works[1]) second += weight;
    if (t.works[0] || t.works[1]) any += weight;
  }
  const believed = { first: first / sum, second: second / sum };
  const { sure } = decideDefaults;
  const [a, b] = [believed.first >= sure, believed.second >= sure];
  const verdict: Verdict2 = a && b ? 'either' : a ? 'first' : b ? 'second' : any / sum <= 1 - sure ? 'neither' : 'open';
  return { verdict, ...believed };
}
