import { isOffPlan } from '#core/job/index.ts';
import type { Film, PressOutcome } from '#core/press/index.ts';
import type { PressStepView } from './pressView.ts';

/**
 * How each film of a piece was pressed, as its steps say: what an outcome speaks of. A wash speaks of all, a press of what was pressed. A press that was
 * far off its plan speaks for none.
 * @param real how long a step was truly in the press, s; undefined where nobody timed it
 */
export function waysPressed(
  steps: readonly PressStepView[],
  films: readonly Film[],
  at: 'press' | 'apply' | 'wash',
  real: (step: PressStepView) => number | undefined = () => undefined,
): Map<string, PressOutcome['way']> {
  const found = new Map<string, PressOutcome['way']>();
  steps.forEach((own, i) => {
    // What sticks is proven by the surface it held on.
    if (at !== 'wash' && own.kind !== at) return;
    if (own.kind === 'apply') return own.layers.forEach((id) => found.set(id, { peel: 'by the leaflet' }));
    if (own.does !== 'layer') return;
    // What was only tacked is held by the press of everything that follows it.
    const whole =
      own.purpose === 'tack'
        ? (steps.slice(i).find((s) => s.does === 'last') ?? steps.slice(i).find((s) => s.purpose === 'full') ?? own)
        : own;
    if (isOffPlan(real(whole), whole.seconds)) return;
    for (const id of own.layers) {
      if (!films.some((f) => f.id === id)) continue;
      found.set(id, {
        ...(whole.heat === undefined ? {} : { heat: whole.heat }),
        ...(whole.seconds === undefined ? {} : { seconds: [whole.seconds, whole.seconds] as [number, number] }),
        ...(own.pressure === undefined ? {} : { pressure: own.pressure }),
        peel: own.peel ?? 'by the leaflet',
      });
    }
  });
  return found;
}
