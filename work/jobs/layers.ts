import { z } from 'zod';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { artworkOf, mergedArtwork } from './artwork.ts';
import { newLayer, revise } from './jobs.ts';

/** Merges a layer into another one, leaves one out, brings it back, or moves it up or down. */
export async function changeLayers(person: Person, id: string, form: FormData): Promise<void> {
  const { act, layer, into } = read(
    z.object({
      act: z.enum(['merge', 'leave', 'back', 'up', 'down']),
      layer: z.string().max(40),
      into: z.string().max(40).default(''),
    }),
    form,
  );
  await revise(person, id, async (plan) => {
    const { design } = plan;
    if (!design) throw new NotFound('There is no drawing on this job.');
    const artwork = await artworkOf(design.artwork);
    const at = plan.layers.findIndex((l) => l.id === layer);
    if (act === 'back') {
      if (!artwork.layers.some((l) => l.id === layer) || plan.layers.some((l) => l.path === layer)) return plan;
      return { ...plan, layers: [...plan.layers, newLayer(layer)] };
    }
    if (at < 0) throw new NotFound('No such layer.');
    if (act === 'leave') {
      if (plan.layers.length === 1) throw new Invalid({ form: 'One layer has to stay.' });
      return { ...plan, layers: plan.layers.filter((l) => l.id !== layer) };
    }
    if (act === 'merge') {
      const target = plan.layers.find((l) => l.id === into);
      if (!target || target.id === layer) throw new Invalid({ form: 'Say into which layer it goes.' });
      const merged = await mergedArtwork(artwork, target.path, [plan.layers[at]!.path]);
      // Colours that stay keep their layers, with the vinyls that were chosen.
      const hexOf = (path: string) => artwork.layers.find((l) => l.id === path)?.hex;
      return {
        ...plan,
        design: { ...design, artwork: merged.hash },
        layers: merged.artwork.layers.flatMap((l) => {
          const before = plan.layers.find((p) => p.id !== layer && hexOf(p.path) === l.hex);
          return before
            ? [{ ...before, path: l.id }]
            : plan.layers.some((p) => hexOf(p.path) === l.hex)
              ? [newLayer(l.id)]
              : [];
        }),
      };
    }
    const to = act === 'up' ? at + 1 : at - 1;
    if (to < 0 || to >= plan.layers.length) return plan;
    const layers = [...plan.layers];
    [layers[at], layers[to]] = [layers[to]!, layers[at]!];
    return { ...plan, layers };
  });
}
