import { atStrength, type CutterModel, type Setting } from '#core/controls/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import type { FitResult, ShownFit } from '#core/window/index.ts';
import type { Route } from './+types/route';

/** What the page knows of a vinyl on the cutter on the bench. */
export type OnBench = NonNullable<Route.ComponentProps['loaderData']['bench']>;

/** Under this chance of a clean cut a check is worth its vinyl. */
export const CHECK_UNDER = 0.85;

/** One's own cells speak first, then what others found on this model, then what they found on theirs, then the type. */
export const shownResult = (bench: Known): FitResult | ShownFit =>
  bench.result.evidence.cells > 0 ? bench.result : (bench.shared?.result ?? bench.translated?.shown ?? bench.result);
type Known = {
  result: FitResult;
  shared: { result: FitResult } | undefined;
  translated: Translated | undefined;
};

/** The controls shown: those kept, else the standing ones at the strength that is advised. */
export function shownSetting(
  bench: Known & { cutter: { model: CutterModel }; base: Setting; kept: { controls: Setting } | undefined },
): Setting {
  const { summary } = shownResult(bench);
  return (
    bench.kept?.controls ?? atStrength(bench.cutter.model, bench.base, (summary.recommended ?? summary.best).position)
  );
}
