import { limitsOf, strengthAxis } from '../controls/index.ts';
import type { Grade } from '../grades/index.ts';
import { median } from '../stats/index.ts';
import { posterior, priorFor, type FitInput } from '../window/index.ts';
import { fitEvenness, type Evenness } from './fitEvenness.ts';

export type EvennessQuestion = {
  /** What is known of the vinyl on this cutter, these places included. */
  fit: FitInput;
  /** Position on the strength axis and passes, the same for all places. */
  position: number;
  passes: number;
  places: { x: number; y: number; grade: Grade }[];
};

/** Reads one figure cut all over the mat: cut points and noise from everything known of the vinyl, the field from the places. */
export function readEvenness({ fit, position, passes, places }: EvennessQuestion): Evenness {
  const axis = strengthAxis(fit.model);
  const { draws } = posterior(axis, priorFor(axis, fit.type, fit.wanted, fit.around), fit.cells, {
    seed: fit.seed,
    target: fit.target,
  });
  const { min } = limitsOf(axis);
  const middle = (of: (d: (typeof draws)[number]) => number) => median(draws.map(of));
  const load = middle((d) => d.gain * d.loads[position - min]! + d.beta * Math.log(passes));
  const cut = (k: 0 | 1 | 2 | 3) => middle((d) => d.tau[k]) - load;
  return fitEvenness({
    places,
    thresholds: [cut(0), cut(1), cut(2), cut(3)],
    sigma: middle((d) => d.sigma),
  });
}
