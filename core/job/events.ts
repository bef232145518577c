import { z } from 'zod';
import { settingSchema } from '../controls/index.ts';
import { envelope } from '../events/index.ts';
import { causeKeys, remedies, symptomKeys } from './causes.ts';
import { hash, jobLimits } from './plan.ts';
import { stepKinds } from './steps.ts';
import { peels, pressures } from '../vinyls/index.ts';
import { pressDoes, pressPurposes } from '../press/index.ts';

/** What came out of a press, as it is seen. */
const outcomes = [
  'bonded',
  'edges lift',
  'shine mark',
  'not raised',
  'scorched',
  'plate mark',
  'slipped',
  'tore',
  'washed well',
  'came off in the wash',
  'wrinkled',
] as const;
export type Outcome = (typeof outcomes)[number];

const step = z
  .string()
  .regex(new RegExp(`^(${stepKinds.join('|')})/[0-9a-f-]{36}$`))
  .describe('kind/id of the part, the load, or uuidv5(piece, what is pressed)');

const common = {
  ...envelope,
  job: z.uuid(),
  step,
  attempt: z.int().min(1).max(50).describe('2 for the first time a part is cut anew'),
  rev: z.int().min(1).max(jobLimits.revisions).describe('the plan the hand saw'),
};

/** A press as it was shown to the hands that did it. */
const shownPress = z.strictObject({
  what: z.string().min(1).max(jobLimits.pressName).describe('what it is called among the presses of its piece'),
  kind: z.enum(['press', 'apply']),
  does: z.enum(pressDoes),
  purpose: z.enum(pressPurposes),
  layers: z.array(z.uuid()).max(jobLimits.layers).describe('the layers it presses on; none where it is of all'),
  heat: z.int().min(40_000).max(300_000).optional().describe('m°C'),
  seconds: z.int().min(0).max(3_600).optional(),
  pressure: z.enum(pressures).optional(),
  peel: z.enum(peels).optional(),
  ask: z.boolean().optional().describe('whether a question stood before it'),
  by: z.string().max(40).optional().describe('the source of its figures'),
});
export type ShownPress = z.infer<typeof shownPress>;

/** One thing the hands did at a job. Events are only ever added. */
export const jobEventSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...common,
    kind: z.literal('start'),
    part: z.int().min(1).max(60).optional().describe('at the press: which part of it is closed on'),
    rest: z
      .int()
      .min(1)
      .max(3_600)
      .optional()
      .describe('at the press: how long is left of one that was opened early, s'),
  }),
  z.strictObject({ ...common, kind: z.enum(['pause', 'done', 'skip']) }),
  z.strictObject({
    ...common,
    kind: z.literal('opened'),
    wait: z.int().min(0).max(3_600).optional().describe('how long it cools, s, where that is not as planned'),
  }),
  z.strictObject({ ...common, kind: z.literal('undo'), event: z.uuid({ version: 'v7' }) }),
  z.strictObject({
    ...common,
    kind: z.literal('note'),
    text: z.string().min(1).max(jobLimits.note),
    vinyl: z.uuid().optional().describe('the vinyl it is about; the blank where there is none'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('outcome'),
    pieces: z.array(z.uuid()).min(1).max(jobLimits.pieces),
    word: z.enum(outcomes),
    recipe: z.string().max(200).describe('the recipe as it was shown'),
    presses: z
      .array(shownPress)
      .max(jobLimits.presses)
      .optional()
      .describe('the presses of a piece as they were shown, in order'),
    press: z.uuid().optional().describe('what it was pressed with'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('plate'),
    heat: z.int().min(40_000).max(300_000).describe('what the plate was set to, m°C'),
    shows: z.enum(['C', 'F']).describe('the scale its display reads'),
    source: z.uuid().optional().describe('which press'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('agreed'),
    to: z.string().min(1).max(jobLimits.note).describe('what somebody was warned of and does all the same'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('lost'),
    part: z.uuid().describe('the part whose film is gone'),
    pieces: z.array(z.uuid()).min(1).max(jobLimits.pieces).describe('for which pieces it is cut again'),
    shapes: z
      .strictObject({
        artwork: hash.describe('SHA-256 of the drawing whose pieces of film they are'),
        ids: z
          .array(z.string().regex(/^p[0-9]{1,6}$/))
          .min(1)
          .max(jobLimits.shapes),
      })
      .optional()
      .describe('which pieces of film of the layer are gone; all of them where nothing is said'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('wrong'),
    seen: z.enum(symptomKeys).describe('what went wrong, as it is seen'),
    cause: z.enum(causeKeys).describe('what was taken for its cause'),
    remedy: z.enum(remedies).describe('what was done about it'),
    vinyl: z.uuid().optional().describe('the vinyl it happened to'),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('helped'),
    event: z.uuid({ version: 'v7' }).describe('what went wrong'),
    helped: z.boolean(),
  }),
  z.strictObject({
    ...common,
    kind: z.literal('cut'),
    part: z.uuid(),
    setting: settingSchema.describe('the number the hand saw'),
    mounting: z.uuid(),
    stock: z.uuid().optional().describe('the piece of film it was cut from'),
    witness: z.boolean().default(false).describe('whether a test mark was cut beside it'),
  }),
]);
export type JobEvent = z.infer<typeof jobEventSchema>;
