import { createHash } from 'node:crypto';
import { lockKey } from '#store/base/locks.ts';
import { db } from '#store/base/db.ts';
import { Invalid } from './errors.ts';

/** What a form shows was written over since, in another tab or on another device: nothing was changed, and whoever sent it chooses. */
export class Changed extends Invalid {
  /** What stands now: sent along again, the form writes over that. */
  readonly now: string;
  constructor(now: string) {
    super({
      form: 'This was changed in another tab or on another device since you opened it. What is saved now stands under each field. Save again to keep yours.',
    });
    this.now = now;
  }
}

/** The mark of what a form shows, to be sent along with it. */
export const seenOf = (value: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify(value) ?? '')
    .digest('base64url')
    .slice(0, 22);

/**
 * Whether what a form was filled in over still stands: two tabs that save one after the other never undo each other unseen. What is read is read
 * under a lock of its own, which the transaction holds to its end. A form without the mark is taken as it is.
 * @throws Changed
 */
export async function needSeen(form: FormData, key: string, value: () => Promise<unknown>): Promise<void> {
  const seen = form.get('seen');
  if (typeof seen !== 'string') return;
  await lockKey(db(), `seen ${key}`);
  const now = seenOf(await value());
  if (seen !== now) throw new Changed(now);
}
