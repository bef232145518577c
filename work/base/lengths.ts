import { z } from 'zod';
import { capitalise, micrometresToInches, micrometresToMm, readLength } from '#core/units/index.ts';

type Unit = 'mm' | 'in';

/** A typed length in the person's unit as µm; "5 m" and "12 in" say theirs. */
export const lengthField = (what: string, unit: Unit, limits: { min: number; max: number }) =>
  z.string(`Give ${what}.`).transform((text, context) => {
    const um = readLength(text, unit);
    if (um !== undefined && um >= limits.min && um <= limits.max) return um;
    const say = (n: number) =>
      unit === 'mm' ? `${micrometresToMm(n)} mm` : `${Number(micrometresToInches(n).toFixed(1))} in`;
    context.addIssue({
      code: 'custom',
      message: `${capitalise(what)} is a length from ${say(limits.min)} to ${say(limits.max)}, as ${unit === 'mm' ? '305 or 5 m' : '12 or 5 ft'}.`,
    });
    return z.NEVER;
  });
