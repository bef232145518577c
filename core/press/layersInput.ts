import { z } from 'zod';
import {
  celsiusToMilliCelsius,
  fahrenheitToMilliCelsius,
  milliCelsiusToCelsius,
  milliCelsiusToFahrenheit,
} from '../units/index.ts';
import {
  behaviourOf,
  blankKeys,
  blanks,
  peels,
  pressures,
  suitsBlank,
  vinylTypeKeys,
  type PressWay,
} from '../vinyls/index.ts';
import { laidFilm, pressDefaults } from './laidFilm.ts';
import { layerSchools, meetings, type Meeting, type PressStep } from './layerWalk.ts';
import { planLayers, stackOf, type LayerPlan } from './planLayers.ts';
import { pairTrouble, type Film } from './troubles.ts';

export const unitSchema = z.enum(['C', 'F']).describe('degrees Celsius or Fahrenheit');
/** A heat in the scale somebody reads it in, m°C. */
export const toMilliCelsius = (degrees: number, unit: 'C' | 'F'): number =>
  unit === 'F' ? fahrenheitToMilliCelsius(degrees) : celsiusToMilliCelsius(degrees);
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
export const CARRIER_MARGIN = 6_000;

/** What two layers are to each other by where they lie. */
export function meetingOf(a: Box, b: Box): Meeting {
  const gap = Math.max(a.x - (b.x + b.width), b.x - (a.x + a.width), a.y - (b.y + b.height), b.y - (a.y + a.height));
  return gap < 0 ? 'overlay' : gap < 2 * CARRIER_MARGIN ? 'knock out' : 'apart';
}

/** A film as its type goes, with what is said of it. */
function filmOf(layer: LayersInput['layers'][number]): Film {
  const type = behaviourOf(layer.type);
  const [first, ...others] = type.press;
  const said = layer.usual ?? layer.seconds ?? layer.peel ?? layer.pressure;
  const base: PressWay =
    first && (first.purpose ?? 'full') === 'full' ? first : { cover: 'its own carrier', peel: 'by the leaflet' };
  const way: PressWay = {
    ...base,
    ...(layer.usual ? { heat: toMilliCelsius(layer.usual.degrees, layer.usual.unit) } : {}),
    ...(layer.seconds ? { seconds: layer.seconds } : {}),
    ...(layer.pressure ? { pressure: layer.pressure } : {}),
    ...(layer.peel ? { peel: layer.peel } : {}),
  };
  const tack: PressWay[] = layer.tack
    ? [{ purpose: 'tack', seconds: [layer.tack, layer.tack], cover: 'its own carrier', peel: way.peel }]
    : [];
  const rest = base === first ? others : type.press;
  return {
    ...type,
    id: layer.id,
    name: layer.name ?? layer.id,
    press: said === undefined ? [...tack, ...type.press] : [...tack, way, ...rest],
    ...(layer.heat
      ? {
          heat: {
            from: toMilliCelsius(layer.heat.from, layer.heat.unit),
            to: toMilliCelsius(layer.heat.to, layer.heat.unit),
            said: true,
          },
        }
      : {}),
    ...(layer.thinUm === undefined ? {} : { thinUm: layer.thinUm }),
  };
}

export type LayersResult = Omit<LayerPlan, 'steps'> & {
  format: 'versipel-layers-result/1';
  steps: (PressStep & { celsius: number | undefined; fahrenheit: number | undefined })[];
  /** Films that stick by themselves: they come last, on what has cooled. */
  last: string[];
};

/** Plans the layers of `bin/core layers`, see `planLayers`. */
export function layers(input: LayersInput): LayersResult {
  const asked = typeof input.fabric === 'string' ? { surface: input.fabric } : input.fabric;
  const hottest =
    'hottest' in asked && asked.hottest ? toMilliCelsius(asked.hottest.degrees, asked.hottest.unit) : undefined;
  const blank = { ...blanks[asked.surface], ...(hottest === undefined ? {} : { heat: hottest }) };
  const all = input.layers.map((layer) => {
    const film = filmOf(layer);
    const suits = suitsBlank(film, blank);
    const laid = laidFilm(film, blank, {
      widthUm: layer.area?.width,
      shrink: layer.shrink,
      bears: layer.bears,
      unfit: suits.verdict === 'not' && suits.rests !== 'heat' ? suits.reasons[0] : undefined,
    });
    return { layer, film, laid, suits };
  });
  const pressed = all.flatMap((a) => (a.laid ? [{ ...a, laid: a.laid }] : []));
  const meet = (i: number, j: number): Meeting => {
    const [a, b] = [pressed[i]!.layer, pressed[j]!.layer];
    const named = input.pairs.find((p) => p.below === a.id && p.above === b.id);
    return named?.how ?? (a.area && b.area ? meetingOf(a.area, b.area) : 'overlay');
  };
  const plan = planLayers(
    stackOf(
      pressed.map((p) => p.laid),
      blank,
      {
        meet,
        source: {
          warm: input.source.warm,
          cool: input.source.cool,
          heats: input.source.heats?.map((h) => toMilliCelsius(h.degrees, h.unit)),
        },
        covered: input.covered,
        bears: ('bears' in asked ? asked.bears : undefined) ?? blank.bears,
      },
    ),
    input.school,
  );
  const grain = pressed.flatMap(({ film }, j) =>
    pressed.slice(0, j).flatMap(({ film: below }, i) => {
      const trouble = below.face === 'grain' && meet(i, j) === 'overlay' ? pairTrouble(below, film) : undefined;
      return trouble?.grade === 'care' ? [`${trouble.why} ${trouble.helps}`] : [];
    }),
  );
  // What nothing presses on: no film that wants heat goes there, and no film that sticks goes on what does not take it.
  const never = all.filter((a) => !a.laid && a.suits.verdict === 'not');
  const refused = never.length > 0 || plan.verdict === 'refused';
  const because = [
    ...never.map(({ layer, film, suits }) => ({
      films: [layer.id],
      says: `${film.name} on ${blank.word.split(':')[0]}: ${suits.reasons[0]}`,
    })),
    ...plan.because,
  ];
  return {
    format: 'versipel-layers-result/1',
    ...plan,
    verdict: refused ? 'refused' : plan.verdict === 'plan' && grain.length > 0 ? 'care' : plan.verdict,
    says: never.length > 0 ? `No plan holds: ${because[0]!.says}` : plan.says,
    because,
    steps: refused
      ? []
      : plan.steps.map((s) => ({
          ...s,
          celsius: s.heat === undefined ? undefined : Math.round(milliCelsiusToCelsius(s.heat)),
          fahrenheit: s.heat === undefined ? undefined : Math.round(milliCelsiusToFahrenheit(s.heat)),
        })),
    cautions: refused ? [] : [...grain, ...plan.cautions],
    last: all.filter((a) => a.film.bond === 'sticks').map((a) => a.layer.id),
  };
}
