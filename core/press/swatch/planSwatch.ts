import { seededRandom } from '../../stats/index.ts';
import { systematic } from './dial.ts';
import { chanceAt, noDial, posterior, type Dial, type SwatchReading, type Weighed } from './readSwatch.ts';
import {
  gradeChance,
  type Face,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
  type Usual,
} from './swatchModel.ts';

const planDefaults = {
  /** A card: so many heats, so many times at each. The press changes its heat once a card. */
  heats: 2,
  times: 3,
  /** Cards that are looked at closely, of heats and of words, and imagined outcomes of each. */
  looked: 18,
  lookedOfWords: 54,
  imagined: 16,
  draws: 300,
};

/** Two heats of the grid with three times each, times apart enough to be told apart: every card there may be is too many; these are spread. */
function cards(grid: readonly SwatchCell[], best: SwatchCell): SwatchCell[][] {
  const heats = [...new Set(grid.map((c) => c.heat))];
  const times = [...new Set(grid.map((c) => c.seconds))].sort((a, b) => a - b);
  const near = (of: readonly number[], x: number) =>
    of.reduce((a, b) => (Math.abs(Math.log(b / x)) < Math.abs(Math.log(a / x)) ? b : a));
  const found = new Map<string, SwatchCell[]>();
  for (const low of [-15_000, -10_000, -5_000, 0, 5_000])
    for (const up of [5_000, 10_000, 15_000, 20_000]) {
      const pair = [best.heat + low, best.heat + low + up].map((h) =>
        heats.reduce((a, b) => (Math.abs(b - h) < Math.abs(a - h) ? b : a)),
      );
      for (const centre of [0.6, 0.8, 1, 1.3])
        for (const spread of [1.4, 1.8, 2.4]) {
          const card = [...new Set(pair)].flatMap((heat) =>
            [1 / spread, 1, spread].map((x) => ({ heat, seconds: near(times, best.seconds * centre * x) })),
          );
          const once = [...new Map(card.map((c) => [`${c.heat} ${c.seconds}`, c])).values()];
          if (once.length >= planDefaults.heats * planDefaults.times - 1)
            found.set(
              once
                .map((c) => `${c.heat} ${c.seconds}`)
                .sort()
                .join(),
              once,
            );
        }
    }
  return [...found.values()];
}

/** Two words of a dial with three times each, or one word with six. */
function cardsOfWords(grid: readonly SwatchCell[], usual: number): SwatchCell[][] {
  const words = [...new Map(grid.map((c) => [c.word, c.heat]))];
  const times = [...new Set(grid.map((c) => c.seconds))];
  const near = (x: number) => times.reduce((a, b) => (Math.abs(Math.log(b / x)) < Math.abs(Math.log(a / x)) ? b : a));
  const spreads = [1.4, 1.8, 2.4].flatMap((spread) =>
    [0.5, 0.8, 1.2, 1.8].map((centre) => ({ spread, centre: usual * centre })),
  );
  const row = ([word, heat]: (typeof words)[number], wanted: readonly number[]): SwatchCell[] =>
    [...new Set(wanted.map(near))].map((seconds) => ({ word, heat, seconds }));
  const three = ({ spread, centre }: (typeof spreads)[number]) => [centre / spread, centre, centre * spread];
  const six = ({ spread, centre }: (typeof spreads)[number]) =>
    [-2.5, -1.5, -0.5, 0.5, 1.5, 2.5].map((x) => centre * spread ** (0.6 * x));
  return words.flatMap((a, i) => [
    ...spreads.map((s) => row(a, six(s))),
    ...words.slice(i + 1).flatMap((b) =>
      // What is hotter is pressed for less long.
      spreads.flatMap((s) =>
        [1, 0.6].map((x) => [...row(a, three(s)), ...row(b, three({ ...s, centre: s.centre * x }))]),
      ),
    ),
  ]);
}

/**
 * The next card: six cells of heat by time, those that are expected to leave the surest recipe. Each card is imagined under draws of what is known
 * so far; what is counted is how likely the best recipe after it bonds without harm (expected value of sample information, Raiffa and Schlaifer 1961).
 */
export function planSwatch(
  seen: readonly SwatchSeen[],
  usual: Usual,
  grid: readonly SwatchCell[],
  reading: Pick<SwatchReading, 'best'>,
  { seed = 1, dial = noDial }: { seed?: number; dial?: Dial | undefined } = {},
): SwatchCell[] {
  const random = seededRandom(seed + 17 * seen.length);
  const known = posterior(seen, usual, { seed: seed + 101, draws: planDefaults.draws * 4, dial });
  const start = seen.length === 0 ? { heat: usual.heat, seconds: usual.seconds } : reading.best;
  const byWord = grid.some((c) => c.word !== undefined);
  const all = byWord ? cardsOfWords(grid, start.seconds) : cards(grid, start);
  const bonds = thin(known.bonds, random);
  const harms = thin(known.harms, random);
  // Recipes near where the answer may lie.
  const places = grid.filter(
    (c) =>
      (byWord || Math.abs(c.heat - start.heat) <= 15_000) &&
      c.seconds >= start.seconds / 3 &&
      c.seconds <= start.seconds * 3,
  );
  const table = (faces: readonly Face[], which: 'bond' | 'harm') =>
    places.map((c) =>
      Float64Array.from(faces, (f) => chanceAt({ faces: [f], weights: Float64Array.of(1) }, c, usual, which)),
    );
  const [bondAt, harmAt] = [table(bonds, 'bond'), table(harms, 'harm')];
  const step = Math.max(1, Math.floor(all.length / (byWord ? planDefaults.lookedOfWords : planDefaults.looked)));
  const looked = all.filter((_, i) => i % step === 0);
  let best = looked[0]!;
  let worth = -Infinity;
  for (const card of looked) {
    const bondGrade = gradeTables(card, bonds, usual);
    const harmGrade = gradeTables(card, harms, usual);
    let sum = 0;
    for (let k = 0; k < planDefaults.imagined; k++) {
      const [wb, wh] = [imagined(bondGrade, bonds.length, random), imagined(harmGrade, harms.length, random)];
      let most = 0;
      for (let p = 0; p < places.length; p++) {
        const chance = dot(wb, bondAt[p]!) * dot(wh, harmAt[p]!);
        if (chance > most) most = chance;
      }
      sum += most;
    }
    if (sum > worth) {
      worth = sum;
      best = card;
    }
  }
  return best.toSorted((a, b) => a.heat - b.heat || a.seconds - b.seconds);
}

const dot = (w: Float64Array, x: Float64Array): number => {
  let s = 0;
  for (let i = 0; i < w.length; i++) s += w[i]! * x[i]!;
  return s;
};

/** As many draws as are imagined under, drawn by their weights. */
function thin({ faces, weights }: Weighed, random: { uniform(): number }): Face[] {
  const found: Face[] = [];
  systematic(weights, planDefaults.draws, random).forEach((times, i) => {
    for (let k = 0; k < times; k++) found.push(faces[i]!);
  });
  return found;
}

/** Chance of each grade of each cell under each draw. */
const gradeTables = (card: readonly SwatchCell[], faces: readonly Face[], usual: Usual): Float64Array[][] =>
  card.map((c) =>
    ([0, 1, 2] as const).map((g: SwatchGrade) => Float64Array.from(faces, (f) => gradeChance(f, c, usual, g))),
  );

/** Weights of the draws after an imagined outcome of the card: one draw is the truth, its grades are drawn. */
function imagined(tables: readonly Float64Array[][], draws: number, random: { uniform(): number }): Float64Array {
  const truth = Math.floor(random.uniform() * draws);
  const weights = new Float64Array(draws).fill(1);
  for (const cell of tables) {
    const u = random.uniform();
    const [a, b] = [cell[0]![truth]!, cell[1]![truth]!];
    const grade = cell[u < a ? 0 : u < a + b ? 1 : 2]!;
    for (let i = 0; i < draws; i++) weights[i]! *= grade[i]!;
  }
  let sum = 0;
  for (const w of weights) sum += w;
  for (let i = 0; i < draws; i++) weights[i]! /= sum || 1;
  return weights;
}
