import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import { median, seededRandom, type Random } from '#core/stats/index.ts';
import { Shelf, translate, type ShelfSetting, type TranslateInput } from '#core/transfer/index.ts';

/**
 * Translating between cutters: the crossed and nested fit against lme4 of R, a large shelf, and a simulated shelf of crafters on
 * unlike scales against what people do without: copy the number, or convert it by a line between two models.
 */
const sizes = {
  id: z.string().max(80),
  seed: z.int(),
  rows: z.int().min(50).max(200_000),
  models: z.int().min(1).max(200),
  cutters: z.int().min(2).max(5_000),
  types: z.int().min(1).max(50),
  vinyls: z.int().min(2).max(4_000),
  sd: z.object({
    model: z.number().min(0),
    cutter: z.number().min(0),
    type: z.number().min(0),
    vinyl: z.number().min(0),
    residual: z.number().positive(),
  }),
};
const shelfCase = z.object({
  group: z.literal('shelf'),
  id: z.string().max(80),
  seed: z.int(),
  crafters: z.int().min(10).max(2_000),
  models: z.int().min(2).max(40),
  vinyls: z.int().min(10).max(500),
  types: z.int().min(1).max(40),
  settings: z.object({ least: z.int().min(1), most: z.int().max(60) }).describe('vinyls each crafter has a number for'),
  slopeSd: z.number().min(0).max(1).describe('of log κ'),
  sd: z.object({ type: z.number(), vinyl: z.number(), cutter: z.number(), blade: z.number() }),
  noise: z.number().positive().describe('of one setting, log load; six tenths of it are known as its standard error'),
  window: z.object({ gap: z.number().positive(), sigma: z.number().positive() }),
  wild: z.number().min(0).max(0.2).default(0).describe('share of settings that are plainly wrong'),
  islands: z.int().min(1).max(4).default(1).describe('groups of models and vinyls that share nothing'),
});
const caseSchema = z.discriminatedUnion('group', [
  z.object({ group: z.literal('lme4'), ...sizes }),
  z.object({ group: z.literal('large'), ...sizes }),
  shelfCase,
]);
export const casesSchema = z.object({
  format: z.literal('versipel-transfer-cases/1'),
  cases: z.array(caseSchema).min(1).max(200),
});
type Cases = z.infer<typeof casesSchema>;
type Sized = Extract<Cases['cases'][number], { group: 'lme4' | 'large' }>;
type ShelfCase = z.infer<typeof shelfCase>;

export function makeCases(seed: number, each: number): Cases {
  const random = seededRandom(seed);
  const next = () => Math.floor(random.uniform() * 1e9);
  const sd = () => ({
    model: 0.2 + 0.2 * random.uniform(),
    cutter: 0.08 + 0.08 * random.uniform(),
    type: 0.2 + 0.15 * random.uniform(),
    vinyl: 0.08 + 0.06 * random.uniform(),
    residual: 0.05,
  });
  const cases: Cases['cases'] = [
    {
      group: 'lme4',
      id: 'twenty-thousand',
      seed: next(),
      rows: 20_000,
      models: 30,
      cutters: 600,
      types: 15,
      vinyls: 400,
      sd: sd(),
    },
    {
      group: 'large',
      id: 'hundred-thousand',
      seed: next(),
      rows: 100_000,
      models: 60,
      cutters: 3_000,
      types: 15,
      vinyls: 2_000,
      sd: sd(),
    },
  ];
  for (let i = 0; i < each; i++)
    cases.push({
      group: 'shelf',
      id: `shelf-${i}`,
      seed: next(),
      crafters: 400,
      models: 8 + (i % 4) * 4,
      vinyls: 60 + (i % 3) * 40,
      types: 12,
      settings: { least: 1, most: 12 },
      slopeSd: 0.25,
      sd: { type: 0.25, vinyl: 0.12, cutter: 0.15, blade: 0.05 },
      noise: 0.05,
      window: { gap: 0.42, sigma: 0.07 },
      wild: i % 2 === 1 ? 0.02 : 0,
      islands: i % 4 === 3 ? 2 : 1,
    });
  return { format: 'versipel-transfer-cases/1', cases };
}

const normal = (random: Random) => random.normal();
const whole = (random: Random, below: number) => Math.min(below - 1, Math.floor(random.uniform() * below));

/** Rows of the slope-free case: every cutter of a model, every vinyl of a type, met at random. */
function crossed(c: Sized): { model: string; cutter: string; type: string; vinyl: string; value: number }[] {
  const random = seededRandom(c.seed);
  const draw = (n: number, sd: number) => Array.from({ length: n }, () => sd * normal(random));
  const [model, cutter, type, vinyl] = [
    draw(c.models, c.sd.model),
    draw(c.cutters, c.sd.cutter),
    draw(c.types, c.sd.type),
    draw(c.vinyls, c.sd.vinyl),
  ];
  const modelOf = cutter.map((_, i) => i % c.models);
  const typeOf = vinyl.map((_, i) => i % c.types);
  return Array.from({ length: c.rows }, () => {
    const k = whole(random, c.cutters);
    const v = whole(random, c.vinyls);
    return {
      model: `m${modelOf[k]}`,
      cutter: `m${modelOf[k]}/${k}`,
      type: `t${typeOf[v]}`,
      vinyl: `t${typeOf[v]}/${v}`,
      value: 1 + model[modelOf[k]!]! + cutter[k]! + type[typeOf[v]!]! + vinyl[v]! + c.sd.residual * normal(random),
    };
  });
}

const terms = ['model', 'cutter', 'type', 'vinyl'] as const;
const seconds = <T>(work: () => T): [T, number] => {
  const from = performance.now();
  const answer = work();
  return [answer, (performance.now() - from) / 1000];
};

export type Lme4Group = {
  id: string;
  rows: number;
  /** Seconds of the fastest run, and how many times faster than the fastest of five of lme4; null where R with lme4 is not there. */
  seconds: number;
  lme4Seconds: number | null;
  faster: number | null;
  criterion: number;
  /** Largest differences from lme4: criterion relative; standard deviations relative, or to σ near zero; predictions. */
  criterionOff: number | null;
  sdOff: number | null;
  predictionOff: number | null;
};

const SCRIPT = `suppressMessages(library(lme4))
a <- commandArgs(TRUE)
d <- read.csv(a[1], colClasses = c("numeric", "factor", "factor", "factor", "factor"))
p <- read.csv(a[2], colClasses = "character")
t <- Inf
for (i in 1:5) t <- min(t, system.time(m <- lmer(value ~ 1 + (1|model) + (1|cutter) + (1|type) + (1|vinyl), d))["elapsed"])
v <- as.data.frame(VarCorr(m))
s <- setNames(v$sdcor, v$grp)
n <- function(x) paste(formatC(x, digits = 15, format = "g"), collapse = ",")
cat(n(unname(t)), n(REMLcrit(m)), n(s[c("model", "cutter", "type", "vinyl", "Residual")]), n(unname(predict(m, p))), sep = ";")
`;

function againstLme4(c: Sized): Lme4Group {
  const rows = crossed(c);
  const predict = rows.filter((_, i) => i % Math.ceil(rows.length / 200) === 0).map(({ value: _, ...r }) => r);
  const input: TranslateInput = { scale: 'linear', terms: [...terms], observations: rows, predict: [], level: 0.9 };
  // Of both the fastest run is told, ours after those that compile: on a shared machine it is the one that neighbours disturbed least.
  const runs = Array.from({ length: 24 }).map(() => seconds(() => translate(input)));
  const mine = Math.min(...runs.slice(8).map(([, s]) => s));
  const fitted = translate({ ...input, predict });
  const group: Lme4Group = {
    id: c.id,
    rows: c.rows,
    seconds: mine,
    lme4Seconds: null,
    faster: null,
    criterion: fitted.criterion,
    criterionOff: null,
    sdOff: null,
    predictionOff: null,
  };
  const folder = mkdtempSync(join(tmpdir(), 'versipel-transfer-'));
  try {
    const csv = (list: Record<string, string | number>[]) =>
      [Object.keys(list[0]!), ...list.map((r) => Object.values(r))].map((r) => r.join(',')).join('\n');
    const [data, asked, script] = ['data.csv', 'asked.csv', 'fit.R'].map((f) => join(folder, f)) as [
      string,
      string,
      string,
    ];
    writeFileSync(data, csv(rows.map(({ value, ...r }) => ({ value, ...r }))));
    writeFileSync(asked, csv(predict));
    writeFileSync(script, SCRIPT);
    let text: string;
    try {
      text = execFileSync('Rscript', [script, data, asked], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
    } catch {
      return group;
    }
    const [time, criterion, sds, predictions] = text.split(';').map((part) => part.split(',').map(Number)) as [
      number[],
      number[],
      number[],
      number[],
    ];
    const sigma = sds[4]!;
    const own = [...terms.map((t) => fitted.variances[t]!.sd), fitted.residual.sd];
    group.lme4Seconds = time[0]!;
    group.faster = time[0]! / mine;
    group.criterionOff = Math.abs(fitted.criterion - criterion[0]!) / Math.abs(criterion[0]!);
    group.sdOff = Math.max(...own.map((v, i) => Math.abs(v - sds[i]!) / Math.max(sds[i]!, sigma)));
    group.predictionOff = Math.max(...fitted.predictions.map((p, i) => Math.abs(p.value - predictions[i]!)));
    return group;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

export type LargeGroup = {
  id: string;
  rows: number;
  /** Seconds of the slope-free fit, of the whole shelf with an axis and a slope a model, and milliseconds to take in one more. */
  seconds: number;
  shelfSeconds: number;
  addMilliseconds: number;
  peakMegabytes: number;
};

function large(c: Sized): LargeGroup {
  const rows = crossed(c);
  const [, plain] = seconds(() =>
    translate({ scale: 'linear', terms: [...terms], observations: rows, predict: [], level: 0.9 }),
  );
  const settings = rows.map((r): ShelfSetting => ({
    model: r.model,
    cutter: r.cutter,
    type: r.type,
    vinyl: r.vinyl,
    z: r.value,
    se: 0.03,
    step: 0,
    foreign: 1,
  }));
  const [shelf, whole] = seconds(() => Shelf.fit(settings));
  let grown = shelf;
  const adds = settings.slice(0, 9).map((s) => {
    const [next, took] = seconds(() => grown.add({ ...s, z: s.z + 0.01 }));
    if (next) grown = next;
    return took * 1000;
  });
  return {
    id: c.id,
    rows: c.rows,
    seconds: plain,
    shelfSeconds: whole,
    addMilliseconds: median(adds),
    peakMegabytes: Math.round(process.resourceUsage().maxRSS / 1024),
  };
}

type Truth = {
  models: { alpha: number; kappa: number; island: number }[];
  cutters: { model: number; load: number }[];
  vinyls: { type: number; load: number; island: number }[];
  rows: { crafter: number; vinyl: number; z: number; wild: boolean }[];
};

function simulate(c: ShelfCase): Truth {
  const random = seededRandom(c.seed);
  const models = Array.from({ length: c.models }, (_, i) => ({
    alpha: 0.6 * normal(random),
    kappa: Math.exp(c.slopeSd * normal(random)),
    island: i % c.islands,
  }));
  const types = Array.from({ length: c.types }, () => c.sd.type * normal(random));
  const vinyls = Array.from({ length: c.vinyls }, (_, i) => {
    const type = whole(random, c.types);
    return { type, load: types[type]! + c.sd.vinyl * normal(random), island: i % c.islands };
  });
  const cutters = Array.from({ length: c.crafters }, () => ({
    model: whole(random, c.models),
    load: c.sd.cutter * normal(random) + c.sd.blade * normal(random),
  }));
  const rows: Truth['rows'] = [];
  cutters.forEach((k, crafter) => {
    const m = models[k.model]!;
    const mine = vinyls.flatMap((v, i) => (v.island === m.island ? [i] : []));
    const many = Math.min(mine.length - 2, c.settings.least + whole(random, c.settings.most - c.settings.least + 1));
    for (let i = 0; i < many; i++) {
      // Some vinyls are in many hands, most in few.
      const vinyl = mine.splice(Math.floor(mine.length * random.uniform() ** 1.5), 1)[0]!;
      const wild = random.uniform() < c.wild;
      rows.push({
        crafter,
        vinyl,
        wild,
        z:
          m.alpha +
          m.kappa * (vinyls[vinyl]!.load - k.load) +
          c.noise * normal(random) +
          (wild ? (random.uniform() < 0.5 ? -1 : 1) * 0.8 : 0),
      });
    }
  });
  return { models, cutters, vinyls, rows };
}

export type ShelfGroup = {
  id: string;
  settings: number;
  /** Mean absolute error, log load of the model: of the translation, of a copied number, of a line between two models. */
  within: { translated: number; copied: number; ratio: number; tried: number };
  across: { translated: number; line: number; ratio: number; tried: number };
  /** Share of 90 % prediction intervals that hold what is found. */
  held: number;
  /** Share of first cuts at the translated setting that come out clean, where three settings and three crafters stand behind it. */
  firstClean: number;
  firstTried: number;
  /** Pairs of a cutter and a vinyl where "not comparable" was said wrongly or was missing. */
  comparableWrong: number;
  /** Wild settings told as such, of all there are; and others told as wild. */
  wildFound: string;
};

function shelfGroup(c: ShelfCase): ShelfGroup {
  const t = simulate(c);
  const names = (r: { crafter: number; vinyl: number }) => {
    const model = t.cutters[r.crafter]!.model;
    return { model: `m${model}`, cutter: `c${r.crafter}`, type: `t${t.vinyls[r.vinyl]!.type}`, vinyl: `v${r.vinyl}` };
  };
  const settings = t.rows.map((r): ShelfSetting => ({
    ...names(r),
    z: r.z,
    se: 0.6 * c.noise,
    step: 0,
    person: `p${r.crafter}`,
    foreign: 1,
  }));
  const shelf = Shelf.fit(settings);
  const random = seededRandom(c.seed + 1);
  const byVinyl = new Map<number, Truth['rows']>();
  for (const r of t.rows) byVinyl.set(r.vinyl, [...(byVinyl.get(r.vinyl) ?? []), r]);
  const has = new Set(t.rows.map((r) => `${r.crafter} ${r.vinyl}`));
  const count = new Map<number, number>();
  for (const r of t.rows) count.set(r.crafter, (count.get(r.crafter) ?? 0) + 1);
  // Means by model and vinyl, for the line between two models.
  const means = new Map<string, [number, number]>();
  for (const r of t.rows) {
    const id = `${t.cutters[r.crafter]!.model} ${r.vinyl}`;
    const m = means.get(id) ?? [0, 0];
    means.set(id, [m[0] + r.z, m[1] + 1]);
  }
  const lines = new Map<string, [number, number] | undefined>();
  const line = (from: number, to: number): [number, number] | undefined => {
    const id = `${from} ${to}`;
    if (lines.has(id)) return lines.get(id);
    const pairs = t.vinyls.flatMap((_, v) => {
      const [a, b] = [means.get(`${from} ${v}`), means.get(`${to} ${v}`)];
      return a && b ? [[a[0] / a[1], b[0] / b[1]] as const] : [];
    });
    let answer: [number, number] | undefined;
    if (pairs.length >= 3) {
      const [mx, my] = [0, 1].map((k) => pairs.reduce((s, p) => s + p[k]!, 0) / pairs.length) as [number, number];
      const xx = pairs.reduce((s, p) => s + (p[0] - mx) ** 2, 0);
      const slope = xx > 0 ? pairs.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / xx : 1;
      answer = [my - slope * mx, slope];
    }
    lines.set(id, answer);
    return answer;
  };
  const within = { mine: [] as number[], theirs: [] as number[] };
  const across = { mine: [] as number[], theirs: [] as number[] };
  let [held, tried, clean, first, wrong] = [0, 0, 0, 0, 0];
  for (let crafter = 0; crafter < c.crafters; crafter++)
    for (let n = 0; n < 6; n++) {
      const vinyl = whole(random, c.vinyls);
      if (has.has(`${crafter} ${vinyl}`)) continue;
      const k = t.cutters[crafter]!;
      const m = t.models[k.model]!;
      const donors = byVinyl.get(vinyl) ?? [];
      const said = shelf.predict(names({ crafter, vinyl }));
      const apart = t.vinyls[vinyl]!.island !== m.island && donors.length > 0;
      if ((said.basis === 'not comparable') !== apart) wrong++;
      if (said.z === undefined || apart || donors.length === 0) continue;
      const truth = m.alpha + m.kappa * (t.vinyls[vinyl]!.load - k.load);
      // What is then found is as far off as any setting: what is known as its error comes on top.
      const found = truth + 0.8 * c.noise * normal(random);
      tried++;
      if (found >= said.interval!.low && found <= said.interval!.high) held++;
      const donor = donors[whole(random, donors.length)]!;
      const from = t.cutters[donor.crafter]!.model;
      if (from === k.model) {
        within.mine.push(Math.abs(said.z - truth));
        within.theirs.push(Math.abs(donor.z - truth));
      } else {
        const l = line(from, k.model);
        if (l) {
          across.mine.push(Math.abs(said.z - truth));
          across.theirs.push(Math.abs(l[0] + l[1] * donor.z - truth));
        }
      }
      if ((count.get(crafter) ?? 0) >= 3 && new Set(donors.map((d) => d.crafter)).size >= 3) {
        first++;
        // In load: where the cut lies in the window, with the noise of one cut.
        const at = (said.z - truth) / m.kappa + c.window.sigma * normal(random);
        if (Math.abs(at) < c.window.gap / 2) clean++;
      }
    }
  const mean = (a: number[]) => a.reduce((s, v) => s + v, 0) / Math.max(1, a.length);
  const told = new Set(shelf.wild().map((w) => w.row));
  const wild = t.rows.flatMap((r, i) => (r.wild ? [i] : []));
  return {
    id: c.id,
    settings: t.rows.length,
    within: {
      translated: mean(within.mine),
      copied: mean(within.theirs),
      ratio: mean(within.mine) / mean(within.theirs),
      tried: within.mine.length,
    },
    across: {
      translated: mean(across.mine),
      line: mean(across.theirs),
      ratio: mean(across.mine) / mean(across.theirs),
      tried: across.mine.length,
    },
    held: held / Math.max(1, tried),
    firstClean: clean / Math.max(1, first),
    firstTried: first,
    comparableWrong: wrong,
    wildFound: `${wild.filter((i) => told.has(i)).length} of ${wild.length}, ${told.size - wild.filter((i) => told.has(i)).length} others`,
  };
}

type Groups = { lme4: Lme4Group[]; large: LargeGroup[]; shelf: ShelfGroup[] };

export function run({ cases }: Cases): Groups {
  const of = <G extends Cases['cases'][number]['group']>(group: G) =>
    cases.filter((c): c is Extract<Cases['cases'][number], { group: G }> => c.group === group);
  return { lme4: of('lme4').map(againstLme4), large: of('large').map(large), shelf: of('shelf').map(shelfGroup) };
}

export function table({ lme4, large, shelf }: Groups): string {
  const f = (v: number | null, digits = 3) => (v === null ? 'no R here' : v.toPrecision(digits));
  const p = (v: number) => `${(100 * v).toFixed(1)} %`;
  return [
    ...lme4.map(
      (g) =>
        `${g.id}: ${f(g.seconds)} s, lme4 ${f(g.lme4Seconds)} s, ${f(g.faster)} times faster; REML ${f(g.criterionOff)}, sd ${f(g.sdOff)}, predictions ${f(g.predictionOff)} off`,
    ),
    ...large.map(
      (g) =>
        `${g.id}: slope-free ${f(g.seconds)} s, with slopes ${f(g.shelfSeconds)} s, one more ${f(g.addMilliseconds)} ms, ${g.peakMegabytes} MB at most`,
    ),
    ...shelf.map(
      (g) =>
        `${g.id} (${g.settings} settings): within a model ${f(g.within.translated)} against ${f(g.within.copied)} copied = ${f(g.within.ratio)}; across ${f(g.across.translated)} against ${f(g.across.line)} by a line = ${f(g.across.ratio)}; intervals hold ${p(g.held)}; first cut clean ${p(g.firstClean)} of ${g.firstTried}; comparable wrong ${g.comparableWrong}; wild ${g.wildFound}`,
    ),
  ].join('\n');
}
