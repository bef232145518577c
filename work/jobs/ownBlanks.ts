import { v7 as uuidv7 } from 'uuid';
import type { JobBlank } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { NotFound } from '#work/base/errors.ts';
import { isId } from '#work/people/owned.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';

export async function keepBlank(person: Person, name: string, blank: JobBlank): Promise<void> {
  // Kept again under its name it is measured anew.
  if (name === '' || (await store.updateBlank(db(), person.id, name, blank))) return;
  await enforceQuota(person, 'blanks');
  await store.insertBlank(db(), { id: uuidv7(), personId: person.id, name, blank });
}

/** Blanks a person keeps. */
export async function ownBlanks(person: Person | undefined) {
  return person ? (await store.blanksOf(db(), person.id, 100)).map(({ id, name, blank }) => ({ id, name, blank })) : [];
}
/** Puts a blank away that was kept, or takes it up again. @throws NotFound */
export async function setBlankAway(person: Person, id: string, away: boolean): Promise<void> {
  if (!isId(id) || !(await store.setBlankAway(db(), person.id, id, away))) throw new NotFound('No such blank.');
}
