import { z } from 'zod';

/**
 * How a cutter model states what it does. A model is data: its axes, in its own words and its own steps.
 * A position on an axis is a whole number of the axis's own steps: force 134 on steps of 1 is 134, dial 4½ on half
 * stops is 9, pressure −3 is −3. Settings are kept as positions with the model's version.
 */
const role = z.enum(['strength', 'speed', 'depth', 'passes']);

const word = z.string().min(1).max(40);

const numberAxis = z
  .object({
    kind: z.literal('number'),
    key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/),
    word: word.describe('what the cutter calls it, for example "force"'),
    role,
    unit: z.string().max(12).optional(),
    min: z.int().describe('lowest position, in steps'),
    max: z.int().describe('highest position, in steps'),
    step: z.number().positive().default(1).describe('what one step is worth in the shown number'),
    scale: z
      .enum(['log', 'linear'])
      .default('linear')
      .describe('log: the number is proportional to the load on the tip'),
    start: z
      .int()
      .optional()
      .describe('position where the maker puts plain vinyl; the middle of the axis when left out'),
    words: z.record(z.string(), word).optional().describe('words for single positions, for example "4": "slow"'),
  })
  .refine((a) => a.min < a.max, { message: 'min must lie below max' })
  .refine((a) => a.scale !== 'log' || a.min > 0, { message: 'a log axis needs positive numbers' })
  .refine((a) => a.start === undefined || (a.start >= a.min && a.start <= a.max), {
    message: 'start lies outside the axis',
  });

const dialAxis = z
  .object({
    kind: z.literal('dial'),
    key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/),
    word,
    role,
    stops: z.array(word).min(2).max(40).describe('the names round the dial, lightest first'),
    halves: z.boolean().default(false).describe('whether it also holds between two stops'),
    start: z.int().optional().describe('position where the maker puts plain vinyl'),
  })
  .refine((a) => new Set(a.stops).size === a.stops.length, { message: 'two stops bear the same name' });

export const axisSchema = z.discriminatedUnion('kind', [numberAxis, dialAxis]);

export const cutterModelSchema = z
  .object({
    key: z.string().regex(/^[a-z][a-z0-9-]{0,40}$/),
    version: z.int().min(1),
    name: z.string().min(1).max(60),
    about: z.string().max(300).default(''),
    axes: z.array(axisSchema).min(1).max(8),
  })
  .refine((m) => m.axes.filter((a) => a.role === 'strength').length === 1, {
    message: 'a model has exactly one strength axis',
  })
  .refine((m) => new Set(m.axes.map((a) => a.key)).size === m.axes.length, { message: 'two axes bear the same key' });

export type Axis = z.infer<typeof axisSchema>;
export type NumberAxis = Extract<Axis, { kind: 'number' }>;
export type DialAxis = Extract<Axis, { kind: 'dial' }>;
export type CutterModel = z.infer<typeof cutterModelSchema>;

/** Controls of one cut: a position for every axis of the model. */
export const settingSchema = z.object({
  model: z.string(),
  version: z.int().min(1),
  steps: z.record(z.string(), z.int()),
});
export type Setting = z.infer<typeof settingSchema>;
