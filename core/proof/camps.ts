import { z } from 'zod';

const campDefaults = {
  /** What two honest settings of one vinyl differ by beside their own errors, in log load. */
  spread: 0.06,
  /**
   * What two places must explain over one (sum of squares in standard deviations), beyond what the best cut of a single normal heap
   * explains: 2n/π on average, and no more than 2.2·√n + this in 99 of 100 heaps. By simulation of heaps of 4 to 100, in proof.test.ts.
   */
  gain: 3.5,
  /** Camps closer than this are one, whatever the numbers say: both then lie in one window. */
  apart: 0.18,
  /** People in the smaller camp at least: one person is no school. */
  people: 2,
  /** What tells camps apart is named when it would come about by chance no more often than this. */
  chance: 0.05,
};

const attribute = z.string().max(200).optional();
const pointSchema = z.strictObject({
  at: z.number().describe('where this person has it, log load'),
  sd: z.number().min(0),
  person: z.string().min(1).max(200),
  model: attribute,
  batch: attribute,
  blade: attribute,
});
export const campsInputSchema = z.strictObject({
  format: z.literal('versipel-camps/1'),
  points: z.array(pointSchema).max(10_000),
});
export type CampPoint = z.infer<typeof pointSchema>;
export type CampsInput = z.infer<typeof campsInputSchema>;

/** What tells two camps apart, or nothing that is known. */
export type CampCause = 'model' | 'batch' | 'blade' | 'camps';
export type Camps = {
  format: 'versipel-camps-result/1';
  /** Undefined where one place does for all. */
  split:
    | {
        by: CampCause;
        /** Chance that what tells them apart does so by accident; 1 for two camps that nothing tells apart. */
        chance: number;
        gain: number;
        /** The lighter one first. */
        camps: { at: number; points: number[]; people: number; values: string[] }[];
      }
    | undefined;
};

const mean = (list: { at: number; w: number }[]) => {
  const w = list.reduce((s, p) => s + p.w, 0);
  return { at: list.reduce((s, p) => s + p.w * p.at, 0) / w, w };
};

/**
 * Whether settings of one vinyl fall into two schools, and what tells them apart.
 *
 * One normal place for all is set against the best cut of the sorted places into two (Hartigan 1978, Ann. Stat. 6, 117–131: what the best
 * cut of one heap explains). What tells them apart is the attribute whose values keep to one camp most surprisingly
 * (Fisher's exact probability of as clean a division, hypergeometric).
 */
export function camps({ points }: Pick<CampsInput, 'points'>): Camps {
  const format = 'versipel-camps-result/1' as const;
  const list = points
    .map((p, i) => ({ ...p, i, w: 1 / (p.sd ** 2 + campDefaults.spread ** 2) }))
    .sort((a, b) => a.at - b.at || a.i - b.i);
  const all = mean(list);
  const chance = (2 / Math.PI) * list.length + 2.2 * Math.sqrt(list.length);
  let best: { gain: number; cut: number } | undefined;
  for (let cut = 1; cut < list.length; cut++) {
    const [a, b] = [mean(list.slice(0, cut)), mean(list.slice(cut))];
    const gain = a.w * (a.at - all.at) ** 2 + b.w * (b.at - all.at) ** 2 - chance;
    if (!best || gain > best.gain) best = { gain, cut };
  }
  if (!best || best.gain < campDefaults.gain) return { format, split: undefined };
  const sides = [list.slice(0, best.cut), list.slice(best.cut)];
  const centres = sides.map(mean);
  const people = sides.map((s) => new Set(s.map((p) => p.person)).size);
  if (centres[1]!.at - centres[0]!.at < campDefaults.apart || Math.min(...people) < campDefaults.people)
    return { format, split: undefined };
  let by: CampCause = 'camps';
  let accident = 1;
  for (const cause of ['model', 'batch', 'blade'] as const) {
    const p = divided(
      sides[0]!.map((x) => x[cause]),
      sides[1]!.map((x) => x[cause]),
    );
    if (p <= campDefaults.chance && p < accident) [by, accident] = [cause, p];
  }
  return {
    format,
    split: {
      by,
      chance: accident,
      gain: best.gain,
      camps: sides.map((side, k) => ({
        at: centres[k]!.at,
        points: side.map((p) => p.i).sort((a, b) => a - b),
        people: people[k]!,
        values: by === 'camps' ? [] : [...new Set(side.flatMap((p) => p[by as 'model'] ?? []))].sort(),
      })),
    },
  };
}

/**
 * Chance that values would fall so cleanly to two sides by accident: each value is given to the side that has most of it, and as many
 * or fewer strays are counted among all ways to deal the points (hypergeometric tail of the two-by-two table).
 */
function divided(left: (string | undefined)[], right: (string | undefined)[]): number {
  const known = [...left, ...right].filter((v) => v !== undefined);
  if (known.length < left.length + right.length || new Set(known).size < 2) return 1;
  const heavy = new Set(
    [...new Set(known)].filter((v) => right.filter((x) => x === v).length > left.filter((x) => x === v).length),
  );
  // Points whose value belongs to the heavier camp, and how many of them are there.
  const total = known.length;
  const marked = known.filter((v) => heavy.has(v!)).length;
  const drawn = right.length;
  const hits = right.filter((v) => heavy.has(v!)).length;
  let p = 0;
  for (let k = hits; k <= Math.min(marked, drawn); k++)
    p += Math.exp(choose(marked, k) + choose(total - marked, drawn - k) - choose(total, drawn));
  // Values were given to the sides after they had been seen: there are 2^(values − 1) ways to do that.
  return Math.min(1, p * 2 ** (new Set(known).size - 1));
}
/** log of the binomial coefficient. */
function choose(n: number, k: number): number {
  if (k < 0 || k > n) return -Infinity;
  let sum = 0;
  for (let i = 1; i <= k; i++) sum += Math.log((n - k + i) / i);
  return sum;
}
