import { createHash } from 'node:crypto';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/people/acts.ts';
import { Stale } from '#work/base/errors.ts';
import { becomeGuest, openSession } from './people.ts';
import type { Person } from './person.ts';
import { quotas } from '#work/base/quotas.ts';
import { inTurn } from '#work/base/fairLimiter.ts';

export type Done = {
  /** Where to go on. */
  to: string;
  /** The session of a guest that was made, or found again. */
  token?: string;
};

type Asked = { path: string; form: FormData; person: Person | undefined; zone: string | undefined };

/** A form with all it holds: the same key on other words, or with another file, is another act, as after a step back in the browser. */
async function fingerprint({ path, form }: Asked): Promise<Buffer> {
  const hash = createHash('sha256').update(path);
  for (const [key, value] of form) {
    hash.update(JSON.stringify([key, typeof value === 'string' ? value : [value.name, value.size]]));
    if (typeof value !== 'string') hash.update(new Uint8Array(await value.arrayBuffer()));
  }
  return hash.digest();
}

/** Minutes in which the form that made a guest, sent again, finds them again: for an answer that was lost on the way. */
const REPLAY = 10;

/**
 * Does what a form asks for, once, in one transaction. Sent a second time, with the same key and the same words, nothing is done and the
 * answer is that of the first time, whether that came through or not. A form without a key is done as often as it is sent.
 *
 * @param act answers where to go on
 * @throws Stale where somebody else did this very act: another person signed in meanwhile
 */
export async function doOnce(asked: Asked, act: (person: Person) => Promise<string>): Promise<Done> {
  const once = asked.form.get('once');
  const key = typeof once === 'string' && once.length >= 8 ? await fingerprint(asked) : undefined;
  return transaction(async (q) => {
    // Whoever sends the same at the same moment waits here until the first one is through.
    if (key && !(await store.beginAct(q, key))) {
      const before = await store.actOf(q, key, REPLAY);
      // A session comes of it only while they are a guest still: an account is come to by its password.
      if (!before || (asked.person ? before.person_id !== asked.person.id : !before.guest))
        throw new Stale('Somebody else signed in on this device meanwhile. Load the page again; nothing was changed.');
      return { to: before.answer, ...(asked.person ? {} : { token: await openSession(before.person_id) }) };
    }
    const guest = asked.person ? undefined : await becomeGuest(asked.zone);
    const person = asked.person ?? guest!.person;
    const to = await act(person);
    if (key) await store.endAct(q, key, person.id, guest !== undefined, to);
    return { to, ...(guest ? { token: guest.token } : {}) };
  }, inTurn);
}

/** Forgets acts that nobody sends again. */
export const sweepActs = () => store.forgetActs(db(), quotas.keptDays.act);
