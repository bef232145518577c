import { cutMirrored } from '../vinyls/index.ts';
import { z } from 'zod';
import { checkLayer, outlineOf } from './check.ts';
import { colourOf } from './colours.ts';
import { ofFilm, type Fault, type FilmNeeds } from './faults.ts';
import { judge } from './judge.ts';
import { ArtworkError, artworkLimits } from './limits.ts';
import { readArtwork } from './readArtwork.ts';

const mm = (min: number, max: number) => z.number().min(min).max(max);
const vinylSchema = z.strictObject({
  min_feature_mm: mm(0.01, 50).describe('narrowest line that weeds'),
  min_gap_mm: mm(0.01, 50).describe('narrowest gap that stays open'),
  growth_mm: mm(0, 10).default(0).describe('how far an edge moves outward when it is pressed'),
  cut_from: z.enum(['back', 'face']).default('back').describe('back: it lies face down, and the file is mirrored'),
});

/** A drawing as `bin/core artwork` takes it, with the vinyls and the size it is asked for. */
export const artworkInputSchema = z
  .strictObject({
    format: z.literal('versipel-svg/1').optional(),
    svg: z.string().max(artworkLimits.bytes),
    width_mm: mm(1, 3_000).describe('of the whole drawing'),
    vinyl: vinylSchema.optional().describe('for every colour that `layers` does not name'),
    layers: z
      .array(z.strictObject({ colour: z.string().max(100).describe('as CSS writes it'), vinyl: vinylSchema }))
      .max(artworkLimits.layers)
      .default([]),
  })
  .refine((input) => input.vinyl || input.layers.length > 0, {
    path: ['vinyl'],
    message: 'say a vinyl for all colours, or one for each',
  });
export type ArtworkInput = z.infer<typeof artworkInputSchema>;

const toFilm = (v: z.infer<typeof vinylSchema>): FilmNeeds => ({
  line: Math.round(v.min_feature_mm * 1000),
  gap: Math.round(v.min_gap_mm * 1000),
  growth: Math.round(v.growth_mm * 1000),
});
/** Thousandths of a millimetre are more than anything cuts. */
const round = (n: number, digits = 3) => Number(n.toFixed(digits));

/**
 * Reads a drawing and judges each colour for its vinyl at a size.
 * @throws ArtworkError where the file is wrong, or has no colour that was named
 */
export function artwork({ svg, width_mm: width, vinyl, layers }: ArtworkInput) {
  const read = readArtwork(svg);
  const named = layers.map(({ colour, vinyl: own }) => {
    const hex = colourOf(colour)?.hex;
    if (hex === undefined || !read.layers.some((l) => l.hex === hex))
      throw new ArtworkError(
        `layers: the drawing has no colour ${colour}; it has ${[...new Set(read.layers.map((l) => l.hex))].join(', ')}`,
      );
    return { hex, vinyl: own };
  });
  const widthUm = Math.round(width * 1000);
  const judged = read.layers.flatMap((layer) => {
    const chosen = named.find((n) => n.hex === layer.hex)?.vinyl ?? vinyl;
    return chosen ? [{ layer, film: toFilm(chosen), vinyl: chosen }] : [];
  });
  const heightMm = (width * read.height) / read.width;
  const place = (f: Fault) => ({
    x_mm: round(f.x * width),
    y_mm: round(f.y * heightMm),
    width_mm: round(f.widthUm / 1000),
    kind: f.kind,
  });
  const { free, smallest } = judge(read, judged, widthUm);
  /** A size of the drawing; null where no size does. */
  const size = (um: number | undefined) => (um === undefined ? null : round(um / 1000));
  return {
    format: 'versipel-artwork-check/1' as const,
    width_mm: width,
    height_mm: round(heightMm),
    notes: read.notes,
    layers: judged.map(({ layer, film, vinyl: chosen }) => {
      const check = checkLayer(read, layer, film, widthUm);
      const { x, y, width: w, height: h } = check.bounds;
      return {
        colour: layer.hex,
        bounds_mm: { x: round(x / 1000), y: round(y / 1000), width: round(w / 1000), height: round(h / 1000) },
        area_mm2: round(check.areaMm2, 2),
        pieces: check.pieces,
        holes: check.holes,
        cut_length_mm: round(check.lengthUm / 1000, 2),
        mirrored: cutMirrored(chosen.cut_from),
        thin: check.faults.filter(ofFilm).map(place),
        gaps: check.faults.filter((f) => !ofFilm(f)).map(place),
        corners: check.cares.flatMap((c) =>
          c.kind === 'corner' ? [{ x_mm: round(c.x * width), y_mm: round(c.y * heightMm), degrees: c.degrees }] : [],
        ),
        one_piece: check.onePiece,
        least_outline_mm: round(outlineOf(read, layer, film, widthUm).radius / 1000),
        weed_minutes: check.weed.minutes,
        weed_minutes_between: [check.weed.low, check.weed.high],
      };
    }),
    sizes: {
      trouble_free_mm: size(free),
      smallest_mm: size(smallest),
    },
  };
}
