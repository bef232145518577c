import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  behaviourFor,
  vinylTypeKeys,
  vinylTypes,
  wantedOfType,
  type Behaviour,
  type VinylTypeKey,
} from '#core/vinyls/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { line } from '#work/base/text.ts';
import { byId, owned } from '#work/people/owned.ts';

export type Named = {
  id: string;
  brand: string;
  name: string;
  type: VinylTypeKey;
  /** What its type is called: a type of somebody's own bears its own word. */
  typeWord: string;
  colour: { id: string; name: string; hex: string } | undefined;
  own: boolean;
};
export type Vinyl = Named & {
  /** How it lies, cuts and presses: its type, a type of one's own, and what is said of it. */
  behaviour: Behaviour;
  /** What somebody noted of it. */
  note: string;
};

export const named = (row: store.VinylRow, person: Person | undefined): Named => ({
  id: row.id,
  brand: row.brand,
  name: row.name,
  type: row.type as VinylTypeKey,
  typeWord: row.own_word ?? vinylTypes[row.type as VinylTypeKey].word,
  colour: row.colour_id ? { id: row.colour_id, name: row.colour!, hex: row.hex! } : undefined,
  own: row.person_id === person?.id,
});
export const behaviourOfRow = (row: store.VinylRow): Behaviour =>
  behaviourFor(row.type as VinylTypeKey, row.own_behaviour ?? undefined, row.behaviour);

export const hexForm = z
  .string()
  .regex(/^#[0-9a-fA-F]{6}$/, 'Choose a colour.')
  .transform((s) => s.toLowerCase());

/** A type as a form states it: a shipped one by its key, one of one's own by "own:" and its id. */
export const typeChoice = (own: readonly store.OwnTypeRow[]) =>
  z.string('Choose what type it is.').transform((said, context) => {
    const key = vinylTypeKeys.find((k) => k === said);
    if (key) return { type: key, ownType: null };
    const mine = own.find((t) => `own:${t.id}` === said);
    if (mine) return { type: mine.parent as VinylTypeKey, ownType: mine.id };
    context.addIssue({ code: 'custom', message: 'Choose what type it is.' });
    return z.NEVER;
  });

/** The names of vinyls by their ids. */
export const namedVinyls = async (person: Person | undefined, ids: readonly string[]): Promise<Named[]> =>
  (await store.vinylsByIds(db(), ids)).map((row) => named(row, person));

export async function addVinyl(
  person: Person,
  form: FormData | Record<string, unknown>,
  visibility = 'private',
): Promise<string> {
  const input = read(
    z.object({
      brand: line('the brand', 80, { optional: true }),
      name: line('the vinyl’s name', 120),
      type: typeChoice(await store.ownTypes(db(), person.id)),
      colour: line('a colour', 80),
      hex: hexForm,
    }),
    form,
  );
  await enforceQuota(person, 'vinyls');
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertVinyl(q, {
      id,
      brand: input.brand,
      name: input.name,
      ...input.type,
      personId: person.id,
      visibility,
    });
    await store.insertColour(q, { id: uuidv7(), vinylId: id, name: input.colour, hex: input.hex });
  });
  return id;
}

/** The row of a vinyl a person may see; an entry that was merged into another answers as that other one. */
export const vinylRow = (person: Person | undefined, id: string): Promise<store.VinylRow> =>
  owned(person, 'see', 'vinyl', id, (it) => store.vinylById(db(), it));

/** A vinyl a person may see, in one of its colours: the first when none is named, or one that is not its own. */
export async function vinylOf(person: Person | undefined, id: string, colourId?: string): Promise<Vinyl> {
  const row = await vinylRow(person, id);
  const colour = colourId === undefined ? undefined : await byId(colourId, (it) => store.colourIn(db(), row.id, it));
  const vinyl = named(row, person);
  return { ...vinyl, colour: colour ?? vinyl.colour, behaviour: behaviourOfRow(row), note: row.note };
}
export const throughTypes = vinylTypeKeys.filter((t) => wantedOfType(t) === 'through');

/**
 * The ids of a search, the best fit first: words as they stand, and what they may have meant where nothing bears them, or
 * always when that is asked for.
 */
export async function foundIds(
  person: Person | undefined,
  search: string,
  limit: number,
  thorough = false,
): Promise<string[]> {
  const words = searchWords(search);
  if (words.length === 0) return [];
  const me = person?.id ?? NOBODY;
  const exact = thorough ? [] : await store.foundVinyls(db(), me, words, false, limit);
  return exact.length > 0 ? exact : store.foundVinyls(db(), me, words, true, limit);
}

export async function pinVinyl(person: Person, id: string, pinned: boolean): Promise<void> {
  const row = await vinylRow(person, id);
  await store.setPin(db(), person.id, row.id, pinned);
}

export const isPinned = (person: Person | undefined, vinylId: string): Promise<boolean> =>
  person ? store.isPinned(db(), person.id, vinylId) : Promise.resolve(false);
