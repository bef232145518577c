import { z } from 'zod';

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
const MAX_POSITIONS = 2_000;
/** Positions lie within what a setting keeps exactly and a drawing can say. */
export const position = z.int().min(-1_000_000).max(1_000_000);

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

export const anyAxis = z.discriminatedUnion('kind', [numberAxis, dialAxis, listAxis]);

export type Axis = z.infer<typeof anyAxis>;
export type NumberAxis = Extract<Axis, { kind: 'number' }>;
export type DialAxis = Extract<Axis, { kind: 'dial' }>;
export type ListAxis = Extract<Axis, { kind: 'list' }>;
