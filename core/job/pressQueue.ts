import type { StepId } from './steps.ts';

/** A step at the press of one piece, with its clocks. Times in ms since 1970, heat in m°C. */
export type QueueStep = {
  id: StepId;
  /** Which piece, and which of its steps at the press. */
  piece: number;
  press: number;
  /** Undefined where the leaflet says it: any heat will do. */
  heat: number | undefined;
  /** How long it is pressed, and how long it cools before it is touched; undefined where the leaflet says it. */
  seconds: number | undefined;
  /** How long it is closed this time, s, where that is the rest of one that was opened early. */
  needs?: number | undefined;
  wait: number;
  open: boolean;
  /** Whether everything that comes before it is done. */
  ready: boolean;
  /** Which part of it is in the press, where it is larger than the plate: 1 for the first. */
  part: number;
  /** How long is left of it, s, where it was opened early. */
  rest?: number | undefined;
  closedAt: number | undefined;
  openedAt: number | undefined;
};

/** The one thing the hands do next. `due` is when; it may lie ahead: then a clock runs. */
type NextAction =
  | { do: 'heat'; heat: number; from: number | undefined; step: QueueStep }
  | { do: 'load'; step: QueueStep }
  | { do: 'open' | 'peel'; step: QueueStep; due: number }
  | { do: 'elsewhere' }
  | { do: 'done' };

export type PressQueue = {
  turn: NextAction;
  /** What cools or is in the press beside it, each with its own clock, the earliest first. */
  others: { step: QueueStep; does: 'open' | 'peel'; due: number }[];
};

/** Heats nearer than this are one setting of the dial, m°C. */
const SAME_SETTING = 1_000;

/**
 * What to touch next at one press with many pieces: whatever is due earliest. While a piece is pressed or cools, the press takes the next one;
 * what goes at the heat the plate has comes before what wants another, and a piece that was begun before one that was not.
 *
 * @param plate what the plate is set to, m°C; undefined where nobody has said
 */
export function pressQueue(steps: readonly QueueStep[], plate: number | undefined, now: number): PressQueue {
  const left = steps.filter((s) => s.open);
  const clocks = left
    .flatMap((step): PressQueue['others'] => {
      if (step.openedAt !== undefined) return [{ step, does: 'peel', due: step.openedAt + step.wait * 1000 }];
      if (step.closedAt !== undefined)
        return [{ step, does: 'open', due: step.closedAt + (step.needs ?? step.seconds ?? 0) * 1000 }];
      return [];
    })
    .sort((a, b) => a.due - b.due || a.step.piece - b.step.piece);
  const [first] = clocks;
  const busy = clocks.some((c) => c.does === 'open');
  const soonest = (): PressQueue =>
    first
      ? { turn: { do: first.does, step: first.step, due: first.due }, others: clocks.slice(1) }
      : { turn: { do: left.length > 0 ? 'elsewhere' : 'done' }, others: [] };
  // What is due now comes before anything new; a press that is closed takes nothing.
  if (busy || (first && first.due <= now)) return soonest();
  const fits = (s: QueueStep) =>
    s.heat === undefined || (plate !== undefined && Math.abs(s.heat - plate) <= SAME_SETTING);
  const free = left
    .filter((s) => s.ready && s.closedAt === undefined)
    .sort(
      (a, b) => Number(b.rest !== undefined) - Number(a.rest !== undefined) || b.press - a.press || a.piece - b.piece,
    );
  const load = free.find(fits);
  if (load) return { turn: { do: 'load', step: load }, others: clocks };
  // Another heat is worth it once nothing that cools will want this one.
  const wanted = (piece: number) =>
    left.filter((s) => s.piece === piece && s.closedAt === undefined).sort((a, b) => a.press - b.press)[0];
  const soon = clocks.some((c) => {
    const next = wanted(c.step.piece);
    return next !== undefined && fits(next);
  });
  const next = soon ? undefined : free.toSorted((a, b) => a.press - b.press || a.piece - b.piece)[0];
  return next?.heat === undefined
    ? soonest()
    : { turn: { do: 'heat', heat: next.heat, from: plate, step: next }, others: clocks };
}
