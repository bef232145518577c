import { positionsOf, shippedModels, strengthAxis } from '#core/controls/index.ts';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import { decide, decideCells, decideDefaults, type TwoCamps, type Verdict2 } from '#core/planner/index.ts';
import { normalCdf, seededRandom, type Random } from '#core/stats/index.ts';
import { nominalLoad } from '#core/window/index.ts';

/**
 * Two camps: which number works here? Worlds where the first camp is right, the second, or neither (45, 45, 10 in 100); camps 0.18 to 0.8
 * log load apart; half of the truths are not of the model's form. A verdict is right where it names exactly the numbers that come out
 * clean at least 8 times in 10, wrong where it names one that does so less than half the time, or none though one does; a number in
 * between may be named or not.
 */
type World = { camps: TwoCamps; chanceAt: (position: number) => number[] };

const axis = strengthAxis(shippedModels[0]!);
const load = nominalLoad(axis);
const places = positionsOf(axis);
const nearest = (u: number) => places.reduce((a, b) => (Math.abs(load.at(b) - u) < Math.abs(load.at(a) - u) ? b : a));

function world(random: Random, odd: boolean): World {
  const apart = 0.18 + 0.62 * random.uniform();
  const middle = -0.2 + 0.8 * random.uniform();
  const at = [middle - apart / 2, middle + apart / 2] as const;
  const which = random.uniform();
  const centre =
    which < 0.45
      ? at[0] + 0.06 * random.normal()
      : which < 0.9
        ? at[1] + 0.06 * random.normal()
        : random.uniform() < 0.5
          ? at[0] - 0.45 - 0.3 * random.uniform()
          : at[1] + 0.45 + 0.3 * random.uniform();
  const log = (median: number, sdlog: number) => median * Math.exp(sdlog * random.normal());
  const gap = log(0.42, 0.3);
  const sigma = log(0.07, 0.4);
  const tau = [centre - gap / 2 - log(0.15, 0.5), centre - gap / 2, centre + gap / 2, centre + gap / 2 + log(0.3, 0.5)];
  const kind = Math.floor(3 * random.uniform());
  // Not of the model's form: tails of Cauchy a tenth of the time; steps whose noise differs; a carrier that yields late.
  const heavy = (z: number) => 0.9 * normalCdf(z) + 0.1 * (0.5 + Math.atan(z) / Math.PI);
  const spread = tau.map(() => log(1, 0.35));
  const chanceAt = (position: number) => {
    const u = load.at(position);
    const felt = odd && kind === 2 && u > centre ? centre + 0.75 * (u - centre) : u;
    const below = tau.map((t, k) => {
      const z = (t - felt) / (sigma * (odd && kind === 1 ? spread[k]! : 1));
      return odd && kind === 0 ? heavy(z) : normalCdf(z);
    });
    // Where noises differ, a later step may not be passed before an earlier one.
    for (let k = 1; k < below.length; k++) below[k] = Math.max(below[k]!, below[k - 1]!);
    return [below[0]!, below[1]! - below[0]!, below[2]! - below[1]!, below[3]! - below[2]!, 1 - below[3]!];
  };
  return { camps: [nearest(at[0]), nearest(at[1])], chanceAt };
}

const cut = (w: World, position: number, random: Random): Grade => {
  let mark = random.uniform();
  const chances = w.chanceAt(position);
  for (const [k, c] of chances.entries()) if ((mark -= c) < 0) return gradeWords[k]!;
  return gradeWords.at(-1)!;
};

const named = (v: Verdict2): [boolean, boolean] => [v === 'first' || v === 'either', v === 'second' || v === 'either'];

function judge(w: World, verdict: Verdict2): 'right' | 'wrong' | 'open' {
  const clean = w.camps.map((p) => w.chanceAt(p)[2]!);
  if (verdict === 'open') return 'open';
  const says = named(verdict);
  if (says.some((s, i) => s && clean[i]! < 0.5)) return 'wrong';
  if (verdict === 'neither' && clean.some((c) => c >= 0.8)) return 'wrong';
  return says.every((s, i) => (clean[i]! >= 0.8 ? s : clean[i]! < 0.5 ? !s : true)) ? 'right' : 'open';
}

/** By hand: each camp's number is cut twice; it works where it came out clean both times. */
function byHand(w: World, random: Random): Verdict2 {
  const [a, b] = w.camps.map((p) => [0, 1].every(() => cut(w, p, random) === 'clean')) as [boolean, boolean];
  return a && b ? 'either' : a ? 'first' : b ? 'second' : 'neither';
}

export type DecideResult = {
  n: number;
  cells: number;
  right: number;
  wrong: number;
  open: number;
  baseline: { right: number; wrong: number };
};

/** Runs so many worlds. */
export function decideGroup(n: number, seed: number): DecideResult {
  const random = seededRandom(seed);
  const count = { right: 0, wrong: 0, open: 0 };
  const hand = { right: 0, wrong: 0, open: 0 };
  for (let i = 0; i < n; i++) {
    const w = world(random, i % 2 === 1);
    const input = { axis, type: 'smooth' as const, camps: w.camps, wanted: 'clean' as const, seed: i };
    const cells = decideCells({ ...input, count: decideDefaults.cells });
    const graded = cells.map((position) => ({ position, grade: cut(w, position, random) }));
    count[judge(w, decide(input, graded).verdict)]++;
    hand[judge(w, byHand(w, random))]++;
  }
  const share = (k: number) => Number((k / n).toFixed(4));
  return {
    n,
    cells: decideDefaults.cells,
    right: share(count.right),
    wrong: share(count.wrong),
    open: share(count.open),
    baseline: { right: share(hand.right), wrong: share(hand.wrong) },
  };
}
