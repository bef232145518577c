import { z } from 'zod';
import { judge, mendsFor, type Artwork } from '#core/artwork/index.ts';
import type { Plan } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { mendsOnThread } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { countDrawing } from '#work/people/limits.ts';
import type { Person } from '#work/people/person.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { drawingIn, keepArtwork } from './artwork.ts';
import { newLayer, revise } from './jobs.ts';
import { jobOf, type JobView } from './view.ts';

/**
 * A plan with a mended drawing: colours that stay keep their layers, their order and the vinyls that were chosen, what was left out stays out, and
 * what was laid below everything is the lowest.
 */
function withMended(plan: Plan, before: JobView, hash: string, artwork: Artwork, widthUm: number): Plan {
  if (!plan.design) throw new NotFound('There is no drawing on this job.');
  // What was mended is one of its names: the others would keep their own outlines under its layers.
  if (plan.pieces.some((p) => p.name))
    throw new Invalid({ form: 'This job is a list of names: change them where they are lettered.' });
  return {
    ...plan,
    design: { ...plan.design, artwork: hash, widthUm: Math.min(widthUm, plan.blank.width) },
    layers: [
      ...artwork.layers.flatMap((l) =>
        [...before.layers.map((b) => b.drawn), ...before.leftOut.map((o) => o.hex)].includes(l.hex)
          ? []
          : [newLayer(l.id)],
      ),
      ...plan.layers.flatMap((layer) => {
        const drawn = before.layers.find((b) => b.id === layer.id)?.drawn;
        const path = artwork.layers.find((l) => l.hex === drawn)?.id;
        return path ? [{ ...layer, path }] : [];
      }),
    ],
  };
}

/** A film that was chosen for a colour while the drawing was looked at: "#204080 <vinyl>". */
const filmSchema = z.string().regex(/^#[0-9a-f]{6} [0-9a-f-]{36}$/);

/** Puts a drawing, as it was mended or resized where it was looked at, in the place of the one a job has; with the films chosen there. */
export async function takeMended(person: Person, id: string, form: FormData): Promise<void> {
  const { width } = read(z.object({ width: z.coerce.number().int().min(1_000).max(3_000_000) }), form);
  const films = z.array(filmSchema).max(60).safeParse(form.getAll('film'));
  if (!films.success) throw new Invalid({ form: 'A film has to be one of your own vinyls.' });
  const { svg } = await drawingIn(form);
  const before = await jobOf(person, id);
  const { hash, artwork } = await keepArtwork(svg);
  const chosen = new Map<string, Awaited<ReturnType<typeof vinylOf>>>();
  for (const film of films.data) {
    const [hex, vinyl] = film.split(' ') as [string, string];
    chosen.set(hex, await vinylOf(person, vinyl, undefined));
  }
  const hexOf = new Map(artwork.layers.map((l) => [l.id, l.hex]));
  await revise(person, id, (plan) => {
    const next = withMended(plan, before, hash, artwork, width);
    return {
      ...next,
      layers: next.layers.map((layer) => {
        const vinyl = chosen.get(hexOf.get(layer.path) ?? '');
        return vinyl && vinyl.id !== layer.vinyl ? { ...layer, vinyl: vinyl.id, colour: vinyl.colour?.id } : layer;
      }),
    };
  });
}

/**
 * Opens and thickens what is too narrow for the films of a job, at the width it has: every film’s own needs, and the width stays.
 * @throws Invalid at "form" where nothing is too narrow
 */
export async function mendJob(person: Person, id: string): Promise<void> {
  const job = await jobOf(person, id);
  const { artwork, layers, plan } = job;
  if (!artwork || !plan.design) throw new NotFound('There is no drawing on this job.');
  const filmed = layers.flatMap((l) => (l.needs ? [{ layer: l.art, film: l.needs }] : []));
  const { widthUm } = plan.design;
  const judged = judge(artwork, filmed, widthUm);
  const mends = judged.layers.flatMap(({ layer, faults }, i) => mendsFor(layer, faults, filmed[i]!.film));
  if (mends.length === 0) throw new Invalid({ form: 'Nothing is too narrow at this width: there is nothing to mend.' });
  await countDrawing(person);
  const after = await mendsOnThread(artwork, mends, widthUm);
  const { hash, artwork: read } = await keepArtwork(after.svg);
  await revise(person, id, (now) => withMended(now, job, hash, read, after.widthUm));
}

/** Puts back the drawing that a job had before the one it has, with its layers; width and place stay as they are. */
export async function unmendJob(person: Person, id: string): Promise<void> {
  await revise(person, id, async (plan) => {
    const before = plan.design && (await store.planBeforeDrawing(db(), id, plan.design.artwork))?.plan;
    if (!before?.design) throw new Invalid({ form: 'There was no other drawing before this one.' });
    return { ...plan, design: { ...plan.design!, artwork: before.design.artwork }, layers: before.layers };
  });
}
