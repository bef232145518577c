import { createHash, randomBytes } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { numberStyles } from '#core/units/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { whoAsks } from '#work/base/asking.ts';
import { read } from '#work/base/forms.ts';
import { countGuest } from './limits.ts';
import { happened } from '#work/base/log.ts';
import { quotas } from '#work/base/quotas.ts';
import { isSteward } from './stewards.ts';
import type { Person } from './person.ts';

export { SESSION_DAYS } from '#store/people/people.ts';

const withOffice = (row: store.PersonRow | undefined): Person | undefined => row && { ...row, steward: isSteward(row) };

/** What is kept of a secret that a browser or a letter carries: nobody comes back from it to the secret. */
export const digest = (secret: string): Buffer => createHash('sha256').update(secret).digest();
/** A secret of 256 bits, fit for a cookie or an address. */
export const newSecret = (): string => randomBytes(32).toString('base64url');

export async function personOfToken(token: string | undefined): Promise<Person | undefined> {
  if (!token || token.length > 100) return undefined;
  return withOffice(await store.personOfSession(db(), digest(token)));
}

export const personById = async (id: string): Promise<Person | undefined> =>
  withOffice(await store.personById(db(), id));

/** What a session runs on, in one word, from what the browser says of itself. */
const deviceWord = (agent: string): string =>
  /ipad|tablet/i.test(agent) ? 'a tablet' : /mobi|android|iphone/i.test(agent) ? 'a phone' : 'a computer';

/** Opens a session. Every change of standing opens a new one: what somebody knew of the old one is worth nothing. */
export async function openSession(personId: string): Promise<string> {
  const token = newSecret();
  await store.insertSession(db(), digest(token), personId, deviceWord(whoAsks()?.agent ?? ''));
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

/** A new guest with a session. @param wanted the time zone of their browser @throws TooMany from one address */
export async function becomeGuest(wanted = 'UTC'): Promise<{ person: Person; token: string }> {
  await countGuest();
  const id = uuidv7();
  const zone = knownZone(wanted);
  await store.insertGuest(db(), id, zone);
  const token = await openSession(id);
  return {
    person: { id, email: null, name: 'guest', zone, length_unit: 'mm', temperature_unit: 'C', number_style: 'point' },
    token,
  };
}

export const formerSelves = (person: Person): Promise<string[]> => store.formerSelves(db(), person.id);

export async function signOut(token: string | undefined): Promise<void> {
  if (token) happened('sign-out', await store.deleteSession(db(), digest(token)));
}

const preferencesForm = z.object({
  length: z.enum(['mm', 'in'], 'Choose millimetres or inches.'),
  temperature: z.enum(['C', 'F']).default('C'),
  numbers: z.enum(numberStyles).default('point'),
  zone: z
    .string()
    .max(64)
    .refine((zone) => zone === 'UTC' || knownZone(zone) !== 'UTC', { message: 'Choose a zone from the list.' })
    .optional(),
});

/** How things are said to a person: units, and the zone in which their days begin. */
export async function choosePreferences(person: Person, form: FormData): Promise<void> {
  const said = read(preferencesForm, form);
  await store.setPreferences(db(), person.id, { ...said, zone: said.zone ?? person.zone });
}

export const leftBehind = (person: Person) => store.leftBehind(db(), person.id);

/** Whether somebody's private grades may, nameless, improve translations. */
export const setLends = (person: Person, lends: boolean) => store.setLends(db(), person.id, lends);

export const sweepSessions = () => store.deleteOldSessions(db());
/** Guests that nobody came back to and that made nothing; links that nobody used. Answers how many guests went. */
export async function sweepGuests(): Promise<number> {
  await store.forgetLinks(db(), quotas.keptDays.link);
  return store.sweepGuests(db(), quotas.keptDays.emptyGuest, 500);
}
