import { z } from 'zod';
import {
  inchesToMicrometres,
  micrometresToInches,
  micrometresToMm,
  mmToMicrometres,
  parseDecimal,
  capitalise,
} from '#core/units/index.ts';

type Unit = 'mm' | 'in';

/** A typed length in the person's unit as µm; "5 m" and "12 in" say theirs. */
export const lengthField = (what: string, unit: Unit, limits: { min: number; max: number }) =>
  z.string(`Give ${what}.`).transform((text, context) => {
    const match = /^\s*([-\d.,⅛¼⅜½⅝¾⅞/ ]+?)\s*(mm|cm|m|in|ft|")?\s*$/i.exec(text);
    const value = match && parseDecimal(match[1]!);
    const factor: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4, ft: 304.8 };
    const mm = value === undefined || value === null ? NaN : value * factor[(match![2] ?? unit).toLowerCase()]!;
    const um =
      unit === 'in' && !match?.[2] && typeof value === 'number' ? inchesToMicrometres(value) : mmToMicrometres(mm);
    if (Number.isFinite(um) && um >= limits.min && um <= limits.max) return um;
    const say = (n: number) =>
      unit === 'mm' ? `${micrometresToMm(n)} mm` : `${Number(micrometresToInches(n).toFixed(1))} in`;
    context.addIssue({
      code: 'custom',
      message: `${capitalise(what)} is a length from ${say(limits.min)} to ${say(limits.max)}, as ${unit === 'mm' ? '305 or 5 m' : '12 or 5 ft'}.`,
    });
    return z.NEVER;
  });
