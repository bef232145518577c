import { db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { NotFound } from '#work/base/errors.ts';
import { happened } from '#work/base/log.ts';
import { digest } from './people.ts';
import type { Person } from './person.ts';

export type Session = { key: string; device: string; since: string; seen: string; here: boolean };
/** Where somebody is signed in, the latest first. */
export async function sessionsOf(person: Person, token: string | undefined): Promise<Session[]> {
  const here = token ? digest(token) : undefined;
  return (await store.sessionsOf(db(), person.id)).map((s) => ({
    key: s.token_hash.toString('base64url'),
    device: s.device,
    since: s.created_at.toISOString(),
    seen: s.seen_at.toISOString(),
    here: here?.equals(s.token_hash) ?? false,
  }));
}

/** Ends one session of a person, or all but the one that asks. */
export async function endSession(person: Person, key: string, token: string | undefined): Promise<void> {
  if (key === 'others') {
    happened('sessions ended', person.id, {
      n: await store.endSessions(db(), person.id, token ? digest(token) : null),
    });
    return;
  }
  const hashed = Buffer.from(key.slice(0, 100), 'base64url');
  const own = (await store.sessionsOf(db(), person.id)).some((s) => s.token_hash.equals(hashed));
  if (!own) throw new NotFound('No such session.');
  await store.deleteSession(db(), hashed);
  happened('sessions ended', person.id, { n: 1 });
}
