import { depthOf, passesOf, speedOf, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { FitInput, FitResult, GradedCell } from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { afterCommit, db } from '#store/base/db.ts';
import { refreshCardStanding } from './standing.ts';
import { ask } from '#work/base/queue.ts';
import { posteriorOf } from '#work/coupons/readings.ts';
import { tellFollowers } from './social.ts';

/**
 * What a card's evidence and those of others say to a machine of the same model.
 * @param here the machine that asks, where its own cuts may be among those found; any other when left out
 */
export function sharedInput(
  type: VinylTypeKey,
  wanted: Wanted,
  cards: readonly store.CardRow[],
  found: readonly store.FoundRow[],
  here?: { cutter: string; blade: string | undefined },
): { input: FitInput; crafters: number } {
  // The card that rests on most says how deep the blade stands and how fast it goes.
  const lead = cards.reduce((most, c) => (c.content.cells.length > most.content.cells.length ? c : most));
  const { model, controls } = lead.content;
  const alike = cards.filter(
    (c) => c.content.model.version === model.version && depthOf(model, c.content.controls) === depthOf(model, controls),
  );
  const crafters = new Set(alike.map((c) => c.person_id));
  const axis = strengthAxis(model);
  const cells: GradedCell[] = alike.flatMap((c, i) =>
    c.content.cells.map((cell) => ({
      ...cell,
      coupon: `${i}-${cell.coupon}`,
      ...(cell.blade === undefined ? {} : { blade: `${i}-${cell.blade}` }),
      ...(cell.batch === undefined ? {} : { batch: `${i}-${cell.batch}` }),
      cutter: `author-${i}`,
    })),
  );
  const machines = new Map<string, string>();
  const blades = new Map<string, string>();
  for (const [i, f] of found.entries()) {
    const { setting } = f;
    if (setting.model !== model.key || setting.version !== model.version) continue;
    if (depthOf(model, setting) !== depthOf(model, controls)) continue;
    if (!machines.has(f.cutter_id)) machines.set(f.cutter_id, `other-${machines.size + 1}`);
    if (!blades.has(f.blade_id)) blades.set(f.blade_id, `blade-${blades.size + 1}`);
    crafters.add(f.person_id);
    const speed = speedOf(model, setting);
    cells.push({
      coupon: `found-${i}`,
      blade: blades.get(f.blade_id)!,
      cutter: machines.get(f.cutter_id)!,
      ...(speed !== undefined && speed > 0 ? { speed } : {}),
      strength: setting.steps[axis.key]!,
      figures: [{ grades: [{ passes: f.passes, grade: f.grade }] }],
    });
  }
  const speed = speedOf(model, controls);
  return {
    crafters: crafters.size,
    input: {
      format: 'versipel-fit/1',
      model,
      type,
      wanted,
      passes: passesOf(model, controls),
      target: {
        ...(cells.length > 0 && speed !== undefined && speed > 0 ? { speed } : {}),
        ...(here && machines.has(here.cutter) ? { cutter: machines.get(here.cutter)! } : {}),
        ...(here?.blade && blades.has(here.blade) ? { blade: blades.get(here.blade)! } : {}),
      },
      cells,
      seed: 1,
    },
  };
}

/** Makes the public evidence for a vinyl on a model the current one; without any there is none. */
export async function refreshShared(vinylId: string, modelKey: string, wanted: Wanted): Promise<void> {
  const cards = (await store.publicCards(db(), vinylId, modelKey, wanted)).filter((c) => c.content.cells.length > 0);
  if (cards.length === 0) return void (await store.dropSharedReadings(db(), vinylId, modelKey, wanted));
  const found = (await Promise.all(cards.map((c) => store.foundWith(db(), c.id)))).flat();
  const { input, crafters } = sharedInput(cards[0]!.content.vinyl.type as VinylTypeKey, wanted, cards, found);
  const { hash } = await posteriorOf(input);
  await store.setSharedReading(db(), { vinylId, model: input.model, wanted, hash, crafters });
}

/** After grades: cuts made with a public card change what it says to others. */
export async function sharedAfterGrades(cutIds: readonly string[]): Promise<void> {
  const cards = new Map<string, Changed>();
  for (const cutId of cutIds) {
    const confirmation = await store.confirmationOf(db(), cutId);
    const card = confirmation && (await store.cardById(db(), confirmation.card_id, null));
    if (card) cards.set(card.id, card);
  }
  await cardsChanged([...cards.values()]);
}

type Changed = Pick<store.CardRow, 'id' | 'vinyl_id' | 'model_key' | 'wanted'>;

/**
 * Whatever rests on cards is made again once their change is committed: where they stand, what they say to their model, who is told, and
 * the shelf. What several of them share is made once.
 */
export const cardsChanged = (cards: readonly Changed[]): Promise<void> =>
  cards.length === 0 ? Promise.resolve() : afterCommit(() => makeAgain(cards));

async function makeAgain(cards: readonly Changed[]): Promise<void> {
  const turns = await store.dueTurns(
    db(),
    cards.map((c) => c.id),
  );
  const once = (key: (c: Changed) => string) => [...new Map(cards.map((c) => [key(c), c])).values()];
  for (const c of once((x) => `${x.vinyl_id} ${x.wanted} ${x.model_key}`))
    await refreshShared(c.vinyl_id, c.model_key, c.wanted);
  for (const c of cards) await refreshCardStanding(db(), c.id);
  for (const c of once((x) => `${x.vinyl_id} ${x.wanted}`)) await tellFollowers(c.vinyl_id, c.wanted);
  await ask('translate');
  for (const { card_id, turn } of turns) await store.cardSettled(db(), card_id, turn);
}

/** Task: makes again what rests on cards whose change was cut short before that. Answers how many there were. */
export async function settleCards(olderThanSeconds = 60, limit = 100): Promise<number> {
  const due = await store.dueCards(db(), olderThanSeconds, limit);
  await cardsChanged(due);
  return due.length;
}

export type SharedReading = { result: FitResult; crafters: number };
export const sharedReadingOf = (
  vinylId: string,
  model: CutterModel,
  wanted: Wanted,
): Promise<SharedReading | undefined> => store.sharedReading(db(), vinylId, model, wanted);
