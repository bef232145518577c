import { positionsOf, type Axis } from '../controls/index.ts';
import { gradeIndex, type Grade } from '../grades/index.ts';
import { curveAt, nominalLoad, type ShownFit, placeToSet } from '../window/index.ts';

const nextDefaults = {
  /** The least move worth a name, in log load: a twenty-fifth more. Common practice, no source. */
  step: 0.04,
  /** A move may cost this much of the chance as it is believed in, and not more: one cut says little. */
  cost: 0.02,
};

export type Next =
  /** Another number next time. */
  | { kind: 'move'; position: number }
  /** The same again: it came out, or one cut is not enough to leave a number that many spoke for. */
  | { kind: 'stay'; why: 'as wanted' | 'one cut' }
  /** There is no place further on. */
  | { kind: 'end' };

/**
 * What to set next time, after a cut did not come out as wanted: at least a step towards what it lacked, and as far as the reading says
 * that took this very cut in; but no step that what is known speaks against.
 * @param at the place it was cut at
 * @param reading with this cut among its cells
 */
export function nextAfter(
  axis: Axis,
  at: number,
  grade: Grade,
  wanted: 'clean' | 'through',
  reading: Pick<ShownFit, 'summary'>,
): Next {
  const off = gradeIndex[wanted] - gradeIndex[grade];
  if (off === 0) return { kind: 'stay', why: 'as wanted' };
  const up = off > 0;
  const { recommended, best } = reading.summary;
  const advised = placeToSet({ recommended, best }).position;
  if (up ? advised > at : advised < at) return { kind: 'move', position: advised };
  const load = nominalLoad(axis);
  const here = load.at(at);
  const further = positionsOf(axis).filter((p) => (up ? p > at : p < at));
  if (further.length === 0) return { kind: 'end' };
  const nearest = up ? further : further.reverse();
  const step = nearest.find((p) => Math.abs(load.at(p) - here) >= nextDefaults.step - 1e-9) ?? nearest.at(-1)!;
  return curveAt(reading, step) >= curveAt(reading, at) - nextDefaults.cost
    ? { kind: 'move', position: step }
    : { kind: 'stay', why: 'one cut' };
}
