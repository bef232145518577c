import { pressQueue, type PressQueue, type QueueStep } from '#core/job/index.ts';
import { pieceOf, sayPiece } from '../sayStep.ts';
import { useNow } from '../../../ui/base/useNow.ts';
import type { Job, Work } from '../useSheet.ts';

export type Run = PressQueue & {
  now: number;
  /** Presses that are done, of all. */
  done: number;
  of: number;
  /** What a piece is called: its name, or its place. */
  piece: (step: QueueStep) => string;
};

/** The queue at the press, from the sheet: it follows from what was said, on this device or another. */
export function useRun(job: Job, work: Work): Run {
  const now = useNow(true, 100);
  const presses = work.sheet.steps.filter((s) => s.kind === 'press');
  // What hands do right before a press belongs to the run.
  const shown = work.sheet.steps.filter(
    (s) => s.kind === 'press' || (s.press !== undefined && job.press[s.press]!.byHand),
  );
  const steps = shown.map((s): QueueStep => {
    const plan = job.press[s.press!]!;
    return {
      id: s.id,
      piece: pieceOf(job, s),
      press: s.press!,
      heat: plan.heat,
      seconds: plan.seconds,
      wait: s.cools ?? plan.wait,
      open: s.state === 'open',
      ready: s.ready,
      part: s.part,
      needs: s.closesFor,
      rest: s.rest,
      closedAt: s.closed ? Date.parse(s.closed) : undefined,
      openedAt: s.opened ? Date.parse(s.opened) : undefined,
    };
  });
  return {
    ...pressQueue(steps, work.sheet.plate?.heat, now),
    now,
    done: presses.filter((s) => s.state !== 'open').length,
    of: presses.length,
    piece: (step) => sayPiece(job, step.piece),
  };
}
