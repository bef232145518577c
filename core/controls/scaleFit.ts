import { z } from 'zod';
import { isotonic, median, monotoneCubic, theilSen } from '../stats/index.ts';
import { limitsOf } from './axis.ts';
import { axisSchema } from './model.ts';
import type { Axis } from './axisShapes.ts';

export const scaleDefaults = {
  /** Readings needed before anything is said. */
  least: 3,
  /** A reading that lies this many robust standard deviations off is marked and left out. */
  wild: 3.5,
  /** A kitchen scale under a tip repeats within about this share: nothing closer than that is called wild. */
  repeats: 0.04,
};

export const scaleInputSchema = z.strictObject({
  format: z.literal('versipel-scale/1'),
  axis: axisSchema,
  readings: z
    .array(z.strictObject({ position: z.int(), grams: z.number().positive().max(5000) }))
    .min(scaleDefaults.least)
    .max(60)
    .refine((list) => new Set(list.map((p) => p.position)).size === list.length, { message: 'one reading a place' }),
});
export type ScaleInput = z.infer<typeof scaleInputSchema>;

export type ScaleFit = {
  format: 'versipel-scale-result/1';
  /** Every reading in the order of the axis: what the curve says there, how far off it lies (share), whether it was left out. */
  readings: { position: number; grams: number; fitted: number; residual: number; wild: boolean }[];
  /** The curve over the axis, grams; straight on beyond what was weighed. */
  curve: { position: number; grams: number; weighed: boolean }[];
  /** Spread of the readings kept about the curve, as a share. */
  spread: number;
};

/** Readings that do not hang together well enough for a curve. The message says why. */
export class ScaleError extends Error {}

const logOf = (axis: Axis) => (axis.kind === 'number' && axis.scale === 'log' ? Math.log : (p: number) => p);

/**
 * What a cutter's strength axis means in grams, from a kitchen scale under the tip at three places or more. More is never
 * lighter, so the curve is monotone: readings in log grams, wild ones found against a straight line that they cannot move and
 * left out, the rest made nondecreasing, a smooth monotone curve through them.
 * Sources: Theil–Sen line; isotonic regression by pooling; Fritsch & Carlson (1980) curve. Wild is a residual beyond 3.5 robust
 * standard deviations (1.4826 × median absolute deviation; Hampel 1974).
 *
 * @throws ScaleError when fewer than three readings are left, or they fall as the axis rises
 */
export function fitScale({ axis, readings }: ScaleInput): ScaleFit {
  const { min, max } = limitsOf(axis);
  const outside = readings.find((r) => r.position < min || r.position > max);
  if (outside) throw new ScaleError(`position ${outside.position} is not on the axis`);
  const sorted = [...readings].sort((a, b) => a.position - b.position);
  const u = logOf(axis);
  const x = sorted.map((r) => u(r.position));
  const y = sorted.map((r) => Math.log(r.grams));
  const line = theilSen(x, y);
  if (!(line.slope > 0)) throw new ScaleError('the grams do not rise along the axis: weigh again, lightest first');
  const off = y.map((v, i) => v - line.intercept - line.slope * x[i]!);
  const spread = Math.max(1.4826 * median(off.map((o) => Math.abs(o - median(off)))), scaleDefaults.repeats);
  const wild = off.map((o) => Math.abs(o - median(off)) > scaleDefaults.wild * spread);
  const keep = sorted.flatMap((_, i) => (wild[i] ? [] : [i]));
  if (keep.length < scaleDefaults.least)
    throw new ScaleError('too few readings agree: weigh again at three places or more');
  const level = isotonic(keep.map((i) => y[i]!));
  const curve = monotoneCubic(
    keep.map((i) => x[i]!),
    level,
  );
  const grams = (position: number) => Math.exp(curve(u(position)));
  const round = (v: number) => Number(v.toPrecision(5));
  const shown = sorted.map((r, i) => ({
    position: r.position,
    grams: r.grams,
    fitted: round(grams(r.position)),
    residual: round(r.grams / grams(r.position) - 1),
    wild: wild[i]!,
  }));
  const places = Math.min(41, max - min + 1);
  const even = Array.from({ length: places }, (_, i) => Math.round(min + ((max - min) * i) / (places - 1)));
  const along = [...new Set([...even, ...keep.map((i) => sorted[i]!.position)])].sort((a, b) => a - b);
  const [first, last] = [sorted[keep[0]!]!.position, sorted[keep.at(-1)!]!.position];
  return {
    format: 'versipel-scale-result/1',
    readings: shown,
    curve: along.map((position) => ({
      position,
      grams: round(grams(position)),
      weighed: position >= first && position <= last,
    })),
    spread: round(Math.sqrt(keep.reduce((s, i) => s + shown[i]!.residual ** 2, 0) / keep.length)),
  };
}
