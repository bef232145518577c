import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { strengthAxis, type Setting } from '#core/controls/index.ts';
import {
  behaviourFor,
  vinylTypeKeys,
  vinylTypes,
  wantedOfType,
  type Behaviour,
  type VinylTypeKey,
} from '#core/vinyls/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import { shownFit, type ShownFit } from '#core/window/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { typeReading } from '#work/coupons/readings.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { line } from '#work/base/text.ts';
import { translationsFor } from '#work/shelf/translate.ts';
import type { Bench } from '#work/workshop/workshop.ts';

type Named = {
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
};

const named = (row: store.VinylRow, person: Person | undefined): Named => ({
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
  await needRoom(person, 'vinyls');
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
export async function vinylRow(person: Person | undefined, id: string): Promise<store.VinylRow> {
  const row = z.uuid().safeParse(id).success ? await store.vinylById(db(), id) : undefined;
  if (!row || !can(person, 'see', { owner: row.person_id, visibility: row.visibility }))
    throw new NotFound('No such vinyl.');
  return row;
}

/** A vinyl a person may see, in one of its colours: the first when none is named, or one that is not its own. */
export async function vinylOf(person: Person | undefined, id: string, colourId?: string): Promise<Vinyl> {
  const row = await vinylRow(person, id);
  const colour =
    colourId && z.uuid().safeParse(colourId).success ? await store.colourIn(db(), row.id, colourId) : undefined;
  const vinyl = named(row, person);
  return { ...vinyl, colour: colour ?? vinyl.colour, behaviour: behaviourOfRow(row) };
}

/** Where a number comes from: one's own cells, others on the same cutter model, others on theirs, or the type alone. */
export type From = 'here' | 'others' | 'translated' | 'type';

export type VinylRow = Named & {
  /** The current reading for the cutter on the bench. */
  result: ShownFit | undefined;
  from: From;
  crafters: number;
  kept: number | undefined;
  /** The whole setting that is kept. */
  controls: Setting | undefined;
  standing: string | undefined;
  adopted: boolean;
  pinned: boolean;
};

export const NOBODY = '00000000-0000-0000-0000-000000000000';
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

/**
 * The vinyls a person sees, for the cutter on their bench: those that fit a search, or without one what is in hand, pinned first,
 * then used last first, then what everybody may see. Reads rows only; a type never read on this model is fitted once.
 */
export async function listVinyls(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
  limit = 60,
): Promise<VinylRow[]> {
  if (search.trim() !== '') return vinylRows(person, bench, await foundIds(person, search, limit));
  const mine = person ? await store.myVinyls(db(), person.id, limit) : [];
  const open = mine.length < limit ? await store.openVinyls(db(), limit) : [];
  return vinylRows(person, bench, [...new Set([...mine, ...open])].slice(0, limit));
}

/**
 * Rows for vinyls by their ids, in that order.
 * @param patience how long to wait for types that were never read on the cutter, ms
 */
export async function vinylRows(
  person: Person | undefined,
  bench: Bench | undefined,
  ids: readonly string[],
  patience = PATIENCE,
): Promise<VinylRow[]> {
  if (ids.length === 0) return [];
  const [rows, translated] = await Promise.all([
    store.listedVinyls(
      db(),
      person?.id ?? NOBODY,
      bench ? { id: bench.cutter.id, model: bench.cutter.model.key, version: bench.cutter.model.version } : null,
      ids,
      throughTypes,
    ),
    translatedFor(bench, ids),
  ]);
  const missing = rows.filter((r) => !r.result && !r.shared && !translated(r)).map((r) => r.type as VinylTypeKey);
  const byType = bench ? await typesInTime(bench, [...new Set(missing)], patience) : new Map<VinylTypeKey, ShownFit>();
  const axis = bench && strengthAxis(bench.cutter.model);
  const list: VinylRow[] = [];
  for (const row of rows) {
    const vinyl = named(row, person);
    const own = row.result && row.result.evidence.cells > 0 ? row.result : undefined;
    const said = translated(row);
    const from: From = own ? 'here' : row.shared ? 'others' : said ? 'translated' : 'type';
    let result = own ?? row.shared ?? said?.shown ?? row.result ?? undefined;
    result ??= byType.get(vinyl.type);
    list.push({
      ...vinyl,
      // A row that was written before rows were made small.
      result: result && ('verdict' in result ? shownFit(result) : result),
      from,
      crafters: row.crafters ?? said?.crafters ?? 0,
      adopted: row.adopted,
      kept: axis && row.kept ? row.kept.steps[axis.key] : undefined,
      controls: row.kept ?? undefined,
      standing: row.standing ?? undefined,
      pinned: row.pinned,
    });
  }
  return list;
}

/** How long a list waits for types that were never read on a model, ms: what is not there by then is there next time. */
const PATIENCE = 1_200;

/** What is believed of types on the cutter on the bench, as far as it is there in time: no row of a list waits for a computation. */
async function typesInTime(
  bench: Bench,
  types: readonly VinylTypeKey[],
  patience: number,
): Promise<Map<VinylTypeKey, ShownFit>> {
  const found = new Map<VinylTypeKey, ShownFit>();
  if (types.length === 0) return found;
  const all = Promise.all(
    types.map((type) =>
      typeReading(bench.cutter.model, type).then(
        (reading) => void found.set(type, shownFit(reading)),
        // Too much to do just now, or too long: the row says nothing yet.
        () => undefined,
      ),
    ),
  );
  let late: NodeJS.Timeout | undefined;
  await Promise.race([all, new Promise((done) => (late = setTimeout(done, patience)))]);
  clearTimeout(late);
  return new Map(found);
}

/**
 * What others on other cutters found, in the terms of the cutter on the bench, for what each row's type is cut for; what only the type says
 * is left out.
 */
async function translatedFor(bench: Bench | undefined, ids: readonly string[]) {
  const [clean, through] = bench
    ? await Promise.all([translationsFor(bench, ids, 'clean'), translationsFor(bench, ids, 'through')])
    : [];
  return (row: { id: string; type: string }): Translated | undefined => {
    const said = (wantedOfType(row.type as VinylTypeKey) === 'through' ? through : clean)?.get(row.id)?.result;
    return said && said.basis !== 'type' ? said : undefined;
  };
}

export async function pinVinyl(person: Person, id: string, pinned: boolean): Promise<void> {
  const row = await vinylRow(person, id);
  await store.setPin(db(), person.id, row.id, pinned);
}

export const isPinned = (person: Person | undefined, vinylId: string): Promise<boolean> =>
  person ? store.isPinned(db(), person.id, vinylId) : Promise.resolve(false);
