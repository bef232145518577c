import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { addLeaflet } from '#work/vinyls/leaflet.ts';
import { addRecipe } from '#work/vinyls/recipes.ts';
import { ownJob, planOf } from './jobs.ts';

/**
 * Takes the press figures of a vinyl of a job, said from within it: as its leaflet has them, or one's own for the job's surface.
 * @throws Invalid with a message a field
 */
export async function sayPressFigures(person: Person, jobId: string, form: FormData): Promise<void> {
  const job = await ownJob(person, jobId);
  const { plan } = await planOf(job.id);
  const vinyl = String(form.get('vinyl'));
  if (!plan.layers.some((l) => l.vinyl === vinyl)) throw new NotFound('No such vinyl in this job.');
  if (form.get('said') !== 'own') return addLeaflet(person, vinyl, form);
  const own = new FormData();
  for (const key of ['heat', 'from', 'to', 'pressure', 'agreed'] as const)
    if (form.has(key)) own.set(key, String(form.get(key)));
  own.set('unit', String(form.get('heatUnit')));
  if (form.get('peel')) own.set('peel', String(form.get('peel')));
  own.set('surface', plan.blank.surface);
  await addRecipe(person, vinyl, own);
}
