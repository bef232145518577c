import { z } from 'zod';
import { wilson } from '../stats/index.ts';

/**
 * The rule by which a setting stands where it does. Every figure is a default that can be given anew. Common practice, no source, but
 * for the formulas named at `standing`.
 */
const standingDefaults = {
  /** A lower bound is of an interval that holds this much. */
  confidence: 0.95,
  /** Proven: the lower bound of the share that did as wanted is at least this … */
  provenBound: 0.7,
  /** … and it was seen on so many days, of one person or another. */
  provenDays: 2,
  /** Evidence counts in full for so many days, and half as much again and again after each half-life. */
  freshDays: 90,
  halfLifeDays: 540,
  /** Without anything newer than this it is retired. */
  retiredDays: 1460,
  /** How alike the cuts of one person are: m of them weigh as m/(1 + (m − 1)·likeness) cuts of as many strangers (design effect, Kish 1965). */
  likeness: 0.15,
  /** How alike the cuts of one occasion are: one afternoon's jobs with one blade and one batch are neither one cut nor twelve. */
  occasionLikeness: 0.5,
  /** A good setting does as wanted this often, one gone bad this often: what the alarm weighs against each other. */
  good: 0.95,
  bad: 0.6,
  /** The alarm goes off at this log likelihood ratio: two failures running, with hardly a good cut between. */
  alarm: 3.5,
  /** What an outcome counts as a share of a cut that did as wanted. */
  worth: { worked: 1, almost: 0.5, failed: 0 },
};
type StandingRules = typeof standingDefaults;

export const outcomes = ['worked', 'almost', 'failed'] as const;
export type Outcome = (typeof outcomes)[number];
export const standings = ['draft', 'tried', 'proven', 'doubted', 'retired'] as const;
export type Standing = (typeof standings)[number];

const day = z.iso.date();
const evidenceSchema = z.strictObject({
  kind: z.enum(['coupon', 'job', 'confirmation']),
  day: day.describe('the day in the zone of the person, YYYY-MM-DD'),
  person: z.string().min(1).max(200),
  outcome: z.enum(outcomes).describe('did as wanted; needed one stop more or less; did not'),
  recipe: z.string().max(200).optional().describe('which version of the setting it was cut with'),
  batch: z.string().max(200).optional(),
  occasion: z
    .string()
    .max(400)
    .optional()
    .describe('cuts of one occasion are alike: same person, day, batch and blade. Without one a cut stands for itself'),
  weight: z.number().gt(0).max(1).default(1).describe('less than 1 for what comes from elsewhere'),
  between: z
    .string()
    .min(1)
    .max(200)
    .optional()
    .describe('where nobody cut at this number: the cells on both sides that say what it would have been, in words'),
});
export type ProofEvidence = z.input<typeof evidenceSchema>;

const share = z.number().gt(0).lt(1);
export const standingInputSchema = z.strictObject({
  format: z.literal('versipel-standing/1'),
  on: day.describe('the day it is asked on'),
  evidence: z.array(evidenceSchema).max(100_000),
  recipe: z
    .string()
    .max(200)
    .optional()
    .describe('the setting as it is now: evidence for another is told apart. All of it when left out'),
  batch: z.string().max(200).optional().describe('the batch in hand'),
  beside: z
    .int()
    .min(0)
    .default(0)
    .describe('cells cut at other strengths that leave open what happens at this one: tried, but no trial of it'),
  retired: z.boolean().default(false).describe('whether its owner has withdrawn it'),
  rules: z
    .strictObject({
      confidence: share,
      provenBound: share,
      provenDays: z.int().min(1).max(1000),
      freshDays: z.number().min(0).max(1e6),
      halfLifeDays: z.number().positive().max(1e6),
      retiredDays: z.number().positive().max(1e6),
      likeness: z.number().min(0).max(1),
      occasionLikeness: z.number().min(0).max(1),
      good: share,
      bad: share,
      alarm: z.number().positive().max(1000),
      worth: z.strictObject({ worked: z.number(), almost: z.number(), failed: z.number() }),
    })
    .partial()
    .default({}),
});
export type StandingInput = z.input<typeof standingInputSchema>;

export type StandingResult = {
  format: 'versipel-standing-result/1';
  standing: Standing;
  /** One sentence: what it stands at, and why. */
  sentence: string;
  /** Counted as they are. */
  cuts: number;
  clean: number;
  almost: number;
  failed: number;
  days: number;
  people: number;
  kinds: Record<'coupon' | 'job' | 'confirmation', number>;
  /** Counted as they weigh: share that did as wanted, independent cuts it is worth, bounds of the interval. */
  share: number;
  worth: number;
  lower: number;
  upper: number;
  /** What is missing to be proven, where it is tried: good cuts more, and on how many further days. */
  missing?: { cuts: number; days: number };
  /** Log likelihood ratio of "gone bad" against "good", from the last time nothing spoke against it. */
  alarm: number;
  /** The same by day and by person, oldest day first. */
  byDay: { day: string; cuts: number; clean: number }[];
  byPerson: { person: string; cuts: number; clean: number; weight: number }[];
  /** Evidence that belongs to another version of the setting or another batch, each with its own standing. */
  apart: { recipe?: string; batch?: string; standing: Standing; cuts: number; clean: number }[];
};

const DAY = 86_400_000;
const daysBetween = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / DAY;

type Row = z.output<typeof evidenceSchema>;

/**
 * Where a setting stands, by rule: draft → tried → proven → doubted → retired.
 *
 * - *Draft*: nobody has cut it. *Tried*: somebody has.
 * - *Proven*: the lower bound of Wilson's interval is high enough, over days enough.
 * - *Doubted*: the sum of log likelihood ratios since nothing spoke against it passes the alarm (Page's test, Biometrika 1954): two
 *   failures in a row set it off after five good cuts as after five hundred, and as many good ones quiet it again.
 * - *Retired*: withdrawn, or nothing new for years.
 *
 * Cuts of one occasion are alike, and those of one person: each time the same design effect, the occasion first.
 * Cuts of one person are alike: m of them share a weight of m/(1 + (m − 1)·likeness) (design effect, Kish 1965), so that a stranger's
 * one cut is heard beside somebody's fifty. The sample those weights amount to is (Σ fr)²/Σ fr², f being what has faded and r the
 * person's share: whoever stands alone is weighed against nobody, and counts in full.
 */
export function standing(input: StandingInput): StandingResult {
  const parsed = standingInputSchema.parse(input);
  const rules: StandingRules = {
    ...standingDefaults,
    ...parsed.rules,
    worth: { ...standingDefaults.worth, ...parsed.rules.worth },
  };
  const { on, recipe, batch } = parsed;
  const belongs = (e: Row) =>
    (recipe === undefined || e.recipe === undefined || e.recipe === recipe) &&
    (batch === undefined || e.batch === batch);
  const mine = parsed.evidence.filter(belongs);
  const judged = judge(mine, on, rules, parsed.retired, parsed.beside);
  const missing = judged.standing === 'tried' ? missingFor(mine, on, rules) : undefined;
  const result = {
    ...judged,
    ...(missing ? { missing } : {}),
    sentence: `${judged.sentence}${missing && judged.cuts > 0 ? `; ${sayMissing(missing)}` : ''}`,
  };
  // Told apart: what belongs to another version or batch, and where no batch is asked for, each batch there is.
  const batches = new Set(mine.flatMap((e) => (e.batch === undefined ? [] : [e.batch])));
  const parts = new Map<string, Row[]>();
  for (const e of parsed.evidence) {
    if (belongs(e) && !(batch === undefined && batches.size > 1 && e.batch !== undefined)) continue;
    const key = JSON.stringify([e.recipe ?? '', e.batch ?? '']);
    parts.set(key, [...(parts.get(key) ?? []), e]);
  }
  const apart = [...parts.values()].map((rows) => {
    const { standing: at, cuts, clean } = judge(rows, on, rules, false, 0);
    const [{ recipe: ofRecipe, batch: ofBatch }] = rows as [Row];
    return {
      ...(ofRecipe === undefined ? {} : { recipe: ofRecipe }),
      ...(ofBatch === undefined ? {} : { batch: ofBatch }),
      standing: at,
      cuts,
      clean,
    };
  });
  return { ...result, apart };
}

/** More good cuts than this are not promised to prove anything. */
const MOST_MISSING = 60;

/** How many further good cuts by the same hands would prove it, and on how many days beside those it was seen on. */
function missingFor(
  rows: readonly Row[],
  on: string,
  rules: StandingRules,
): { cuts: number; days: number } | undefined {
  const days = new Set(rows.map((r) => r.day));
  const person = rows.at(-1)?.person ?? 'you';
  const more = (n: number): Row[] =>
    Array.from({ length: n }, (_, i) => ({
      kind: 'job' as const,
      // From tomorrow on, as many days as are missing.
      day: new Date(Date.parse(on) + DAY * (1 + (i % Math.max(1, rules.provenDays - days.size))))
        .toISOString()
        .slice(0, 10),
      person,
      outcome: 'worked' as const,
      weight: 1,
    }));
  const proven = (n: number) => judge([...rows, ...more(n)], on, rules, false, 0).standing === 'proven';
  if (!proven(MOST_MISSING)) return undefined;
  // Another good cut never speaks against it: the least number is found by halving.
  let [few, enough] = [0, MOST_MISSING];
  while (enough - few > 1) {
    const n = Math.ceil((few + enough) / 2);
    if (proven(n)) enough = n;
    else few = n;
  }
  return { cuts: enough, days: Math.max(0, rules.provenDays - days.size) };
}

/**
 * What is missing, as a crafter says it: "5 more good cuts, one on another day, would prove it".
 * @example sayMissing({ cuts: 5, days: 1 }) // '5 more good cuts, one on another day, would prove it'
 */
export function sayMissing({ cuts, days }: { cuts: number; days: number }): string {
  if (cuts === 1) return `one more good cut${days > 0 ? ' on another day' : ''} would prove it`;
  return `${cuts} more good cuts${days > 0 ? (days === 1 ? ', one on another day,' : `, on ${days} other days,`) : ''} would prove it`;
}

function judge(
  rows: readonly Row[],
  on: string,
  rules: StandingRules,
  withdrawn: boolean,
  beside: number,
): Omit<StandingResult, 'apart' | 'missing'> {
  const sorted = [...rows].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
  const value = (e: Row) => rules.worth[e.outcome];
  const occasionOf = (e: Row) => (e.occasion === undefined ? undefined : `${e.person} ${e.occasion}`);
  const occasions = new Map<string, number>();
  for (const e of sorted) {
    const key = occasionOf(e);
    if (key !== undefined) occasions.set(key, (occasions.get(key) ?? 0) + 1);
  }
  const occasionShare = (e: Row) => 1 / (1 + ((occasions.get(occasionOf(e) ?? '') ?? 1) - 1) * rules.occasionLikeness);
  const faded = (e: Row) =>
    e.weight * occasionShare(e) * 0.5 ** (Math.max(0, daysBetween(e.day, on) - rules.freshDays) / rules.halfLifeDays);
  const people = new Map<string, { cuts: number; clean: number; fresh: number }>();
  const days = new Map<string, { cuts: number; clean: number }>();
  for (const e of sorted) {
    const p = people.get(e.person) ?? { cuts: 0, clean: 0, fresh: 0 };
    const d = days.get(e.day) ?? { cuts: 0, clean: 0 };
    const clean = e.outcome === 'worked' ? 1 : 0;
    people.set(e.person, { cuts: p.cuts + 1, clean: p.clean + clean, fresh: p.fresh + faded(e) });
    days.set(e.day, { cuts: d.cuts + 1, clean: d.clean + clean });
  }
  const personShare = (person: string) => 1 / (1 + Math.max(0, people.get(person)!.fresh - 1) * rules.likeness);
  let [sum, good, squares] = [0, 0, 0];
  for (const e of sorted) {
    const [f, r] = [faded(e), personShare(e.person)];
    sum += f * r;
    good += f * r * value(e);
    squares += f * r * r;
  }
  const share = sum > 0 ? good / sum : 0;
  const worth = squares > 0 ? sum ** 2 / squares : 0;
  // The bounds of the share: hits may be a hair above n by rounding.
  const { low: lower, high: upper } =
    worth > 0 ? wilson(Math.min(worth, share * worth), worth, rules.confidence) : { low: 0, high: 1 };
  // Page's test over the days, each cut with the weight its person has.
  let alarm = 0;
  for (const e of sorted) {
    const v = value(e);
    const ratio = v * Math.log(rules.bad / rules.good) + (1 - v) * Math.log((1 - rules.bad) / (1 - rules.good));
    // A failure is heard in full, whoever reports it; somebody's own good cuts quiet it as they weigh.
    alarm = Math.max(0, alarm + e.weight * (ratio > 0 ? ratio : ratio * Math.max(0.5, personShare(e.person))));
  }
  const count = (o: Outcome) => sorted.filter((e) => e.outcome === o).length;
  const facts = {
    cuts: sorted.length,
    clean: count('worked'),
    almost: count('almost'),
    failed: count('failed'),
    days: days.size,
    people: people.size,
  };
  const newest = sorted.at(-1)?.day;
  // Nobody cut at the number itself: what was seen on both sides of it speaks.
  const between = sorted.every((e) => e.between !== undefined) ? sorted.at(-1)?.between : undefined;
  const at: Standing =
    withdrawn || (newest !== undefined && daysBetween(newest, on) > rules.retiredDays)
      ? 'retired'
      : facts.cuts === 0
        ? beside > 0
          ? 'tried'
          : 'draft'
        : alarm >= rules.alarm
          ? 'doubted'
          : lower >= rules.provenBound && days.size >= rules.provenDays
            ? 'proven'
            : 'tried';
  const tidy = (v: number) => Number(v.toPrecision(6));
  return {
    format: 'versipel-standing-result/1',
    standing: at,
    sentence: sayStanding(at, { ...facts, newest, withdrawn, beside, between }),
    ...facts,
    kinds: {
      coupon: sorted.filter((e) => e.kind === 'coupon').length,
      job: sorted.filter((e) => e.kind === 'job').length,
      confirmation: sorted.filter((e) => e.kind === 'confirmation').length,
    },
    share: tidy(share),
    worth: tidy(worth),
    lower: tidy(lower),
    upper: tidy(upper),
    alarm: tidy(alarm),
    byDay: [...days].map(([day, d]) => ({ day, ...d })),
    byPerson: [...people].map(([person, p]) => ({
      person,
      cuts: p.cuts,
      clean: p.clean,
      weight: tidy(p.fresh * personShare(person)),
    })),
  };
}

function sayStanding(
  at: Standing,
  f: {
    cuts: number;
    clean: number;
    almost: number;
    failed: number;
    days: number;
    people: number;
    newest: string | undefined;
    withdrawn: boolean;
    beside: number;
    between: string | undefined;
  },
): string {
  const days = f.days === 1 ? '1 day' : `${f.days} days`;
  const by = f.people > 1 ? ` by ${f.people} crafters` : '';
  const seen = `${f.clean} clean of ${f.cuts} on ${days}${by}`;
  switch (at) {
    case 'draft':
      return 'draft: nobody has cut it yet';
    case 'retired':
      return f.withdrawn ? 'retired: withdrawn by its owner' : `retired: nothing new since ${f.newest}`;
    case 'proven':
      return `proven: ${seen}`;
    case 'doubted':
      return `doubted: it fails more than it should of late, ${seen}`;
    case 'tried':
      if (f.cuts === 0)
        return `tried beside it: ${f.beside === 1 ? '1 cell lies' : `${f.beside} cells lie`} beside it, none at this number yet`;
      return f.between === undefined ? `tried: ${seen}` : `tried beside it: ${f.between}`;
  }
}
