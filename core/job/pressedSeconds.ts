import type { JobEvent } from './events.ts';

/** So far a press may be off its plan and still speak for it: seconds, and a share of them. */
const pressedDefaults = { seconds: 3, share: 0.25 };

/**
 * How long a step was truly in the press, s: from each closing to the next opening, by the clock of one device; of what is larger than the plate the
 * mean of its parts. Undefined where nobody timed it; 'two clocks' where one device closed it and another opened it: their clocks are not one.
 * @param events of one step and attempt, in their order, without what was taken back
 */
export function pressedSeconds(events: readonly JobEvent[]): number | 'two clocks' | undefined {
  let closed: JobEvent | undefined;
  let sum = 0;
  let [part, parts] = [0, 0];
  let over = false;
  for (const e of events) {
    if (e.kind === 'pause') [closed, sum, part, parts, over] = [undefined, 0, 0, 0, false];
    if (e.kind !== 'start' && e.kind !== 'opened') continue;
    if (closed) {
      if (closed.device !== e.device) return 'two clocks';
      sum += (Date.parse(e.deviceAt) - Date.parse(closed.deviceAt)) / 1000;
    }
    if (e.kind === 'opened') {
      over ||= closed !== undefined;
      closed = undefined;
      continue;
    }
    // Closed again for its rest it is the same part; moved on it is the next one.
    part = e.part ?? (e.rest === undefined ? part + 1 : Math.max(1, part));
    parts = Math.max(parts, part);
    closed = e;
  }
  return over && !closed && parts > 0 ? sum / parts : undefined;
}

/** Whether a press was so far off its plan that it says nothing for it. What nobody timed counts as planned. */
export const isOffPlan = (real: number | undefined, planned: number | undefined): boolean =>
  real !== undefined &&
  planned !== undefined &&
  Math.abs(real - planned) > Math.max(pressedDefaults.seconds, pressedDefaults.share * planned);
