import { z } from 'zod';
import { formatPosition, limitsOf } from './axis.ts';
import { anyAxis, position } from './axisShapes.ts';

/** What a position is called must lead back to it, whatever stops and entries are named. */
export const axisSchema = anyAxis.superRefine((axis, context) => {
  if (axis.kind === 'number') return;
  const { min, max } = limitsOf(axis);
  const seen = new Set<string>();
  for (let position = min; position <= max; position++) {
    const said = formatPosition(axis, position).toLowerCase();
    if (seen.has(said)) return context.addIssue({ code: 'custom', message: `two positions are both called "${said}"` });
    seen.add(said);
  }
  if (axis.start !== undefined && (axis.start < min || axis.start > max))
    context.addIssue({ code: 'custom', message: 'start lies outside the axis' });
});

export const cutterModelSchema = z
  .object({
    key: z.string().regex(/^[a-z][a-z0-9-]{0,40}$/),
    version: z.int().min(1).max(10_000),
    name: z.string().min(1).max(60),
    about: z.string().max(300).default(''),
    axes: z.array(axisSchema).min(1).max(8),
    usableWidthUm: z.int().min(50_000).max(3_000_000).optional().describe('how wide it cuts, µm'),
    hpgl: z
      .object({
        force: z.string().optional().describe('key of the axis whose number goes out as FS, grams on the tip'),
        speed: z.string().optional().describe('key of the axis whose number goes out as VS'),
      })
      .optional()
      .describe('what the cutter takes from an HPGL file; left out where everything is set by hand'),
  })
  .refine((m) => m.axes.filter((a) => a.role === 'strength').length === 1, {
    message: 'a model has exactly one strength axis',
  })
  .refine((m) => new Set(m.axes.map((a) => a.key)).size === m.axes.length, { message: 'two axes bear the same key' })
  .refine(
    (m) =>
      [m.hpgl?.force, m.hpgl?.speed].every(
        (key) => key === undefined || m.axes.some((a) => a.key === key && a.kind === 'number' && a.min * a.step >= 0),
      ),
    { message: 'hpgl names a number axis of the model that is never below zero' },
  );
export type CutterModel = z.infer<typeof cutterModelSchema>;

/** Controls of one cut: a position for every axis of the model. */
export const settingSchema = z.object({
  model: z.string().max(60),
  version: z.int().min(1).max(10_000),
  steps: z
    .record(z.string().max(40), position)
    .refine((s) => Object.keys(s).length <= 8, { message: 'a setting has a place on at most 8 axes' }),
});
export type Setting = z.infer<typeof settingSchema>;
