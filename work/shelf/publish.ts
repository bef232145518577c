import { randomBytes } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { CutterModel } from '#core/controls/index.ts';
import { fitInputFrom, withPlainLabels } from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { alreadyThere, db, transaction } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { proofOf } from './standing.ts';
import { evidenceFor, evidenceRows } from '#work/coupons/evidence.ts';
import { posteriorOf, settingOf } from '#work/coupons/readings.ts';
import { wantedForm } from '#work/coupons/controls.ts';
import { paragraph } from '#work/base/text.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { visibilities, licences, cardRow } from './cards.ts';
import { cardsChanged } from './shared.ts';
import { needAccount } from '#work/people/owned.ts';

const publishForm = z.object({
  vinyl: z.uuid(),
  wanted: wantedForm,
  visibility: z.enum(visibilities, 'Choose who may see it.'),
  licence: z.enum(licences, 'Choose what others may do with it.'),
  conditions: paragraph('what was special', 1000).default(''),
  change: paragraph('what changed', 2000).default(''),
});

const newKey = () => randomBytes(24).toString('base64url');

/**
 * Publishes the kept setting of a vinyl on the cutter on the bench as a card, or as the next version of the card that is there.
 * A version holds everything it says; it never changes.
 *
 * @returns the card's id
 */
export async function publishCard(
  person: Person,
  bench: Bench,
  form: FormData,
  address: string,
  at?: Date,
): Promise<string> {
  const input = read(publishForm, form);
  needAccount(person, 'what is shared bears a name, and you can take it back');
  const vinyl = await vinylOf(person, input.vinyl);
  const kept = await settingOf(person.id, vinyl.id, bench.cutter, input.wanted);
  if (!kept) throw new Invalid({ form: 'Keep a number for this vinyl first: that is what a card shares.' });
  await count('publish', person, address);
  const { evidence, events } = await evidenceFor(person.id, vinyl.id, bench.cutter.id, input.wanted, {
    base: kept.controls,
  });
  // Under plain labels, as the card keeps it: whoever has the card comes to the same reading.
  const fitInput = withPlainLabels(fitInputFrom(evidence, events));
  const { hash, result } = await posteriorOf(fitInput);
  const { model } = bench.cutter;
  const rows = await evidenceRows(evidence, events);
  const content: store.CardContent = {
    vinyl: {
      brand: vinyl.brand,
      name: vinyl.name,
      type: vinyl.type,
      colour: vinyl.colour?.name ?? '',
      hex: vinyl.colour?.hex ?? '#b9b2a3',
    },
    model,
    controls: kept.controls,
    standing: proofOf(model, kept.controls, input.wanted, rows, person.id, person.zone).standing,
    conditions: input.conditions,
    result,
    asked: { target: fitInput.target, ...(fitInput.around ? { around: fitInput.around } : {}) },
    zone: person.zone,
    cells: fitInput.cells,
    evidence: rows,
  };
  const before = await store.cardOf(db(), person.id, vinyl.id, model.key, input.wanted);
  if (before && input.change === '')
    throw new Invalid({ change: 'Say what changed and why: others have the version before.' });
  const id = before?.id ?? uuidv7();
  await transaction(async (q) => {
    if (!before)
      await store.insertCard(q, {
        id,
        personId: person.id,
        vinylId: vinyl.id,
        modelKey: model.key,
        wanted: input.wanted,
        visibility: input.visibility,
        linkKey: input.visibility === 'link' ? newKey() : null,
        ...(at ? { madeAt: at } : {}),
      });
    else if (before.visibility !== input.visibility)
      await store.setVisibility(q, id, input.visibility, input.visibility === 'link' ? newKey() : null);
    await store.insertVersion(q, {
      cardId: id,
      number: (before?.number ?? 0) + 1,
      content,
      change: input.change,
      licence: input.licence,
      hash,
      cutterId: bench.cutter.id,
      bladeId: bench.blade?.id ?? null,
      ...(at ? { publishedAt: at } : {}),
    });
    if (input.visibility !== 'private') await vinylStore.raiseVisibility(q, vinyl.id, input.visibility);
  }).catch((error: unknown) => {
    // Two taps, or two devices, at one moment: the first one stands.
    if (alreadyThere(error)) throw new Invalid({ form: 'This was published a moment ago. Look at the card.' });
    throw error;
  });
  await cardsChanged([{ id, vinyl_id: vinyl.id, model_key: model.key, wanted: input.wanted }]);
  return id;
}

/** Who may see a card from now on. A link is a new one each time; a withdrawn card leaves the public evidence at once. */
export async function changeVisibility(person: Person, ref: string, form: FormData): Promise<void> {
  const card = await cardRow(person, ref);
  if (!can(person, 'change', { owner: card.person_id })) throw new NotFound('No such card.');
  const { visibility } = read(z.object({ visibility: z.enum(visibilities, 'Choose who may see it.') }), form);
  await transaction(async (q) => {
    await store.setVisibility(q, card.id, visibility, visibility === 'link' ? newKey() : null);
    if (visibility !== 'private') await vinylStore.raiseVisibility(q, card.vinyl_id, visibility);
  });
  await cardsChanged([card]);
}

/** The card a person has published for a vinyl, if any. */
export async function ownCard(person: Person, vinylId: string, model: CutterModel, wanted: Wanted) {
  const card = await store.cardOf(db(), person.id, vinylId, model.key, wanted);
  return (
    card && {
      id: card.id,
      number: card.number,
      visibility: card.visibility,
      licence: card.licence,
      conditions: card.content.conditions,
      controls: card.content.controls,
    }
  );
}
