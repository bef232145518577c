import { z } from 'zod';
import { mmToMicrometres, parseDecimal } from '#core/units/index.ts';
import { PLAIN_LIFE } from '#core/wear/index.ts';

/** A typed number of metres as µm. */
export const metres = (what: string, max: number) =>
  z
    .string()
    .transform((s) => (s.trim() === '' ? 0 : (parseDecimal(s) ?? NaN)))
    .refine((v) => Number.isFinite(v), { message: `${what} is a number of metres, for example 18 or 2,5.` })
    .refine((v) => !(v < 0 || v > max), { message: `${what} lies between 0 and ${max} m.` })
    .transform((v) => mmToMicrometres(v * 1000));

export const angle = z
  .string()
  .transform((s) => parseDecimal(s) ?? NaN)
  .refine((v) => Number.isInteger(v) && v >= 15 && v <= 75, {
    message: 'The tip angle is a whole number from 15 to 75 degrees.',
  });

/** How far the tip trails behind the middle of the holder: 0 to 2 mm, typed in mm. */
export const offset = z
  .string()
  .default('0.25')
  .transform((s) => (s.trim() === '' ? 0.25 : (parseDecimal(s) ?? NaN)))
  .refine((v) => v >= 0 && v <= 2, { message: 'The blade offset lies between 0 and 2 mm; 0.25 is usual.' })
  .transform(mmToMicrometres);
export const life = z
  .string()
  .default('')
  .transform((s) => (s.trim() === '' ? PLAIN_LIFE / 1e6 : (parseDecimal(s) ?? NaN)))
  .refine((v) => v >= 1 && v <= 1000, { message: 'How long a blade lasts lies between 1 and 1000 m of plain film.' })
  .transform((v) => Math.round(v * 1e6));
