import { atStrength, type CutterModel, type Setting } from '#core/controls/index.ts';
import type { FitResult, ShownFit } from '#core/window/index.ts';
import { bestKnown, type Answer, type Known } from '#core/answer/index.ts';
import type { Route } from './+types/route';

/** What the page knows of a vinyl on the cutter on the bench. */
export type OnBench = NonNullable<Route.ComponentProps['loaderData']['bench']>;

/** Under this chance of a clean cut a check is worth its vinyl. */
export const CHECK_UNDER = 0.85;

/** What the strip is drawn from: the reading that the number comes from. */
export const shownResult = (bench: Known): FitResult | ShownFit => bestKnown(bench).reading;

/** The whole setting: the controls that are kept, else the standing ones, at the number to set. */
export function shownSetting(
  bench: Known & {
    answer: Answer;
    cutter: { model: CutterModel };
    base: Setting;
    kept: { controls: Setting } | undefined;
  },
): Setting {
  const controls = bench.kept?.controls ?? bench.base;
  return bench.answer.position === undefined
    ? controls
    : atStrength(bench.cutter.model, controls, bench.answer.position);
}
