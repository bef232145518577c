import { hash, verify } from '@node-rs/argon2';
import { z } from 'zod';
import { db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { Invalid, TooMany } from '#work/base/errors.ts';
import { limitKey, noteUnless } from './limits.ts';
import { happened } from '#work/base/log.ts';
import { digest, newSecret } from './people.ts';
import type { Person } from './person.ts';

/** OWASP Password Storage Cheat Sheet (2024): argon2id with 19 MiB, two passes, one lane. The library's default kind is argon2id. */
export const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/**
 * Tries at a door, in so many minutes: freely up to a number, after that one each time some seconds have passed. Nobody is ever locked out
 * for good, and what strangers try at somebody's address does not count on a device they signed in on before.
 */
const TRIES = {
  minutes: 15,
  perEmail: { free: 8, thenEverySeconds: 60 },
  perAddress: { free: 40, thenEverySeconds: 10 },
  perDevice: { free: 20, thenEverySeconds: 30 },
} as const;
export const oldPassword = z.string().min(1, 'Type your password.').max(200, 'That is too long for a password.');
export async function matches(passwordHash: string | undefined, password: string): Promise<boolean> {
  decoy ??= hash(newSecret(), ARGON);
  const right = await verify(passwordHash ?? (await decoy), password);
  return right && passwordHash !== undefined;
}

type Tries = { key: string; free: number; thenEverySeconds: number };
/** Counts a try before the password is looked at. @throws TooMany */
export const countTry = (tries: Tries[]): Promise<void> =>
  noteUnless(
    'sign-in',
    tries.map((t) => t.key),
    TRIES.minutes,
    async (counted, q) => {
      for (const { key, free, thenEverySeconds } of tries) {
        if (counted(key) < free) continue;
        const ago = (await store.lastAttempt(q, 'sign-in', key)) ?? Infinity;
        if (ago < thenEverySeconds)
          throw new TooMany('Too many tries. Wait a minute before the next one, or have a link sent to you.', 1);
      }
    },
  );

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
export async function confirmed(person: Person, password: string, field: string, address: string, device?: string) {
  const account = person.email ? await store.credentialsOf(db(), person.email) : undefined;
  if (!account) throw new Invalid({ form: 'There is no account.' });
  await countTry(await triesOf(account.id, address, person.email!, device));
  if (!(await matches(account.password_hash, password))) {
    happened('sign-in refused', account.id);
    throw new Invalid({ [field]: 'That is not your password. Nothing was changed.' });
  }
  return account;
}

/** A hash to verify against when there is no such account, so that both answers take the same time. */
export let decoy: Promise<string> | undefined;
