import { axisOfRole, passesOf, strengthAxis, type CutterModel, type Setting } from '../controls/index.ts';
import { gradeIndex, type Grade } from '../grades/index.ts';
import { nominalLoad } from '../window/index.ts';
import type { Outcome } from './standing.ts';

export const trialDefaults = {
  /** A cell this close to a setting, in log load, is a trial of it: a quarter of an ordinary window. Common practice, no source. */
  near: 0.05,
};

/** What a grade says about a setting that was to give another: as wanted, one grade beside it, or worse. */
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
  if (cell.setting.model !== setting.model || cell.setting.version !== setting.version) return false;
  if (cell.passes !== passesOf(model, setting)) return false;
  const strength = strengthAxis(model);
  const passes = axisOfRole(model, 'passes');
  const same = model.axes.every(
    (a) =>
      a.key === strength.key ||
      a.key === passes?.key ||
      a.role === 'passes' ||
      cell.setting.steps[a.key] === setting.steps[a.key],
  );
  if (!same) return false;
  const [a, b] = [cell.setting.steps[strength.key]!, setting.steps[strength.key]!];
  const load = nominalLoad(strength);
  return a === b || (strength.kind !== 'list' && Math.abs(load.at(a) - load.at(b)) <= trialDefaults.near + 1e-9);
}

/** Which version of a setting evidence belongs to: whoever changes a control has another recipe. */
export const recipeOf = (setting: Setting): string =>
  Object.keys(setting.steps)
    .sort()
    .map((k) => `${k} ${setting.steps[k]}`)
    .join(', ');
