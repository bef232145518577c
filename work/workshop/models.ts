import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { cutterModelSchema, shippedModels, type CutterModel } from '#core/controls/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';

/** Puts the shipped cutter models into the database; those already published stay as they are. */
export async function publishShippedModels(): Promise<void> {
  for (const model of shippedModels) await store.publishModel(db(), model);
}

/** The cutter models a person can choose from: those that ship and their own. */
export const cutterModels = async (person?: Person): Promise<CutterModel[]> =>
  (await store.newestModels(db(), person?.id ?? null)).map((r) => r.definition);

/** The newest version of a cutter's model, where the cutter still has an older one. */
export const newerModel = (model: CutterModel, all: readonly CutterModel[]): CutterModel | undefined =>
  all.find((m) => m.key === model.key && m.version > model.version);

/** The first complaint about a model, in a sentence. */
export const modelProblem = (error: z.ZodError): string => {
  const issue = error.issues[0]!;
  const where = issue.path.map((p) => (typeof p === 'number' ? `${p + 1}` : String(p))).join(' ');
  return `${where ? `${where}: ` : ''}${issue.message}.`;
};

/**
 * Publishes a model from its JSON, as a form or a file states it. A model that is known already, to the letter, is taken as it
 * is; the next version of one's own is added beside the ones before; a key that is somebody else's gets a new one.
 * @returns the key
 */
export async function publishModel(person: Person, text: string): Promise<string> {
  let raw: unknown;
  if (text.length > 200_000) throw new Invalid({ model: 'That is too long for a cutter model.' });
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Invalid({ model: 'That is not JSON: export a model to see one.' });
  }
  const parsed = cutterModelSchema.safeParse(raw);
  if (!parsed.success) throw new Invalid({ model: modelProblem(parsed.error) });
  let model = parsed.data;
  const known = await store.modelByVersion(db(), model.key, model.version);
  // jsonb keeps no order of keys: compared as values.
  if (known && same(known.definition, model)) return model.key;
  const owner = await store.modelOwner(db(), model.key);
  const own = owner?.person_id === person.id;
  if (owner && !own) model = { ...model, key: `${model.key.slice(0, 30)}-${uuidv7().slice(-8)}`, version: 1 };
  else if (own && known)
    throw new Invalid({
      model: `Version ${model.version} of ${known.definition.name} is published and stays as it is. Give this one a higher version.`,
    });
  if (!own) await enforceQuota(person, 'models');
  await transaction(async (q) => {
    await store.publishModel(q, model);
    if (!own) await store.setModelOwner(q, model.key, person.id);
  });
  return model.key;
}

const ordered = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(ordered)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, v]) => [k, ordered(v)]),
        )
      : value;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(ordered(a)) === JSON.stringify(ordered(b));

/** A model as a file. */
export async function modelFile(person: Person | undefined, key: string): Promise<{ name: string; body: string }> {
  const model = (await cutterModels(person)).find((m) => m.key === key);
  if (!model) throw new NotFound('No such model.');
  return { name: `${model.key}-${model.version}.json`, body: `${JSON.stringify(model, null, 2)}\n` };
}
