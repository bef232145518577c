import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { columns, readRow, sayCell, type CatalogueRecord } from '#core/catalogue/index.ts';
import { behaviourFor, onlyDifferent, type VinylTypeKey } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { line } from '#work/base/text.ts';
import { hexForm, typeChoice, vinylRow } from './vinyls.ts';
import { alikeVinyls, fullName } from './alike.ts';
import { ownFields, typeSays } from './types.ts';

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
/** What is said of one vinyl, a field a column, with what its type says where nothing is said. */
type CatalogueField = { key: string; word: string; about: string; said: string; told: string; type: string };

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

const ownVinyl = async (person: Person, id: string) => {
  const row = await vinylRow(person, id);
  if (!can(person, 'change', { owner: row.person_id })) throw new NotFound('No such vinyl.');
  return row;
};

/** Changes what is said of a vinyl. Fields left empty follow the type. @returns the id of the vinyl @throws Invalid with a message a field */
export async function storeCatalogue(person: Person, id: string, form: FormData): Promise<string> {
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
  // The form speaks of the usual full press; the further ways of the type stay as they are.
  const first = base.press.findIndex((w) => (w.purpose ?? 'full') === 'full');
  const usual = first < 0 ? base.press.length : first;
  const press = behaviour.press && base.press.toSpliced(usual, 1, behaviour.press[0]!);
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
  return row.id;
}

/** The colours of a vinyl that a person sees, one of a name. */
export const coloursOf = (vinylId: string): Promise<store.ColourRow[]> => store.coloursOf(db(), vinylId);

const colourForm = z.object({ colour: line('a colour', 80), hex: hexForm });

/** A further colour of a vinyl; one of that name that was put away is taken up again. */
export async function addColour(person: Person, id: string, form: FormData): Promise<string> {
  const row = await ownVinyl(person, id);
  const input = read(colourForm, form);
  const there = (await store.coloursOf(db(), row.id)).find((c) => c.name.toLowerCase() === input.colour.toLowerCase());
  if (there) throw new Invalid({ colour: `${there.name} is there already.` });
  const away = await store.colourNamed(db(), row.id, input.colour);
  const colour = { id: away?.id ?? uuidv7(), name: input.colour, hex: input.hex };
  if (away) await store.updateColour(db(), colour);
  else await store.insertColour(db(), { ...colour, vinylId: row.id });
  return colour.id;
}

/** Calls a colour of a vinyl something else, or shows it otherwise. */
export async function correctColour(person: Person, vinylId: string, id: string, form: FormData): Promise<void> {
  const row = await ownVinyl(person, vinylId);
  const input = read(colourForm, form);
  const there = await store.colourNamed(db(), row.id, input.colour);
  if (there && there.id !== id)
    throw new Invalid({
      colour: there.retired_at
        ? `${there.name} was put away: take that one up again.`
        : `${there.name} is there already.`,
    });
  await store.updateColour(db(), { id, name: input.colour, hex: input.hex });
}

/** Says a batch right: its label was misread. @throws Invalid where there is one called so */
export async function correctBatch(id: string, form: FormData): Promise<void> {
  const { name } = read(z.object({ name: line('a batch', 80) }), form);
  if (await store.batchCalled(db(), id, name)) throw new Invalid({ name: `${name} is there already.` });
  await store.renameBatch(db(), id, name);
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
