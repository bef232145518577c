import type { Random } from '../../stats/index.ts';
import type { MilliCelsius } from '../../units/index.ts';
import { gradeChance, type Face, type SwatchDraws, type SwatchSeen, type Usual } from './swatchModel.ts';

/** A word on a dial whose heat nobody has measured: where it is thought to lie, and how far off it may be (a standard deviation), m°C. */
export type DialWord = { word: string; heat: MilliCelsius; sd: MilliCelsius };

export const dialDefaults = {
  /** How far the heat of a word may lie from what such words usually mean, m°C. Judgement, no source. */
  sd: 12_000,
  /** A word is found once no more doubt than this is left of it, m°C. Judgement: more than half of the doubt there was is gone. */
  found: 6_000,
  /** Heats that are tried for each word, and how many standard deviations to each side. */
  heats: 11,
  reach: 2.5,
};

/** What was seen of one film, with the draws of its faces before it: several films tell of one dial. */
export type FilmSeen = { prior: SwatchDraws; seen: readonly SwatchSeen[]; usual: Usual };

/** One way the words may lie together: which of its heats each has, and how likely that is. */
type Lie = { at: number[]; weight: number };

const heatsOf = ({ heat, sd }: DialWord): number[] =>
  Array.from(
    { length: dialDefaults.heats },
    (_, i) => heat + sd * dialDefaults.reach * ((2 * i) / (dialDefaults.heats - 1) - 1),
  );

/** Log-likelihood of what was seen of one face, a draw each: of squares at a known heat, and of a word's squares at each heat it may have. */
type Told = { known: Float64Array; words: { k: number; at: Float64Array[] }[] };

function toldBy(
  faces: readonly Face[],
  { seen, usual }: FilmSeen,
  which: 'bond' | 'harm',
  dial: readonly DialWord[],
): Told {
  const graded = seen.filter((c) => c[which] !== undefined);
  const sum = (cells: readonly SwatchSeen[], heat?: number) => {
    const logs = new Float64Array(faces.length);
    for (const c of cells) {
      const cell = { heat: heat ?? c.heat, seconds: c.seconds };
      for (let d = 0; d < logs.length; d++) logs[d]! += Math.log(gradeChance(faces[d]!, cell, usual, c[which]!));
    }
    return logs;
  };
  return {
    known: sum(graded.filter((c) => !dial.some((w) => w.word === c.word))),
    words: dial.flatMap((w, k) => {
      const cells = graded.filter((c) => c.word === w.word);
      return cells.length === 0 ? [] : [{ k, at: heatsOf(w).map((heat) => sum(cells, heat)) }];
    }),
  };
}

/** What of a way a face tells apart: the heats of the words that squares were seen of. */
const keyOf = ({ words }: Told, at: readonly number[]): string => words.map((w) => at[w.k]).join();

/** Weights of the draws of a face where the words lie so, and the log of their mean: how likely what was seen is there. */
function weightsAt({ known, words }: Told, at: readonly number[]): { weights: Float64Array; log: number } {
  const weights = Float64Array.from(known);
  for (const w of words) {
    const table = w.at[at[w.k]!]!;
    for (let d = 0; d < weights.length; d++) weights[d]! += table[d]!;
  }
  let most = -Infinity;
  for (const l of weights) if (l > most) most = l;
  let sum = 0;
  for (let d = 0; d < weights.length; d++) sum += weights[d] = Math.exp(weights[d]! - most);
  for (let d = 0; d < weights.length; d++) weights[d]! /= sum;
  return { weights, log: most + Math.log(sum / weights.length) };
}

/** Every way the words may lie: each normal round where it is thought to be, and a later word of the dial is hotter than an earlier one. */
function lies(dial: readonly DialWord[], told: readonly Told[]): Lie[] {
  const heats = dial.map(heatsOf);
  const ways = dial.reduce<{ at: number[]; log: number }[]>(
    (all, w, k) =>
      all.flatMap(({ at, log }) =>
        heats[k]!.flatMap((heat, i) =>
          k > 0 && heat <= heats[k - 1]![at[k - 1]!]!
            ? []
            : [{ at: [...at, i], log: log - 0.5 * ((heat - w.heat) / w.sd) ** 2 }],
        ),
      ),
    [{ at: [], log: 0 }],
  );
  // Ways that a face does not tell apart are weighed once.
  const seen = told.map((t) => {
    const known = new Map<string, number>();
    return (at: readonly number[]) => {
      const key = keyOf(t, at);
      const log = known.get(key) ?? weightsAt(t, at).log;
      known.set(key, log);
      return log;
    };
  });
  const logs = ways.map(({ at, log }) => seen.reduce((s, of) => s + of(at), log));
  const most = logs.reduce((a, b) => Math.max(a, b), -Infinity);
  const sum = logs.reduce((s, l) => s + Math.exp(l - most), 0);
  return ways.map(({ at }, i) => ({ at, weight: Math.exp(logs[i]! - most) / sum }));
}

const toldOf = (film: FilmSeen, dial: readonly DialWord[]): [Told, Told] => [
  toldBy(film.prior.bonds, film, 'bond', dial),
  toldBy(film.prior.harms, film, 'harm', dial),
];

/** Where each word of a dial lies, after what was seen of films that were pressed with it. */
export function readDial(dial: readonly DialWord[], films: readonly FilmSeen[]): DialWord[] {
  const all = lies(
    dial,
    films.flatMap((f) => toldOf(f, dial)),
  );
  return dial.map((w, k) => {
    const heats = heatsOf(w);
    const mean = all.reduce((s, l) => s + l.weight * heats[l.at[k]!]!, 0);
    // Heats are tried in steps: where in its step it lies is not known (a uniform spread).
    const step = heats[1]! - heats[0]!;
    const spread = all.reduce((s, l) => s + l.weight * (heats[l.at[k]!]! - mean) ** 2, 0) + step ** 2 / 12;
    return { word: w.word, heat: Math.round(mean), sd: Math.round(Math.sqrt(spread)) };
  });
}

/**
 * Draws of both faces of a film after what was seen, each with a heat for every word: a way the words may lie is drawn first, by what all films
 * say of it, then a face as it is known if they lie so. Exact but for the steps of the heats and the number of draws.
 * @returns as many draws as the prior of the film has, of equal weight
 */
export function drawsWithDial(
  film: FilmSeen,
  others: readonly FilmSeen[],
  dial: readonly DialWord[],
  random: Random,
): SwatchDraws {
  const [bonds, harms] = toldOf(film, dial);
  const all = lies(dial, [bonds, harms, ...others.flatMap((f) => toldOf(f, dial))]);
  const heats = dial.map(heatsOf);
  const counts = systematic(
    all.map((l) => l.weight),
    film.prior.bonds.length,
    random,
  );
  const chosen = all.flatMap(({ at }, i) =>
    counts[i]! > 0 ? [{ at, count: counts[i]!, words: new Map(dial.map((w, k) => [w.word, heats[k]![at[k]!]!])) }] : [],
  );
  const drawn = (which: 'bonds' | 'harms', told: Told) => {
    const groups = new Map<string, typeof chosen>();
    for (const c of chosen) {
      const key = keyOf(told, c.at);
      groups.set(key, [...(groups.get(key) ?? []), c]);
    }
    return [...groups.values()].flatMap((alike) => {
      const { weights } = weightsAt(told, alike[0]!.at);
      return alike.flatMap(({ count, words }) => {
        const faces: Face[] = [];
        systematic(weights, count, random).forEach((times, d) => {
          for (let t = 0; t < times; t++) faces.push({ ...film.prior[which][d]!, words });
        });
        return faces;
      });
    });
  };
  return { bonds: drawn('bonds', bonds), harms: drawn('harms', harms) };
}

/** How often each is drawn of so many by weights that come to 1: systematic resampling (Kitagawa 1996). */
export function systematic(weights: ArrayLike<number>, n: number, random: Pick<Random, 'uniform'>): Int32Array {
  const times = new Int32Array(weights.length);
  const first = random.uniform() / n;
  let [sum, at] = [0, -1];
  for (let k = 0; k < n; k++) {
    while (sum < first + k / n && at < weights.length - 1) sum += weights[++at]!;
    times[Math.max(0, at)]!++;
  }
  return times;
}
