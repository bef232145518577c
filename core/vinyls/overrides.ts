import { z } from 'zod';
import { behaviourOf, purposes, supports, type Behaviour } from './behaviour.ts';
import { fabricTraits } from './facts.ts';
import type { VinylTypeKey } from './types.ts';

/** Coldest and hottest that a press can be meant to be, in m°C: 100 to 220 °C. */
export const heatLimits = { min: 100_000, max: 220_000 };
const heat = z.int().min(heatLimits.min).max(heatLimits.max);
const um = (max: number) => z.int().min(0).max(max);

export const peels = ['hot', 'warm', 'lukewarm', 'cool', 'cold', 'by the leaflet'] as const;
export const pressures = ['light', 'medium', 'heavy'] as const;

const onePress = {
  purpose: z.enum(purposes).optional().describe('full when left out: the press that holds it for good'),
  heat: heat.optional(),
  upTo: heat.optional().describe('the hottest of a range that starts at heat'),
  seconds: z
    .tuple([z.int().min(1).max(180), z.int().min(1).max(180)])
    .refine(([from, to]) => from <= to, { message: 'the first number of seconds is the smaller one' })
    .optional()
    .describe('left out where the leaflet says it'),
  pressure: z.enum(pressures).optional(),
  cover: z.string().min(1).max(60),
  peel: z.enum(peels),
  then: z.string().max(200).optional(),
  before: z.int().min(0).max(180).optional().describe('the bare blank before it, s'),
  support: z.enum(supports).optional().describe('what lies under the blank'),
  wait: z.int().min(0).max(900).optional().describe('from the end of the press to the peel, s'),
  after: z.int().min(0).max(180).optional().describe('covered once more after the peel, s'),
  back: z.int().min(0).max(180).optional().describe('once more from the back, s'),
  shrink: z
    .number()
    .min(0)
    .max(0.05)
    .optional()
    .describe('share of its width lost in the first full press, as measured'),
  margin: z.enum(['kept', 'trimmed']).optional().describe('whether the carrier is left wide'),
};
/** A way of one press, as packs of the first version have it. */
const onePressSchema = z.strictObject(onePress);

/** What a way may have beyond one press: what it is known by, and the presses that follow, each with all its own figures. */
const word = z.string().min(1).max(40).optional().describe('with an iron: the word on its dial');
export const pressWaySchema = z.strictObject({
  ...onePress,
  word,
  key: z
    .string()
    .regex(/^[a-z0-9 -]{1,40}$/)
    .optional()
    .describe('what people follow it by'),
  next: z
    .array(
      z.strictObject({
        ...onePress,
        word,
        ask: z.string().min(1).max(80).optional().describe('a question before it whose yes leaves it out'),
      }),
    )
    .min(1)
    .max(4)
    .optional()
    .describe('the presses that follow by the same source, in order'),
});

const overrides = {
  side: z.enum(['carrier down', 'backing down', 'face down']).optional(),
  cutFrom: z.enum(['back', 'face']).optional(),
  carrier: z.enum(['shiny', 'dull', 'unknown']).optional(),
  mat: z.enum(['ordinary', 'high grip', 'none']).optional(),
  carry: z.enum(['none', 'tape', 'mask']).optional(),
  filmUm: um(5000).optional(),
  carrierUm: um(2000).optional(),
  minFeatureUm: um(50_000).optional(),
  minGapUm: um(50_000).optional(),
  growthUm: um(10_000).optional(),
  minLengthUm: um(1_000_000).optional(),
  opacity: z.enum(['opaque', 'translucent', 'clear']).optional(),
  wear: z.number().min(0.1).max(20).optional(),
  tack: z.enum(['low', 'medium', 'high']).optional(),
  heat: z
    .strictObject({ from: heat, to: heat })
    .refine((h) => h.from <= h.to, { message: 'the coldest press is above the hottest' })
    .optional(),
  notOn: z.array(z.enum(fabricTraits)).max(fabricTraits.length).optional(),
};
/** What is said of one vinyl, or of a type of one's own, beside what its type says. Only what differs is kept. */
export const overridesSchema = z.strictObject({ ...overrides, press: z.array(pressWaySchema).max(6).optional() });
/** The same as packs of the first version have it: ways of one press. */
export const oldOverridesSchema = z.strictObject({ ...overrides, press: z.array(onePressSchema).max(4).optional() });
export type Overrides = z.infer<typeof overridesSchema>;

/**
 * How a vinyl behaves: its type, then what a type of one's own says, then what is said of the vinyl itself. The later word counts.
 */
export function behaviourFor(type: VinylTypeKey, ...said: readonly (Overrides | undefined)[]): Behaviour {
  return said.reduce<Behaviour>(
    (b, o) => ({ ...b, ...withoutUndefined(o), ...(o?.heat ? { heat: { ...o.heat, said: true } } : {}) }),
    behaviourOf(type),
  );
}

const withoutUndefined = (o: Overrides | undefined): Partial<Behaviour> =>
  Object.fromEntries(Object.entries(o ?? {}).filter(([, v]) => v !== undefined)) as Partial<Behaviour>;

/** What is said, without the sign that somebody said it. */
const bare = (key: string, base: Behaviour) => {
  const value = base[key as keyof Behaviour];
  return key === 'heat' && base.heat ? { from: base.heat.from, to: base.heat.to } : value;
};

/** What of `said` differs from the type: the rest need not be kept. */
export function onlyDifferent(base: Behaviour, said: Overrides): Overrides {
  return Object.fromEntries(
    Object.entries(said).filter(
      ([key, value]) => value !== undefined && JSON.stringify(value) !== JSON.stringify(bare(key, base)),
    ),
  ) as Overrides;
}
