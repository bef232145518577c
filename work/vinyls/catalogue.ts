import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { columns, readRow, sayCell, type CatalogueRecord, type ReadContext } from '#core/catalogue/index.ts';
import {
  behaviourFor,
  nameLikeness,
  onlyDifferent,
  overridesSchema,
  sameName,
  vinylTypeKeys,
  vinylTypes,
  type Overrides,
  type VinylTypeKey,
} from '#core/vinyls/index.ts';
import * as socialStore from '#store/shelf/social.ts';
import { alreadyThere, db, transaction } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { refreshReadings } from '#work/coupons/readings.ts';
import { refreshShared } from '#work/shelf/cards.ts';
import { ask } from '#work/base/queue.ts';
import { line, paragraph } from '#work/base/text.ts';
import { NOBODY, foundIds, hexForm, typeChoice, vinylRow, vinylRows, type VinylRow } from './vinyls.ts';

export type OwnType = { id: string; word: string; parent: VinylTypeKey; behaviour: Overrides; vinyls: number };
export const ownTypesOf = async (person: Person | undefined): Promise<OwnType[]> =>
  person ? ((await store.ownTypes(db(), person.id)) as OwnType[]) : [];

/** Types a person may name in a file: their own by its word. */
export const readContext = async (person: Person): Promise<ReadContext> => ({
  ownTypes: new Map((await ownTypesOf(person)).map((t) => [t.word.toLowerCase(), t.parent])),
});

/** A vinyl as it stands in the table. */
export const recordOf = (row: store.VinylRow, colours: readonly { name: string; hex: string }[]): CatalogueRecord => ({
  brand: row.brand,
  name: row.name,
  type: row.type as VinylTypeKey,
  ownType: row.own_word ?? '',
  colours: colours.map(({ name, hex }) => ({ name, hex })),
  nicknames: row.nicknames,
  codes: row.codes,
  behaviour: row.behaviour,
  sizes: row.sizes,
  note: row.note,
});

/** Columns that the page of a vinyl asks for in fields of its own. */
const ownFields = new Set(['brand', 'name', 'type', 'colours']);
/** What is said of one vinyl, a field a column, with what its type says where nothing is said. */
export type CatalogueField = { key: string; word: string; about: string; said: string; told: string; type: string };

export type CatalogueView = {
  id: string;
  brand: string;
  name: string;
  /** As a form states it: a shipped key, or "own:" and an id. */
  typeChoice: string;
  type: VinylTypeKey;
  own: boolean;
  fields: CatalogueField[];
  colours: store.ColourRow[];
  batches: (store.BatchRow & { mine: boolean; colour: string | undefined })[];
  /** Entries merged into this one; `mine` can be parted again by who merged them. */
  aliases: { id: string; name: string; mine: boolean }[];
  /** Entries of one's own that may be the same vinyl. */
  alike: { id: string; name: string }[];
};

const fullName = (v: { brand: string; name: string }) => [v.brand, v.name].filter(Boolean).join(' ');

/** Everything the catalogue holds of a vinyl. */
export async function catalogueOf(person: Person | undefined, id: string): Promise<CatalogueView> {
  const row = await vinylRow(person, id);
  const [colours, batches, aliases, alike] = await Promise.all([
    store.coloursOf(db(), row.id),
    store.batchesOf(db(), row.id, person?.id ?? NOBODY),
    store.aliasesOf(db(), row.id),
    person ? alikeVinyls(person, fullName(row), row.id) : [],
  ]);
  const said = recordOf(row, []);
  const fromType = { ...said, behaviour: typeSays(row) };
  return {
    id: row.id,
    brand: row.brand,
    name: row.name,
    typeChoice: row.own_type ? `own:${row.own_type}` : row.type,
    type: said.type,
    own: row.person_id === person?.id,
    fields: columns
      .filter((c) => !ownFields.has(c.key))
      .map((c) => ({
        key: c.key,
        word: c.word,
        about: c.about,
        said: c.write(said),
        told: sayCell(c, said),
        type: ['nicknames', 'codes', 'sizes', 'note'].includes(c.key) ? '' : sayCell(c, fromType),
      })),
    colours,
    batches: batches.map((b) => ({ ...b, colour: colours.find((c) => c.id === b.colour_id)?.name })),
    aliases: aliases.map((a) => ({ id: a.id, name: fullName(a), mine: a.person_id === person?.id })),
    alike: alike.filter((v) => v.own).map((v) => ({ id: v.id, name: fullName(v) })),
  };
}

/** What the type of a vinyl says, field by field, to show what follows from it. */
export function typeSays(row: Pick<store.VinylRow, 'type' | 'own_behaviour'>): Overrides {
  const b = behaviourFor(row.type as VinylTypeKey, row.own_behaviour ?? undefined);
  const keys = Object.keys(overridesSchema.shape) as (keyof Overrides)[];
  return Object.fromEntries(keys.flatMap((k) => (b[k] === undefined ? [] : [[k, b[k]]]))) as Overrides;
}

const ownVinyl = async (person: Person, id: string) => {
  const row = await vinylRow(person, id);
  if (!can(person, 'change', { owner: row.person_id })) throw new NotFound('No such vinyl.');
  return row;
};

/** Changes what is said of a vinyl. Fields left empty follow the type. @throws Invalid with a message a field */
export async function saveCatalogue(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownVinyl(person, id);
  const own = await store.ownTypes(db(), person.id);
  const input = read(
    z.object({
      brand: line('the brand', 80, { optional: true }),
      name: line('the vinyl’s name', 120),
      type: typeChoice(own),
    }),
    form,
  );
  const cells = Object.fromEntries(columns.map((c) => [c.key, String(form.get(c.key) ?? '')]));
  const answer = readRow(
    { ...cells, brand: '', name: 'x', type: input.type.type, colours: '' },
    { ownTypes: new Map() },
  );
  if (!answer.record) {
    const fields = Object.fromEntries(answer.problems.map((p) => [p.column, `This ${p.why}.`]));
    throw new Invalid(fields);
  }
  const { behaviour, nicknames, codes, sizes, note } = answer.record;
  const base = behaviourFor(input.type.type, own.find((t) => t.id === input.type.ownType)?.behaviour);
  // Further ways to press stand on the type; the form speaks of the first.
  const press = behaviour.press && [behaviour.press[0]!, ...base.press.slice(1)];
  await store.updateVinyl(db(), {
    id: row.id,
    brand: input.brand,
    name: input.name,
    ...input.type,
    behaviour: onlyDifferent(base, { ...behaviour, ...(press ? { press } : {}) }),
    nicknames,
    codes,
    sizes,
    note,
  });
  await readKinAgain(row.id);
}

/** The colours of a vinyl that a person sees, one of a name. */
export const coloursOf = (vinylId: string): Promise<store.ColourRow[]> => store.coloursOf(db(), vinylId);

/** A further colour of a vinyl. */
export async function addColour(person: Person, id: string, form: FormData): Promise<string> {
  const row = await ownVinyl(person, id);
  const input = read(z.object({ colour: line('a colour', 80), hex: hexForm }), form);
  const there = (await store.coloursOf(db(), row.id)).find((c) => c.name.toLowerCase() === input.colour.toLowerCase());
  if (there) throw new Invalid({ colour: `${there.name} is there already.` });
  const colourId = uuidv7();
  await store.insertColour(db(), { id: colourId, vinylId: row.id, name: input.colour, hex: input.hex });
  return colourId;
}

/** The batch of a label, made where it is new; undefined for an empty label. Anybody who sees a vinyl may name what they hold. */
export async function batchFor(
  person: Person,
  vinylId: string,
  colourId: string | undefined,
  label: string,
): Promise<string | undefined> {
  const said = read(z.object({ batch: line('a batch', 80, { optional: true }) }), { batch: label }).batch;
  if (said === '') return undefined;
  const row = await vinylRow(person, vinylId);
  const colour = colourId ? await store.colourIn(db(), row.id, colourId) : undefined;
  const batch = { id: uuidv7(), vinylId: row.id, colourId: colour?.id ?? null, label: said, personId: person.id };
  return (await store.batchOf(db(), batch)).id;
}

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

// Two entries of one vinyl --------------------------------------------------------------------------------------------------

/** Vinyls whose name is so like another that they may be the same, the likest first. */
export async function alikeVinyls(person: Person | undefined, name: string, except?: string): Promise<VinylRow[]> {
  if (name.trim().length < 3) return [];
  const ids = (await foundIds(person, name, 12, true)).filter((id) => id !== except);
  const rows = await vinylRows(person, undefined, ids);
  return rows
    .filter((v) => sameName(name, fullName(v)) || sameName(name, v.name))
    .sort((a, b) => nameLikeness(name, fullName(b)) - nameLikeness(name, fullName(a)))
    .slice(0, 3);
}

/**
 * Says that an entry of one's own is the same vinyl as another one. Nothing is rewritten: the evidence of both is read as one,
 * and parting them again leaves each with its own.
 */
export async function mergeVinyls(person: Person, aliasId: string, intoId: string): Promise<string> {
  const into = await vinylRow(person, intoId);
  const entry = z.uuid().safeParse(aliasId).success ? await store.entryById(db(), aliasId) : undefined;
  if (!entry || !(can(person, 'change', { owner: entry.person_id }) || can(person, 'keep order')))
    throw new NotFound('No such vinyl.');
  await transaction(async (q) => {
    await store.lockAliases(q);
    const [root, target] = [await store.rootOf(q, entry.id), await store.rootOf(q, into.id)];
    if (root === target) throw new Invalid({ form: 'These two are one vinyl already.' });
    if (root !== entry.id) throw new Invalid({ form: 'This entry was merged into another before. Part them first.' });
    await store.insertAlias(q, entry.id, target, person.id);
  });
  await readKinAgain(into.id);
  return into.id;
}

const partForm = z.object({
  alias: z.string().max(400),
  why: paragraph('why', 2000).refine((s) => s.length > 0, { message: 'Say why: everybody can read it.' }),
});
const mergeForm = partForm.extend({ into: z.string().max(400) });
/** The id in an address somebody pasted, or the id itself. */
const idIn = (text: string) => /[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/i.exec(text)?.[0] ?? '';

/** A steward says that two entries of anybody are one vinyl: as an author may of their own, with the reason for all to read. */
export async function mergeAsSteward(person: Person, form: FormData): Promise<void> {
  if (!can(person, 'keep order')) throw new NotFound('No such vinyl.');
  const input = read(mergeForm, form);
  const [alias, into] = [idIn(input.alias), idIn(input.into)];
  if (!alias) throw new Invalid({ alias: 'There is no vinyl’s number in this.' });
  if (!into) throw new Invalid({ into: 'There is no vinyl’s number in this.' });
  await mergeVinyls(person, alias, into);
  await socialStore.insertAct(db(), {
    personId: person.id,
    act: 'merge vinyls',
    why: input.why,
    vinylId: alias,
    otherId: into,
  });
}

/** Parts two entries again: each has its own evidence as before. */
export async function partVinyls(person: Person, aliasId: string): Promise<void> {
  const id = z.uuid().safeParse(aliasId).success ? aliasId : undefined;
  if (!id || !(await part(id, person.id))) throw new NotFound('No such entry.');
}

/** A steward parts two entries, whoever said that they are one, with the reason for all to read. */
export async function partAsSteward(person: Person, form: FormData): Promise<void> {
  if (!can(person, 'keep order')) throw new NotFound('No such vinyl.');
  const input = read(partForm, form);
  const alias = idIn(input.alias);
  if (!alias) throw new Invalid({ alias: 'There is no vinyl’s number in this.' });
  const root = await part(alias, null);
  if (!root) throw new Invalid({ alias: 'This entry was not merged into another.' });
  await socialStore.insertAct(db(), {
    personId: person.id,
    act: 'part vinyls',
    why: input.why,
    vinylId: alias,
    otherId: root,
  });
}

/** @returns the vinyl it was part of; undefined where it was none, or somebody else's doing */
async function part(id: string, by: string | null): Promise<string | undefined> {
  const before = await store.rootOf(db(), id);
  if (!(await store.deleteAlias(db(), id, by))) return undefined;
  await readKinAgain(id);
  await readKinAgain(before);
  return before;
}

/** Reads again what rests on any entry of a vinyl: everybody's own readings, and what cards say to others. */
async function readKinAgain(vinylId: string): Promise<void> {
  const root = await store.rootOf(db(), vinylId);
  for (const r of await store.readingsOfKin(db(), root)) await refreshReadings(r.person_id, root, r.cutter_id);
  for (const c of await store.cardsOfKin(db(), root)) await refreshShared(root, c.model_key, c.wanted);
  await ask('translate');
}

// Schools -------------------------------------------------------------------------------------------------------------------

export type SchoolVoice = {
  way: string;
  followers: number;
  mine: boolean;
  names: string[];
  cuts: number;
  good: number;
};
export type Schools = Record<'press' | 'cut', SchoolVoice[]>;

/** Who follows which way for a vinyl, and what speaks for it. */
export async function schoolsOf(person: Person | undefined, vinylId: string): Promise<Schools> {
  const rows = await store.schoolsOf(db(), vinylId, person?.id ?? NOBODY);
  const of = (topic: 'press' | 'cut') => rows.filter((r) => r.topic === topic).map(({ topic: _, ...voice }) => voice);
  return { press: of('press'), cut: of('cut') };
}

/** Follows a way, or leaves it with an empty one. */
export async function followSchool(person: Person, vinylId: string, form: FormData): Promise<void> {
  const row = await vinylRow(person, vinylId);
  const { topic, way } = read(
    z.object({ topic: z.enum(['press', 'cut']), way: z.string().regex(/^[a-z0-9-]{0,40}$/, 'There is no such way.') }),
    form,
  );
  const behaviour = behaviourFor(row.type as VinylTypeKey, row.own_behaviour ?? undefined, row.behaviour);
  const known =
    topic === 'press' ? behaviour.press.map((_, i) => String(i + 1)) : behaviour.cutSchools.map((s) => s.key);
  if (way === '') return void (await store.leaveSchool(db(), person.id, row.id, topic));
  if (!known.includes(way)) throw new Invalid({ form: 'There is no such way for this vinyl.' });
  await store.followSchool(db(), person.id, row.id, topic, way);
}
