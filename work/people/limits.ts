import { createHash } from 'node:crypto';
import { db, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { whoAsks } from '#work/base/asking.ts';
import { Invalid, TooMany } from '#work/base/errors.ts';
import type { Person } from './person.ts';
import { quotas } from '#work/base/quotas.ts';

/** How often in how many minutes, for one person and for one address. */
const limits = {
  publish: { minutes: 60, perPerson: 30, perAddress: 60 },
  confirm: { minutes: 60, perPerson: 60, perAddress: 120 },
  remark: { minutes: 60, perPerson: 30, perAddress: 60 },
  pack: { minutes: 60, perPerson: 20, perAddress: 40 },
  report: { minutes: 60, perPerson: 10, perAddress: 20 },
} as const;
export type LimitedKind = keyof typeof limits;

/** What is counted: never the e-mail or the address itself. */
export const limitKey = (kind: string, value: string): string =>
  `${kind}:${createHash('sha256').update(value.toLowerCase()).digest('base64url')}`;

/** How often something of a kind was noted under each key in the last minutes. */
type Counts = (key: string) => number;

/**
 * Notes one more of a kind under each key unless `refuse` throws, under a lock: many at once do not all slip through.
 * @param refuse looks at what was noted before
 */
export async function noteUnless(
  kind: string,
  keys: readonly string[],
  minutes: number,
  refuse: (counted: Counts, q: Query) => void | Promise<void>,
): Promise<void> {
  // Always in one order: two that want the same locks do not wait for each other for ever.
  const sorted = [...keys].sort();
  await transaction(async (q) => {
    for (const key of sorted) await store.lockKey(q, key);
    const counts = await store.countAttempts(q, kind, sorted, minutes);
    await refuse((key) => counts.find((c) => c.key === key)?.n ?? 0, q);
    for (const key of sorted) await store.noteAttempt(q, kind, key);
  });
}

/** Counts one more of a kind under each key. @throws TooMany when one of them has reached its most in the last minutes */
export const countUnder = (
  kind: string,
  keys: readonly { key: string; max: number }[],
  minutes: number,
  message: string,
): Promise<void> =>
  noteUnless(
    kind,
    keys.map((k) => k.key),
    minutes,
    (counted) => {
      if (keys.some(({ key, max }) => counted(key) >= max)) throw new TooMany(message, minutes);
    },
  );

/** Counts one more of a kind for a person and an address, and refuses it when it is too many. @throws TooMany */
export async function count(kind: LimitedKind, person: Person | undefined, address: string): Promise<void> {
  const { minutes, perPerson, perAddress } = limits[kind];
  const keys = [
    ...(person ? [{ key: limitKey('person', person.id), max: perPerson }] : []),
    { key: limitKey('address', address), max: perAddress },
  ];
  await countUnder(kind, keys, minutes, `That was often. Wait ${minutes} minutes, then go on. Nothing was lost.`);
}

/** Forgets what no limit looks at any more. */
export const sweepAttempts = () => store.forgetOldAttempts(db(), quotas.keptDays.attempt * 24 * 60);

/** What is counted in memory and forgotten at a restart, which harms nobody: so many keys at most, the oldest minutes go first. */
const KEYS = 20_000;
const counted = new Map<string, { window: number; n: number }>();

/** Counts `by` more under a key within a window of time. @throws TooMany above `most` */
function countWithin(key: string, most: number, minutes: number, now: number, by = 1): void {
  const window = Math.floor(now / (minutes * 60_000));
  if (counted.size > KEYS) {
    const hour = Math.floor(now / 3_600_000);
    for (const [k, v] of counted) if (v.window !== window && v.window !== hour) counted.delete(k);
  }
  const seen = counted.get(key);
  const n = (seen?.window === window ? seen.n : 0) + by;
  counted.set(key, { window, n });
  if (n > most)
    throw new TooMany(`That was often. Wait ${sayMinutes(minutes)}, then go on. Nothing was lost.`, minutes);
}
const sayMinutes = (n: number) => (n === 1 ? 'a minute' : n === 60 ? 'an hour' : `${n} minutes`);

export type Asked = keyof typeof quotas.perMinute;

/**
 * Counts something that is asked for, for an account, and always for the address as well: guests come and go behind it.
 * @throws TooMany
 */
export function countAsked(kind: Asked, person: Person | undefined, address: string, now = Date.now()): void {
  countWithin(`${kind}:address:${address}`, quotas.perMinuteOfAddress[kind], 1, now);
  if (person) countWithin(`${kind}:${person.id}`, quotas.perMinute[kind], 1, now);
}

/** Counts a write of an address, whatever becomes of it. @throws TooMany */
export const countWrite = (address: string, now = Date.now()): void =>
  countWithin(`write:${address}`, quotas.writesPerMinute, 1, now);

/** Counts the bytes of an upload. @throws TooMany */
export const countUpload = (address: string, bytes: number, now = Date.now()): void =>
  countWithin(`upload:${address}`, quotas.uploadBytesPerHour, 60, now, bytes);

export type Owned = keyof typeof quotas.rows.account;

/**
 * Whether a person may have so many more of a kind: counted in the transaction that adds them.
 * @throws Invalid at the form, with what there is
 */
export async function needRoom(person: Person, kind: Owned, more = 1): Promise<void> {
  const most = quotas.rows[person.email ? 'account' : 'guest'][kind];
  const n = await store.countOwned(db(), person.id, kind);
  if (n + more > most)
    throw new Invalid({
      form: `You have ${n} ${kind} here; ${most} is the most${person.email ? '' : ' for a guest: an account has room for more'}.`,
    });
}

/** Counts a guest that is being made, in the transaction that makes it: one that is refused does not count. @throws TooMany */
export async function countGuest(): Promise<void> {
  const address = whoAsks()?.address;
  if (address === undefined) return;
  await countUnder(
    'guest',
    [{ key: limitKey('guest', address), max: quotas.guestsPerHour }],
    60,
    'Many began from this address within the hour. Wait a while, or sign in to an account.',
  );
}
