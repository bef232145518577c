import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { pseudonym, type PackCard } from '#core/pack/index.ts';
import * as cardStore from '#store/shelf/cards.ts';
import * as couponStore from '#store/coupons/coupons.ts';
import type { Query } from '#store/base/db.ts';
import * as cutStore from '#store/cuts/cuts.ts';
import * as store from '#store/packs/packs.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import type { From, Change } from './compare.ts';
import * as eventStore from '#store/coupons/events.ts';

export async function bringConfirmation(
  q: Query,
  card: PackCard,
  { kind, confirmation: f }: Change,
  vinylId: string,
  from: From,
): Promise<void> {
  const at = new Date(`${f.at}Z`);
  const cell = pseudonym('cell', f.key);
  if (kind === 'new') {
    const mounting = pseudonym('mounting', `${f.cutter} ${f.blade}`);
    await store.insertForeignMounting(q, { id: mounting, cutter: f.cutter, blade: f.blade, at });
    const batch = f.batch
      ? await vinylStore.batchOf(q, { id: uuidv7(), vinylId, colourId: null, label: f.batch, personId: f.person })
      : undefined;
    await couponStore.insertCut(q, {
      id: f.key,
      kind: 'ordinary',
      personId: f.person,
      vinylId,
      colourId: null,
      batchId: batch?.id ?? null,
      cutterId: f.cutter,
      mountingId: mounting,
      wear: null,
      createdAt: at,
    });
    await cutStore.insertOrdinaryCut(q, f.key, card.wanted, false);
    await couponStore.insertCell(q, { id: cell, cutId: f.key, number: 1, setting: f.setting, lengthUm: 0 });
    await cardStore.insertConfirmation(q, {
      cutId: f.key,
      cardId: card.key,
      version: f.version,
      personId: f.person,
      ...(f.outcome ? { outcome: f.outcome } : {}),
      better: f.better ?? null,
      said: f.said,
      madeAt: at,
    });
    await store.cameFrom(q, 'confirmation', f.key, from.id);
  } else
    await store.amendConfirmation(q, {
      cutId: f.key,
      outcome: f.outcome ?? null,
      better: f.better ?? null,
      said: f.said,
    });
  // The latest grade is the one that counts: one that was taken back there is followed by what stands there now.
  await eventStore.insertEvents(q, f.person, [
    {
      id: uuidv7(),
      kind: 'grade',
      cell,
      figure: 1,
      passes: f.passes,
      grade: f.grade,
      device: uuidv4(),
      deviceAt: (kind === 'new' ? at : new Date()).toISOString(),
    },
  ]);
}
