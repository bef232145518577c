import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { columns, readRow, sayCell } from '#core/catalogue/index.ts';
import {
  behaviourFor,
  onlyDifferent,
  overridesSchema,
  vinylTypeKeys,
  vinylTypes,
  type Overrides,
  type VinylTypeKey,
} from '#core/vinyls/index.ts';
import { alreadyThere, db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { line } from '#work/base/text.ts';
import { owned } from '#work/people/owned.ts';

export type OwnType = {
  id: string;
  word: string;
  parent: VinylTypeKey;
  behaviour: Overrides;
  vinyls: number;
  away: boolean;
};
export const ownTypesOf = async (person: Person | undefined): Promise<OwnType[]> =>
  person ? ((await store.ownTypes(db(), person.id)) as OwnType[]) : [];

/** Columns that the page of a vinyl asks for in fields of its own. */
export const ownFields = new Set(['brand', 'name', 'type', 'colours']);

const wordForm = z.object({
  word: line('a word for the type', 40).refine(
    (w) => !vinylTypeKeys.some((k) => k === w.toLowerCase() || vinylTypes[k].word === w.toLowerCase()),
    { message: 'There is a type of that name already.' },
  ),
});

/** What a form says a type does otherwise than the one it inherits from. @throws Invalid with a message a field */
function behaviourIn(form: FormData, parent: VinylTypeKey): Overrides {
  const cells = Object.fromEntries(columns.map((c) => [c.key, String(form.get(c.key) ?? '')]));
  const answer = readRow({ ...cells, brand: '', name: 'x', type: parent, colours: '' }, { ownTypes: new Map() });
  if (!answer.record) throw new Invalid(Object.fromEntries(answer.problems.map((p) => [p.column, `This ${p.why}.`])));
  return onlyDifferent(behaviourFor(parent), answer.record.behaviour);
}

const nameTaken = (error: unknown): unknown =>
  alreadyThere(error) ? new Invalid({ word: 'You have a type of that name already.' }) : error;

/** A type of one's own, with what it does otherwise than the one it inherits from. */
export async function addOwnType(person: Person, form: FormData): Promise<string> {
  const { word, parent } = read(
    wordForm.extend({ parent: z.enum(vinylTypeKeys, 'Choose the type it is like.') }),
    form,
  );
  const behaviour = behaviourIn(form, parent);
  await enforceQuota(person, 'types');
  const id = uuidv7();
  await store.insertOwnType(db(), { id, personId: person.id, word, parent, behaviour }).catch((error: unknown) => {
    throw nameTaken(error);
  });
  return id;
}

/** What a type says, field by field, to show what follows from it. */
export function typeSays(row: { type: string; own_behaviour: Overrides | null }): Overrides {
  const b = behaviourFor(row.type as VinylTypeKey, row.own_behaviour ?? undefined);
  const keys = Object.keys(overridesSchema.shape) as (keyof Overrides)[];
  return Object.fromEntries(keys.flatMap((k) => (b[k] === undefined ? [] : [[k, b[k]]]))) as Overrides;
}

const ownType = (person: Person, id: string) =>
  owned(person, 'change', 'type', id, (it) => store.ownTypeById(db(), it));

/** A type of one's own as its form shows it: its word, what it is like, and what it says, a field a column. */
export async function ownTypeOf(person: Person, id: string) {
  const row = await ownType(person, id);
  const record = {
    brand: '',
    name: 'x',
    type: row.parent as VinylTypeKey,
    ownType: '',
    colours: [],
    nicknames: [],
    codes: [],
    behaviour: row.behaviour,
    sizes: [],
    note: '',
  };
  const parent = { ...record, behaviour: typeSays({ type: row.parent, own_behaviour: null }) };
  return {
    word: row.word,
    parent: row.parent as VinylTypeKey,
    fields: columns
      .filter((c) => typeFields.some((f) => f.key === c.key))
      .map((c) => ({ key: c.key, word: c.word, about: c.about, said: c.write(record), type: sayCell(c, parent) })),
  };
}

/** Says a type right. What it is like stays: its vinyls are read by that. */
export async function correctOwnType(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownType(person, id);
  const { word } = read(wordForm, form);
  const behaviour = behaviourIn(form, row.parent as VinylTypeKey);
  await store.updateOwnType(db(), { id, word, behaviour }).catch((error: unknown) => {
    throw nameTaken(error);
  });
}

/** Columns that a type of one's own may say something about. */
export const typeFields = columns
  .filter((c) => !ownFields.has(c.key) && !['nicknames', 'codes', 'sizes', 'note'].includes(c.key))
  .map(({ key, word, about }) => ({ key, word, about }));
