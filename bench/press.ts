import { z } from 'zod';
import {
  dialDefaults,
  gridOf,
  gridOfWords,
  planSwatch,
  readSwatch,
  swatchDefaults,
  type Dial,
  type DialWord,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
  type Usual,
} from '#core/press/index.ts';
import { normalCdf, seededRandom } from '#core/stats/index.ts';

/**
 * Swatches on worlds of two kinds, half and half: drawn from the model's own prior, and from none: heavier tails, a heat that bends, thresholds
 * that belong together, a plate that is off card by card, more slips. Each is read after one card and, where need be, a second; beside it a grid
 * of 4 × 4 read by the same model, and the leaflet's figure taken on trust. The same once more on a press that is set by words. Right: truly bonds, and truly unharmed, in at least 85 of 100.
 * Harmful: truly unharmed in less than half.
 */
const dial: DialWord[] = ['low', 'medium', 'high'].map((word, i) => ({
  word,
  heat: [129_000, 149_000, 171_000][i]!,
  sd: dialDefaults.sd,
}));
const faceSchema = z.strictObject({
  edge: z.number().describe('log time against the usual one at which half has bonded, or suffered'),
  gap: z.number().positive(),
  beta: z.number().positive().describe('log time that 10 °C are worth'),
  sigma: z.number().positive(),
});
const worldSchema = z.strictObject({
  kind: z.enum(['model', 'other']),
  bonds: faceSchema,
  harms: faceSchema,
  bend: z.number().describe('of heat, in log time a square of 10 °C'),
  off: z.number().min(0).describe('how far the plate is off, card by card, °C'),
  words: z
    .array(z.number())
    .length(dial.length)
    .describe('what the words of a small press truly have, against what they usually mean, m°C'),
  slip: z.number().min(0).max(0.5),
  seed: z.int(),
});
type World = z.infer<typeof worldSchema>;
export const casesSchema = z.array(worldSchema).min(1).max(5_000);

const usual: Usual = { heat: 152_000, seconds: 15 };
const grid = gridOf(130_000, 180_000);
const ENOUGH = 0.85;
const HARMFUL = 0.5;

/** So many worlds of each kind. */
export function makeCases(seed: number, each: number): World[] {
  const d = swatchDefaults;
  return Array.from({ length: each }).flatMap((_, n) =>
    (['model', 'other'] as const).map((kind, k): World => {
      const random = seededRandom(seed * 100_000 + n * 2 + k);
      const of = ({ middle, sd }: { middle: number; sd: number }) => middle + sd * random.normal();
      const other = kind === 'other';
      const together = other ? 0.25 * random.normal() : 0;
      const bend = other ? 0.08 * random.normal() : 0;
      const face = (edge: typeof d.bonds, heat: typeof d.bondsByHeat) => ({
        edge: of(edge) + together,
        gap: Math.exp(of(d.gap)),
        beta: Math.exp(of(heat)),
        sigma: Math.exp(of(d.noise)),
      });
      return {
        kind,
        bonds: face(d.bonds, d.bondsByHeat),
        harms: face(d.harms, d.harmsByHeat),
        bend,
        words: dial.map(({ sd }) => Math.round((other ? 1.3 : 1) * sd * random.normal())),
        off: other ? 2.5 : 0,
        slip: other ? 0.04 : d.lapse,
        seed: seed + n,
      };
    }),
  );
}

/** What truly happens in a world. */
function truthOf(w: World) {
  const random = seededRandom(w.seed * 7 + 1);
  const cdf = w.kind === 'model' ? normalCdf : (x: number) => 1 / (1 + Math.exp(-1.702 * x));
  const dose = (c: SwatchCell, beta: number, shift: number) => {
    const heat = (c.heat + shift - usual.heat) / 10_000;
    return Math.log(c.seconds / usual.seconds) + beta * heat + w.bend * heat * heat;
  };
  const above = (f: World['bonds'], edge: number, c: SwatchCell, shift: number) =>
    1 - cdf((edge - dose(c, f.beta, shift)) / f.sigma);
  const shifts = new Map<number, number>();
  const slip = (): SwatchGrade => Math.floor(random.uniform() * 3) as SwatchGrade;
  return {
    bonded: (c: SwatchCell) => above(w.bonds, w.bonds.edge, c, 0),
    unharmed: (c: SwatchCell) => 1 - above(w.harms, w.harms.edge, c, 0),
    grade: (c: SwatchCell, card: number): SwatchSeen => {
      if (!shifts.has(card)) shifts.set(card, 1000 * w.off * random.normal());
      const s = shifts.get(card)!;
      const [u, v] = [random.uniform(), random.uniform()];
      const { bonds, harms } = w;
      const bond: SwatchGrade =
        u < above(bonds, bonds.edge, c, s) ? 2 : u < above(bonds, bonds.edge - bonds.gap, c, s) ? 1 : 0;
      const harm: SwatchGrade =
        v < above(harms, harms.edge + harms.gap, c, s) ? 2 : v < above(harms, harms.edge, c, s) ? 1 : 0;
      return { ...c, bond: random.uniform() < w.slip ? slip() : bond, harm: random.uniform() < w.slip ? slip() : harm };
    },
  };
}

const ways = ['planned', 'grid of 16', 'leaflet', 'by words', 'word as said'] as const;
export type Group = {
  way: (typeof ways)[number];
  worlds: 'model' | 'other' | 'nothing is safe';
  n: number;
  right: number;
  harmful: number;
  none: number;
  cells: number;
};

export function run(cases: World[]): Group[] {
  const groups = new Map<string, Group>();
  for (const w of cases) {
    const truth = truthOf(w);
    const possible = (of: readonly SwatchCell[]) =>
      of.some((c) => truth.bonded(c) >= ENOUGH && truth.unharmed(c) >= ENOUGH) ? w.kind : 'nothing is safe';
    const byHeat = possible(grid);
    const note = (
      way: Group['way'],
      recipe: SwatchCell | undefined,
      cells: number,
      worlds: Group['worlds'] = byHeat,
    ) => {
      const key = `${way} ${worlds}`;
      const g = groups.get(key) ?? { way, worlds, n: 0, right: 0, harmful: 0, none: 0, cells: 0 };
      groups.set(key, g);
      g.n++;
      g.cells += cells;
      if (!recipe) g.none++;
      else {
        g.right += Number(truth.bonded(recipe) >= ENOUGH && truth.unharmed(recipe) >= ENOUGH);
        g.harmful += Number(truth.unharmed(recipe) < HARMFUL);
      }
    };
    const planned = twoCards(w, grid, truth.grade);
    note('planned', planned.recipe, planned.cells);
    const all = [135_000, 147_000, 159_000, 171_000].flatMap((heat, i) =>
      [6, 11, 20, 36].map((seconds) => truth.grade({ heat, seconds }, 9 + i)),
    );
    note('grid of 16', readSwatch(all, usual, grid, { seed: 3, most: 16 }).recipe, 16);
    note('leaflet', usual, 0);
    byWords(w, truth, possible, note);
  }
  // Worlds of both kinds together: what is asked of the planner.
  return [...groups.values()].sort(
    (a, b) => ways.indexOf(a.way) - ways.indexOf(b.way) || a.worlds.localeCompare(b.worlds),
  );
}

/** What is named after one card and, where need be, a second, and how many squares that took. */
function twoCards(
  w: World,
  places: readonly SwatchCell[],
  grade: (c: SwatchCell, card: number) => SwatchSeen,
  dial?: Dial,
): { recipe: SwatchCell | undefined; cells: number } {
  let seen: SwatchSeen[] = [];
  let reading = readSwatch(seen, usual, places, { seed: 3, dial });
  for (let card = 0; card < 2 && reading.verdict === 'more'; card++) {
    const next = planSwatch(seen, usual, places, reading, { seed: w.seed, dial });
    seen = [...seen, ...next.map((c) => grade(c, card))];
    reading = readSwatch(seen, usual, places, { seed: 3, dial });
  }
  return { recipe: reading.recipe, cells: seen.length };
}

/** The same on a small press whose words nobody has measured; and its word taken for what such words usually mean, with the leaflet's time. */
function byWords(
  w: World,
  truth: ReturnType<typeof truthOf>,
  possible: (of: readonly SwatchCell[]) => Group['worlds'],
  note: (way: Group['way'], recipe: SwatchCell | undefined, cells: number, worlds: Group['worlds']) => void,
): void {
  // A dial does not run backwards: what is turned further is hotter.
  const heats = dial.map(({ heat }, i) => heat + w.words[i]!).sort((a, b) => a - b);
  const truly = (c: SwatchCell): SwatchCell => ({ ...c, heat: heats[dial.findIndex((d) => d.word === c.word)]! });
  const places = gridOfWords(dial);
  const worlds = possible(places.map(truly));
  const planned = twoCards(w, places, (c, card) => ({ ...truth.grade(truly(c), 20 + card), heat: c.heat }), {
    words: dial,
    others: [],
  });
  note('by words', planned.recipe && truly(planned.recipe), planned.cells, worlds);
  const said = dial.reduce((a, b) => (Math.abs(b.heat - usual.heat) < Math.abs(a.heat - usual.heat) ? b : a));
  note('word as said', truly({ ...said, seconds: usual.seconds }), 0, worlds);
}

const percent = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
export function table(groups: Group[]): string {
  const line = (g: Omit<Group, 'way' | 'worlds'> & { way: string; worlds: string }) =>
    `${g.way.padEnd(12)} ${g.worlds.padEnd(16)} right ${percent(g.right, g.n).padStart(7)}  harmful ${percent(g.harmful, g.n).padStart(6)}  none named ${percent(g.none, g.n).padStart(7)}  squares ${(g.cells / g.n).toFixed(1)}  of ${g.n} worlds`;
  const together = ways.map((way) => {
    const of = groups.filter((g) => g.way === way && g.worlds !== 'nothing is safe');
    const sum = (key: 'n' | 'right' | 'harmful' | 'none' | 'cells') => of.reduce((s, g) => s + g[key], 0);
    return {
      way,
      worlds: 'both',
      n: sum('n'),
      right: sum('right'),
      harmful: sum('harmful'),
      none: sum('none'),
      cells: sum('cells'),
    };
  });
  return [...groups.map(line), ...together.map(line)].join('\n');
}
