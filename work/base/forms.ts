import { z } from 'zod';
import { Invalid } from './errors.ts';

/** Reads a form with a schema. @throws Invalid with one message a field */
export function read<S extends z.ZodType>(schema: S, form: FormData | Record<string, unknown>): z.output<S> {
  const raw = form instanceof FormData ? Object.fromEntries(form) : form;
  const parsed = schema.safeParse(raw);
  if (parsed.success) return parsed.data;
  const fields: Record<string, string> = {};
  for (const issue of parsed.error.issues) fields[String(issue.path[0] ?? 'form')] ??= issue.message;
  throw new Invalid(fields);
}

/** An id that a form may leave empty. */
export const optionalId = z.union([z.uuid(), z.literal('').transform(() => undefined)]).optional();

/** A box that was ticked, or was not. */
export const ticked = z
  .literal('yes')
  .optional()
  .transform((v) => v === 'yes');
