import { v7 as uuidv7 } from 'uuid';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { device, form, shirtForm } from './bench.ts';

// Somebody with a press, their vinyls, and jobs that are pressed.
/** One layer on the other; and two that lie apart. */
export const two =
  '<svg viewBox="0 0 100 100"><rect width="100" height="100" fill="#1f3a5f"/><rect x="30" y="30" width="40" height="40" fill="#b3202c"/></svg>';
export const apart =
  '<svg viewBox="0 0 100 40"><rect width="30" height="30" fill="#1f3a5f"/><rect x="60" width="30" height="30" fill="#b3202c"/></svg>';

/** A guest with a cutter. */
export async function someone(): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'mine', blade: 'first', angle: '45', used: '0' }));
  return person;
}
export const vinyl = (person: Person, name: string, type = 'smooth') =>
  addVinyl(person, { brand: 'Larkfield', name, type, colour: name, hex: '#1f3a5f' });
/** A job of a design 8 in wide, in these vinyls, the lowest first. */
export async function job(
  person: Person,
  vinyls: readonly string[],
  { svg = two, surface = 'plain-cloth', count = '1' } = {},
) {
  const id = await beginJob(person, shirtForm({ surface, count }));
  await setDrawing(person, id, form({ svg }));
  const { layers } = await jobOf(person, id);
  for (const [i, layer] of layers.entries())
    await chooseVinyl(person, id, form({ layer: layer.id, vinyl: vinyls[i]! }));
  await setSize(
    person,
    id,
    form({ width: '8 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' }),
  );
  return id;
}
/** What a device tells of a step. */
export const said = (id: string, step: string, more: object, at = Date.now()) => ({
  id: uuidv7(),
  job: id,
  step,
  attempt: 1,
  rev: 4,
  device,
  deviceAt: new Date(at).toISOString(),
  ...more,
});
