import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { carrySetting, startingSetting, strengthAxis, validateSetting, type Setting } from '#core/controls/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import * as store from '#store/shelf/cards.ts';
import { db, transaction } from '#store/base/db.ts';
import * as readingStore from '#store/coupons/readings.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { reportCut } from '#work/cuts/cuts.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { posteriorOf, readingFor } from '#work/coupons/readings.ts';
import { wantedForm } from '#work/coupons/controls.ts';
import { paragraph } from '#work/base/text.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { cardRow } from './cards.ts';
import { translatedOnBench } from './onBench.ts';
import { sharedInput } from './shared.ts';
import { byId } from '#work/people/owned.ts';

/**
 * Takes a card's number as the setting for the same vinyl on the cutter on the bench, with the link to where it came from: the card's own
 * controls on the same model, and on another the number that it was translated to. On this machine nobody has cut it yet: it is a draft
 * until its own cuts speak.
 * @param form `position`: the translated number that was shown, as a place on the axis
 */
export async function adoptCard(person: Person, bench: Bench, ref: string, form = new FormData()): Promise<void> {
  const card = await cardRow(person, ref);
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  const { controls, hash } =
    carrySetting(card.content.model, bench.cutter.model, card.content.controls) === undefined
      ? await translatedControls(person, bench, card, form)
      : await sameControls(bench, card);
  await transaction(async (q) => {
    await readingStore.replaceSetting(q, person.id, card.vinyl_id, bench.cutter.id, card.wanted, null);
    await readingStore.insertSetting(q, {
      id: uuidv7(),
      personId: person.id,
      vinylId: card.vinyl_id,
      colourId: null,
      cutterId: bench.cutter.id,
      bladeId: bench.blade!.id,
      wanted: card.wanted,
      controls,
      standing: 'draft',
      hash,
      note: '',
      source: { card: card.id, version: card.number },
    });
  });
}

/** The controls of a card for a cutter of its own model, with what they rest on. */
async function sameControls(bench: Bench, card: store.CardRow): Promise<{ controls: Setting; hash: Buffer }> {
  const controls = carrySetting(card.content.model, bench.cutter.model, card.content.controls)!;
  const found = await store.foundWith(db(), card.id);
  const { input } = sharedInput(card.content.vinyl.type as VinylTypeKey, card.wanted, [card], found);
  const { hash } = await posteriorOf(input);
  return { controls, hash };
}

/** The number that a card of another model was translated to, as it was shown, with what the model starts from beside it. */
async function translatedControls(
  person: Person,
  bench: Bench,
  card: store.CardRow,
  form: FormData,
): Promise<{ controls: Setting; hash: Buffer }> {
  const { model } = bench.cutter;
  const { position } = read(z.object({ position: z.coerce.number().int().optional() }), form);
  if (position === undefined || typeof (await translatedOnBench(bench, card)) !== 'object')
    throw new Invalid({
      form: `This card is for the ${card.content.model.name}. Its number means nothing on ${bench.cutter.name}: cut a three-cell check.`,
    });
  const start = startingSetting(model);
  const controls = { ...start, steps: { ...start.steps, [strengthAxis(model).key]: position } };
  try {
    validateSetting(model, controls);
  } catch {
    throw new Invalid({ form: `That is no place on ${bench.cutter.name}. Load the page again.` });
  }
  const { hash } = await readingFor(person.id, card.vinyl_id, bench.cutter.id, card.wanted, undefined);
  return { controls, hash };
}

/**
 * "I cut this", with or without a card behind the number. A cut with an adopted number is a confirmation: its grade counts on the
 * card, under the name of who cut it. Guests' cuts stay their own.
 */
export async function reportCutWithCard(
  person: Person,
  bench: Bench,
  form: FormData,
  address: string,
  at?: Date,
): Promise<string> {
  const vinylId = String(form.get('vinyl'));
  const wanted = wantedForm.parse(form.get('wanted'));
  const kept = await byId(vinylId, (it) => readingStore.currentSetting(db(), person.id, it, bench.cutter.id, wanted));
  const source = kept?.source_card;
  if (source && can(person, 'share')) await count('confirm', person, address);
  const cutId = await reportCut(person, bench, form, at);
  if (!source || !can(person, 'share') || (await store.confirmationOf(db(), cutId))) return cutId;
  const card = await store.cardById(db(), source, null);
  if (card && card.person_id !== person.id && card.visibility !== 'private')
    await store.insertConfirmation(db(), {
      cutId,
      cardId: source,
      version: kept.source_version!,
      personId: person.id,
      ...(at ? { madeAt: at } : {}),
    });
  return cutId;
}

const wordsForm = z.object({ said: paragraph('what you saw', 2000).default('') });

export type CutCard = { author: string; address: string | undefined; said: string };
/** Where anybody may look at a card; undefined where that takes a link, which only its author gives away. */
const openAddress = (card: store.CardRow): string | undefined => (card.visibility === 'public' ? card.id : undefined);

/** The card an adopted setting came from: its author, and its address where everybody may see it. */
export async function sourceOf(cardId: string): Promise<{ author: string; address: string | undefined } | undefined> {
  const card = await store.cardById(db(), cardId, null);
  return card && { author: card.author, address: openAddress(card) };
}

/** The card a cut was made with, for who cut it; undefined when there was none. */
export async function cardOfCut(person: Person | undefined, cutId: string): Promise<CutCard | undefined> {
  const confirmation = await store.confirmationOf(db(), cutId);
  if (!confirmation || confirmation.person_id !== person?.id) return undefined;
  const card = await store.cardById(db(), confirmation.card_id, null);
  return card && { author: card.author, address: openAddress(card), said: confirmation.said };
}

/** Tells the author of a card in words what was seen when it was cut. */
export async function sayWhatWasSeen(person: Person, cutId: string, form: FormData, address: string): Promise<void> {
  const input = read(wordsForm, form);
  const confirmation = await byId(cutId, (it) => store.confirmationOf(db(), it));
  if (!confirmation || confirmation.person_id !== person.id) throw new NotFound('No such cut.');
  await count('confirm', person, address);
  await store.sayWords(db(), cutId, input.said);
}
