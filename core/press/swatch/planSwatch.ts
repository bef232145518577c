import { seededRandom } from '../../stats/index.ts';
import { chanceAt, weigh, type SwatchReading } from './readSwatch.ts';
import {
  gradeChance,
  swatchPrior,
  type Face,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
  type Usual,
} from './swatchModel.ts';

export const planDefaults = {
  /** A card: so many heats, so many times at each. The press changes its heat once a card. */
  heats: 2,
  times: 3,
  /** Cards that are looked at closely, and imagined outcomes of each. */
  looked: 18,
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

/**
 * The next card: six cells of heat by time, those that are expected to leave the surest recipe. Each card is imagined under draws of what is known
 * so far; what is counted is how likely the best recipe after it bonds without harm (expected value of sample information, Raiffa and Schlaifer 1961).
 */
export function planSwatch(
  seen: readonly SwatchSeen[],
  usual: Usual,
  grid: readonly SwatchCell[],
  reading: Pick<SwatchReading, 'best'>,
  seed = 1,
): SwatchCell[] {
  const random = seededRandom(seed + 17 * seen.length);
  const prior = swatchPrior(seed + 101, planDefaults.draws * 4);
  const start = seen.length === 0 ? { heat: usual.heat, seconds: usual.seconds } : reading.best;
  const all = cards(grid, start);
  const bonds = thin(weigh(prior.bonds, seen, usual, 'bond'), random);
  const harms = thin(weigh(prior.harms, seen, usual, 'harm'), random);
  // Recipes near where the answer may lie.
  const places = grid.filter(
    (c) => Math.abs(c.heat - start.heat) <= 15_000 && c.seconds >= start.seconds / 3 && c.seconds <= start.seconds * 3,
  );
  const table = (faces: readonly Face[], which: 'bond' | 'harm') =>
    places.map((c) =>
      Float64Array.from(faces, (f) => chanceAt({ faces: [f], weights: Float64Array.of(1) }, c, usual, which)),
    );
  const [bondAt, harmAt] = [table(bonds, 'bond'), table(harms, 'harm')];
  const step = Math.max(1, Math.floor(all.length / planDefaults.looked));
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
function thin(
  { faces, weights }: { faces: readonly Face[]; weights: Float64Array },
  random: { uniform(): number },
): Face[] {
  const n = planDefaults.draws;
  const found: Face[] = [];
  // Systematic resampling (Kitagawa 1996).
  let sum = 0;
  let at = -1;
  const first = random.uniform() / n;
  for (let k = 0; k < n; k++) {
    const u = first + k / n;
    while (sum < u && at < faces.length - 1) sum += weights[++at]!;
    found.push(faces[Math.max(0, at)]!);
  }
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
