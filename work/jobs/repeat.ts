import { v7 as uuidv7 } from 'uuid';
import { planSchema } from '#core/job/index.ts';
import { transaction } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { enforceQuota } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { ownJob, planOf } from './jobs.ts';
import { loadsFor } from './loads.ts';

/**
 * Begins the same job once more, to be done in other colours: blank, drawing, size, place and vinyls are those of the first, and nothing is done yet.
 * @returns its id
 */
export async function repeatJob(person: Person, id: string): Promise<string> {
  const { name } = await ownJob(person, id);
  const { plan } = await planOf(id);
  await enforceQuota(person, 'jobs');
  const next = uuidv7();
  const layers = plan.layers.map((l) => ({ ...l, id: uuidv7() }));
  const repeated = planSchema.parse({
    ...plan,
    pieces: plan.pieces.map((p) => ({ ...p, id: uuidv7() })),
    layers,
    finish: plan.finish.map((f) => ({ ...f, id: uuidv7() })),
    loads: [],
    ...(plan.design ? { design: { ...plan.design, sized: false } } : {}),
  });
  await transaction(async (q) => {
    await store.insertJob(q, { id: next, personId: person.id, name });
    await store.insertPlan(q, next, 1, { ...repeated, loads: loadsFor(repeated, []) });
  });
  return next;
}
