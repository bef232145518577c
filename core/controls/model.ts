import { z } from 'zod';
import { formatPosition, limitsOf } from './axis.ts';

/**
 * How a cutter model states what it does. A model is data: its axes, in its own words and its own steps.
 * A position on an axis is a whole number of the axis's own steps: force 134 on steps of 1 is 134, dial 4½ on half
 * stops is 9, pressure −3 is −3. Settings are kept as positions with the model's version.
 */
const role = z.enum(['strength', 'speed', 'depth', 'passes']);

const word = z.string().min(1).max(40);

/**
 * Most places an axis may have: a number, a dial or a list. The finest force scale we know of has 400; whatever goes through all places
 * of an axis stays a matter of milliseconds.
 */
export const MAX_POSITIONS = 2_000;
/** Positions lie within what a setting keeps exactly and a drawing can say. */
const position = z.int().min(-1_000_000).max(1_000_000);

const numberAxis = z
  .object({
    kind: z.literal('number'),
    key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/),
    word: word.describe('what the cutter calls it, for example "force"'),
    role,
    unit: z.string().max(12).optional(),
    min: position.describe('lowest position, in steps'),
    max: position.describe('highest position, in steps'),
    step: z.number().min(1e-4).max(1e4).default(1).describe('what one step is worth in the shown number'),
    scale: z
      .enum(['log', 'linear'])
      .default('linear')
      .describe('log: the number is proportional to the load on the tip'),
    start: position
      .optional()
      .describe('position where the maker puts plain vinyl; the middle of the axis when left out'),
    signed: z.boolean().optional().describe('whether numbers above zero are shown with a plus'),
    words: z
      .record(z.string().max(12), word)
      .refine((w) => Object.keys(w).length <= 100, { message: 'at most 100 positions have a word' })
      .optional()
      .describe('words for single positions, for example "4": "slow"'),
  })
  .refine((a) => a.min < a.max, { message: 'min must lie below max' })
  .refine((a) => a.max - a.min < MAX_POSITIONS, {
    message: `an axis has at most ${MAX_POSITIONS} steps: take a larger step`,
  })
  .refine((a) => a.scale !== 'log' || a.min > 0, { message: 'a log axis needs positive numbers' })
  .refine((a) => a.start === undefined || (a.start >= a.min && a.start <= a.max), {
    message: 'start lies outside the axis',
  });

const dialAxis = z.object({
  kind: z.literal('dial'),
  key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/),
  word,
  role,
  stops: z.array(word).min(2).max(40).describe('the names round the dial, lightest first'),
  halves: z.boolean().default(false).describe('whether it also holds between two stops'),
  start: position.optional().describe('position where the maker puts plain vinyl'),
});

/**
 * A list of materials, each with a pressure modifier. Positions run through the list, the modifiers within a material lightest
 * first: material 2 of the list with the third of three modifiers is 2·3 + 2 = 8, counted from 0.
 */
const listAxis = z
  .object({
    kind: z.literal('list'),
    key: z.string().regex(/^[a-z][a-z0-9-]{0,30}$/),
    word: word.describe('what the cutter calls the list, for example "material"'),
    role,
    entries: z
      .array(
        z.object({
          name: word,
          load: z
            .number()
            .min(-3)
            .max(3)
            .describe(
              'about how much heavier it cuts than plain vinyl, in log load: a starting point, learnt from there',
            ),
        }),
      )
      .min(2)
      .max(60)
      .describe('lightest first'),
    modifier: z
      .object({
        word: word.describe('what the cutter calls it, for example "pressure"'),
        names: z.array(word).min(2).max(7).describe('lightest first'),
        normal: z.int().min(0).describe('the one that changes nothing, and is not said'),
      })
      .refine((m) => m.normal < m.names.length, { message: 'normal is not one of the modifiers' })
      .optional(),
    start: position.optional().describe('position where the maker puts plain vinyl'),
  })
  .refine((a) => a.entries.every((e, i) => i === 0 || e.load >= a.entries[i - 1]!.load), {
    message: 'the list runs from the lightest entry to the heaviest',
  });

const anyAxis = z.discriminatedUnion('kind', [numberAxis, dialAxis, listAxis]);

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

export type Axis = z.infer<typeof axisSchema>;
export type NumberAxis = Extract<Axis, { kind: 'number' }>;
export type DialAxis = Extract<Axis, { kind: 'dial' }>;
export type ListAxis = Extract<Axis, { kind: 'list' }>;
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
