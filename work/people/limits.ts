import { createHash } from 'node:crypto';
import { db, transaction, type Query } from '#store/base/db.ts';
import { lockKey } from '#store/base/locks.ts';
import * as store from '#store/people/people.ts';
import { whoAsks } from '#work/base/asking.ts';
import { Invalid, TooMany } from '#work/base/errors.ts';
import type { Person } from './person.ts';
import { quotas } from '#work/base/quotas.ts';
import { rates } from '#work/base/rates.ts';

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
    for (const key of sorted) await lockKey(q, key);
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

export type Asked = keyof typeof quotas.perMinute;

/**
 * Counts something that is asked for, for an account, and always for the address as well: guests come and go behind it.
 * @throws TooMany
 */
export async function countAsked(kind: Asked, person: Person | undefined, address: string): Promise<void> {
  await rates.count(`${kind} of an address`, address, quotas.perMinuteOfAddress[kind], 1);
  if (person) await rates.count(kind, person.id, quotas.perMinute[kind], 1);
}

/** Counts a drawing that an address is about to send, before any of it is read. @throws TooMany */
export const countDrawingAtDoor = (address: string): Promise<void> =>
  rates.count('drawing of an address', address, quotas.perMinuteOfAddress.drawing, 1);
/** Counts a drawing of a person. Its address was counted at the door. @throws TooMany */
export const countDrawing = async (person: Person | undefined): Promise<void> => {
  if (person) await rates.count('drawing', person.id, quotas.perMinute.drawing, 1);
};

/** Counts a write of an address, whatever becomes of it. @throws TooMany */
export const countWrite = (address: string): Promise<void> => rates.count('write', address, quotas.writesPerMinute, 1);

/** Counts what an address adds within the hour: rows of anything. @throws TooMany */
export const countRows = (address: string, n = 1): Promise<void> =>
  rates.count('rows of an address', address, quotas.perHourOfAddress.rows, 60, n);

/** Counts the bytes that an address sends within the hour. @throws TooMany */
export const countBytes = (address: string, bytes: number): Promise<void> =>
  rates.count('bytes of an address', address, quotas.perHourOfAddress.bytes, 60, bytes);

/** Counts events that an outbox brings, for the person and for the address. @throws TooMany */
export async function countEvents(person: Person, address: string, n: number): Promise<void> {
  await rates.count('events of an address', address, quotas.events.perMinuteOfAddress, 1, n);
  await rates.count('events', person.id, quotas.events.perMinute, 1, n);
  await countRows(address, n);
}

/** Counts the bytes of an upload. @throws TooMany */
export const countUpload = (address: string, bytes: number): Promise<void> =>
  rates.count('upload', address, quotas.uploadBytesPerHour, 60, bytes);

export type Owned = keyof typeof quotas.rows.account;

/**
 * Whether a person may have so many more of a kind: counted in the transaction that adds them.
 * @throws Invalid at the form, with what there is
 */
export async function enforceQuota(person: Person, kind: Owned, more = 1): Promise<void> {
  const most = quotas.rows[person.email ? 'account' : 'guest'][kind];
  // Of two at one moment one counts after the other has added: the lock lasts as long as the transaction.
  await lockKey(db(), `room ${person.id} ${kind}`);
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
