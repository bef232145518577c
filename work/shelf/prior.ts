import { carrySetting, strengthAxis } from '#core/controls/index.ts';
import { aroundSchema, type Around } from '#core/window/index.ts';
import { wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import type { FromOthers } from '#work/coupons/plan.ts';
import { splitOnBench } from './onBench.ts';
import type { Person } from '#work/people/person.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { cardRow } from './cards.ts';

/** What others have a vinyl at, as a plan asks for it: a card to be checked, or two camps to decide between. */
export async function fromOthers(
  person: Person | undefined,
  bench: Bench,
  vinyl: { id: string; type: VinylTypeKey },
  form: FormData,
): Promise<FromOthers> {
  if (form.get('mode') !== 'decide') return { prior: await priorOf(person, bench, form) };
  const wanted = form.get('wanted') === 'through' || form.get('wanted') === 'clean' ? form.get('wanted') : undefined;
  const split = await splitOnBench(bench, vinyl.id, (wanted as Wanted | undefined) ?? wantedOfType(vinyl.type));
  const numbers = [...new Set((split?.camps ?? []).flatMap((c) => (c.number === undefined ? [] : [c.number])))];
  numbers.sort((a, b) => a - b);
  return { camps: numbers.length > 1 ? [numbers[0]!, numbers.at(-1)!] : undefined };
}

/** Where the card that a form or an address names has it, on the axis of the cutter at hand; undefined without one, or for another model. */
async function priorOf(person: Person | undefined, bench: Bench, form: FormData): Promise<Around | undefined> {
  const ref = form.get('card');
  if (form.get('mode') !== 'check' || typeof ref !== 'string' || ref === '') return undefined;
  const { model, controls } = (await cardRow(person, ref)).content;
  const here = bench.cutter.model;
  const carried = carrySetting(model, here, controls);
  return carried && aroundSchema.parse({ position: carried.steps[strengthAxis(here).key]! });
}
