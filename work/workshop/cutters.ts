import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { usableWidth } from '#core/controls/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { ask } from '#work/base/queue.ts';
import { lengthField } from '#work/base/lengths.ts';
import { line } from '#work/base/text.ts';
import { angle, offset, life, metres } from './fields.ts';
import { cutterModels, newerModel } from './models.ts';
import { owned } from '#work/people/owned.ts';

const cutterForm = z.object({
  model: z.string().min(1, 'Choose a cutter model.'),
  name: line('a name for the cutter', 80),
  blade: line('a name for the blade', 80),
  angle,
  offset,
  life,
  used: metres('What the blade has cut', 1000),
});

/** A new cutter with its blade mounted, put on the bench. */
export async function addCutter(person: Person, form: FormData): Promise<string> {
  const input = read(cutterForm, form);
  const model = (await cutterModels(person)).find((m) => m.key === input.model);
  if (!model) throw new Invalid({ model: 'Choose a cutter model from the list.' });
  await enforceQuota(person, 'cutters');
  const ids = { cutter: uuidv7(), blade: uuidv7(), mounting: uuidv7() };
  await transaction(async (q) => {
    await store.insertCutter(q, {
      id: ids.cutter,
      personId: person.id,
      name: input.name,
      modelKey: model.key,
      modelVersion: model.version,
    });
    await store.insertBlade(q, {
      id: ids.blade,
      personId: person.id,
      name: input.blade,
      angle: input.angle,
      offsetUm: input.offset,
      lifeUm: input.life,
      cutBeforeUm: input.used,
    });
    await store.insertMounting(q, ids.mounting, ids.cutter, ids.blade);
    await store.putOnBench(q, person.id, ids.cutter);
  });
  return ids.cutter;
}

export const ownCutter = (person: Person, id: string): Promise<store.CutterRow> =>
  owned(person, 'change', 'cutter', id, (it) => store.cutterById(db(), it));

const correctForm = (unit: 'mm' | 'in') =>
  cutterForm.pick({ name: true }).extend({
    width: z.preprocess(
      (said) => (said === '' ? undefined : said),
      lengthField('how wide it cuts', unit, { min: 50_000, max: 3_000_000 }).optional(),
    ),
  });

/** Calls a cutter something else, or says how wide it cuts. Its model stays: what was cut is in that model's terms. */
export async function correctCutter(person: Person, id: string, form: FormData): Promise<void> {
  const cutter = await ownCutter(person, id);
  const { name, width } = read(correctForm(person.length_unit), form);
  // As wide as its model cuts: nothing of its own.
  const own = width && width !== usableWidth(cutter.model) ? width : null;
  await store.updateCutter(db(), cutter.id, { name, usable_width_um: own });
}

/**
 * Takes a cutter to the newest version of its model. What was cut before keeps its version; its settings are read in the new
 * one by what the controls show.
 */
export async function takeNewerModel(person: Person, cutterId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const newer = newerModel(cutter.model, await cutterModels(person));
  if (!newer) throw new Invalid({ form: `${cutter.name} has the newest version of its controls already.` });
  await store.setModelVersion(db(), cutter.id, newer.version);
  await readAgain();
}

export async function putOnBench(person: Person, cutterId: string): Promise<void> {
  await ownCutter(person, cutterId);
  await store.putOnBench(db(), person.id, cutterId);
}

/** Another blade or model moves every number a little: what was read before is behind, and is read again without making anybody wait. */
export const readAgain = () => ask('readings');
