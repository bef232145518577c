import { z } from 'zod';
import { bothHeats, milliCelsiusToCelsius, milliCelsiusToFahrenheit } from '../../units/index.ts';
import { heatSchema, toMilliCelsius, unitSchema } from '../layersInput.ts';
import { planSwatch } from './planSwatch.ts';
import { gridOf, readSwatch, type SwatchPoint } from './readSwatch.ts';
import { readPlaces, type PlacesReading } from './readPlaces.ts';
import { bondGrades, harmGrades, puffGrades, puffHarms, type SwatchGrade, type SwatchSeen } from './swatchModel.ts';

const seconds = z.number().min(1).max(180);
const bondWords = [...bondGrades, ...puffGrades] as const;
const harmWords = [...harmGrades, 'wrinkled'] as const;

/** Swatches as `bin/core swatch` takes them. */
export const swatchInputSchema = z
  .strictObject({
    format: z.literal('versipel-swatch/1'),
    film: z.enum(['flat', 'puff']).default('flat').describe('puff rises: flat, part, raised; it wrinkles'),
    usual: z.strictObject({ heat: heatSchema, seconds }).describe('what leaflet or type say: where to look first'),
    range: z
      .strictObject({ from: z.number(), to: z.number(), unit: unitSchema })
      .refine((r) => r.from <= r.to, { message: 'from is above to' })
      .describe('coldest and hottest that film, fabric and press allow'),
    longest: z.number().min(5).max(60).default(60),
    cells: z
      .array(
        z.strictObject({
          heat: heatSchema,
          seconds,
          bond: z.enum(bondWords).optional().describe('after the peel'),
          harm: z.enum(harmWords).optional(),
          washed: z.enum(bondWords).optional().describe('after the wash: it counts instead'),
        }),
      )
      .max(48)
      .default([]),
    places: z
      .strictObject({ heat: heatSchema, seconds, grades: z.array(z.enum(bondWords).nullable()).length(9) })
      .optional()
      .describe('the same swatch in nine places, row by row from the top left'),
    seed: z.int().min(0).max(1e9).default(1),
  })
  .superRefine(({ cells, film, places, range }, context) => {
    const bonds: readonly string[] = film === 'puff' ? puffGrades : bondGrades;
    cells.forEach((c, i) => {
      for (const key of ['bond', 'washed'] as const)
        if (c[key] !== undefined && !bonds.includes(c[key]))
          context.addIssue({
            code: 'custom',
            path: ['cells', i, key],
            message: `a ${film} film is ${bonds.join(', ')}`,
          });
    });
    places?.grades.forEach((g, i) => {
      if (g !== null && !bonds.includes(g))
        context.addIssue({
          code: 'custom',
          path: ['places', 'grades', i],
          message: `a ${film} film is ${bonds.join(', ')}`,
        });
    });
    for (const end of [range.from, range.to])
      if (toMilliCelsius(end, range.unit) < 40_000 || toMilliCelsius(end, range.unit) > 260_000)
        context.addIssue({
          code: 'custom',
          path: ['range'],
          message: 'a heat lies between 40 and 260 °C (104 and 500 °F)',
        });
  });
export type SwatchInput = z.infer<typeof swatchInputSchema>;

const bondOf = (word: string | undefined): SwatchGrade | undefined => {
  const at = (bondGrades as readonly string[]).indexOf(word ?? '');
  const rise = (puffGrades as readonly string[]).indexOf(word ?? '');
  return at >= 0 ? (at as SwatchGrade) : rise >= 0 ? (rise as SwatchGrade) : undefined;
};
const harmOf = (word: string | undefined): SwatchGrade | undefined => {
  const at = (harmGrades as readonly string[]).indexOf(word ?? '');
  const puff = (puffHarms as readonly string[]).indexOf(word ?? '');
  return at >= 0 ? (at as SwatchGrade) : puff >= 0 ? (puff as SwatchGrade) : undefined;
};

/** A cell as its grades say it: what the wash showed counts instead of what the peel showed. */
export const seenOf = (c: {
  heat: number;
  seconds: number;
  bond?: string | undefined;
  harm?: string | undefined;
  washed?: string | undefined;
}): SwatchSeen => ({ heat: c.heat, seconds: c.seconds, bond: bondOf(c.washed ?? c.bond), harm: harmOf(c.harm) });

type Said = { celsius: number; fahrenheit: number; seconds: number };
const said = (c: { heat: number; seconds: number }): Said => ({
  celsius: Math.round(milliCelsiusToCelsius(c.heat)),
  fahrenheit: Math.round(milliCelsiusToFahrenheit(c.heat)),
  seconds: c.seconds,
});
const point = (p: SwatchPoint) => ({ ...said(p), bonded: round(p.bonded), unharmed: round(p.unharmed) });
const round = (x: number) => Math.round(x * 1000) / 1000;

export type SwatchResult = {
  format: 'versipel-swatch-result/1';
  verdict: 'enough' | 'more' | 'none';
  says: string;
  recipe: (Said & { bonded: number; unharmed: number }) | undefined;
  best: Said & { bonded: number; unharmed: number };
  /** The next card; none where there is enough, or no more helps. */
  next: Said[];
  /** Every place of the grid with both chances. */
  region: (Said & { bonded: number; unharmed: number })[];
  places: PlacesReading | undefined;
};

/** Reads swatches and plans the next card; `bin/core swatch`. */
export function swatch(input: SwatchInput): SwatchResult {
  const usual = { heat: toMilliCelsius(input.usual.heat.degrees, input.usual.heat.unit), seconds: input.usual.seconds };
  const grid = gridOf(
    toMilliCelsius(input.range.from, input.range.unit),
    toMilliCelsius(input.range.to, input.range.unit),
    input.longest,
  );
  const seen = input.cells.map((c) => seenOf({ ...c, heat: toMilliCelsius(c.heat.degrees, c.heat.unit) }));
  const graded = seen.filter((c) => c.bond !== undefined || c.harm !== undefined);
  const reading = readSwatch(graded, usual, grid, { seed: input.seed });
  const next = reading.verdict === 'more' ? planSwatch(graded, usual, grid, reading, input.seed) : [];
  const p = input.places;
  return {
    format: 'versipel-swatch-result/1',
    verdict: reading.verdict,
    says:
      reading.verdict === 'enough'
        ? `Press at ${bothHeats(reading.recipe!.heat)} for ${reading.recipe!.seconds} s: enough.`
        : reading.verdict === 'none'
          ? 'Nothing is safe enough on these cells: another vinyl, another fabric, or a lower heat for longer.'
          : `${graded.length === 0 ? 'Begin with' : 'One more card of'} ${next.length} squares.`,
    recipe: reading.recipe && point(reading.recipe),
    best: point(reading.best),
    next: next.map(said),
    region: reading.grid.map(point),
    places:
      p &&
      readPlaces(
        p.grades.map((g) => bondOf(g ?? undefined)),
        { heat: toMilliCelsius(p.heat.degrees, p.heat.unit), seconds: p.seconds },
        usual,
        graded,
      ),
  };
}
