import { z } from 'zod';
import { faultsOf, smallestUm, troubleFreeUm } from './faults.ts';
import { artworkLimits } from './limits.ts';
import { readArtwork } from './readArtwork.ts';

/** A drawing as `bin/core artwork` takes it, with the vinyl and the size it is asked for. */
export const artworkInputSchema = z.strictObject({
  format: z.literal('versipel-svg/1'),
  svg: z.string().max(artworkLimits.bytes),
  film: z
    .strictObject({
      line: z.int().min(1).max(50_000).describe('narrowest line that weeds, µm'),
      gap: z.int().min(1).max(50_000).describe('narrowest gap that stays open, µm'),
      growth: z.int().min(0).max(10_000).describe('how far an edge moves outward when it is pressed, µm'),
    })
    .optional(),
  width: z.int().min(1_000).max(3_000_000).optional().describe('of the whole drawing, µm'),
});
export type ArtworkInput = z.infer<typeof artworkInputSchema>;

/** Reads a drawing, and judges it for a vinyl at a size where both are given. @throws ArtworkError */
export function artwork({ svg, film, width }: ArtworkInput) {
  const read = readArtwork(svg);
  const layers = film ? read.layers.map((layer) => ({ layer, film })) : [];
  return {
    ...read,
    ...(film
      ? { trouble_free_mm: troubleFreeUm(read, layers) / 1000, smallest_mm: smallestUm(read, layers) / 1000 }
      : {}),
    ...(film && width ? { faults: read.layers.flatMap((layer) => faultsOf(read, layer, film, width)) } : {}),
  };
}
