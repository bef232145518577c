import { z } from 'zod';
import { milliCelsiusToCelsius, milliCelsiusToFahrenheit, toMilliCelsius } from '../units/index.ts';
import { behaviourOf, blankKeys, blanks, peels, pressures, vinylTypeKeys, type PressWay } from '../vinyls/index.ts';
import { pressDefaults } from './laidFilm.ts';
import { pressPlan, type PlanFilm, type PressPlan } from './pressPlan.ts';
import { layerSchools, meetings, type Meeting, type PressStep } from './pressSequence.ts';

export const unitSchema = z.enum(['C', 'F']).describe('degrees Celsius or Fahrenheit');
/** A heat in the scale somebody reads it in, m°C. */
export const heatSchema = z
  .strictObject({ degrees: z.number(), unit: unitSchema })
  .refine(({ degrees, unit }) => toMilliCelsius(degrees, unit) >= 40_000 && toMilliCelsius(degrees, unit) <= 260_000, {
    message: 'a heat lies between 40 and 260 °C (104 and 500 °F)',
  });
const seconds = z.number().min(0.5).max(600);
const rangeSchema = z
  .strictObject({ from: z.number(), to: z.number(), unit: unitSchema })
  .refine((r) => r.from <= r.to, { message: 'from is above to' })
  .refine((r) => toMilliCelsius(r.from, r.unit) >= 40_000 && toMilliCelsius(r.to, r.unit) <= 260_000, {
    message: 'a heat lies between 40 and 260 °C (104 and 500 °F)',
  });
const um = z.int().min(-3_000_000).max(3_000_000);
const boxSchema = z.strictObject({
  x: um,
  y: um,
  width: z.int().min(1).max(3_000_000),
  height: z.int().min(1).max(3_000_000),
});
type Box = z.infer<typeof boxSchema>;

const layerSchema = z.strictObject({
  id: z.string().min(1).max(60),
  name: z.string().min(1).max(120).optional(),
  type: z.enum(vinylTypeKeys).describe('what is known of its type holds where nothing else is said'),
  heat: rangeSchema.optional().describe('coldest and hottest press it takes, as somebody said it of this very film'),
  usual: heatSchema.optional().describe('what it is usually pressed at'),
  seconds: z.tuple([seconds, seconds]).optional().describe('the full press, from and to: thin lines take the longer'),
  tack: seconds.optional().describe('how long until its carrier comes off, s'),
  pressure: z.enum(pressures).optional(),
  peel: z.enum(peels).optional(),
  area: boxSchema
    .optional()
    .describe('where it lies in the design, µm: layers whose boxes are apart may be pressed at once'),
  thinUm: z.int().min(0).max(1_000_000).optional().describe('its thinnest line, µm'),
  shrink: z.number().min(0).max(0.05).optional().describe('share of its width that a full press takes, as measured'),
  bears: z.number().min(0.5).max(20).optional().describe('full presses it takes before it suffers'),
});

const fabricSchema = z.union([
  z.enum(blankKeys),
  z.strictObject({
    surface: z.enum(blankKeys),
    hottest: heatSchema.optional().describe('what it takes at most'),
    bears: z.number().min(0.5).max(50).optional().describe('full presses it bears in all'),
  }),
]);

/** Layers as `bin/core layers` takes them, the lowest first. */
export const layersInputSchema = z
  .strictObject({
    format: z.literal('versipel-layers/1'),
    fabric: fabricSchema,
    layers: z.array(layerSchema).min(1).max(12).describe('the lowest first'),
    pairs: z
      .array(z.strictObject({ below: z.string(), above: z.string(), how: z.enum(meetings) }))
      .max(66)
      .default([])
      .describe('what two layers are to each other; else by their areas, else one lies on the other'),
    school: z.enum(layerSchools).default('tack'),
    covered: z.boolean().default(false).describe('whether everything is covered at every press'),
    source: z
      .strictObject({
        warm: z.number().min(0).max(60).default(pressDefaults.warmth.warm).describe('s a degree Celsius'),
        cool: z.number().min(0).max(60).default(pressDefaults.warmth.cool).describe('s a degree Celsius'),
        heats: z.array(heatSchema).min(1).max(12).optional().describe('where it has only a few: what each truly is'),
      })
      .default({ ...pressDefaults.warmth }),
  })
  .superRefine(({ layers, pairs }, context) => {
    const ids = layers.map((l) => l.id);
    ids.forEach((id, i) => {
      if (ids.indexOf(id) < i)
        context.addIssue({ code: 'custom', path: ['layers', i, 'id'], message: `${id} stands for two layers` });
    });
    pairs.forEach(({ below, above }, i) => {
      for (const [key, id] of [
        ['below', below],
        ['above', above],
      ] as const)
        if (!ids.includes(id))
          context.addIssue({ code: 'custom', path: ['pairs', i, key], message: `there is no layer ${id}` });
      if (ids.includes(below) && ids.includes(above) && ids.indexOf(below) >= ids.indexOf(above))
        context.addIssue({ code: 'custom', path: ['pairs', i], message: `${below} does not lie below ${above}` });
    });
  });
export type LayersInput = z.infer<typeof layersInputSchema>;

/** Carriers reach this far beyond their layer, µm: nearer ones cover each other. Common practice, no source. */
const CARRIER_MARGIN = 6_000;

/** What two layers are to each other by where they lie. */
export function meetingOf(a: Box, b: Box): Meeting {
  const gap = Math.max(a.x - (b.x + b.width), b.x - (a.x + a.width), a.y - (b.y + b.height), b.y - (a.y + a.height));
  return gap < 0 ? 'overlay' : gap < 2 * CARRIER_MARGIN ? 'knock out' : 'apart';
}

/**
 * A film as its type is, or as it is said: a layer that states heat, seconds, pressure or peel is a way of one press with its tack, and nothing of
 * its type is added to it.
 */
function filmOf(layer: LayersInput['layers'][number]): PlanFilm {
  const type = behaviourOf(layer.type);
  const said = layer.usual ?? layer.seconds ?? layer.peel ?? layer.pressure;
  const tack: PressWay[] = layer.tack
    ? [{ purpose: 'tack', seconds: [layer.tack, layer.tack], cover: 'its own carrier', peel: 'by the leaflet' }]
    : [];
  const way: PressWay = {
    cover: 'its own carrier',
    peel: layer.peel ?? 'by the leaflet',
    ...(layer.usual ? { heat: toMilliCelsius(layer.usual.degrees, layer.usual.unit) } : {}),
    ...(layer.seconds ? { seconds: layer.seconds } : {}),
    ...(layer.pressure ? { pressure: layer.pressure } : {}),
  };
  return {
    ...type,
    id: layer.id,
    name: layer.name ?? layer.id,
    press:
      said === undefined ? [...tack, ...type.press.filter((w) => !layer.tack || w.purpose !== 'tack')] : [...tack, way],
    ...(layer.heat
      ? {
          heat: {
            from: toMilliCelsius(layer.heat.from, layer.heat.unit),
            to: toMilliCelsius(layer.heat.to, layer.heat.unit),
            said: true,
          },
        }
      : {}),
    thinUm: layer.thinUm,
    widthUm: layer.area?.width,
    shrink: layer.shrink,
    bears: layer.bears,
  };
}

export type LayersResult = Omit<PressPlan, 'steps'> & {
  format: 'versipel-layers-result/1';
  steps: (PressStep & { celsius: number | undefined; fahrenheit: number | undefined })[];
};

/** Plans the layers of `bin/core layers`, see `pressPlan`. */
export function layers(input: LayersInput): LayersResult {
  const asked = typeof input.fabric === 'string' ? { surface: input.fabric } : input.fabric;
  const hottest =
    'hottest' in asked && asked.hottest ? toMilliCelsius(asked.hottest.degrees, asked.hottest.unit) : undefined;
  const blank = { ...blanks[asked.surface], ...(hottest === undefined ? {} : { heat: hottest }) };
  const areas = new Map(input.layers.map((l) => [l.id, l.area]));
  const plan = pressPlan(
    input.layers.map(filmOf),
    blank,
    {
      warm: input.source.warm,
      cool: input.source.cool,
      heats: input.source.heats?.map((h) => toMilliCelsius(h.degrees, h.unit)),
    },
    { school: input.school, covered: input.covered, bears: 'bears' in asked ? asked.bears : undefined },
    (below, above) => {
      const named = input.pairs.find((p) => p.below === below && p.above === above);
      const [a, b] = [areas.get(below), areas.get(above)];
      return named?.how ?? (a && b ? meetingOf(a, b) : 'overlay');
    },
  );
  return {
    format: 'versipel-layers-result/1',
    ...plan,
    steps:
      plan.verdict === 'refused'
        ? []
        : plan.steps.map((s) => ({
            ...s,
            celsius: s.heat === undefined ? undefined : Math.round(milliCelsiusToCelsius(s.heat)),
            fahrenheit: s.heat === undefined ? undefined : Math.round(milliCelsiusToFahrenheit(s.heat)),
          })),
  };
}
