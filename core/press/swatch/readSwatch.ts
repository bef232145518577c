import {
  doseOf,
  gradeChance,
  swatchDefaults,
  swatchPrior,
  type Face,
  type SwatchCell,
  type SwatchSeen,
  type Usual,
} from './swatchModel.ts';
import { quickNormalCdf, seededRandom } from '../../stats/index.ts';
import { drawsWithDial, readDial, type DialWord, type FilmSeen } from './dial.ts';

export const readDefaults = {
  /** A recipe is named where both are at least this likely: it bonds, and nothing suffers. */
  bonded: 0.9,
  unharmed: 0.92,
  /** After so many squares no more are asked for. */
  most: 12,
};

/** Draws of a face with what each weighs after what was seen. */
export type Weighed = { faces: readonly Face[]; weights: Float64Array };

/** Weighs draws of one face by what was seen of it. Importance sampling from the prior. */
function weigh(faces: readonly Face[], seen: readonly SwatchSeen[], usual: Usual, which: 'bond' | 'harm'): Weighed {
  const logs = Float64Array.from(faces, (f) =>
    seen.reduce((s, c) => (c[which] === undefined ? s : s + Math.log(gradeChance(f, c, usual, c[which]))), 0),
  );
  const most = logs.reduce((a, b) => Math.max(a, b), -Infinity);
  const weights = logs.map((l) => Math.exp(l - most));
  const sum = weights.reduce((a, b) => a + b, 0);
  return { faces, weights: weights.map((w) => w / sum) };
}

/** Chance that a cell bonds fully, or stays fine, over the draws; slips are no part of it. */
export function chanceAt({ faces, weights }: Weighed, cell: SwatchCell, usual: Usual, which: 'bond' | 'harm'): number {
  let sum = 0;
  for (let i = 0; i < faces.length; i++) {
    const f = faces[i]!;
    const d = doseOf(cell, usual, f);
    sum +=
      weights[i]! *
      (which === 'bond' ? 1 - quickNormalCdf((f.high - d) / f.sigma) : quickNormalCdf((f.low - d) / f.sigma));
  }
  return sum;
}

export type SwatchPoint = SwatchCell & { bonded: number; unharmed: number };
export type SwatchReading = {
  verdict: 'enough' | 'more' | 'none';
  /** What to press with, where it is safe enough to say. */
  recipe: SwatchPoint | undefined;
  /** The best there is, safe enough or not. */
  best: SwatchPoint;
  /** Chances at every place of the grid: the safe region is where both are high enough. */
  grid: SwatchPoint[];
};

/** A dial whose words nobody has measured, and what other films that were pressed with it showed. */
export type Dial = { words: readonly DialWord[]; others: readonly { usual: Usual; seen: readonly SwatchSeen[] }[] };
export const noDial: Dial = { words: [], others: [] };

/** What the films of a dial are drawn from. Each has draws of its own: films are not alike. */
const filmsOf = ({ others }: Dial, seed: number): FilmSeen[] =>
  others.map((o, i) => ({ ...o, prior: swatchPrior(seed + 7 + i, dialDraws) }));
/** Draws for each other film: it only tells of the words. */
const dialDraws = 600;

/** Draws of both faces after what was seen. */
export function posterior(
  seen: readonly SwatchSeen[],
  usual: Usual,
  {
    seed = 1,
    draws = swatchDefaults.draws,
    dial = noDial,
  }: { seed?: number; draws?: number; dial?: Dial | undefined } = {},
): { bonds: Weighed; harms: Weighed } {
  const prior = swatchPrior(seed, draws);
  if (dial.words.length === 0)
    return { bonds: weigh(prior.bonds, seen, usual, 'bond'), harms: weigh(prior.harms, seen, usual, 'harm') };
  const drawn = drawsWithDial({ prior, seen, usual }, filmsOf(dial, seed), dial.words, seededRandom(seed + 3));
  const alike = (faces: readonly Face[]): Weighed => ({
    faces,
    weights: new Float64Array(faces.length).fill(1 / faces.length),
  });
  return { bonds: alike(drawn.bonds), harms: alike(drawn.harms) };
}

/** Where the words of a dial lie after everything that was pressed with it. */
export const wordsOf = (seen: readonly SwatchSeen[], usual: Usual, dial: Dial, seed = 1): DialWord[] =>
  readDial(dial.words, [{ seen, usual, prior: swatchPrior(seed, dialDraws) }, ...filmsOf(dial, seed)]);

/**
 * Reads swatches: where film bonds and nothing suffers, and what to press with. The recipe is the place where both together are likeliest, among
 * those that are safe enough; none is said where nothing is.
 * @param grid places a recipe may be at
 */
export function readSwatch(
  seen: readonly SwatchSeen[],
  usual: Usual,
  grid: readonly SwatchCell[],
  {
    seed = 1,
    draws = swatchDefaults.draws,
    most = readDefaults.most,
    dial = noDial,
  }: { seed?: number; draws?: number; most?: number; dial?: Dial | undefined } = {},
): SwatchReading {
  const { bonds, harms } = posterior(seen, usual, { seed, draws, dial });
  const points = grid.map((c): SwatchPoint => ({
    ...c,
    bonded: chanceAt(bonds, c, usual, 'bond'),
    unharmed: chanceAt(harms, c, usual, 'harm'),
  }));
  const [best] = points.toSorted((a, b) => b.bonded * b.unharmed - a.bonded * a.unharmed || a.heat - b.heat);
  const safe = points.filter((p) => p.bonded >= readDefaults.bonded && p.unharmed >= readDefaults.unharmed);
  const [recipe] = safe.toSorted((a, b) => b.bonded * b.unharmed - a.bonded * a.unharmed || a.heat - b.heat);
  return {
    verdict: recipe && seen.length > 0 ? 'enough' : seen.length >= most ? 'none' : 'more',
    recipe: seen.length > 0 ? recipe : undefined,
    best: best!,
    grid: points,
  };
}

const timesTo = (longest: number) =>
  [3, 4, 5, 6, 8, 10, 12, 15, 18, 20, 25, 30, 40, 50, 60].filter((s) => s <= longest);

/** Places a recipe may be at on a dial of words, measured or not: each word at the heat it is thought to have. */
export const gridOfWords = (words: readonly Omit<DialWord, 'sd'>[], longest = 60): SwatchCell[] =>
  words.flatMap(({ word, heat }) => timesTo(longest).map((seconds) => ({ word, heat, seconds })));

/** Places a recipe may be at: every 5 °C between two heats, and times a hand at a press sets. m°C, s. */
export function gridOf(from: number, to: number, longest = 60): SwatchCell[] {
  const times = timesTo(longest);
  const heats: number[] = [];
  for (let h = Math.ceil(from / 5_000) * 5_000; h <= to; h += 5_000) heats.push(h);
  if (heats.length === 0) heats.push(Math.round((from + to) / 2));
  return heats.flatMap((heat) => times.map((seconds) => ({ heat, seconds })));
}
