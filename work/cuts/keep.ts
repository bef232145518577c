import type { Wanted } from '#store/coupons/coupons.ts';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { fitInputFrom } from '#core/window/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/coupons/readings.ts';
import * as vinyls from '#store/vinyls/vinyls.ts';
import * as workshop from '#store/workshop/workshop.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { baseFor, evidenceFor } from '#work/coupons/evidence.ts';
import { posteriorOf } from '#work/coupons/readings.ts';
import { readControls, wantedForm } from '#work/coupons/controls.ts';
import { paragraph } from '#work/base/text.ts';

const keepForm = z.object({
  vinyl: z.uuid(),
  cutter: z.uuid(),
  wanted: wantedForm,
  /** The colour it is kept for; for all of them when left out. */
  colour: z.uuid().optional(),
  strength: z.string().max(120, 'That is not a place on the axis.'),
  note: paragraph('a note', 2000).default(''),
});

/** What a number was kept for. */
export type Kept = { vinylId: string; cutterId: string; wanted: Wanted };

/**
 * Keeps a number as the setting for a vinyl on a cutter, with the fit it rests on. It may differ from the recommendation; a
 * value outside the axis is refused with the axis and its limits.
 */
export async function storeSetting(person: Person, form: FormData): Promise<Kept> {
  const input = read(keepForm, form);
  const [vinyl, cutter] = await Promise.all([
    vinyls.vinylById(db(), input.vinyl),
    workshop.cutterById(db(), input.cutter),
  ]);
  if (!vinyl || !can(person, 'see', { owner: vinyl.person_id, visibility: vinyl.visibility }))
    throw new NotFound('No such vinyl.');
  if (!cutter || !can(person, 'change', { owner: cutter.person_id })) throw new NotFound('No such cutter.');
  if (!cutter.blade_id) throw new Invalid({ form: `Put a blade on ${cutter.name} first.` });
  const base = await baseFor(person.id, vinyl.id, { id: cutter.id, model: cutter.model }, input.wanted);
  const controls = readControls(cutter.model, form, base, input.strength);
  // The proof is the reading of these very controls: another speed or depth is another cut.
  const colour = input.colour ? await vinyls.colourIn(db(), vinyl.id, input.colour) : undefined;
  if (input.colour && !colour) throw new NotFound('No such colour.');
  const { evidence, events } = await evidenceFor(person.id, vinyl.id, cutter.id, input.wanted, {
    base: controls,
    colour: colour?.id,
  });
  const { hash, result } = await posteriorOf(fitInputFrom(evidence, events));
  await transaction(async (q) => {
    await store.replaceSetting(q, person.id, vinyl.id, cutter.id, input.wanted, colour?.id ?? null);
    await store.insertSetting(q, {
      id: uuidv7(),
      personId: person.id,
      vinylId: vinyl.id,
      colourId: colour?.id ?? null,
      cutterId: cutter.id,
      bladeId: cutter.blade_id!,
      wanted: input.wanted,
      controls,
      standing: result.evidence.cells > 0 ? 'tried' : 'draft',
      hash,
      note: input.note,
    });
  });
  return { vinylId: vinyl.id, cutterId: cutter.id, wanted: input.wanted };
}
