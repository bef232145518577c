import { createHash } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  AxisError,
  atStrength,
  parsePosition,
  startingSetting,
  strengthAxis,
  type CutterModel,
} from '#core/controls/index.ts';
import type { GradeEvent } from '#core/grades/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import {
  fit,
  fitInputFrom,
  MODEL_VERSION,
  PRIOR_VERSION,
  type Evidence,
  type FitInput,
  type FitResult,
} from '#core/window/index.ts';
import * as coupons from '#store/coupons.ts';
import { db, transaction } from '#store/db.ts';
import * as store from '#store/readings.ts';
import * as vinyls from '#store/vinyls.ts';
import * as workshop from '#store/workshop.ts';
import { Invalid, NotFound } from './errors.ts';
import { read } from './forms.ts';
import type { Person } from './people.ts';
import { paragraph } from './text.ts';
import { can } from './permissions.ts';

/** Hash of everything a fit depends on. */
export function inputHash(input: FitInput): Buffer {
  return createHash('sha256')
    .update(JSON.stringify([MODEL_VERSION, PRIOR_VERSION, input]))
    .digest();
}

/** The stored answer to an input, or a new one, stored. */
export async function posteriorOf(input: FitInput): Promise<{ hash: Buffer; result: FitResult }> {
  const hash = inputHash(input);
  const known = await store.posteriorByHash(db(), hash);
  if (known) return { hash, result: known.result };
  const result = fit(input);
  await store.insertPosterior(db(), hash, result);
  return { hash, result };
}

/** What is believed about a type on a model before anybody cuts it. */
export async function typeReading(model: CutterModel, type: VinylTypeKey): Promise<FitResult> {
  const evidence: Evidence = { model, type, wanted: 'clean', target: {}, cells: [] };
  return (await posteriorOf(fitInputFrom(evidence, []))).result;
}

/** All evidence one person has for a vinyl on a cutter, and every event about it. */
export async function evidenceFor(
  personId: string,
  vinylId: string,
  cutterId: string,
): Promise<{ evidence: Evidence; events: GradeEvent[] }> {
  const [vinyl, cutter, cells] = await Promise.all([
    vinyls.vinylById(db(), vinylId),
    workshop.cutterById(db(), cutterId),
    coupons.evidenceCells(db(), personId, vinylId, cutterId),
  ]);
  if (!vinyl || !cutter) throw new NotFound('No such vinyl or cutter.');
  const events = await coupons.eventsOfCells(
    db(),
    cells.map((c) => c.cell_id),
  );
  return {
    evidence: {
      model: cutter.model,
      type: vinyl.type as VinylTypeKey,
      wanted: 'clean',
      target: {
        ...(vinyl.colour_id ? { colour: vinyl.colour_id } : {}),
        ...(cutter.blade_id ? { blade: cutter.blade_id } : {}),
      },
      cells: cells.map((c) => ({
        id: c.cell_id,
        cut: c.cut_id,
        ...(c.colour_id ? { colour: c.colour_id } : {}),
        ...(c.batch_id ? { batch: c.batch_id } : {}),
        blade: c.blade_id,
        setting: c.setting,
      })),
    },
    events,
  };
}

/**
 * Reads the evidence again and makes the answer the current one. Where nothing changed, nothing is computed. What was read comes
 * with the answer, for those who show it.
 */
export async function refreshReading(
  personId: string,
  vinylId: string,
  cutterId: string,
): Promise<{ hash: Buffer; result: FitResult; evidence: Evidence; events: GradeEvent[] }> {
  const { evidence, events } = await evidenceFor(personId, vinylId, cutterId);
  const answer = await posteriorOf(fitInputFrom(evidence, events));
  await store.setReading(db(), { personId, vinylId, cutterId, wanted: 'clean', hash: answer.hash });
  return { ...answer, evidence, events };
}

/** Job: readings of an older model, or cut short by a crash between grade and fit. Answers how many were made. */
export async function refreshOverdue(limit = 50): Promise<number> {
  const due = [
    ...(await store.overdueReadings(db(), limit)),
    ...(await store.staleReadings(db(), MODEL_VERSION, PRIOR_VERSION, limit)),
  ];
  for (const r of due) await refreshReading(r.person_id, r.vinyl_id, r.cutter_id);
  return due.length;
}

export const settingOf = (personId: string, vinylId: string, cutterId: string) =>
  store.currentSetting(db(), personId, vinylId, cutterId);

const keepForm = z.object({
  vinyl: z.uuid(),
  cutter: z.uuid(),
  strength: z.string().max(60, 'That is not a place on the axis.'),
  note: paragraph('a note', 2000).default(''),
});

/**
 * Keeps a number as the setting for a vinyl on a cutter, with the fit it rests on. It may differ from the recommendation; a
 * value outside the axis is refused with the axis and its limits.
 */
export async function keepSetting(person: Person, form: FormData): Promise<void> {
  const input = read(keepForm, form);
  const [vinyl, cutter] = await Promise.all([
    vinyls.vinylById(db(), input.vinyl),
    workshop.cutterById(db(), input.cutter),
  ]);
  if (!vinyl || !can(person, 'see', { owner: vinyl.person_id, visibility: vinyl.visibility }))
    throw new NotFound('No such vinyl.');
  if (!cutter || !can(person, 'change', { owner: cutter.person_id })) throw new NotFound('No such cutter.');
  if (!cutter.blade_id) throw new Invalid({ form: `Put a blade on ${cutter.name} first.` });
  const axis = strengthAxis(cutter.model);
  let strength: number;
  try {
    strength = parsePosition(axis, input.strength);
  } catch (error) {
    if (error instanceof AxisError) throw new Invalid({ strength: `${error.message}.` });
    throw error;
  }
  const { hash, result } = await refreshReading(person.id, vinyl.id, cutter.id);
  await transaction(async (q) => {
    await store.replaceSetting(q, person.id, vinyl.id, cutter.id);
    await store.insertSetting(q, {
      id: uuidv7(),
      personId: person.id,
      vinylId: vinyl.id,
      colourId: vinyl.colour_id,
      cutterId: cutter.id,
      bladeId: cutter.blade_id!,
      controls: atStrength(cutter.model, startingSetting(cutter.model), strength),
      standing: result.evidence.cells > 0 ? 'tried' : 'draft',
      hash,
      note: input.note,
    });
  });
}
