import { formatPosition, passesOf, strengthAxis, type CutterModel, type Setting } from '../controls/index.ts';
import { gradeIndex, gradeWords, type Grade } from '../grades/index.ts';
import { nominalLoad } from '../window/index.ts';
import type { Outcome, ProofEvidence } from './standing.ts';

export const trialDefaults = {
  /** A cell this close to a setting, in log load, is a trial of it: a third of an ordinary window. Common practice, no source. */
  near: 0.08,
  /** Cells on both sides of a setting speak for it when they lie no further off than this: beyond, anything may be between. */
  around: 0.4,
  /** Reports of one person that follow each other sooner than this are of one occasion, minutes: loading, cutting and weeding take longer. */
  occasionMinutes: 20,
};

/**
 * What a grade says about a setting that was to give another: as wanted, one grade beside it, or worse.
 * @example outcomeOf('hangs', 'clean') // 'almost'
 */
export function outcomeOf(grade: Grade, wanted: 'clean' | 'through'): Outcome {
  const off = Math.abs(gradeIndex[grade] - gradeIndex[wanted]);
  // The carrier deeply cut is no small thing: it curls, and lifts with the waste.
  if (wanted === 'clean' && grade === 'scored') return 'failed';
  return off === 0 ? 'worked' : off === 1 ? 'almost' : 'failed';
}

/**
 * Whether a cell speaks for a setting: the same passes and everything else alike, the strength the same or so near that nobody could
 * tell them apart.
 */
export function isTrialOf(model: CutterModel, setting: Setting, cell: { setting: Setting; passes: number }): boolean {
  if (!isAlike(model, setting, cell)) return false;
  const strength = strengthAxis(model);
  const [a, b] = [cell.setting.steps[strength.key]!, setting.steps[strength.key]!];
  const load = nominalLoad(strength);
  return a === b || (strength.kind !== 'list' && Math.abs(load.at(a) - load.at(b)) <= trialDefaults.near + 1e-9);
}

/** Whether a cell was cut as a setting would be, but for its strength. */
function isAlike(model: CutterModel, setting: Setting, cell: { setting: Setting; passes: number }): boolean {
  if (cell.setting.model !== setting.model || cell.setting.version !== setting.version) return false;
  if (cell.passes !== passesOf(model, setting)) return false;
  return model.axes.every(
    (a) => a.role === 'strength' || a.role === 'passes' || cell.setting.steps[a.key] === setting.steps[a.key],
  );
}

/**
 * What the cells of one coupon say of a setting between them, where none of them is a trial of it: more strength never cuts less, so a
 * setting between two clean cells is clean, one above a scored cell is at best scored, one below a cell that hangs is at best that.
 *
 * @returns the grade it must have had, or undefined where it may have had another
 */
export function gradeBetween(
  model: CutterModel,
  setting: Setting,
  wanted: 'clean' | 'through',
  cells: readonly { setting: Setting; passes: number; grade: Grade }[],
): Grade | undefined {
  const strength = strengthAxis(model);
  if (strength.kind === 'list') return undefined;
  const load = nominalLoad(strength);
  const at = load.at(setting.steps[strength.key]!);
  const alike = cells
    .filter((c) => isAlike(model, setting, c))
    .map((c) => ({ off: load.at(c.setting.steps[strength.key]!) - at, grade: gradeIndex[c.grade] }))
    .filter((c) => Math.abs(c.off) <= trialDefaults.around);
  const below = alike.filter((c) => c.off <= 0);
  const above = alike.filter((c) => c.off >= 0);
  // At least what lighter cells gave, at most what stronger ones gave; cells that contradict each other say nothing.
  const least = below.length > 0 ? Math.max(...below.map((c) => c.grade)) : 0;
  const most = above.length > 0 ? Math.min(...above.map((c) => c.grade)) : gradeWords.length - 1;
  if (least > most) return undefined;
  const goal = gradeIndex[wanted];
  if (least === most) return gradeWords[least];
  if (least > goal) return gradeWords[least];
  return most < goal ? gradeWords[most] : undefined;
}

/**
 * The nearest cells on both sides of a setting that nobody cut itself, in words: "5½ and 7 were clean, 6 lies between". Undefined where
 * cells lie on one side only.
 */
export function sayBetween(
  model: CutterModel,
  setting: Setting,
  cells: readonly { setting: Setting; passes: number; grade: Grade }[],
): string | undefined {
  const axis = strengthAxis(model);
  const at = setting.steps[axis.key]!;
  const alike = cells
    .filter((c) => isAlike(model, setting, c))
    .map((c) => ({ at: c.setting.steps[axis.key]!, grade: c.grade }))
    .sort((a, b) => a.at - b.at);
  const below = alike.findLast((c) => c.at < at);
  const above = alike.find((c) => c.at > at);
  if (!below || !above) return undefined;
  const said = (p: number) => formatPosition(axis, p);
  return below.grade === above.grade
    ? `${said(below.at)} and ${said(above.at)} were ${below.grade}, ${said(at)} lies between`
    : `${said(below.at)} was ${below.grade}, ${said(above.at)} ${above.grade}, ${said(at)} lies between`;
}

/** Which version of a setting evidence belongs to: whoever changes a control has another recipe. */
export const recipeOf = (setting: Setting): string =>
  Object.keys(setting.steps)
    .sort()
    .map((k) => `${k} ${setting.steps[k]}`)
    .join(', ');

/**
 * Reports by person and occasion: six taps within minutes are one report. One occasion whose reports differ is between them: some good, some
 * not, is almost. Common practice, no source.
 *
 * @param reports what was seen, and when, as an ISO time
 * @returns one for each occasion of each person with each version and batch, oldest first
 * @example
 * byOccasion([
 *   { kind: 'confirmation', day: '2026-05-01', person: 'a', outcome: 'worked', at: '2026-05-01T10:00:00Z' },
 *   { kind: 'confirmation', day: '2026-05-01', person: 'a', outcome: 'worked', at: '2026-05-01T10:02:00Z' },
 * ]).length // 1
 */
export function byOccasion(reports: readonly (ProofEvidence & { at: string })[]): ProofEvidence[] {
  const open = new Map<string, { last: number; report: ProofEvidence }>();
  const list: ProofEvidence[] = [];
  for (const { at, ...report } of reports.toSorted((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0))) {
    const key = JSON.stringify([report.kind, report.person, report.recipe ?? '', report.batch ?? '']);
    const now = Date.parse(at);
    const before = open.get(key);
    if (before && now - before.last < trialDefaults.occasionMinutes * 60_000) {
      before.last = now;
      if (before.report.outcome !== report.outcome) before.report.outcome = 'almost';
      continue;
    }
    open.set(key, { last: now, report });
    list.push(report);
  }
  return list;
}
