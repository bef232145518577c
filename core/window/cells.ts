import { z } from 'zod';
import { gradeWords } from '../grades/index.ts';

/** One graded cell as evidence: where, when, on what, and what was seen. */
export const gradedCellSchema = z.strictObject({
  coupon: z.string().min(1).max(80).describe('the cut it belongs to: cells of one coupon share a day'),
  colour: z.string().max(80).optional(),
  batch: z.string().max(80).optional(),
  blade: z.string().max(80).optional(),
  cutter: z.string().max(80).optional().describe('which machine of the model, where several cut'),
  speed: z
    .number()
    .positive()
    .max(1e9)
    .optional()
    .describe('the number shown for speed, where it may differ between cells'),
  wear: z.number().min(0).max(100).optional().describe('share of its life the blade had behind it, where it is known'),
  strength: z.int().min(-1e6).max(1e6).describe("position on the strength axis, in the cutter's own steps"),
  figures: z
    .array(
      z.strictObject({
        grades: z
          .array(z.strictObject({ passes: z.int().min(1).max(9), grade: z.enum(gradeWords) }))
          .min(1)
          .max(9)
          .refine((list) => new Set(list.map((g) => g.passes)).size === list.length, {
            message: 'one figure has one grade for each number of passes',
          }),
      }),
    )
    .min(1)
    .max(64),
});
export type GradedCell = z.infer<typeof gradedCellSchema>;
