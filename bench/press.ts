import { seededRandom } from '#core/stats/index.ts';
import {
  gridOf,
  planSwatch,
  readSwatch,
  swatchDefaults,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
  type Usual,
} from '#core/press/index.ts';

// Swatches on worlds of two kinds, half and half: drawn from the model's own prior, and from none: heavier tails, a heat that bends, thresholds
// that belong together, a plate that is off card by card, slips. Each is read after one card and, if need be, a second; beside it a grid of
// 4 × 4 read by the same model, and the leaflet's figure taken on trust.
const argument = (name: string, usual: number) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? usual : Number(process.argv[at + 1]);
};
const worlds = argument('worlds', 200);
const seed = argument('seed', 7);

type World = {
  bonded: (c: SwatchCell) => number;
  unharmed: (c: SwatchCell) => number;
  grade: (c: SwatchCell, card: number) => [SwatchGrade, SwatchGrade];
};
const usual: Usual = { heat: 152_000, seconds: 15 };
const grid = gridOf(130_000, 180_000);
const logistic = (x: number) => 1 / (1 + Math.exp(-1.702 * x));

function world(n: number, kind: 'model' | 'not'): World {
  const random = seededRandom(seed * 100_000 + n * 2 + (kind === 'model' ? 0 : 1));
  const d = swatchDefaults;
  const of = ({ middle, sd }: { middle: number; sd: number }) => middle + sd * random.normal();
  const face = (middle: { middle: number; sd: number }, heat: { middle: number; sd: number }, extra: number) => {
    const edge = of(middle) + extra;
    return { edge, gap: Math.exp(of(d.gap)), beta: Math.exp(of(heat)), sigma: Math.exp(of(d.noise)) };
  };
  const together = kind === 'not' ? 0.25 * random.normal() : 0;
  const bend = kind === 'not' ? 0.08 * random.normal() : 0;
  const b = face(d.bonds, d.bondsByHeat, together);
  const h = face(d.harms, d.harmsByHeat, together);
  const off = new Map<number, number>();
  const offOf = (card: number) => {
    if (kind === 'model') return 0;
    if (!off.has(card)) off.set(card, 2_500 * random.normal());
    return off.get(card)!;
  };
  const dose = (c: SwatchCell, beta: number, shift = 0) => {
    const heat = (c.heat + shift - usual.heat) / 10_000;
    return Math.log(c.seconds / usual.seconds) + beta * heat + bend * heat * heat;
  };
  const cdf = kind === 'model' ? (x: number) => 0.5 * (1 + erf(x / Math.SQRT2)) : logistic;
  const bonded = (c: SwatchCell, shift = 0) => 1 - cdf((b.edge - dose(c, b.beta, shift)) / b.sigma);
  const unharmed = (c: SwatchCell, shift = 0) => cdf((h.edge - dose(c, h.beta, shift)) / h.sigma);
  const slip = kind === 'model' ? d.lapse : 0.04;
  const draw = (): SwatchGrade => Math.floor(random.uniform() * 3) as SwatchGrade;
  return {
    bonded,
    unharmed,
    grade: (c, card) => {
      const s = offOf(card);
      const lifts = 1 - cdf((b.edge - b.gap - dose(c, b.beta, s)) / b.sigma);
      const full = bonded(c, s);
      const u = random.uniform();
      const v = random.uniform();
      const fine = unharmed(c, s);
      const shine = cdf((h.edge + h.gap - dose(c, h.beta, s)) / h.sigma);
      return [
        random.uniform() < slip ? draw() : u < full ? 2 : u < lifts ? 1 : 0,
        random.uniform() < slip ? draw() : v < fine ? 0 : v < shine ? 1 : 2,
      ];
    },
  };
}
/** Abramowitz and Stegun 7.1.26. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y =
    1 -
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
  return x < 0 ? -y : y;
}

type Tally = { cells: number; named: number; right: number; harmful: number; none: number; worlds: number };
const blank = (): Tally => ({ cells: 0, named: 0, right: 0, harmful: 0, none: 0, worlds: 0 });
const tallies: Record<string, Tally> = {};
const note = (key: string, w: World, recipe: SwatchCell | undefined, cells: number) => {
  const t = (tallies[key] ??= blank());
  t.worlds++;
  t.cells += cells;
  if (!recipe) {
    t.none++;
    return;
  }
  t.named++;
  if (w.bonded(recipe) >= 0.85 && w.unharmed(recipe) >= 0.85) t.right++;
  if (w.unharmed(recipe) < 0.5) t.harmful++;
};

let skipped = 0;
for (let n = 0; n < worlds; n++)
  for (const kind of ['model', 'not'] as const) {
    const w = world(n, kind);
    // A world in which nothing is safe has no right answer but none: counted apart.
    const possible = grid.some((c) => w.bonded(c) >= 0.85 && w.unharmed(c) >= 0.85);
    const group = possible ? kind : 'nothing is safe';
    if (!possible) skipped++;
    let seen: SwatchSeen[] = [];
    let reading = readSwatch(seen, usual, grid, { seed: 3 });
    for (let card = 0; card < 2 && reading.verdict === 'more'; card++) {
      const cells = planSwatch(seen, usual, grid, reading, seed + n);
      seen = [
        ...seen,
        ...cells.map((c) => {
          const [bond, harm] = w.grade(c, card);
          return { ...c, bond, harm };
        }),
      ];
      reading = readSwatch(seen, usual, grid, { seed: 3 });
    }
    note(`planned, ${group}`, w, reading.recipe, seen.length);
    const heats = [135_000, 147_000, 159_000, 171_000];
    const all = heats.flatMap((heat) => [6, 11, 20, 36].map((seconds) => ({ heat, seconds })));
    const grades = all.map((c): SwatchSeen => {
      const [bond, harm] = w.grade(c, 9 + heats.indexOf(c.heat));
      return { ...c, bond, harm };
    });
    note(`4 × 4 grid, ${group}`, w, readSwatch(grades, usual, grid, { seed: 3, most: 16 }).recipe, 16);
    note(`leaflet, ${group}`, w, usual, 0);
  }
const percent = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
console.log(`${worlds * 2} worlds, seed ${seed}; ${skipped} in which nothing is safe`);
for (const [key, t] of Object.entries(tallies))
  console.log(
    `${key.padEnd(30)} right ${percent(t.right, t.worlds).padStart(7)}  harmful ${percent(t.harmful, t.worlds).padStart(6)}  none named ${percent(t.none, t.worlds).padStart(7)}  cells ${(t.cells / t.worlds).toFixed(1)}  (${t.worlds} worlds)`,
  );
const both = (name: string) => {
  const [a, b] = [tallies[`${name}, model`]!, tallies[`${name}, not`]!];
  const n = a.worlds + b.worlds;
  return { right: a.right + b.right, harmful: a.harmful + b.harmful, n };
};
for (const name of ['planned', '4 × 4 grid', 'leaflet']) {
  const t = both(name);
  console.log(`${name}: right ${percent(t.right, t.n)} of ${t.n}, harmful ${percent(t.harmful, t.n)}`);
}
