import { sweepActs } from '#work/people/idempotency.ts';
import { settleCards } from '#work/shelf/shared.ts';
import { settleAfterCrash } from '#work/cuts/line.ts';
import { sweepImports } from '#work/answer/imports.ts';
import { sweepAttempts } from '#work/people/limits.ts';
import { log } from '#work/base/log.ts';
import { sweepArtworks } from '#work/jobs/artwork.ts';
import { resumeImports, runImport } from '#work/packs/imports.ts';
import { sweepPacks } from '#work/packs/look.ts';
import { sweepGuests, sweepSessions } from '#work/people/people.ts';
import { proveKept, refreshFaded } from '#work/shelf/standing.ts';
import { readUnreadSwatches } from '#work/vinyls/swatches.ts';
import { startQueue } from '#work/base/queue.ts';
import { refreshOverdue } from '#work/coupons/readings.ts';
import { followDue } from '#work/packs/follow.ts';
import { refreshTranslations } from '#work/shelf/translate.ts';

/** One after the other; what one cannot do does not keep the others from it. */
async function each(work: Record<string, () => Promise<unknown>>): Promise<void> {
  for (const [name, task] of Object.entries(work))
    await task().catch((error: Error) => log.warn({ event: 'background', task: name }, error.message));
}

/**
 * All that recurs, and all that is done in the background: one list, run by the queue, once among all servers and never twice at a time.
 * How often stands with each queue (work/base/queue).
 */
export async function startBackground(url: string): Promise<void> {
  await startQueue(url, {
    translate: refreshTranslations,
    import: runImport,
    follow: () => followDue(),
    readings: () => refreshOverdue(),
    fade: () => refreshFaded(),
    // What a crash left half done is made up for.
    tidy: () =>
      each({
        runs: settleAfterCrash,
        readings: () => refreshOverdue(),
        squares: () => readUnreadSwatches(),
        cards: () => settleCards(),
        proofs: () => proveKept(),
      }),
    // What nobody comes back to goes.
    sweep: () =>
      each({
        sessions: sweepSessions,
        guests: sweepGuests,
        acts: sweepActs,
        attempts: sweepAttempts,
        imports: sweepImports,
        packs: sweepPacks,
        artworks: sweepArtworks,
      }),
  });
  await resumeImports();
}
