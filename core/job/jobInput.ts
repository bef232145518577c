import { z } from 'zod';
import { gradeWords } from '../grades/index.ts';
import { jobEventSchema } from './events.ts';
import { jobLimits, planSchema } from './plan.ts';
import { runSheet, type Sheet } from './runSheet.ts';

/** A job as `bin/core job` takes it: its newest plan, what hands did, what cuts say of themselves. */
export const jobInputSchema = z.strictObject({
  format: z.literal('versipel-job/1'),
  plan: planSchema,
  widths: z
    .array(z.int().min(1_000).nullable())
    .min(1)
    .max(jobLimits.revisions)
    .describe('how wide the design was in each revision of the plan, the oldest first, µm; null where there was none'),
  events: z.array(jobEventSchema).max(jobLimits.events).default([]),
  facts: z
    .array(
      z.strictObject({
        part: z.uuid(),
        attempt: z.int().min(1).max(50),
        cut: z.uuid(),
        cell: z.uuid(),
        passes: z.int().min(0).max(9),
        grade: z.enum(gradeWords).optional(),
        enough: z.boolean().describe('whether nothing is to be done about a grade as good'),
      }),
    )
    .max(600)
    .default([]),
  press: z
    .array(
      z.strictObject({
        what: z.string().min(1).max(600),
        kind: z.enum(['press', 'apply']).default('press'),
        layers: z.array(z.uuid()).max(jobLimits.layers).default([]),
        seconds: z.number().min(0.5).max(600).optional().describe('how long it is pressed; left out where nobody says'),
      }),
    )
    .max(60)
    .default([])
    .describe('what is pressed of each piece, in order'),
  now: z.iso.datetime({ offset: true }).describe('for clocks that run'),
});
export type JobInput = z.infer<typeof jobInputSchema>;

/** The run sheet of a job, see `runSheet`. */
export function jobSheet({ plan, widths, events, facts, press, now }: JobInput): { format: string; sheet: Sheet } {
  const sheet = runSheet(
    plan,
    widths.map((w) => w ?? undefined),
    events,
    facts,
    press,
    Date.parse(now),
  );
  return { format: 'versipel-job-result/1', sheet };
}
