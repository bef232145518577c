import { createHash } from 'node:crypto';
import { db, transaction, type Query } from '#store/db.ts';
import * as store from '#store/people.ts';
import { TooMany } from './errors.ts';
import type { Person } from './people.ts';

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

/** @throws TooMany when one of the keys has reached its most in the last minutes */
export async function checkLimit(
  q: Query,
  kind: string,
  keys: { key: string; max: number }[],
  minutes: number,
  message = `Too many tries. Wait ${minutes} minutes, then try again.`,
): Promise<void> {
  const counts = await store.countAttempts(
    q,
    kind,
    keys.map((k) => k.key),
    minutes,
  );
  if (keys.some(({ key, max }) => (counts.find((c) => c.key === key)?.n ?? 0) >= max))
    throw new TooMany(message, minutes);
}

/** Counts one more of a kind for a person and an address, under a lock, and refuses it when it is too many. */
export async function count(kind: LimitedKind, person: Person | undefined, address: string): Promise<void> {
  const { minutes, perPerson, perAddress } = limits[kind];
  const keys = [
    ...(person ? [{ key: limitKey('person', person.id), max: perPerson }] : []),
    { key: limitKey('address', address), max: perAddress },
  ];
  await transaction(async (q) => {
    for (const { key } of [...keys].sort((a, b) => (a.key < b.key ? -1 : 1))) await store.lockKey(q, key);
    await checkLimit(q, kind, keys, minutes, `That was often. Wait ${minutes} minutes, then go on. Nothing was lost.`);
    for (const { key } of keys) await store.noteAttempt(q, kind, key);
  });
}

/** Forgets what no limit looks at any more. */
export const sweepAttempts = () => store.forgetOldAttempts(db(), 120);

/** Searching: asked at every keystroke, so it is counted here and not in the database. A restart forgets, which harms nobody. */
const SEARCHES = { perMinute: 300, keys: 10_000 };
const searches = new Map<string, { minute: number; n: number }>();

/** Counts a search for a person, or else for an address. @throws TooMany */
export function countSearch(person: Person | undefined, address: string, now = Date.now()): void {
  countMinute(person ? person.id : `address:${address}`, SEARCHES.perMinute, now);
}

/** Questions of programs from outside: fewer a minute than of people, who do not ask by themselves. */
export const API_PER_MINUTE = 120;
/** Counts a question to the public interface for an address. @throws TooMany */
export const countApi = (address: string, now = Date.now()): void => countMinute(`api:${address}`, API_PER_MINUTE, now);

/** Packs cost more to make than an answer does. */
const PACKS_PER_MINUTE = 30;
/** Counts a pack or table of the shelf for an address. @throws TooMany */
export const countPack = (address: string, now = Date.now()): void =>
  countMinute(`pack:${address}`, PACKS_PER_MINUTE, now);

function countMinute(key: string, most: number, now: number): void {
  const minute = Math.floor(now / 60_000);
  if (searches.size > SEARCHES.keys) for (const [k, v] of searches) if (v.minute < minute) searches.delete(k);
  const seen = searches.get(key);
  const n = seen?.minute === minute ? seen.n + 1 : 1;
  searches.set(key, { minute, n });
  if (n > most) throw new TooMany('That was often. Wait a minute, then go on. Nothing was lost.', 1);
}
