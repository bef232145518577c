import { sweepActs } from './acts.ts';
import { settleCards } from './cards.ts';
import { settleAfterCrash } from './devices.ts';
import { sweepImports } from './imports.ts';
import { sweepAttempts } from './limits.ts';
import { log } from './log.ts';
import { resumeImports, runImport, sweepPacks } from './packIn.ts';
import { sweepGuests, sweepSessions } from './people.ts';
import { refreshFaded } from './proof.ts';
import { startQueue } from './queue.ts';
import { refreshOverdue } from './readings.ts';
import { followDue } from './subscriptions.ts';
import { refreshTranslations } from './translate.ts';

/** One after the other; what one cannot do does not keep the others from it. */
async function each(work: Record<string, () => Promise<unknown>>): Promise<void> {
  for (const [name, task] of Object.entries(work))
    await task().catch((error: Error) => log.warn({ event: 'background', task: name }, error.message));
}

/**
 * All that recurs, and all that is done in the background: one list, run by the queue, once among all servers and never twice at a time.
 * How often stands with each queue (work/queue).
 */
export async function startBackground(url: string): Promise<void> {
  await startQueue(url, {
    translate: refreshTranslations,
    import: runImport,
    follow: () => followDue(),
    fade: () => refreshFaded(),
    // What a crash left half done is made up for.
    tidy: () => each({ runs: settleAfterCrash, readings: () => refreshOverdue(), cards: () => settleCards() }),
    // What nobody comes back to goes.
    sweep: () =>
      each({
        sessions: sweepSessions,
        guests: sweepGuests,
        acts: sweepActs,
        attempts: sweepAttempts,
        imports: sweepImports,
        packs: sweepPacks,
      }),
  });
  await resumeImports();
}
