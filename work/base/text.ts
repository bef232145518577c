import { z } from 'zod';
import { capitalise } from '#core/units/index.ts';

/** Whether anything of a text can be seen: not only spaces, joiners, marks without a letter, or fillers that have no shape. */
const visible = (text: string): boolean =>
  text.replace(/[\p{C}\p{Z}\p{M}\p{Default_Ignorable_Code_Point}\u2800\u3164\u115f\u1160\uffa0]/gu, '') !== '';

/** Free text of several lines: control characters other than line breaks are dropped. May be empty. */
export const paragraph = (what: string, max: number) =>
  z
    .string()
    .transform((s) =>
      s
        .normalize('NFC')
        .replace(/\r\n?/g, '\n')
        .replace(/[^\P{Cc}\n]/gu, '')
        .trim(),
    )
    .refine((s) => s.length <= max, {
      message: `${capitalise(what)} can have ${max} characters.`,
    });

/**
 * One line of free text: control characters and line breaks become spaces, ends are trimmed. Length is counted in characters
 * as a person sees code points, and said.
 */
export const line = (what: string, max: number, options: { optional?: boolean } = {}) =>
  z
    .string()
    .transform((s) =>
      s
        .normalize('NFC')
        .replace(/[\p{Cc}\u2028\u2029]+/gu, ' ')
        .trim(),
    )
    .refine((s) => options.optional || s.length > 0, { message: `Give ${what}.` })
    .refine((s) => s.length === 0 || visible(s), {
      message: `${capitalise(what)} needs at least one letter, digit or sign that can be seen.`,
    })
    .refine((s) => s.length <= max, {
      error: (issue) => `${capitalise(what)} can have ${max} characters; this has ${String(issue.input).length}.`,
    });

/** A server as it is said: without how it is spoken to. Undefined where it is not known. */
export const sayHome = (home: string | null): string | undefined => home?.replace(/^https?:\/\//, '') || undefined;
