import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { shippedModels, type CutterModel } from '#core/controls/index.ts';
import { mmToMicrometres, parseDecimal } from '#core/units/index.ts';
import { db, transaction } from '#store/db.ts';
import * as store from '#store/workshop.ts';
import { Invalid, NotFound } from './errors.ts';
import { read } from './forms.ts';
import type { Person } from './people.ts';
import { can } from './permissions.ts';
import { refreshOverdue } from './readings.ts';
import { line } from './text.ts';

/** What is under the hands: a cutter and the blade on it. */
export type Bench = {
  cutter: { id: string; name: string; model: CutterModel };
  blade: { id: string; mounting: string; name: string; angle: number; cutUm: number; lifeUm: number } | undefined;
};

function toBench(row: store.CutterRow): Bench {
  return {
    cutter: { id: row.id, name: row.name, model: row.model },
    blade:
      row.mounting_id === null
        ? undefined
        : {
            id: row.blade_id!,
            mounting: row.mounting_id,
            name: row.blade_name!,
            angle: row.blade_angle!,
            cutUm: row.blade_cut_um!,
            lifeUm: row.blade_life_um!,
          },
  };
}

/** Puts the shipped cutter models into the database; those already published stay as they are. */
export async function publishShippedModels(): Promise<void> {
  for (const model of shippedModels) await store.publishModel(db(), model);
}

export async function benchOf(person: Person | undefined): Promise<Bench | undefined> {
  const row = person && (await store.benchOf(db(), person.id));
  return row && toBench(row);
}

export async function workshopOf(person: Person | undefined) {
  if (!person) return { cutters: [], blades: [] };
  const [cutters, blades] = await Promise.all([store.cuttersOf(db(), person.id), store.bladesOf(db(), person.id)]);
  return { cutters: cutters.map(toBench), blades };
}

export const cutterModels = async (): Promise<CutterModel[]> =>
  (await store.newestModels(db())).map((r) => r.definition);

/** The newest version of a cutter's model, where the cutter still has an older one. */
export const newerModel = (model: CutterModel, all: readonly CutterModel[]): CutterModel | undefined =>
  all.find((m) => m.key === model.key && m.version > model.version);

/** A typed number of metres as µm. */
const metres = (what: string, max: number) =>
  z
    .string()
    .transform((s) => (s.trim() === '' ? 0 : (parseDecimal(s) ?? NaN)))
    .refine((v) => Number.isFinite(v), { message: `${what} is a number of metres, for example 18 or 2,5.` })
    .refine((v) => !(v < 0 || v > max), { message: `${what} lies between 0 and ${max} m.` })
    .transform((v) => mmToMicrometres(v * 1000));

const angle = z
  .string()
  .transform((s) => parseDecimal(s) ?? NaN)
  .refine((v) => Number.isInteger(v) && v >= 15 && v <= 75, {
    message: 'The tip angle is a whole number from 15 to 75 degrees.',
  });

const cutterForm = z.object({
  model: z.string().min(1, 'Choose a cutter model.'),
  name: line('a name for the cutter', 80),
  blade: line('a name for the blade', 80),
  angle,
  used: metres('What the blade has cut', 1000),
});

/** A new cutter with its blade mounted, put on the bench. */
export async function addCutter(person: Person, form: FormData): Promise<string> {
  const input = read(cutterForm, form);
  const model = (await cutterModels()).find((m) => m.key === input.model);
  if (!model) throw new Invalid({ model: 'Choose a cutter model from the list.' });
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
      lifeUm: 60_000_000,
      cutBeforeUm: input.used,
    });
    await store.insertMounting(q, ids.mounting, ids.cutter, ids.blade);
    await store.putOnBench(q, person.id, ids.cutter);
  });
  return ids.cutter;
}

async function ownCutter(person: Person, id: string): Promise<store.CutterRow> {
  const cutter = z.uuid().safeParse(id).success ? await store.cutterById(db(), id) : undefined;
  if (!cutter || !can(person, 'change', { owner: cutter.person_id })) throw new NotFound('No such cutter.');
  return cutter;
}

/**
 * Takes a cutter to the newest version of its model. What was cut before keeps its version; its settings are read in the new
 * one by what the controls show.
 */
export async function takeNewerModel(person: Person, cutterId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const newer = newerModel(cutter.model, await cutterModels());
  if (!newer) throw new Invalid({ form: `${cutter.name} has the newest version of its controls already.` });
  await store.setModelVersion(db(), cutter.id, newer.version);
  readAgain();
}

export async function putOnBench(person: Person, cutterId: string): Promise<void> {
  await ownCutter(person, cutterId);
  await store.putOnBench(db(), person.id, cutterId);
}

/** A blade change moves every number a little: read again now, without making anybody wait. The job catches what this misses. */
const readAgain = () => void refreshOverdue().catch(() => undefined);

const bladeForm = z.object({
  cutter: z.string(),
  name: line('a name for the blade', 80),
  angle,
  used: metres('What it has cut', 1000),
});

/** A new blade, mounted in place of the one on the cutter. */
export async function addBlade(person: Person, form: FormData): Promise<void> {
  const input = read(bladeForm, form);
  const cutter = await ownCutter(person, input.cutter);
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertBlade(q, {
      id,
      personId: person.id,
      name: input.name,
      angle: input.angle,
      lifeUm: 60_000_000,
      cutBeforeUm: input.used,
    });
    await store.unmount(q, cutter.id, id);
    await store.insertMounting(q, uuidv7(), cutter.id, id);
  });
  readAgain();
}

/** Mounts a blade one has on a cutter one has. */
export async function mountBlade(person: Person, cutterId: string, bladeId: string): Promise<void> {
  const cutter = await ownCutter(person, cutterId);
  const owner = z.uuid().safeParse(bladeId).success ? await store.bladeOwner(db(), bladeId) : undefined;
  if (!owner || !can(person, 'change', { owner: owner.person_id })) throw new NotFound('No such blade.');
  await transaction(async (q) => {
    await store.unmount(q, cutter.id, bladeId);
    await store.insertMounting(q, uuidv7(), cutter.id, bladeId);
  });
  readAgain();
}
