import { hash, verify } from '@node-rs/argon2';
import { z } from 'zod';
import { afterCommit, alreadyThere, db, transaction } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { Invalid, NotFound, TooMany } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { countUnder, limitKey, noteUnless } from './limits.ts';
import { happened } from '#work/base/log.ts';
import { sendLetter, type Letter } from './mail.ts';
import { commonPassword } from './passwords.ts';
import { digest, newSecret, openSession, type Person } from './people.ts';
import { can } from './permissions.ts';
import { line } from '#work/base/text.ts';

/** OWASP Password Storage Cheat Sheet (2024): argon2id with 19 MiB, two passes, one lane. The library's default kind is argon2id. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

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
/** Letters that one address may have sent, and that may go to one person, in an hour. */
const LETTERS = { minutes: 60, perAddress: 20, perEmail: 5 };
/** Hours a link may be used. */
const HOURS: Record<store.LinkKind, number> = { claim: 48, prove: 48, change: 48, recover: 1 };

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
const oldPassword = z.string().min(1, 'Type your password.').max(200, 'That is too long for a password.');

const claimForm = z.object({ email, password: newPassword, name: line('a name', 80) }).refine(
  // The part before the @ is the first thing that is tried.
  (f) => !f.password.toLowerCase().includes(f.email.split('@')[0]!.toLowerCase()) || f.email.split('@')[0]!.length < 4,
  { path: ['password'], message: 'Do not use your address in your password.' },
);
const signInForm = z.object({ email, password: oldPassword });

/** A hash to verify against when there is no such account, so that both answers take the same time. */
let decoy: Promise<string> | undefined;
async function matches(passwordHash: string | undefined, password: string): Promise<boolean> {
  decoy ??= hash(newSecret(), ARGON);
  const right = await verify(passwordHash ?? (await decoy), password);
  return right && passwordHash !== undefined;
}

type Tries = { key: string; free: number; thenEverySeconds: number };
/** Counts a try before the password is looked at. @throws TooMany */
const countTry = (tries: Tries[]): Promise<void> =>
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
async function triesOf(account: string | undefined, address: string, mail: string, device: string | undefined) {
  const known = account && device ? await store.knowsDevice(db(), account, digest(device)) : false;
  if (known) return [{ key: limitKey('device', `${account} ${device}`), ...TRIES.perDevice }];
  return [
    { key: limitKey('email', mail), ...TRIES.perEmail },
    { key: limitKey('address', address), ...TRIES.perAddress },
  ];
}

export type SignedIn = { token: string; device: string };
/** A session, on a device that is known from now on. */
async function arrive(accountId: string, device: string | undefined): Promise<SignedIn> {
  const known = device && device.length >= 20 ? device : newSecret();
  await store.knowDevice(db(), accountId, digest(known));
  return { token: await openSession(accountId), device: known };
}

/**
 * Opens a session. The answer does not say whether the e-mail or the password was wrong. What was made as a guest on this
 * device goes along to the account; the guest's session ends.
 *
 * @throws Invalid, TooMany
 */
export async function signIn(form: FormData, address: string, guest?: Person, device?: string): Promise<SignedIn> {
  const input = read(signInForm, form);
  const account = await store.credentialsOf(db(), input.email);
  const tries = await triesOf(account?.id, address, input.email, device);
  await countTry(tries);
  if (!(await matches(account?.password_hash, input.password))) {
    happened('sign-in refused', account?.id);
    throw new Invalid({ form: 'E-mail and password do not match.' });
  }
  return transaction(async (q) => {
    // The address keeps its count: whoever has one account here could otherwise try others without end.
    for (const { key } of tries)
      if (key !== limitKey('address', address)) await store.forgetAttempts(q, 'sign-in', key);
    if (guest && guest.email === null) await store.handOver(q, guest.id, account!.id);
    happened('sign-in', account!.id);
    return arrive(account!.id, device);
  });
}

// Letters and links ---------------------------------------------------------------------------------------------------------

/** Where a link in a letter leads: the address of this site, as the request named it. */
export type Site = string;

/** Counts a letter for the address that asks and for the one it goes to, known or not. @throws TooMany */
const countLetter = (to: string, address: string): Promise<void> =>
  countUnder(
    'letter',
    [
      { key: limitKey('address', address), max: LETTERS.perAddress },
      { key: limitKey('letter', to), max: LETTERS.perEmail },
    ],
    LETTERS.minutes,
    `Too many tries. Wait ${LETTERS.minutes} minutes, then try again.`,
  );

type NewLink = Omit<store.LinkRow, 'name' | 'password_hash'> & Partial<store.LinkRow>;

/**
 * Makes a link and has it sent. Nobody waits for the letter: how long that takes would say whether there was one.
 * @param says the letter it goes with, where that is not named after the link
 */
async function sendLink(site: Site, link: NewLink, says: Letter['kind'] = link.kind): Promise<void> {
  const token = newSecret();
  await store.dropLinks(db(), link.person_id, [link.kind]);
  await store.insertLink(db(), {
    name: null,
    password_hash: null,
    ...link,
    tokenHash: digest(token),
    hours: HOURS[link.kind],
  });
  await afterCommit(() =>
    sendLetter({ kind: says, hours: HOURS[link.kind], to: link.email, link: `${site}/link/${token}` }),
  );
}

/** Sends a link to an address that is to become an account's; where it is one already, its own person is told, and nobody else. */
async function sendToNewAddress(site: Site, link: NewLink): Promise<void> {
  const taken = await store.credentialsOf(db(), link.email);
  if (taken) await sendLink(site, { person_id: taken.id, kind: 'recover', email: link.email }, 'taken');
  else await sendLink(site, link);
}

/**
 * Asks for an account for a guest's work. Nothing is changed yet: a letter goes out, and its link makes the account. Whether the address has
 * an account already is said in the letter alone, to whoever reads that mail.
 *
 * @throws Invalid, TooMany
 */
export async function askForAccount(person: Person, form: FormData, address: string, site: Site): Promise<void> {
  const input = read(claimForm, form);
  if (!can(person, 'claim')) throw new Invalid({ form: 'This work has an account already.' });
  await countLetter(input.email, address);
  const passwordHash = await hash(input.password, ARGON);
  await sendToNewAddress(site, {
    person_id: person.id,
    kind: 'claim',
    email: input.email,
    name: input.name,
    password_hash: passwordHash,
  });
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

const linkOf = (token: string) =>
  token.length >= 20 && token.length <= 100 ? store.openLink(db(), digest(token)) : Promise.resolve(undefined);

/** What a link is for, before it is used: looking at it changes nothing, since mail programs look as well. */
export async function seeLink(token: string): Promise<{ kind: store.LinkKind; email: string } | undefined> {
  const link = await linkOf(token);
  return link && { kind: link.kind, email: link.email };
}

const recoverForm = z.object({ password: newPassword });

/**
 * Uses a link that came by mail: once. Whoever has it reads the mail of that address.
 * @throws NotFound where it was used, or its time is over; Invalid
 */
export async function followLink(token: string, form: FormData, device: string | undefined): Promise<SignedIn> {
  const gone = () => new NotFound('This link was used already, or its time is over.');
  const seen = await linkOf(token);
  if (!seen) throw gone();
  const passwordHash = seen.kind === 'recover' ? await hash(read(recoverForm, form).password, ARGON) : undefined;
  return transaction(async (q) => {
    // Read again under the lock of its use: of two at one moment one comes first.
    if (!(await store.useLink(q, digest(token)))) throw gone();
    const { person_id: id } = seen;
    switch (seen.kind) {
      case 'claim':
        return settle(id, seen.email, seen.name!, seen.password_hash!, device);
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
  });
}

/** Sends a link for a new password. The answer is the same, and takes as long, whether there is such an account or not. */
export async function forgotPassword(form: FormData, address: string, site: Site): Promise<void> {
  const { email: to } = read(z.object({ email }), form);
  await countLetter(to, address);
  const account = await store.credentialsOf(db(), to);
  if (!account) return;
  happened('password forgotten', account.id);
  await transaction(() => sendLink(site, { person_id: account.id, kind: 'recover', email: to }));
}

/** Sends the link again that proves the address of an account. */
export async function proveAddress(person: Person, address: string, site: Site): Promise<void> {
  if (!person.email) throw new Invalid({ form: 'There is no account.' });
  await countLetter(person.email, address);
  await sendLink(site, { person_id: person.id, kind: 'prove', email: person.email });
}

/** The account behind a password that was typed once more. @throws Invalid at the field, TooMany */
async function confirmed(person: Person, password: string, field: string, address: string, device?: string) {
  const account = person.email ? await store.credentialsOf(db(), person.email) : undefined;
  if (!account) throw new Invalid({ form: 'There is no account.' });
  await countTry(await triesOf(account.id, address, person.email!, device));
  if (!(await matches(account.password_hash, password))) {
    happened('sign-in refused', account.id);
    throw new Invalid({ [field]: 'That is not your password. Nothing was changed.' });
  }
  return account;
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
  const account = await confirmed(person, input['old-password'], 'old-password', address, device);
  const passwordHash = await hash(input.password, ARGON);
  return transaction(async (q) => {
    await store.setPassword(q, account.id, passwordHash);
    await store.dropLinks(q, account.id, ['recover', 'change']);
    happened('password changed', account.id);
    happened('sessions ended', account.id, { n: await store.endSessions(q, account.id) });
    return arrive(account.id, device);
  });
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
  await confirmed(person, input['old-password'], 'old-password', address, device);
  await countLetter(input.email, address);
  await transaction(async () => {
    await sendToNewAddress(site, { person_id: person.id, kind: 'change', email: input.email });
    await afterCommit(() => sendLetter({ kind: 'changing', to: person.email!, link: `${site}/account`, hours: 0 }));
  });
}

// Sessions ------------------------------------------------------------------------------------------------------------------

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

const deleteForm = z.object({
  password: z.string().max(200).default(''),
  sure: z.literal('yes', 'Tick that you are sure.'),
});

/** Deletes an account: the person goes, the evidence stays without a name. Said before, and the password asked for. */
export async function deleteAccount(person: Person, form: FormData, address: string, device?: string): Promise<void> {
  const input = read(deleteForm, form);
  const account = await confirmed(person, input.password, 'password', address, device);
  await transaction((q) => store.erase(q, account.id));
  happened('account deleted', account.id);
}

export const accountExists = async (mail: string): Promise<boolean> =>
  (await store.credentialsOf(db(), mail)) !== undefined;
