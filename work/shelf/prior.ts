import { carrySetting, strengthAxis } from '#core/controls/index.ts';
import { aroundSchema, type Around } from '#core/window/index.ts';
import type { Person } from '#work/people/person.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { cardRow } from './cards.ts';

/** Where the card that a form or an address names has it, on the axis of the cutter at hand; undefined without one, or for another model. */
export async function priorOf(person: Person | undefined, bench: Bench, form: FormData): Promise<Around | undefined> {
  const ref = form.get('card');
  if (form.get('mode') !== 'check' || typeof ref !== 'string' || ref === '') return undefined;
  const { model, controls } = (await cardRow(person, ref)).content;
  const here = bench.cutter.model;
  const carried = carrySetting(model, here, controls);
  return carried && aroundSchema.parse({ position: carried.steps[strengthAxis(here).key]! });
}
