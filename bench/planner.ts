import { z } from 'zod';
import { shippedModels, strengthAxis, type Axis } from '#core/controls/index.ts';
import {
  choosePlace,
  designBatch,
  planCoupon,
  type PlanInput,
  plainWay,
  worthOfCells,
  whyOneMore,
  type Way,
} from '#core/planner/index.ts';
import { dixonMood } from '#core/planner/dixonMood.ts';
import { median, normalCdf, quantile, seededRandom, seedFromText, type Random } from '#core/stats/index.ts';
import {
  coldPrior,
  gradeChances,
  posterior,
  type Draw,
  type GradedCell,
  type Posterior,
  type Prior,
} from '#core/window/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { decideGroup } from './decide.ts';
import { logPosterior, parametersFor } from '#core/window/likelihood.ts';

/**
 * How few cells the planner needs to a setting that can be trusted, against what people do by hand and against exact inference
 * one cell at a time. Grades are numbered 0 to 4 in case files only.
 */
const grade = z.union([z.literal(2), z.literal(4)]);
const truthSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('probit'),
    tau: z.array(z.number()).length(4),
    sigma: z.number().positive(),
    passExponent: z.number(),
  }),
  z.object({
    kind: z.literal('table'),
    strength: z.array(z.number()).min(2),
    p: z.array(z.array(z.number().min(0).max(1)).length(5)).min(2),
  }),
]);
export const casesSchema = z.object({
  format: z.literal('versipel-planner-cases/1'),
  cases: z.array(
    z.object({
      id: z.string(),
      group: z.string(),
      scale: z.enum(['log', 'linear']),
      steps: z.object({ min: z.number(), max: z.number(), step: z.number().positive() }),
      passes: z.object({ max: z.int().min(1).max(9) }),
      prior: z.object({
        centre: z.number(),
        sd: z.number().positive(),
        gap: z.object({ median: z.number().positive(), sdlog: z.number().positive() }),
        sigma: z.object({ median: z.number().positive(), sdlog: z.number().positive() }),
      }),
      wanted: grade,
      budget: z.object({ cells: z.int().min(1), coupons: z.int().min(1), perCoupon: z.int().min(1) }),
      truth: truthSchema,
    }),
  ),
});
type Cases = z.infer<typeof casesSchema>;
type Case = Cases['cases'][number];
type Truth = Case['truth'];

const positionsIn = ({ steps }: Pick<Case, 'steps'>): { min: number; max: number } => ({
  min: Math.round(steps.min / steps.step),
  max: Math.round(steps.max / steps.step),
});
const onScale = (c: Pick<Case, 'scale' | 'steps'>, position: number): number =>
  c.scale === 'log' ? Math.log(position * c.steps.step) : position * c.steps.step;

/** Chances of the five grades of the true physics. A table is interpolated and goes on level beyond its ends. */
function truthAt(c: Case, position: number, passes = 1): number[] {
  const { truth } = c;
  if (truth.kind === 'probit') {
    const u = onScale(c, position) + truth.passExponent * Math.log(passes);
    const below = truth.tau.map((t) => normalCdf((t - u) / truth.sigma));
    return [below[0]!, below[1]! - below[0]!, below[2]! - below[1]!, below[3]! - below[2]!, 1 - below[3]!];
  }
  const s = position * c.steps.step;
  const { strength, p } = truth;
  if (s <= strength[0]!) return p[0]!;
  const i = strength.findIndex((x) => x >= s);
  if (i < 0) return p.at(-1)!;
  const t = (s - strength[i - 1]!) / (strength[i]! - strength[i - 1]!);
  return p[i]!.map((v, k) => v * t + p[i - 1]![k]! * (1 - t));
}
const cut = (c: Case, position: number, random: Random, passes = 1): number => {
  let mark = random.uniform();
  const chances = truthAt(c, position, passes);
  for (let k = 0; k < 5; k++) if ((mark -= chances[k]!) < 0) return k;
  return 4;
};

/** The case's scale as an axis of the product, and its prior on it. */
function asAxis(c: Case): { axis: Axis; prior: Prior } {
  const { min, max } = positionsIn(c);
  const start = c.scale === 'log' ? Math.round(Math.sqrt(min * max)) : Math.round((min + max) / 2);
  const axis: Axis = {
    kind: 'number',
    key: 's',
    word: 'strength',
    role: 'strength',
    min,
    max,
    step: c.steps.step,
    scale: c.scale,
    start,
  };
  // One unit of the case's scale in log load: itself on a log scale, a share of the nominal span on a linear one.
  const unit = c.scale === 'log' ? 1 : 2.5 / (max - min) / c.steps.step;
  const centre = (c.scale === 'log' ? Math.log(c.prior.centre) : c.prior.centre) - onScale(c, start);
  const base = coldPrior(axis, 'smooth');
  const scaled = (p: { median: number; sdlog: number }) => ({ median: p.median * unit, sdlog: p.sdlog });
  return {
    axis,
    prior: {
      ...base,
      anchor: c.wanted === 4 ? 'through' : 'clean',
      centre: { mean: centre * unit, sd: c.prior.sd * unit },
      gainSd: 0.001,
      // The gaps a case does not tell of are as wide against the clean one as they are for the type.
      hangsGap: { ...base.hangsGap, median: (base.hangsGap.median / base.cleanGap.median) * c.prior.gap.median * unit },
      cleanGap: scaled(c.prior.gap),
      scoredGap: {
        ...base.scoredGap,
        median: (base.scoredGap.median / base.cleanGap.median) * c.prior.gap.median * unit,
      },
      sigma: scaled(c.prior.sigma),
      // The case says nothing of occasions: one cut is like the next.
      effects: { ...base.effects, coupon: 0 },
    },
  };
}

/** Ways of cutting a case allows. A table tells of one pass alone. */
const waysOf = (c: Case): Way[] =>
  Array.from({ length: c.truth.kind === 'table' ? 1 : c.passes.max }, (_, i) => ({ passes: i + 1, faster: 0 }));

type Cell = { position: number; passes: number; coupon: number; grade: number };
const wantedOf = (c: Case) => (c.wanted === 2 ? ('clean' as const) : ('through' as const));
const gradedCells = (cells: readonly Cell[]): GradedCell[] =>
  cells.map(({ position, passes, coupon, grade: g }) => ({
    coupon: String(coupon),
    strength: position,
    figures: [{ grades: [{ passes, grade: gradeWords[g]! }] }],
  }));
const believe = (c: Case, cells: readonly Cell[], seed: number, draws = 600): Posterior => {
  const { axis, prior } = asAxis(c);
  return posterior(axis, prior, gradedCells(cells), { seed, points: Math.max(1000, draws), enough: 400, draws });
};

type Choice = { position: number; passes: number; stated: number };

/** Where the choice falls, with the chance that is stated for it: `choosePlace` of the product over the ways of the case. */
function choose(c: Case, post: Posterior): Choice {
  const wanted = wantedOf(c);
  const { place, chance } = choosePlace(post, wanted, waysOf(c));
  return { position: place.position, passes: place.way.passes, stated: chance };
}

type Outcome = Choice & { cells: number; coupons: number };

function plan(c: Case, seed: number, random: Random): Outcome {
  const wanted = wantedOf(c);
  // As sure as a number of somebody else is taken to be.
  const known = asAxis(c).prior.centre.sd < 0.2;
  const cells: Cell[] = [];
  let coupons = 0;
  let post = believe(c, cells, seed);
  while (coupons < c.budget.coupons && cells.length < c.budget.cells) {
    const count = Math.min(c.budget.perCoupon, c.budget.cells - cells.length);
    const design = designBatch(post, {
      count,
      wanted,
      ways: waysOf(c),
      seed: seed + coupons,
    });
    if (coupons > 0 && !whyOneMore(design, gradedCells(cells), wanted, known)) break;
    for (const { position, way } of design.cells)
      cells.push({ position, passes: way.passes, coupon: coupons, grade: cut(c, position, random, way.passes) });
    coupons++;
    post = believe(c, cells, seed + coupons);
  }
  return { ...choose(c, post), cells: cells.length, coupons };
}

/**
 * Coupons spaced by the quantiles of where the two edges of the window (or the lightest sure place) may lie, the heaviest fifth left out
 * to spare the mat: common practice for a first sensitivity test (Dixon & Massey 1969, ch. 19). Read and stopped as the planner is.
 */
function spaced(c: Case, seed: number, random: Random): Outcome {
  const wanted = wantedOf(c);
  const known = asAxis(c).prior.centre.sd < 0.2;
  const { min, max } = positionsIn(c);
  const cells: Cell[] = [];
  let coupons = 0;
  let post = believe(c, cells, seed);
  while (coupons < c.budget.coupons && cells.length < c.budget.cells) {
    const loads = post.draws[0]!.loads;
    const sought = post.draws
      .flatMap((d) => (c.wanted === 2 ? [d.tau[1], d.tau[2]] : [d.tau[3], d.tau[3] + 1.645 * d.sigma]))
      .sort((a, b) => a - b);
    const n = Math.min(c.budget.perCoupon, c.budget.cells - cells.length, max - min + 1);
    const positions = Array.from({ length: n }, (_, i) => {
      const load = quantile(sought, (0.8 * (i + 0.5)) / n);
      const at = loads.findIndex((l) => l >= load);
      return at < 0 ? max : min + at;
    });
    for (let i = 1; i < n; i++) positions[i] = Math.max(positions[i]!, positions[i - 1]! + 1);
    positions[n - 1] = Math.min(positions[n - 1]!, max);
    for (let i = n - 2; i >= 0; i--) positions[i] = Math.min(positions[i]!, positions[i + 1]! - 1);
    const worth = worthOfCells(
      post,
      positions.map((position) => ({ position, way: plainWay })),
      {
        wanted,
        seed: seed + coupons,
      },
    );
    if (coupons > 0 && !whyOneMore(worth, gradedCells(cells), wanted, known)) break;
    for (const position of positions)
      cells.push({ position, passes: 1, coupon: coupons, grade: cut(c, position, random) });
    coupons++;
    post = believe(c, cells, seed + coupons);
  }
  return { ...choose(c, post), cells: cells.length, coupons };
}

/** Draws of equal weight from weighted ones, by systematic resampling (Kitagawa 1996). */
function resampled(draws: readonly Draw[], weights: readonly number[], n: number, random: Random): Draw[] {
  const total = weights.reduce((a, b) => a + b, 0);
  const first = random.uniform() / n;
  const chosen: Draw[] = [];
  let reached = 0;
  let i = -1;
  for (let k = 0; k < n; k++) {
    while (reached < (first + k / n) * total && i < draws.length - 1) reached += weights[++i]!;
    chosen.push(draws[Math.max(0, i)]!);
  }
  return chosen;
}

/**
 * Exact inference, one cell at a time, to as many cells as it is given: many draws of the posterior, weighed by every grade as it
 * comes; where too few of them still speak, the evidence is read anew.
 */
function oracle(c: Case, most: number, seed: number, random: Random): Outcome {
  const { min } = positionsIn(c);
  const { prior } = asAxis(c);
  const ways = waysOf(c);
  const cells: Cell[] = [];
  let post = believe(c, cells, seed, 2500);
  let weights = post.draws.map(() => 1);
  while (cells.length < most) {
    const now = { ...post, draws: resampled(post.draws, weights, 320, random) };
    const design = designBatch(now, { count: 1, wanted: wantedOf(c), ways, paths: 2, seed: seed + cells.length });
    const { position, way } = design.cells[0]!;
    const g = cut(c, position, random, way.passes);
    cells.push({ position, passes: way.passes, coupon: cells.length, grade: g });
    weights = post.draws.map((d, i) => {
      const load = d.gain * d.loads[position - min]! + d.beta * Math.log(way.passes);
      return weights[i]! * ((1 - prior.lapse) * gradeChances(d, load)[g]! + prior.lapse / 5);
    });
    const total = weights.reduce((a, b) => a + b, 0);
    const size = total ** 2 / weights.reduce((sum, w) => sum + w * w, 0);
    if (!(size > 400)) {
      post = believe(c, cells, seed + cells.length, 2500);
      weights = post.draws.map(() => 1);
    }
  }
  const last = { ...post, draws: resampled(post.draws, weights, 1000, random) };
  return { ...choose(c, last), cells: cells.length, coupons: cells.length };
}

const nearest = (c: Case, value: number): number => {
  const { min, max } = positionsIn(c);
  const p = (c.scale === 'log' ? Math.exp(value) : value) / c.steps.step;
  return Math.min(max, Math.max(min, Math.round(p)));
};
const middleOf = (c: Case) => (c.scale === 'log' ? Math.log(c.prior.centre) : c.prior.centre);
const good = (c: Case, g: number) => (c.wanted === 2 ? g === 2 : g === 4);

/** What people do: begin light and go up by a tenth until it is as wanted. */
function ladder(c: Case, random: Random): Outcome {
  const rung = c.scale === 'log' ? Math.log(1.1) : 0.1 * Math.abs(c.prior.centre);
  let at = middleOf(c) - c.prior.sd;
  let cells = 0;
  let position = nearest(c, at);
  while (cells < c.budget.cells) {
    position = nearest(c, at);
    cells++;
    if (good(c, cut(c, position, random))) break;
    at += rung;
  }
  return { position, passes: 1, cells, coupons: cells, stated: NaN };
}
function bisection(c: Case, random: Random): Outcome {
  let low = middleOf(c) - 2 * c.prior.sd;
  let high = middleOf(c) + 2 * c.prior.sd;
  let cells = 0;
  let position = nearest(c, (low + high) / 2);
  while (cells < c.budget.cells) {
    const mid = (low + high) / 2;
    position = nearest(c, mid);
    cells++;
    const g = cut(c, position, random);
    if (good(c, g)) break;
    if (g < c.wanted) low = mid;
    else high = mid;
    if (high - low < 1e-6) break;
  }
  return { position, passes: 1, cells, coupons: cells, stated: NaN };
}
/** So many evenly spread cells at once; the middle of those that came out as wanted, or where too little turns to too much. */
function grid(c: Case, n: number, random: Random): Outcome {
  const from = middleOf(c) - 2 * c.prior.sd;
  const to = middleOf(c) + 2 * c.prior.sd;
  const seen = Array.from({ length: n }, (_, i) => {
    const value = from + ((to - from) * i) / (n - 1);
    return { value, grade: cut(c, nearest(c, value), random) };
  });
  const right = seen.filter((s) => good(c, s.grade)).map((s) => s.value);
  let value: number;
  if (right.length > 0) value = c.wanted === 4 ? Math.min(...right) : right.reduce((a, b) => a + b, 0) / right.length;
  else {
    const last = seen.filter((s) => s.grade < c.wanted).at(-1)?.value ?? from;
    const first = seen.find((s) => s.grade > c.wanted)?.value ?? to;
    value = (last + first) / 2;
  }
  return { position: nearest(c, value), passes: 1, cells: n, coupons: 1, stated: NaN };
}
/** Up and down about the first threshold, and from its median half a gap on. Dixon & Mood (1948). */
function upAndDown(c: Case, random: Random): Outcome {
  const step = c.prior.sd / 2;
  const begin = middleOf(c) - (c.wanted === 2 ? c.prior.gap.median / 2 : 0);
  let level = 0;
  const trials: { level: number; hit: boolean }[] = [];
  for (let i = 0; i < c.budget.cells; i++) {
    const hit = cut(c, nearest(c, begin + level * step), random) >= c.wanted;
    trials.push({ level, hit });
    level += hit ? -1 : 1;
  }
  const { mean } = dixonMood(trials, step);
  const value = begin + mean + (c.wanted === 2 ? c.prior.gap.median / 2 : 1.6 * c.prior.sigma.median);
  return { position: nearest(c, value), passes: 1, cells: c.budget.cells, coupons: c.budget.cells, stated: NaN };
}

const bestOf = (c: Case): number => {
  const { min, max } = positionsIn(c);
  let best = 0;
  for (const { passes } of waysOf(c))
    for (let p = min; p <= max; p++) best = Math.max(best, truthAt(c, p, passes)[c.wanted]!);
  return best;
};
/** Chance of the wanted result in truth, as a share of the best there is. */
const shareOf = (c: Case, { position, passes }: Choice, best: number) => truthAt(c, position, passes)[c.wanted]! / best;

export type Group = {
  n: number;
  success: number;
  cells: number;
  coupons: number;
  regret: number;
  baselines: Record<string, { success: number; cells: number }>;
  /** Stated and true chance at the setting chosen, on average. */
  stated: number;
  true: number;
};
export type Groups = Record<string, Group>;

/** Wide dials and windows that work are one thing; those where nothing works, and dials that can be tried out, are told apart. */
const groupOf = (c: Case, best: number): string => {
  const { min, max } = positionsIn(c);
  if (best < 0.7) return `${c.group}, no setting works well`;
  if (max - min + 1 <= 12) return `${c.group}, few places`;
  return c.group;
};

export function run({ cases }: Cases, seed: number): Groups {
  const sums: Record<
    string,
    {
      n: number;
      ok: number;
      cells: number;
      coupons: number;
      regret: number;
      stated: number;
      true: number;
      base: Record<string, { ok: number; cells: number }>;
    }
  > = {};
  for (const c of cases) {
    const best = bestOf(c);
    const own = seedFromText(`${seed} ${c.id}`);
    const group = (sums[groupOf(c, best)] ??= {
      n: 0,
      ok: 0,
      cells: 0,
      coupons: 0,
      regret: 0,
      stated: 0,
      true: 0,
      base: {},
    });
    const nothing = best < 0.7;
    const right = (o: Outcome) => (nothing ? o.stated < 0.8 : shareOf(c, o, best) >= 0.9);
    const mine = plan(c, own, seededRandom(own));
    group.n++;
    if (right(mine)) group.ok++;
    group.cells += mine.cells;
    group.coupons += mine.coupons;
    const chance = truthAt(c, mine.position, mine.passes)[c.wanted]!;
    group.regret += best - chance;
    group.stated += mine.stated;
    group.true += chance;
    const others: Record<string, (random: Random) => Outcome> = {
      ladder: (r) => ladder(c, r),
      bisection: (r) => bisection(c, r),
      'grid of 10': (r) => grid(c, 10, r),
      'grid of 20': (r) => grid(c, 20, r),
      'up and down': (r) => upAndDown(c, r),
      spacing: (r) => spaced(c, own, r),
      oracle: (r) => oracle(c, mine.cells, own, r),
    };
    const { min, max } = positionsIn(c);
    if (max - min + 1 <= 12)
      others['every stop'] = (r) => {
        const seen = Array.from({ length: max - min + 1 }, (_, i) => ({ p: min + i, g: cut(c, min + i, r) }));
        const hits = seen.filter((s) => good(c, s.g)).map((s) => s.p);
        const position = hits.length > 0 ? hits[Math.floor((hits.length - 1) / 2)]! : Math.round((min + max) / 2);
        return { position, passes: 1, cells: seen.length, coupons: 1, stated: NaN };
      };
    for (const [name, work] of Object.entries(others)) {
      const o = work(seededRandom(seedFromText(`${seed} ${c.id} ${name}`)));
      const base = (group.base[name] ??= { ok: 0, cells: 0 });
      // Those who do not say how sure they are cannot say that nothing works.
      if (nothing ? o.stated < 0.8 : right(o)) base.ok++;
      base.cells += o.cells;
    }
  }
  const round = (v: number) => Number(v.toFixed(4));
  return Object.fromEntries(
    Object.entries(sums).map(([name, g]) => [
      name,
      {
        n: g.n,
        success: round(g.ok / g.n),
        cells: round(g.cells / g.n),
        coupons: round(g.coupons / g.n),
        regret: round(g.regret / g.n),
        stated: round(g.stated / g.n),
        true: round(g.true / g.n),
        baselines: Object.fromEntries(
          Object.entries(g.base).map(([b, v]) => [b, { success: round(v.ok / g.n), cells: round(v.cells / g.n) }]),
        ),
      },
    ]),
  );
}

/** Truths drawn from their prior, and a group of physics that is not the model. */
export function makeCases(seed: number, each: number): Cases {
  const random = seededRandom(seed);
  const log = (median: number, sdlog: number) => median * Math.exp(sdlog * random.normal());
  const cases: Case[] = [];
  const base = {
    scale: 'log' as const,
    steps: { min: 10, max: 400, step: 1 },
    passes: { max: 1 },
    wanted: 2 as const,
    budget: { cells: 24, coupons: 3, perCoupon: 6 },
  };
  const gap = { median: 0.42, sdlog: 0.35 };
  const sigma = { median: 0.07, sdlog: 0.45 };
  const probit = (centre: number, sd: number): { prior: Case['prior']; truth: Truth & { kind: 'probit' } } => {
    const c = Math.log(centre) + sd * random.normal();
    const g = log(gap.median, gap.sdlog);
    const tau = [c - g / 2 - log(0.15, 0.5), c - g / 2, c + g / 2, c + g / 2 + log(0.3, 0.5)];
    return {
      prior: { centre, sd, gap, sigma },
      truth: { kind: 'probit', tau, sigma: log(sigma.median, sigma.sdlog), passExponent: 0.3 },
    };
  };
  for (let i = 0; i < each; i++) {
    const centre = () => 80 + 80 * random.uniform();
    cases.push({ id: `wide-${i}`, group: 'wide prior', ...base, ...probit(centre(), 0.5) });
    cases.push({ id: `others-${i}`, group: 'prior from others', ...base, ...probit(centre(), 0.12) });
    cases.push({
      id: `six-${i}`,
      group: 'prior from others, one coupon of 6',
      ...base,
      budget: { cells: 6, coupons: 1, perCoupon: 6 },
      ...probit(centre(), 0.12),
    });
    cases.push({
      id: `wrong-${i}`,
      group: 'not the model',
      ...base,
      ...wrongPhysics(probit(centre(), 0.5), i % 3, random),
    });
    const through = probit(centre(), 0.5);
    cases.push({
      id: `through-${i}`,
      group: 'through',
      ...base,
      wanted: 4,
      prior: through.prior,
      truth: {
        ...through.truth,
        tau: through.truth.tau.map(
          (t) => t - through.truth.tau[3]! + (through.truth.tau[1]! + through.truth.tau[2]!) / 2,
        ),
      },
    });
    const linear = probit(100, 0.4);
    cases.push({
      id: `dial-${i}`,
      group: 'dial',
      ...base,
      scale: 'linear',
      steps: { min: 1, max: 10, step: 1 },
      prior: { centre: 5, sd: 2, gap: { median: 1.7, sdlog: 0.35 }, sigma: { median: 0.28, sdlog: 0.45 } },
      truth: {
        ...linear.truth,
        tau: linear.truth.tau.map((t) => 5 + (t - Math.log(100)) * 4),
        sigma: linear.truth.sigma * 4,
      },
    });
  }
  return { format: 'versipel-planner-cases/1', cases };
}

/** Uneven force over the mat, a carrier that yields in two slopes, tails heavier than normal: as tables. */
function wrongPhysics(
  { prior, truth }: { prior: Case['prior']; truth: Truth & { kind: 'probit' } },
  kind: number,
  random: Random,
): { prior: Case['prior']; truth: Truth } {
  const strength = Array.from({ length: 120 }, (_, i) => Number((10 * 40 ** (i / 119)).toPrecision(6)));
  const { tau, sigma } = truth;
  const mix = (u: number, below: (z: number) => number) => {
    const b = tau.map((t) => below((t - u) / sigma));
    return [b[0]!, b[1]! - b[0]!, b[2]! - b[1]!, b[3]! - b[2]!, 1 - b[3]!];
  };
  // Cauchy tails on a normal middle, a tenth of the time.
  const heavy = (z: number) => 0.9 * normalCdf(z) + 0.1 * (0.5 + Math.atan(z) / Math.PI);
  const off = Array.from({ length: 9 }, () => 0.06 * random.normal());
  const knee = (tau[1]! + tau[2]!) / 2;
  const p = strength.map((s) => {
    const u = Math.log(s);
    if (kind === 0) {
      // Each place of the mat cuts a little otherwise: the mean over places.
      const all = off.map((o) => mix(u + o, normalCdf));
      return all[0]!.map((_, k) => all.reduce((sum, row) => sum + row[k]!, 0) / all.length);
    }
    if (kind === 1) return mix(u > knee ? knee + 0.7 * (u - knee) : u, normalCdf);
    return mix(u, heavy);
  });
  const short = (row: number[]) => row.map((v) => Number(Math.max(0, v).toFixed(6)));
  return { prior, truth: { kind: 'table', strength, p: p.map(short) } };
}

/** Which of two camps' numbers works here, decided by four cells: right and wrong verdicts beside those by hand. */
export const also = (seed: number) => ({ decide: decideGroup(400, seed) });

export const table = (groups: Groups): string => {
  const names = [...new Set(Object.values(groups).flatMap((g) => Object.keys(g.baselines)))];
  const cell = (v: { success: number; cells: number } | undefined) =>
    v ? `${(v.success * 100).toFixed(1)} % at ${v.cells.toFixed(1)}` : '';
  return [
    `| group | n | success | cells | coupons | regret | stated | true | ${names.join(' | ')} |`,
    `| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ${names.map(() => '---:').join(' | ')} |`,
    ...Object.entries(groups).map(
      ([name, g]) =>
        `| ${name} | ${g.n} | ${(g.success * 100).toFixed(1)} % | ${g.cells.toFixed(1)} | ${g.coupons.toFixed(2)} | ${g.regret.toFixed(3)} | ${g.stated.toFixed(3)} | ${g.true.toFixed(3)} | ${names.map((b) => cell(g.baselines[b])).join(' | ')} |`,
    ),
  ].join('\n');
};

export type Speed = {
  /** Next coupon of six cells after six, over strengths alone, and of nine over strengths, passes and speeds; ms. */
  oneAxisMs: number;
  twoAxesMs: number;
  /** Fit of 10 000 cells against one evaluation of the plain log-likelihood in the same run. */
  manyCells: { evaluations: number; fitMs: number; oneMs: number };
};

/** What planning and reading cost, in one run. */
export function speed(): Speed {
  const [model] = shippedModels;
  const axis = strengthAxis(model!);
  const grades = ['uncut', 'hangs', 'clean', 'clean', 'scored', 'through'] as const;
  const cells = [80, 100, 120, 140, 165, 190].map((strength, i): GradedCell => ({
    coupon: 'one',
    strength,
    figures: [{ grades: [{ passes: 1, grade: grades[i]! }] }],
  }));
  const plan = (also: PlanInput['also'], count: number) => {
    const times = Array.from({ length: 9 }, (_, i) => {
      const from = performance.now();
      planCoupon({
        format: 'versipel-plan/1',
        model: model!,
        type: 'smooth',
        cells,
        wanted: 'clean',
        target: {},
        mode: 'new',
        also,
        count,
        seed: i,
      });
      return performance.now() - from;
    });
    return median(times);
  };
  const random = seededRandom(3);
  let day = 0;
  const many = Array.from({ length: 10_000 }, (_, i): GradedCell => {
    if (i % 6 === 0) day = 0.04 * random.normal();
    const strength = Math.round(60 + 160 * random.uniform());
    const felt = Math.log(strength / 100) + day + 0.07 * random.normal();
    return {
      coupon: `c${Math.floor(i / 6)}`,
      strength,
      figures: [{ grades: [{ passes: 1, grade: gradeWords[[-0.05, 0.1, 0.5, 0.8].filter((t) => felt > t).length]! }] }],
    };
  });
  const prior = coldPrior(axis, 'smooth');
  const p = parametersFor(axis, prior, many);
  const f = logPosterior(p, many);
  const z = new Float64Array(p.count).fill(0.1);
  f(z);
  const began = performance.now();
  for (let i = 0; i < 20; i++) f(z);
  const oneMs = (performance.now() - began) / 20;
  const fits = Array.from({ length: 3 }, (_, i) => {
    const from = performance.now();
    posterior(axis, prior, many, { seed: i });
    return performance.now() - from;
  });
  const fitMs = median(fits);
  const round = (v: number) => Number(v.toFixed(2));
  return {
    oneAxisMs: round(plan([], 6)),
    twoAxesMs: round(plan(['passes', 'speed'], 9)),
    manyCells: { evaluations: round(fitMs / oneMs), fitMs: round(fitMs), oneMs: round(oneMs) },
  };
}
