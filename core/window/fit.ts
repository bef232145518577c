import { z } from 'zod';
import { cutterModelSchema, describeLimits, limitsOf, strengthAxis } from '../controls/index.ts';
import { gradeIndex, gradeWords, type Grade } from '../grades/index.ts';
import { vinylTypeKeys } from '../vinyls/index.ts';
import { gradedCellSchema, type GradedCell } from './cells.ts';
import { posterior } from './posterior.ts';
import { aroundSchema, priorFor, PRIOR_VERSION } from './prior.ts';
import { say, type Verdict } from './sentence.ts';
import { summarise, type Summary } from './summary.ts';

/** Raise when the likelihood, the sampler or the summary changes: posterior rows name it. */
export const MODEL_VERSION = 'w3';

/** What a coming cut is made on, in the labels of the cells. */
export const targetSchema = z.strictObject({
  colour: z.string().max(80).optional(),
  batch: z.string().max(80).optional(),
  blade: z.string().max(80).optional(),
  cutter: z.string().max(80).optional(),
  speed: z.number().positive().max(1e9).optional(),
  wear: z.number().min(0).max(100).optional().describe('share of its life the blade has behind it'),
});

export const fitInputSchema = z.strictObject({
  format: z.literal('versipel-fit/1'),
  model: cutterModelSchema,
  type: z.enum(vinylTypeKeys),
  wanted: z.enum(['clean', 'through']).default('clean'),
  passes: z.int().min(1).max(9).default(1).describe('passes of the cut that is asked about'),
  target: targetSchema.default({}).describe('what the coming cut is made on'),
  cells: z.array(gradedCellSchema).max(20000).default([]),
  around: aroundSchema.optional(),
  seed: z.int().default(1),
});
export type FitInput = z.infer<typeof fitInputSchema>;

export type FitResult = {
  format: 'versipel-posterior/1';
  modelVersion: string;
  priorVersion: string;
  wanted: 'clean' | 'through';
  passes: number;
  evidence: { cells: number; coupons: number; grades: Record<Grade, number> };
  summary: Summary;
  verdict: Verdict;
  sentence: string;
  diagnostics: { effectiveSize: number; rounds: number; converged: boolean };
};

/** Input that is well formed but does not hang together. The message says what and where. */
export class FitInputError extends Error {}

/** The last grade of a figure is what the cell looks like now. */
const finalGrade = (figure: GradedCell['figures'][number]): Grade =>
  figure.grades.reduce((last, g) => (g.passes > last.passes ? g : last)).grade;

/** Which way to go when every cell lies on one side; undefined when both sides were seen, or clean was. */
function oneSided(grades: Record<Grade, number>, wanted: 'clean' | 'through'): 'stronger' | 'lighter' | undefined {
  const total = gradeWords.reduce((s, g) => s + grades[g], 0);
  if (total === 0) return undefined;
  if (wanted === 'through') return grades.through === 0 ? 'stronger' : undefined;
  if (grades.uncut + grades.hangs === total) return 'stronger';
  if (grades.scored + grades.through === total) return 'lighter';
  return undefined;
}

/**
 * Reads a coupon: from graded cells to the window, the number to set and how sure it is.
 * The same input gives the same answer, to the digit.
 *
 * @throws FitInputError when a cell lies outside the strength axis of the model
 */
export function fit(input: FitInput): FitResult {
  const axis = strengthAxis(input.model);
  const { min, max } = limitsOf(axis);
  input.cells.forEach((cell, i) => {
    if (cell.strength < min || cell.strength > max)
      throw new FitInputError(
        `cells[${i}].strength: position ${cell.strength} is outside ${axis.word} ${describeLimits(axis)}`,
      );
  });
  const prior = priorFor(axis, input.type, input.wanted, input.around);
  const post = posterior(axis, prior, input.cells, { seed: input.seed, target: input.target });
  const summary = summarise(post, input.passes, input.wanted);
  const grades = Object.fromEntries(gradeWords.map((g) => [g, 0])) as Record<Grade, number>;
  for (const cell of input.cells) for (const figure of cell.figures) grades[finalGrade(figure)]++;
  const evidence = { cells: input.cells.length, coupons: new Set(input.cells.map((c) => c.coupon)).size, grades };
  const elsewhere =
    input.cells.length > 0 && input.cells.every((c) => c.cutter !== undefined && c.cutter !== input.target.cutter);
  const verdict: Verdict = elsewhere
    ? { kind: 'elsewhere' }
    : judge(summary, evidence.cells, oneSided(grades, input.wanted), input.cells, { min, max });
  return {
    format: 'versipel-posterior/1',
    modelVersion: MODEL_VERSION,
    priorVersion: PRIOR_VERSION,
    wanted: input.wanted,
    passes: input.passes,
    evidence,
    summary,
    verdict,
    sentence: say(axis, verdict, summary, input.wanted),
    diagnostics: { effectiveSize: Math.round(post.effectiveSize), rounds: post.rounds, converged: post.converged },
  };
}

function judge(
  summary: Summary,
  cells: number,
  side: 'stronger' | 'lighter' | undefined,
  graded: readonly GradedCell[],
  limits: { min: number; max: number },
): Verdict {
  if (cells === 0) return { kind: 'prior' };
  if (side) {
    const strengths = graded.map((c) => c.strength);
    const tried = side === 'stronger' ? Math.max(...strengths) : Math.min(...strengths);
    return { kind: side, tried, atLimit: tried === (side === 'stronger' ? limits.max : limits.min) };
  }
  const misplaced = countMisplaced(graded);
  if (summary.window) return { kind: 'window', misplaced };
  // No window in the mean curve: either the vinyl has none, or too little is known.
  return { kind: summary.windowExists < 0.25 && misplaced === 0 ? 'narrow' : 'unsure', misplaced };
}

/** Pairs of cells that contradict each other plainly: stronger, no fewer passes, yet two or more grades lower. */
export function countMisplaced(cells: readonly GradedCell[]): number {
  // Those that came out alike are counted together: there may be thousands.
  const kinds = new Map<string, { strength: number; passes: number; grade: number; count: number }>();
  for (const { strength, figures } of cells)
    for (const f of figures) {
      const passes = Math.max(...f.grades.map((g) => g.passes));
      const grade = gradeIndex[finalGrade(f)];
      const key = `${strength} ${passes} ${grade}`;
      const kind = kinds.get(key);
      if (kind) kind.count++;
      else kinds.set(key, { strength, passes, grade, count: 1 });
    }
  const seen = [...kinds.values()];
  let pairs = 0;
  for (const a of seen)
    for (const b of seen)
      if (a.strength > b.strength && a.passes >= b.passes && a.grade <= b.grade - 2) pairs += a.count * b.count;
  return pairs;
}
