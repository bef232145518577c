import { hash, verify } from '@node-rs/argon2';
import { z } from 'zod';
import { db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { asker } from '#work/base/asking.ts';
import { Invalid, TooMany } from '#work/base/errors.ts';
import { FairLimiter } from '#work/base/fairLimiter.ts';
import { limitKey, noteUnless } from './limits.ts';
import { happened } from '#work/base/log.ts';
import { digest, newSecret } from './people.ts';
import type { Person } from './person.ts';

/** OWASP Password Storage Cheat Sheet (2024): argon2id with 19 MiB, two passes, one lane. The library's default kind is argon2id. */
export const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/**
 * Tries at a door, in so many minutes: freely up to a number, after that slower each time. Nobody is ever locked out, and what strangers try
 * at somebody's address does not count on a device they signed in on before.
 */
const TRIES = {
  minutes: 15,
  perEmail: { free: 8 },
  perAddress: { free: 40 },
  perDevice: { free: 20 },
  /** Seconds that each try beyond the free ones waits longer than the one before, and the most it waits. */
  slower: 1,
  slowest: 15,
} as const;
export const oldPassword = z.string().min(1, 'Type your password.').max(200, 'That is too long for a password.');
async function matches(passwordHash: string | undefined, password: string): Promise<boolean> {
  dummyHash ??= hash(newSecret(), ARGON);
  const right = await verify(passwordHash ?? (await dummyHash), password);
  return right && passwordHash !== undefined;
}

type Tries = { key: string; free: number };
/** Counts a try before the password is looked at. Answers how many it is more than are free. */
async function countTry(tries: Tries[]): Promise<number> {
  let over = 0;
  await noteUnless(
    'sign-in',
    tries.map((t) => t.key),
    TRIES.minutes,
    (counted) => {
      over = Math.max(0, ...tries.map(({ key, free }) => counted(key) + 1 - free));
    },
  );
  return over;
}

// Tries that are slowed down: one at a time from an address, so many in all, however many strangers there are.
const slowed = new FairLimiter({ together: 30, each: 1, waiting: 120, waitingEach: 5, seconds: 60 });

/**
 * Whether a password is the right one. Beyond the free tries each waits before it is looked at, longer every time: the right one is slowed down
 * but comes in, a wrong one is told to wait.
 * @throws TooMany for a wrong one beyond the free tries
 */
export async function tried(
  tries: Tries[],
  address: string,
  passwordHash: string | undefined,
  password: string,
): Promise<boolean> {
  const over = await countTry(tries);
  if (over === 0) return matches(passwordHash, password);
  const right = await slowed.take({ name: address, gone: asker().gone }, async () => {
    await new Promise((done) => setTimeout(done, 1000 * Math.min(over * TRIES.slower, TRIES.slowest)));
    return matches(passwordHash, password);
  });
  if (right) return true;
  throw new TooMany('Too many tries. Wait a minute before the next one, or have a link sent to you.', 1);
}

/** What a try counts under: on a device that this account signed in on before, only under the device. */
export async function triesOf(account: string | undefined, address: string, mail: string, device: string | undefined) {
  const known = account && device ? await store.knowsDevice(db(), account, digest(device)) : false;
  if (known) return [{ key: limitKey('device', `${account} ${device}`), ...TRIES.perDevice }];
  return [
    { key: limitKey('email', mail), ...TRIES.perEmail },
    { key: limitKey('address', address), ...TRIES.perAddress },
  ];
}

/** The account behind a password that was typed once more. @throws Invalid at the field, TooMany */
export async function confirmPassword(
  person: Person,
  password: string,
  field: string,
  address: string,
  device?: string,
) {
  const account = person.email ? await store.credentialsOf(db(), person.email) : undefined;
  if (!account) throw new Invalid({ form: 'There is no account.' });
  const tries = await triesOf(account.id, address, person.email!, device);
  if (!(await tried(tries, address, account.password_hash, password))) {
    happened('sign-in refused', account.id);
    throw new Invalid({ [field]: 'That is not your password. Nothing was changed.' });
  }
  return account;
}

/** A hash to verify against when there is no such account, so that both answers take the same time. */
let dummyHash: Promise<string> | undefined;
