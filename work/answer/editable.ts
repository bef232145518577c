import { z } from 'zod';
import { usableWidth } from '#core/controls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/answer/editable.ts';
import type { RestKind, ThingKind } from '#store/answer/editable.ts';
import { coloursOf, colourIn, myVinyls, vinylsByIds, type ColourRow } from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { cutOf } from '#work/cuts/cuts.ts';
import { enforceQuota, type Owned } from '#work/people/limits.ts';
import { byId } from '#work/people/owned.ts';
import { can } from '#work/people/permissions.ts';
import type { Person } from '#work/people/person.ts';
import { evidenceChanged } from '#work/shelf/evidence.ts';
import { correctRemark } from '#work/shelf/social.ts';
import { correctBatch, correctColour } from '#work/vinyls/catalogue.ts';
import { correctPiece, pieceOf, type Piece } from '#work/vinyls/stock.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import { correctOwnType, ownTypeOf } from '#work/vinyls/types.ts';
import { correctBlade, ownBlade } from '#work/workshop/blades.ts';
import { correctCutter, ownCutter } from '#work/workshop/cutters.ts';
import { correctMat, matById } from '#work/workshop/mats.ts';
import { correctPress, pressById } from '#work/workshop/presses.ts';

// Nothing a hand does is final: everything a person names, notes or says can be put right, put away and taken up again, and goes for good
// where nothing rests on it. One way for all of it.

export type { ThingKind };

/** A thing as the page that puts it right shows it. */
export type Thing = {
  id: string;
  name: string;
  /** What it belongs to: the vinyl of a colour, the card of a remark. */
  of: string | undefined;
  /** Whether the person may say it otherwise: a vinyl of somebody else's can only be put away. */
  own: boolean;
  away: boolean;
  rests: { what: RestKind; n: number }[];
  /** Whether it can go for good: it is one's own, and nothing rests on it. */
  mayGo: boolean;
} & (
  | { kind: 'vinyl' | 'batch' }
  | { kind: 'cutter'; widthUm: number | undefined }
  | { kind: 'colour'; hex: string }
  | { kind: 'blade'; angle: number; offsetUm: number; lifeUm: number; beforeUm: number }
  | { kind: 'mat'; grip: 'light' | 'ordinary' | 'high'; widthUm: number; lengthUm: number; loads: number }
  | {
      kind: 'press';
      is: string;
      widthUm: number;
      lengthUm: number;
      hottest: number;
      shows: 'C' | 'F';
      off: number;
    }
  | { kind: 'piece'; piece: Piece; colours: ColourRow[] }
  | { kind: 'type'; type: Awaited<ReturnType<typeof ownTypeOf>> }
  | {
      kind: 'coupon' | 'cut';
      vinyl: string;
      /** Vinyls it may have been instead. */
      vinyls: { id: string; name: string }[];
      colour: string | undefined;
      colours: ColourRow[];
      said: string;
      at: string;
    }
  | { kind: 'remark'; body: string }
);

/** The kind of thing an address names. @throws NotFound */
function kindOf(kind: string): ThingKind {
  const known = store.thingKinds.find((k) => k === kind);
  if (!known) throw new NotFound('No such thing.');
  return known;
}

/** A thing that a person may put away: their own, or a vinyl they see. @throws NotFound */
async function thingRow(person: Person, kind: ThingKind, id: string) {
  const row = await byId(id, (it) => store.thingById(db(), kind, it, person.id));
  const own = !!row && can(person, 'change', { owner: row.person_id });
  const seen = !!row && kind === 'vinyl' && can(person, 'see', { owner: row.person_id, visibility: row.visibility });
  if (!row || !(own || seen)) throw new NotFound(`No such ${kind}.`);
  const mayGo = own && store.canGo(kind) && Object.keys(row.rests).length === 0;
  return { ...row, own, mayGo };
}

/** A thing with everything that can be put right about it. @throws NotFound */
export async function thingOf(person: Person | undefined, kindSaid: string, id: string): Promise<Thing> {
  const kind = kindOf(kindSaid);
  if (!person) throw new NotFound(`No such ${kind}.`);
  const row = await thingRow(person, kind, id);
  const common = {
    id,
    name: row.name,
    of: row.of ?? undefined,
    own: row.own,
    away: row.away,
    rests: store.restKinds.flatMap((what) => (row.rests[what] ? [{ what, n: row.rests[what] }] : [])),
    mayGo: row.mayGo,
  };
  switch (kind) {
    case 'vinyl':
    case 'batch':
      return { ...common, kind };
    case 'cutter': {
      const cutter = await ownCutter(person, id);
      return { ...common, kind, widthUm: cutter.usable_width_um ?? usableWidth(cutter.model) };
    }
    case 'colour':
      return { ...common, kind, hex: (await colourIn(db(), row.of!, id))!.hex };
    case 'blade': {
      const b = await ownBlade(person, id);
      return { ...common, kind, angle: b.angle, offsetUm: b.offset_um, lifeUm: b.life_um, beforeUm: b.before_um };
    }
    case 'mat': {
      const m = await matById(person, id);
      return { ...common, kind, grip: m.grip, widthUm: m.width_um, lengthUm: m.length_um, loads: m.loads };
    }
    case 'press': {
      const p = await pressById(person, id);
      const { hottest, shows, off } = p;
      return { ...common, kind, is: p.kind, widthUm: p.width_um, lengthUm: p.length_um, hottest, shows, off };
    }
    case 'piece': {
      const piece = await pieceOf(person, id);
      return { ...common, kind, piece, colours: await coloursOf(db(), piece.vinyl.id) };
    }
    case 'type':
      return { ...common, kind, type: await ownTypeOf(person, id) };
    case 'coupon': {
      const { vinyl, createdAt, cells } = await couponOf(person, id);
      return { ...common, kind, ...(await cutSays(person, vinyl)), said: String(cells.length), at: createdAt };
    }
    case 'cut': {
      const { vinyl, parts, createdAt } = await cutOf(person, id);
      const said = parts.map((p) => `${p.word} ${p.value}`).join(', ');
      return { ...common, kind, ...(await cutSays(person, vinyl)), said, at: createdAt };
    }
    case 'remark':
      return { ...common, kind, body: row.name };
  }
}

/** What a cut was of, and what it may have been of instead. */
async function cutSays(person: Person, vinyl: Vinyl) {
  const [colours, ids] = await Promise.all([coloursOf(db(), vinyl.id), myVinyls(db(), person.id, 100)]);
  const rows = await vinylsByIds(db(), [...new Set([vinyl.id, ...ids])]);
  const vinyls = rows.map((r) => ({ id: r.id, name: `${r.brand} ${r.name}`.trim() }));
  return {
    vinyl: vinyl.id,
    vinyls: vinyls.sort((a, b) => a.name.localeCompare(b.name)),
    colour: vinyl.colour?.id,
    colours,
  };
}

/** What hangs on a cut is read again: the numbers of its vinyl on that cutter, where they stand, and the card it was made with. */
async function readCutAgain(person: Person, id: string): Promise<void> {
  const place = (await store.cutPlace(db(), id))!;
  await evidenceChanged(person, [{ vinylId: place.vinyl_id, cutterId: place.cutter_id }], [id]);
}

/** Says which vinyl was really cut, and in which colour. */
async function correctCut(person: Person, id: string, form: FormData): Promise<void> {
  const { colour, vinyl } = read(z.object({ colour: optionalId, vinyl: optionalId }), form);
  const place = (await store.cutPlace(db(), id))!;
  if (vinyl && vinyl !== place.vinyl_id) {
    const other = await vinylOf(person, vinyl);
    if (await store.confirms(db(), id))
      throw new Invalid({
        vinyl: 'It tells how a shared card did. Take that back first, then say which vinyl it was.',
      });
    await store.moveCut(db(), id, other.id);
    await readCutAgain(person, id);
    return evidenceChanged(person, [{ vinylId: place.vinyl_id, cutterId: place.cutter_id }], [id]);
  }
  if (colour && !(await colourIn(db(), place.vinyl_id, colour)))
    throw new Invalid({ colour: 'Choose one of its colours.' });
  await store.setCutColour(db(), id, colour ?? null);
  await readCutAgain(person, id);
}

/** Which thing something was done to: where its page is. */
export type Place = Pick<Thing, 'kind' | 'id' | 'of'>;

/** Says a thing of one's own right. @throws NotFound, Invalid with a message a field */
export async function correct(person: Person, kindSaid: string, id: string, form: FormData): Promise<Place> {
  const kind = kindOf(kindSaid);
  const row = await thingRow(person, kind, id);
  if (!row.own) throw new NotFound(`No such ${kind}.`);
  await correctThing(person, kind, row, form);
  return { kind, id, of: row.of ?? undefined };
}

function correctThing(
  person: Person,
  kind: ThingKind,
  { id, of }: { id: string; of: string | null },
  form: FormData,
): Promise<void> {
  switch (kind) {
    // The page of a vinyl has a form of its own, with all its columns.
    case 'vinyl':
      throw new NotFound('Not here.');
    case 'colour':
      return correctColour(person, of!, id, form);
    case 'cutter':
      return correctCutter(person, id, form);
    case 'blade':
      return correctBlade(person, id, form);
    case 'mat':
      return correctMat(person, id, form);
    case 'press':
      return correctPress(person, id, form);
    case 'piece':
      return correctPiece(person, id, form);
    case 'type':
      return correctOwnType(person, id, form);
    case 'coupon':
    case 'cut':
      return correctCut(person, id, form);
    case 'batch':
      return correctBatch(id, form);
    case 'remark':
      return correctRemark(person, id, form);
  }
}

/** Kinds of which a person may have so many: what is taken up again needs room. */
const limited: Partial<Record<ThingKind, Owned>> = { cutter: 'cutters', mat: 'mats', press: 'presses', piece: 'stock' };

/** Puts a thing away, or takes it up again. @throws NotFound, Invalid where there is no room for it or a vinyl needs it */
export async function setAway(person: Person, kindSaid: string, id: string, away: boolean): Promise<Place> {
  const kind = kindOf(kindSaid);
  const row = await thingRow(person, kind, id);
  const place = { kind, id, of: row.of ?? undefined };
  if (row.away === away) return place;
  if (kind === 'colour' && away) await needOther(row.of!);
  const limit = limited[kind];
  if (!away && limit) await enforceQuota(person, limit);
  await store.setAway(db(), kind, id, person.id, away);
  if (kind === 'coupon' || kind === 'cut') await readCutAgain(person, id);
  return place;
}

/** A vinyl keeps one colour. */
async function needOther(vinylId: string): Promise<void> {
  if ((await coloursOf(db(), vinylId)).length < 2)
    throw new Invalid({
      form: 'It is the only colour of this vinyl. Call it something else, or add another one first.',
    });
}

/** Takes a thing away for good. @throws NotFound, Invalid where something rests on it */
export async function remove(person: Person, kindSaid: string, id: string): Promise<Place> {
  const kind = kindOf(kindSaid);
  const row = await thingRow(person, kind, id);
  if (!row.mayGo) throw new Invalid({ form: 'Something rests on it by now: put it away instead.' });
  if (kind === 'colour' && !row.away) await needOther(row.of!);
  await store.removeThing(db(), kind, id);
  return { kind, id, of: row.of ?? undefined };
}

export type AwayThing = { kind: ThingKind; id: string; name: string };

/** What a person put away of some kinds, latest first. */
export const awayThings = async (person: Person | undefined, kinds: readonly ThingKind[]): Promise<AwayThing[]> =>
  person ? store.awayOf(db(), person.id, kinds) : [];

/** Colours of a vinyl that were put away. */
export const awayColours = async (vinylId: string): Promise<AwayThing[]> =>
  (await store.awayColours(db(), vinylId)).map((c) => ({ kind: 'colour' as const, ...c }));
