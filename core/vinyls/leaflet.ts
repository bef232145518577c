import { z } from 'zod';
import { heatLimits, peels, pressures } from './overrides.ts';

const seconds = z.int().min(1).max(180);
const oneLine = (max: number) =>
  z
    .string()
    .max(max)
    .regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'one line without control characters');

/**
 * What a maker says of its vinyl, as it stands in the leaflet: a source of its own beside what crafters do, never mixed with it.
 * Heat in m°C, time in seconds.
 */
export const leafletSchema = z.strictObject({
  source: oneLine(120).describe('where it stands: "leaflet in the pack, spring 2026"').default(''),
  heat: z.int().min(heatLimits.min).max(heatLimits.max).optional(),
  seconds: z
    .tuple([seconds, seconds])
    .refine(([from, to]) => from <= to, { message: 'the first number of seconds is the smaller one' })
    .optional(),
  pressure: z.enum(pressures).optional(),
  peel: z.enum(peels).optional(),
  /** What it says about cutting, in its own words. */
  cut: oneLine(200).optional(),
});
export type Leaflet = z.infer<typeof leafletSchema>;
