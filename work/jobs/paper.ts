import { truePaper } from '#core/place/index.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { jobOf } from './view.ts';

/** The design of a job at true size. @throws NotFound where it has none */
export async function paperOf(person: Person | undefined, id: string): Promise<string> {
  const { artwork, plan, placed, layers } = await jobOf(person, id);
  if (!artwork || !plan.design || !placed) throw new NotFound('No drawing yet.');
  return truePaper({
    design: { width: plan.design.widthUm, height: Math.round((plan.design.widthUm * artwork.height) / artwork.width) },
    placed,
    art: { width: artwork.width, layers: layers.map((l) => ({ d: l.art.d, hex: l.hex })) },
    mirrored: plan.design.mirrored,
  });
}
