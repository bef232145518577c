import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { db, transaction } from '#store/db.ts';
import * as store from '#store/people.ts';
import { Invalid } from './errors.ts';
import { read } from './forms.ts';
import { checkLimit, limitKey } from './limits.ts';
import { can } from './permissions.ts';
import { line } from './text.ts';

export type Person = store.PersonRow;

const SESSION_DAYS = 400;
/** OWASP Password Storage Cheat Sheet (2024): argon2id with 19 MiB, two passes, one lane. The library's default kind is argon2id. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Failed sign-ins allowed in the window, for one e-mail and for one address. */
const SIGN_IN = { minutes: 15, perEmail: 8, perAddress: 40 };
const SIGN_UP = { minutes: 60, perAddress: 20 };

const digest = (text: string) => createHash('sha256').update(text).digest();

export async function personOfToken(token: string | undefined): Promise<Person | undefined> {
  if (!token || token.length > 100) return undefined;
  return store.personOfSession(db(), digest(token));
}

async function openSession(personId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await store.insertSession(db(), digest(token), personId, SESSION_DAYS);
  return token;
}

/** A time zone as the browser names it; anything else is UTC. */
function knownZone(zone: string | undefined): string {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone;
  } catch {
    return 'UTC';
  }
}

/** A new guest with a session. @param wanted the time zone of their browser */
export async function becomeGuest(wanted = 'UTC'): Promise<{ person: Person; token: string }> {
  const id = uuidv7();
  const zone = knownZone(wanted);
  await store.insertGuest(db(), id, zone);
  const token = await openSession(id);
  return { person: { id, email: null, name: 'guest', zone, length_unit: 'mm', temperature_unit: 'C' }, token };
}

const email = z
  .string()
  .trim()
  .max(254, 'That e-mail address is too long.')
  .pipe(z.email('That does not look like an e-mail address.'));

const claimForm = z.object({
  email,
  password: z.string().min(10, 'Use at least 10 characters.').max(200, 'Use at most 200 characters.'),
  name: line('a name', 80),
});

const signInForm = z.object({
  email,
  password: z.string().min(1, 'Type your password.').max(200, 'That is too long for a password.'),
});

/** Gives the guest's work an account. The row stays the same, so everything made so far is kept. */
export async function claimAccount(person: Person, form: FormData, address: string): Promise<void> {
  const input = read(claimForm, form);
  if (!can(person, 'claim')) throw new Invalid({ form: 'This work has an account already.' });
  const key = limitKey('address', address);
  await checkLimit(db(), 'sign-up', [{ key, max: SIGN_UP.perAddress }], SIGN_UP.minutes);
  await store.noteAttempt(db(), 'sign-up', key);
  const passwordHash = await hash(input.password, ARGON);
  try {
    if (!(await store.claim(db(), person.id, input.email, passwordHash, input.name)))
      throw new Invalid({ form: 'This work has an account already.' });
  } catch (error) {
    if ((error as { code?: string }).code === '23505')
      throw new Invalid({
        email: 'There is an account with this e-mail. Sign in instead: what you made here goes along.',
      });
    throw error;
  }
}

export const accountExists = async (address: string): Promise<boolean> =>
  (await store.credentialsOf(db(), address)) !== undefined;

/** A hash to verify against when there is no such account, so that both answers take the same time. */
let decoy: Promise<string> | undefined;

/**
 * Opens a session. The answer does not say whether the e-mail or the password was wrong. What was made as a guest on this
 * device goes along to the account.
 */
export async function signIn(form: FormData, address: string, guest?: Person): Promise<string> {
  const input = read(signInForm, form);
  const emailKey = limitKey('email', input.email);
  const addressKey = limitKey('address', address);
  // The try is counted before the password is looked at, under a lock: many at once do not all slip through.
  await transaction(async (q) => {
    for (const key of [emailKey, addressKey].sort()) await store.lockKey(q, key);
    await checkLimit(
      q,
      'sign-in',
      [
        { key: emailKey, max: SIGN_IN.perEmail },
        { key: addressKey, max: SIGN_IN.perAddress },
      ],
      SIGN_IN.minutes,
    );
    await store.noteAttempt(q, 'sign-in', emailKey);
    await store.noteAttempt(q, 'sign-in', addressKey);
  });
  const account = await store.credentialsOf(db(), input.email);
  decoy ??= hash(randomBytes(16).toString('hex'), ARGON);
  const right = await verify(account?.password_hash ?? (await decoy), input.password);
  if (!account || !right) throw new Invalid({ form: 'E-mail and password do not match.' });
  await store.forgetAttempts(db(), 'sign-in', emailKey);
  if (guest && guest.email === null) await transaction((q) => store.handOver(q, guest.id, account.id));
  return openSession(account.id);
}

export const formerSelves = (person: Person): Promise<string[]> => store.formerSelves(db(), person.id);

export async function signOut(token: string | undefined): Promise<void> {
  if (token) await store.deleteSession(db(), digest(token));
}

const unitsForm = z.object({ length: z.enum(['mm', 'in']), temperature: z.enum(['C', 'F']).default('C') });

export async function chooseUnits(person: Person, form: FormData): Promise<void> {
  const { length, temperature } = read(unitsForm, form);
  await store.setUnits(db(), person.id, length, temperature);
}

const deleteForm = z.object({
  password: z.string().max(200).default(''),
  sure: z.literal('yes', 'Tick that you are sure.'),
});

/** Deletes an account: the person goes, the evidence stays without a name. Said before, and the password asked for. */
export async function deleteAccount(person: Person, form: FormData, address: string): Promise<void> {
  const input = read(deleteForm, form);
  const account = person.email ? await store.credentialsOf(db(), person.email) : undefined;
  if (!account) throw new Invalid({ form: 'There is no account to delete.' });
  const key = limitKey('address', address);
  await checkLimit(db(), 'sign-in', [{ key, max: SIGN_IN.perAddress }], SIGN_IN.minutes);
  await store.noteAttempt(db(), 'sign-in', key);
  if (!(await verify(account.password_hash, input.password)))
    throw new Invalid({ password: 'That is not your password. Nothing was deleted.' });
  await transaction((q) => store.erase(q, person.id));
}

export const leftBehind = (person: Person) => store.leftBehind(db(), person.id);

/** Whether somebody's private grades may, nameless, improve translations. */
export const setLends = (person: Person, lends: boolean) => store.setLends(db(), person.id, lends);

export const sweepSessions = () => store.deleteOldSessions(db());
