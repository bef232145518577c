import { z } from 'zod';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { can } from './permissions.ts';
import type { Person } from './person.ts';

/** Whether a text is an id: what stands in an address or a form may be anything. */
export const isId = (text: string): boolean => z.uuid().safeParse(text).success;

/** The row of an id that somebody sent; undefined for what is no id. */
export const byId = async <R>(id: string, look: (id: string) => Promise<R | undefined>): Promise<R | undefined> =>
  isId(id) ? look(id) : undefined;

/**
 * The row of an id that somebody sent, where they may do something with it. What is not theirs looks like what is not there.
 * @param what as it is said: "cutter"
 * @throws NotFound
 */
export async function owned<R extends { person_id: string | null; visibility?: string }>(
  person: Person | undefined,
  verb: 'see' | 'change',
  what: string,
  id: string,
  look: (id: string) => Promise<R | undefined>,
): Promise<R> {
  const row = await byId(id, look);
  const thing = row && { owner: row.person_id ?? '', ...(row.visibility ? { visibility: row.visibility } : {}) };
  if (!row || !can(person, verb, thing)) throw new NotFound(`No such ${what}.`);
  return row;
}

/** Whether somebody has an account, for what bears a name. @param why what the account is for @throws Invalid at the form */
export function needAccount(person: Person, why: string): void {
  if (!can(person, 'share')) throw new Invalid({ form: `Make an account first: ${why}.` });
}
