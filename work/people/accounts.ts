import { hash } from '@node-rs/argon2';
import { z } from 'zod';
import { afterCommit, alreadyThere, db, transaction } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { inBackground } from '#work/base/asking.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { limitKey } from './limits.ts';
import { happened, log } from '#work/base/log.ts';
import { quotas } from '#work/base/quotas.ts';
import { sendLetter } from './mail.ts';
import { commonPassword } from './passwords.ts';
import { digest, newSecret, openSession } from './people.ts';
import type { Person } from './person.ts';
import { can } from './permissions.ts';
import { line } from '#work/base/text.ts';
import { inTurn } from '#work/base/fairLimiter.ts';
import { oldPassword, triesOf, tried, ARGON, confirmPassword } from './tries.ts';
import { type Site, countLetter, sendToNewAddress, linkOf, sendLink } from './links.ts';

const email = z
  .string()
  .trim()
  .max(254, 'That e-mail address is too long.')
  .pipe(z.email('That does not look like an e-mail address.'));

const newPassword = z
  .string()
  .min(10, 'Use at least 10 characters.')
  .max(200, 'Use at most 200 characters.')
  .refine((p) => !commonPassword(p), {
    message: 'That is one of the first that somebody would try. Take three or four words that do not belong together.',
  });

const askForm = z.object({ email, name: line('a name', 80) });
/** The part before the @ is the first thing that is tried. */
const notTheAddress = (password: string, mail: string): boolean =>
  mail.split('@')[0]!.length < 4 || !password.toLowerCase().includes(mail.split('@')[0]!.toLowerCase());
const OWN_ADDRESS = 'Do not use your address in your password.';
const claimForm = askForm
  .extend({ password: newPassword })
  .refine((f) => notTheAddress(f.password, f.email), { path: ['password'], message: OWN_ADDRESS });
const signInForm = z.object({ email, password: oldPassword });

export type SignedIn = { token: string; device: string };
/** A session, on a device that is known from now on. What was known or open longest ago goes where there is too much of it. */
async function arrive(accountId: string, device: string | undefined): Promise<SignedIn> {
  const known = device && device.length >= 20 ? device : newSecret();
  await store.knowDevice(db(), accountId, digest(known), quotas.devices);
  const token = await openSession(accountId);
  await store.dropOldestSessions(db(), accountId, quotas.sessions);
  return { token, device: known };
}

/**
 * Opens a session. The answer does not say whether the e-mail or the password was wrong. What was made as a guest on this
 * device goes along to the account; the guest's session ends.
 *
 * @throws Invalid, TooMany
 */
export async function signIn(
  form: FormData,
  address: string,
  guest?: Person,
  { device, token }: { device?: string | undefined; token?: string | undefined } = {},
): Promise<SignedIn> {
  const input = read(signInForm, form);
  const account = await store.credentialsOf(db(), input.email);
  const tries = await triesOf(account?.id, address, input.email, device);
  if (!(await tried(tries, address, account?.password_hash, input.password))) {
    happened('sign-in refused', account?.id);
    throw new Invalid({ form: 'E-mail and password do not match.' });
  }
  return transaction(async (q) => {
    // The address keeps its count: whoever has one account here could otherwise try others without end.
    for (const { key } of tries)
      if (key !== limitKey('address', address)) await store.forgetAttempts(q, 'sign-in', key);
    if (guest && guest.email === null) await store.handOver(q, guest.id, account!.id);
    // One browser has one session: the one before is nobody's now.
    if (token) await store.deleteSession(q, digest(token));
    happened('sign-in', account!.id);
    return arrive(account!.id, device);
  }, inTurn);
}

/**
 * Asks for an account for a guest's work. Nothing is changed yet: a letter goes out, and its link makes the account. Whether the address has
 * an account already is said in the letter alone, to whoever reads that mail. Its password is chosen there too: whoever asks here may not be
 * who reads that mail.
 *
 * @throws Invalid, TooMany
 */
export async function askForAccount(person: Person, form: FormData, address: string, site: Site): Promise<void> {
  const input = read(askForm, form);
  if (!can(person, 'claim')) throw new Invalid({ form: 'This work has an account already.' });
  await countLetter(input.email, address);
  await sendToNewAddress(site, { person_id: person.id, kind: 'claim', email: input.email, name: input.name });
}

/**
 * Gives a guest's work an account at once, without a letter: for whoever runs the server, the demo and tests. The row stays the same, so
 * everything made so far is kept; the guest's sessions end.
 */
export async function claimAccount(person: Person, form: FormData): Promise<SignedIn> {
  const input = read(claimForm, form);
  const passwordHash = await hash(input.password, ARGON);
  return transaction(() => settle(person.id, input.email, input.name, passwordHash, undefined));
}

async function settle(
  personId: string,
  mail: string,
  name: string,
  passwordHash: string,
  device: string | undefined,
): Promise<SignedIn> {
  try {
    if (!(await transaction((q) => store.claim(q, personId, mail, passwordHash, name))))
      throw new Invalid({ form: 'This work has an account already.' });
  } catch (error) {
    if (alreadyThere(error)) throw new Invalid({ email: 'This address has an account by now. Sign in instead.' });
    throw error;
  }
  await store.endSessions(db(), personId);
  happened('account claimed', personId);
  happened('address proven', personId);
  return arrive(personId, device);
}

/** The password that is chosen on the page of a link; undefined where its kind asks for none. */
function chosenPassword(kind: store.LinkKind, mail: string, form: FormData): string | undefined {
  if (kind !== 'recover' && kind !== 'claim') return undefined;
  const { password } = read(z.object({ password: newPassword }), form);
  if (!notTheAddress(password, mail)) throw new Invalid({ password: OWN_ADDRESS });
  return password;
}

/**
 * Uses a link that came by mail: once. Whoever has it reads the mail of that address.
 * @throws NotFound where it was used, or its time is over; Invalid
 */
export async function followLink(token: string, form: FormData, device: string | undefined): Promise<SignedIn> {
  const gone = () => new NotFound('This link was used already, or its time is over.');
  const seen = await linkOf(token);
  if (!seen) throw gone();
  const password = chosenPassword(seen.kind, seen.email, form);
  const passwordHash = password === undefined ? undefined : await hash(password, ARGON);
  return transaction(async (q) => {
    // Read again under the lock of its use: of two at one moment one comes first.
    if (!(await store.useLink(q, digest(token)))) throw gone();
    const { person_id: id } = seen;
    switch (seen.kind) {
      case 'claim':
        return settle(id, seen.email, seen.name!, passwordHash!, device);
      case 'prove':
        await store.setProven(q, id, seen.email);
        break;
      case 'change':
        try {
          await transaction((inner) => store.setEmail(inner, id, seen.email));
        } catch (error) {
          if (alreadyThere(error))
            throw new Invalid({ form: 'This address has an account of its own by now. Nothing was changed.' });
          throw error;
        }
        await store.dropLinks(q, id, ['recover', 'prove']);
        happened('address changed', id);
        break;
      case 'recover':
        await store.setPassword(q, id, passwordHash!);
        await store.setProven(q, id, seen.email);
        await store.forgetDevices(q, id);
        await store.dropLinks(q, id, ['recover', 'change']);
        happened('password changed', id);
        break;
    }
    happened('address proven', id);
    happened('sessions ended', id, { n: await store.endSessions(q, id) });
    return arrive(id, device);
  }, inTurn);
}

/**
 * Sends a link for a new password. Whether there is such an account is looked up after the answer: the answer is the same and takes as long
 * either way.
 */
export async function forgotPassword(form: FormData, address: string, site: Site): Promise<void> {
  const { email: to } = read(z.object({ email }), form);
  await countLetter(to, address);
  const later = () =>
    sendRecovery(to, site).catch((error: Error) =>
      log.warn({ event: 'letter not sent', kind: 'recover' }, error.message),
    );
  inBackground(() => setTimeout(() => void later(), AFTER_THE_ANSWER).unref());
}
/** By then an answer has left, ms. */
const AFTER_THE_ANSWER = 200;

async function sendRecovery(to: string, site: Site): Promise<void> {
  const account = await store.credentialsOf(db(), to);
  if (!account) return;
  happened('password forgotten', account.id);
  await transaction(() => sendLink(site, { person_id: account.id, kind: 'recover', email: to }), inTurn);
}

/** Sends the link again that proves the address of an account. */
export async function proveAddress(person: Person, address: string, site: Site): Promise<void> {
  if (!person.email) throw new Invalid({ form: 'There is no account.' });
  await countLetter(person.email, address);
  await sendLink(site, { person_id: person.id, kind: 'prove', email: person.email });
}

/** Changes the password: all other sessions end, this one is a new one. */
export async function changePassword(
  person: Person,
  form: FormData,
  address: string,
  device?: string,
): Promise<SignedIn> {
  const input = read(z.object({ 'old-password': oldPassword, password: newPassword }), form);
  if (input['old-password'] === input.password) throw new Invalid({ password: 'That is the one you have.' });
  const account = await confirmPassword(person, input['old-password'], 'old-password', address, device);
  const passwordHash = await hash(input.password, ARGON);
  return transaction(async (q) => {
    await store.setPassword(q, account.id, passwordHash);
    await store.dropLinks(q, account.id, ['recover', 'change']);
    happened('password changed', account.id);
    happened('sessions ended', account.id, { n: await store.endSessions(q, account.id) });
    return arrive(account.id, device);
  }, inTurn);
}

/** Asks for another address: the link goes to the new one, and the old one hears of it. */
export async function changeAddress(
  person: Person,
  form: FormData,
  address: string,
  site: Site,
  device?: string,
): Promise<void> {
  const input = read(z.object({ email, 'old-password': oldPassword }), form);
  await confirmPassword(person, input['old-password'], 'old-password', address, device);
  await countLetter(input.email, address);
  await transaction(async () => {
    await sendToNewAddress(site, { person_id: person.id, kind: 'change', email: input.email });
    await afterCommit(() => sendLetter({ kind: 'changing', to: person.email!, link: `${site}/account`, hours: 0 }));
  }, inTurn);
}

const deleteForm = z.object({
  password: z.string().max(200).default(''),
  sure: z.literal('yes', 'Tick that you are sure.'),
});

/** Deletes an account: the person goes, the evidence stays without a name. Said before, and the password asked for. */
export async function deleteAccount(person: Person, form: FormData, address: string, device?: string): Promise<void> {
  const input = read(deleteForm, form);
  const account = await confirmPassword(person, input.password, 'password', address, device);
  await transaction((q) => store.erase(q, account.id), inTurn);
  happened('account deleted', account.id);
}

export const accountExists = async (mail: string): Promise<boolean> =>
  (await store.credentialsOf(db(), mail)) !== undefined;
