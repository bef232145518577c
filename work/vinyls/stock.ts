import { randomBytes } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { FilmArea } from '#core/job/index.ts';
import { micrometresToMm, parseDecimal } from '#core/units/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { db, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/vinyls/stock.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { batchFor } from './catalogue.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import { lengthField } from '#work/base/lengths.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { line } from '#work/base/text.ts';
import { vinylOf } from './vinyls.ts';
import { isId, owned } from '#work/people/owned.ts';

const stockKinds = ['roll', 'sheet', 'offcut', 'transfer'] as const;

export type Piece = {
  id: string;
  code: string;
  vinyl: {
    id: string;
    brand: string;
    name: string;
    type: VinylTypeKey;
    colour: { name: string; hex: string } | undefined;
  };
  colourId: string | undefined;
  batch: string | undefined;
  batchId: string | undefined;
  kind: store.StockKind;
  widthUm: number;
  leftUm: number;
  lengthUm: number;
  price: { minor: number; currency: string } | undefined;
  /** What a square centimetre costs, in minor units. */
  perCm2: number | undefined;
  from: string | undefined;
  pieces: number;
  note: string;
  madeAt: string;
  gone: boolean;
};

const toPiece = (r: store.StockRow): Piece => ({
  id: r.id,
  code: r.code,
  vinyl: {
    id: r.vinyl_id,
    brand: r.brand,
    name: r.vinyl,
    type: r.type as VinylTypeKey,
    colour: r.colour ? { name: r.colour, hex: r.hex! } : undefined,
  },
  colourId: r.colour_id ?? undefined,
  batch: r.batch ?? undefined,
  batchId: r.batch_id ?? undefined,
  kind: r.kind,
  widthUm: r.width_um,
  leftUm: r.left_um,
  lengthUm: r.length_um,
  price: r.price_minor === null ? undefined : { minor: r.price_minor, currency: r.currency! },
  perCm2: r.price_minor === null ? undefined : pricePerCm2(r.price_minor, r.width_um, r.length_um),
  from: r.from_code ?? undefined,
  pieces: r.pieces,
  note: r.note,
  madeAt: r.made_at.toISOString(),
  gone: r.gone_at !== null,
});

/** Minor units a square centimetre. 1 cm² is 10⁸ µm². */
const pricePerCm2 = (minor: number, widthUm: number, lengthUm: number): number => minor / ((widthUm * lengthUm) / 1e8);

export async function stockOf(person: Person | undefined, limit = 300): Promise<Piece[]> {
  return person ? (await store.stockOf(db(), person.id, limit)).map(toPiece) : [];
}
export async function stockOfVinyl(person: Person | undefined, vinylId: string): Promise<Piece[]> {
  return person ? (await store.stockOfVinyl(db(), person.id, vinylId)).map(toPiece) : [];
}

/** A piece of one's own. */
export async function pieceOf(person: Person | undefined, id: string): Promise<Piece> {
  return toPiece(await owned(person, 'change', 'piece', id, (it) => store.stockById(db(), it)));
}

/** The piece a label names, for its owner. */
export async function pieceOfCode(person: Person | undefined, code: string): Promise<Piece> {
  const row = /^[a-z2-9]{6,10}$/.test(code) ? await store.stockByCode(db(), code) : undefined;
  if (!row || !can(person, 'change', { owner: row.person_id })) throw new NotFound('No such piece.');
  return toPiece(row);
}

// No letters that are read as others: no 0 and o, no 1, i and l.
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const newCode = (): string => [...randomBytes(8)].map((b) => LETTERS[b % LETTERS.length]).join('');

const price = z
  .string()
  .default('')
  .transform((text, context) => {
    if (text.trim() === '') return null;
    const value = parseDecimal(text);
    if (value !== undefined && value >= 0 && value <= 100_000) return Math.round(value * 100);
    context.addIssue({ code: 'custom', message: 'A price is a number, as 12.50. Leave it empty where nobody knows.' });
    return z.NEVER;
  });
const currency = z
  .string()
  .default('')
  .transform((s) => s.trim().toUpperCase())
  .refine((s) => s === '' || /^[A-Z]{3}$/.test(s), { message: 'A currency has three letters, as EUR or USD.' });

const pieceForm = (unit: 'mm' | 'in') =>
  z.object({
    kind: z.enum(stockKinds, 'Choose what it is.'),
    colour: optionalId,
    batch: z.string().max(400).default(''),
    width: lengthField('the width', unit, { min: 5_000, max: 5_000_000 }),
    length: lengthField('the length', unit, { min: 5_000, max: 100_000_000 }),
    price,
    currency,
    pieces: z.coerce.number('A number of pieces is a whole number.').int().min(1).max(1000).default(1),
    note: line('a note', 200, { optional: true }).default(''),
  });

/** What a form says of a piece, with the colour and batch it is of. @throws Invalid with a message a field */
async function pieceIn(person: Person, vinylId: string, form: FormData, from?: Piece) {
  const input = read(pieceForm(person.length_unit), form);
  if (input.price !== null && input.currency === '')
    throw new Invalid({ currency: 'Say in which currency, as EUR or USD.' });
  const vinyl = await vinylOf(person, vinylId, input.colour);
  const colour = input.colour
    ? vinyl.colour
    : from?.colourId
      ? await vinylStore.colourIn(db(), vinyl.id, from.colourId)
      : vinyl.colour;
  const batchId = await batchFor(person, vinyl.id, colour?.id, input.batch || (from?.batch ?? ''));
  return {
    vinylId: vinyl.id,
    colourId: colour?.id ?? null,
    batchId: batchId ?? null,
    kind: input.kind,
    widthUm: input.width,
    lengthUm: input.length,
    price: input.price === null ? null : { minor: input.price, currency: input.currency },
    pieces: input.pieces,
    note: input.note,
  };
}

/** Puts a roll, a sheet, an offcut or a stored transfer into stock. Answers the id; its label can be printed at once. */
export async function addPiece(person: Person, vinylId: string, form: FormData, from?: Piece): Promise<string> {
  const piece = await pieceIn(person, vinylId, form, from);
  await enforceQuota(person, 'stock');
  const id = uuidv7();
  await store.insertStock(db(), { ...piece, id, code: newCode(), personId: person.id, fromId: from?.id ?? null });
  return id;
}

/** Says a piece right. Its length is what it had before strips were taken off: no shorter than what was taken. */
export async function correctPiece(person: Person, id: string, form: FormData): Promise<void> {
  await store.lockStock(db(), id);
  const before = await pieceOf(person, id);
  const piece = await pieceIn(person, before.vinyl.id, form);
  const taken = before.lengthUm - before.leftUm;
  if (piece.lengthUm < taken)
    throw new Invalid({ length: `${Math.ceil(micrometresToMm(taken))} mm of it were taken off already.` });
  await store.updateStock(db(), { ...piece, id });
}

/** What a cut left of a piece: an offcut with the same colour and batch, and its share of the price. */
export async function leaveOffcut(person: Person, pieceId: string, form: FormData): Promise<string> {
  const from = await pieceOf(person, pieceId);
  const copy = new FormData();
  for (const key of ['width', 'length', 'note']) copy.set(key, String(form.get(key) ?? ''));
  copy.set('kind', 'offcut');
  if (from.colourId) copy.set('colour', from.colourId);
  const { width, length } = read(pieceForm(person.length_unit).pick({ width: true, length: true }), copy);
  if (from.perCm2 !== undefined) {
    copy.set('price', ((from.perCm2 * ((width * length) / 1e8)) / 100).toFixed(2));
    copy.set('currency', from.price!.currency);
  }
  return addPiece(person, from.vinyl.id, copy, from);
}

/** A strip off the length of a piece, for a cut or by hand; within a transaction where one is under way. Refused where less is left. */
export async function takeFromPiece(
  person: Person,
  pieceId: string,
  take: { lengthUm: number; cutId?: string },
  within?: Query,
): Promise<string> {
  const id = uuidv7();
  await pieceOf(person, pieceId);
  const work = async (q: Query) => {
    await store.lockStock(q, pieceId);
    const row = (await store.stockById(q, pieceId))!;
    if (row.gone_at !== null) throw new Invalid({ piece: `${row.code} is used up.` });
    if (row.left_um < take.lengthUm)
      throw new Invalid({
        piece: `${row.code} has ${Math.floor(micrometresToMm(row.left_um))} mm left; this takes ${Math.ceil(micrometresToMm(take.lengthUm))} mm.`,
      });
    await store.insertTake(q, { id, stockId: pieceId, cutId: take.cutId ?? null, lengthUm: take.lengthUm });
  };
  await (within ? work(within) : transaction(work));
  return id;
}

export async function takeByHand(person: Person, pieceId: string, form: FormData): Promise<void> {
  const { take } = read(
    z.object({ take: lengthField('what was taken', person.length_unit, { min: 1_000, max: 100_000_000 }) }),
    form,
  );
  try {
    await takeFromPiece(person, pieceId, { lengthUm: take });
  } catch (error) {
    if (error instanceof Invalid && error.fields.piece) throw new Invalid({ take: error.fields.piece });
    throw error;
  }
}

/** Puts back what was taken. */
export async function putBack(person: Person, takeId: string): Promise<void> {
  if (!isId(takeId) || !(await store.undoTake(db(), person.id, takeId))) throw new NotFound('No such strip.');
}

export const takesOf = async (person: Person | undefined, pieceId: string) => {
  const piece = await pieceOf(person, pieceId);
  return (await store.takesOf(db(), piece.id)).map((t) => ({
    id: t.id,
    cut: t.cut_id ?? undefined,
    lengthUm: t.length_um,
    widthUm: t.width_um ?? undefined,
    at: t.at.toISOString(),
  }));
};

/** Areas that cuts took of pieces and that nobody gave back, by piece. */
export async function areasOf(pieces: readonly string[]): Promise<Map<string, FilmArea[]>> {
  const found = new Map<string, FilmArea[]>();
  for (const { stock_id: id, x, y, width, height } of pieces.length > 0 ? await store.areasOf(db(), pieces) : [])
    found.set(id, [...(found.get(id) ?? []), { x, y, width, height }]);
  return found;
}

/** The strip a cut took, for whoever made the cut. */
export const takeOfCut = async (cutId: string) => {
  const row = await store.takeOfCut(db(), cutId);
  return row && { id: row.id, piece: row.stock_id, code: row.code, lengthUm: row.length_um };
};

/** The strip an ordinary cut took, said afterwards: its length is known to whoever cut it. */
export async function takeForCut(person: Person, cutId: string, form: FormData): Promise<void> {
  const input = read(
    z.object({
      piece: z.uuid('Choose the piece it was cut from.'),
      take: lengthField('what was taken', person.length_unit, { min: 1_000, max: 100_000_000 }),
    }),
    form,
  );
  if (await store.takeOfCut(db(), cutId)) throw new Invalid({ piece: 'A strip was taken for this cut already.' });
  await takeFromPiece(person, input.piece, { lengthUm: input.take, cutId });
}
