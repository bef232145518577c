import { shownPresses, type Outcome, type SheetStep } from '#core/job/index.ts';
import { pieceOf } from './sayStep.ts';
import type { Job, Work } from './useSheet.ts';

/** Says how the piece of a step came out, pressed or laid as the recipe says. */
export const sayOutcome = (job: Job, work: Work, step: SheetStep, word: Outcome, recipe: string) =>
  work.say({
    kind: 'outcome',
    step: step.id,
    attempt: step.attempt,
    // A wash is of a piece; a press names its piece by what it presses.
    pieces: [step.kind === 'wash' ? step.about : job.plan.pieces[pieceOf(job, step)]!.id],
    word,
    recipe,
    presses: shownPresses(job.press),
    ...(job.pressPlan.source ? { press: job.pressPlan.source.id } : {}),
  });
