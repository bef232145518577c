import { z } from 'zod';
import { artworkLimits, letteringLimits } from '../artwork/index.ts';
import { blankKeys, blanks, type Blank } from '../vinyls/index.ts';
import { blankSchema, shapeKeys, shapes, spotSchema } from '../place/index.ts';
import { layerSchools } from '../press/index.ts';

const id = z.uuid();
export const jobLimits = {
  layers: artworkLimits.layers,
  pieces: 60,
  loads: 60,
  events: 2_000,
  revisions: 200,
  note: 500,
  /** A note that is written by hand: one line. */
  noteLine: 200,
  /** Pieces of film that are said to be lost at once: more than these are the whole layer. */
  shapes: 200,
  finish: 8,
  /** Steps at the press of one piece: of each layer its backing, its press and four that follow, and a last one; by hand a few, and one's own. */
  presses: artworkLimits.layers * 7 + 20,
  /** Characters of what a press is called: it may name every layer. */
  pressName: artworkLimits.layers * 37 + 40,
};

/** What is decorated: a shape with a surface, measured; how many, and which side of them. */
export const jobBlankSchema = z.strictObject({
  shape: z.enum(shapeKeys),
  surface: z.enum(blankKeys),
  ...blankSchema.shape,
  size: z.string().max(20).default(''),
  fabric: z.string().max(60).default(''),
  hex: z.string().regex(/^#[0-9a-f]{6}$/),
  side: z.string().min(1).max(30),
});
export type JobBlank = z.infer<typeof jobBlankSchema>;

const layerSchema = z.strictObject({
  id,
  path: z.string().min(1).max(20).describe('the layer of the artwork that this vinyl shows'),
  vinyl: id.optional(),
  colour: id.optional(),
  mark: z.boolean().optional().describe('whether a test mark is cut beside it'),
  frame: z.boolean().optional().describe('whether a frame is cut round it, so that the waste comes off in one'),
  box: z
    .strictObject({ x: z.number(), y: z.number(), width: z.number().positive(), height: z.number().positive() })
    .optional()
    .describe('where it lies in the drawing, as shares of the width of the drawing'),
  thinUm: z
    .int()
    .positive()
    .optional()
    .describe('its thinnest line as it is cut, at most its own width: how long it is pressed may hang on it'),
  rounds: z
    .int()
    .min(1)
    .max(jobLimits.pieces)
    .optional()
    .describe('in how many rounds its pieces are cut, where they do not fit on the mat at once'),
  lines: z.boolean().optional().describe('whether the waste is cut into strips'),
  test: z.boolean().optional().describe('whether its film has room for a test cut'),
  stencil: z.boolean().optional().describe('whether it is painted through and comes off again'),
});

/** A SHA-256, as it is written. */
export const hash = z.string().regex(/^[0-9a-f]{64}$/);
/** A name of its own that a piece shows. */
const nameSchema = z.strictObject({
  says: z.string().min(1).max(letteringLimits.letters),
  artwork: hash.describe('SHA-256 of its outlines'),
  share: z.number().gt(0).max(1).describe('how wide it is, of the width of the design'),
});

/** What is wanted, one revision of it. Nothing in it says how far the work is: events do. Lengths in µm. */
export const planSchema = z
  .strictObject({
    format: z.literal('versipel-job-plan/1'),
    blank: jobBlankSchema,
    pieces: z
      .array(z.strictObject({ id, name: nameSchema.optional() }))
      .min(1)
      .max(jobLimits.pieces)
      .describe('what is decorated: one shirt front is one piece'),
    design: z
      .strictObject({
        artwork: hash.describe('SHA-256 of the file'),
        name: z.string().min(1).max(80),
        widthUm: z.int().min(1_000).max(3_000_000),
        sized: z.boolean().describe('whether the person has said how wide and where'),
        mirrored: z.boolean().default(false).describe('whether the file is drawn mirrored already'),
        spot: spotSchema,
      })
      .optional(),
    layers: z.array(layerSchema).max(jobLimits.layers).describe('the lowest first'),
    loads: z
      .array(
        z.strictObject({ id, parts: z.array(z.strictObject({ id, layer: id, pieces: z.array(id).min(1) })).min(1) }),
      )
      .max(jobLimits.loads)
      .describe('a load is one mat, a part is one vinyl on it'),
    // Ten seconds a layer was a method once: jobs that follow it tack.
    school: z.preprocess((s) => (s === 'ten' ? 'tack' : s), z.enum(layerSchools).default('tack')),
    press: id.optional().describe('what it is pressed with; else the press that fits best'),
    finish: z
      .array(
        z.strictObject({
          id,
          says: z.string().min(1).max(120),
          rest: z.int().min(0).max(86_400).describe('how long it rests then, s'),
        }),
      )
      .max(jobLimits.finish)
      .default([])
      .describe('steps of one’s own at the end of each piece'),
  })
  .superRefine((plan, context) => {
    const layers = new Set(plan.layers.map((l) => l.id));
    const pieces = new Set(plan.pieces.map((p) => p.id));
    for (const part of plan.loads.flatMap((l) => l.parts)) {
      if (!layers.has(part.layer))
        context.addIssue({
          code: 'custom',
          path: ['loads'],
          message: `part ${part.id} shows a layer that is not there`,
        });
      if (part.pieces.some((p) => !pieces.has(p)))
        context.addIssue({
          code: 'custom',
          path: ['loads'],
          message: `part ${part.id} is for a piece that is not there`,
        });
    }
    const ids = [
      ...plan.pieces,
      ...plan.layers,
      ...plan.loads,
      ...plan.loads.flatMap((l) => l.parts),
      ...plan.finish,
    ].map((x) => x.id);
    if (new Set(ids).size < ids.length)
      context.addIssue({ code: 'custom', path: ['pieces'], message: 'an id stands for two things' });
  });
export type Plan = z.infer<typeof planSchema>;

/** What a blank takes, as its shape has it: a soft toy is not pressed bare. */
export const takesOf = ({ shape, surface }: Pick<JobBlank, 'shape' | 'surface'>): Blank => {
  const { bare } = shapes[shape];
  return bare === undefined ? blanks[surface] : { ...blanks[surface], bare };
};

/** How far a plan is from one that can be cut: the first thing that is missing; undefined where nothing is. */
export function missing(plan: Plan): 'design' | 'vinyls' | 'size' | undefined {
  if (!plan.design || plan.layers.length === 0) return 'design';
  if (plan.layers.some((l) => l.vinyl === undefined)) return 'vinyls';
  return plan.design.sized ? undefined : 'size';
}
