import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { columns, readRow, type ReadContext } from '#core/catalogue/index.ts';
import {
  behaviourFor,
  onlyDifferent,
  vinylTypeKeys,
  vinylTypes,
  type Overrides,
  type VinylTypeKey,
} from '#core/vinyls/index.ts';
import { alreadyThere, db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { line } from '#work/base/text.ts';

export type OwnType = { id: string; word: string; parent: VinylTypeKey; behaviour: Overrides; vinyls: number };
export const ownTypesOf = async (person: Person | undefined): Promise<OwnType[]> =>
  person ? ((await store.ownTypes(db(), person.id)) as OwnType[]) : [];

/** Types a person may name in a file: their own by its word. */
export const readContext = async (person: Person): Promise<ReadContext> => ({
  ownTypes: new Map((await ownTypesOf(person)).map((t) => [t.word.toLowerCase(), t.parent])),
});

/** Columns that the page of a vinyl asks for in fields of its own. */
export const ownFields = new Set(['brand', 'name', 'type', 'colours']);

/** A type of one's own, with what it does otherwise than the one it inherits from. */
export async function addOwnType(person: Person, form: FormData): Promise<string> {
  const input = read(
    z.object({
      word: line('a word for the type', 40).refine(
        (w) => !vinylTypeKeys.some((k) => k === w.toLowerCase() || vinylTypes[k].word === w.toLowerCase()),
        { message: 'There is a type of that name already.' },
      ),
      parent: z.enum(vinylTypeKeys, 'Choose the type it is like.'),
    }),
    form,
  );
  const cells = Object.fromEntries(columns.map((c) => [c.key, String(form.get(c.key) ?? '')]));
  await needRoom(person, 'types');
  const answer = readRow({ ...cells, brand: '', name: 'x', type: input.parent, colours: '' }, { ownTypes: new Map() });
  if (!answer.record) throw new Invalid(Object.fromEntries(answer.problems.map((p) => [p.column, `This ${p.why}.`])));
  const id = uuidv7();
  try {
    await store.insertOwnType(db(), {
      id,
      personId: person.id,
      word: input.word,
      parent: input.parent,
      behaviour: onlyDifferent(behaviourFor(input.parent), answer.record.behaviour),
    });
  } catch (error) {
    if (alreadyThere(error)) throw new Invalid({ word: 'You have a type of that name already.' });
    throw error;
  }
  return id;
}

/** Columns that a type of one's own may say something about. */
export const typeFields = columns
  .filter((c) => !ownFields.has(c.key) && !['nicknames', 'codes', 'sizes', 'note'].includes(c.key))
  .map(({ key, word, about }) => ({ key, word, about }));
