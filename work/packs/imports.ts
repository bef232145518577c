import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import { cardsChanged } from '#work/shelf/shared.ts';
import { Invalid } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { ask } from '#work/base/queue.ts';
import { FOREIGN_WEIGHT } from './compare.ts';
import { bringIn } from './bringIn.ts';
import { ownSource, fromOf } from './look.ts';

/** Brings a pack in that was looked at: soon, by the queue. A steward may say that it counts in full. */
export async function startImport(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownSource(person, id);
  if (row.state === 'withdrawn') return putBack(id);
  if (row.state !== 'seen' && row.state !== 'failed') return;
  const steward = can(person, 'moderate');
  const full = steward && form.get('weight') === 'full';
  await store.vouch(db(), id, steward, full ? 1 : FOREIGN_WEIGHT);
  await store.setSourceState(db(), id, 'queued');
  // Without a queue, as in tests, it is done at once.
  if (!(await ask('import', id))) await runImport(id);
}

/** Puts what was taken off the shelf again back there. */
async function putBack(id: string): Promise<void> {
  const back = await transaction(async (q) => {
    await store.setSourceState(q, id, 'done');
    return store.restoreCards(q, { source: id });
  });
  await cardsChanged(back);
}

/** Takes what a pack brought off the shelf again. */
export async function takeBack(person: Person, id: string): Promise<void> {
  const row = await ownSource(person, id);
  if (row.state !== 'done') return;
  const gone = await transaction(async (q) => {
    await store.setSourceState(q, id, 'withdrawn');
    return store.withdrawCards(q, id, null);
  });
  await cardsChanged(gone);
}

/** Packs whose turn a crash cut short are taken up again. */
export async function resumeImports(): Promise<number> {
  const waiting = await store.queuedSources(db());
  for (const { id } of waiting) if (!(await ask('import', id))) await runImport(id);
  return waiting.length;
}

/** Task: brings in a pack that waits. */
export async function runImport(id: string): Promise<void> {
  const row = await store.sourceById(db(), id);
  const pack = row?.state === 'queued' ? await store.contentOf(db(), id) : undefined;
  if (!row || !pack) return;
  try {
    await bringIn(pack, fromOf(row), async (q, report) => {
      // Two that took the same pack up at once: the second finds it done.
      if ((await store.lockSource(q, id))?.state !== 'queued')
        throw new Invalid({ form: 'This was brought in already.' });
      await store.setSourceState(q, id, 'done', report);
    });
  } catch (error) {
    if (error instanceof Invalid) return;
    await store.setSourceState(db(), id, 'failed');
    throw error;
  }
}
