import { z } from 'zod';
import { bothHeats, milliCelsiusToCelsius, milliCelsiusToFahrenheit, toMilliCelsius } from '../../units/index.ts';
import { heatSchema, unitSchema } from '../layersInput.ts';
import { planSwatch } from './planSwatch.ts';
import { dialDefaults, type DialWord } from './dial.ts';
import { gridOf, gridOfWords, readDefaults, readSwatch, wordsOf, type Dial, type SwatchPoint } from './readSwatch.ts';
import { readPlaces, type PlacesReading } from './readPlaces.ts';
import {
  bondGrades,
  harmGrades,
  puffGrades,
  puffHarms,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
} from './swatchModel.ts';

const seconds = z.number().min(1).max(180);
const word = z.string().min(1).max(40);
const bondWords = [...bondGrades, ...puffGrades] as const;
const harmWords = [...harmGrades, 'wrinkled'] as const;

const cellSchema = z.strictObject({
  heat: heatSchema.describe('what it was set to; by a word: where that is thought to lie'),
  seconds,
  word: word.optional().describe('the word it was set to, on a dial'),
  bond: z.enum(bondWords).optional().describe('after the peel'),
  harm: z.enum(harmWords).optional(),
  washed: z.enum(bondWords).optional().describe('after the wash: it counts instead'),
});
const dialSchema = z.strictObject({
  words: z
    .array(
      z.strictObject({
        word,
        heat: heatSchema,
        doubt: z
          .number()
          .min(0)
          .max(30)
          .default(dialDefaults.sd / 1000)
          .describe('a standard deviation, °C; 0: measured'),
      }),
    )
    .min(1)
    .max(4)
    .describe('coolest first'),
  others: z
    .array(z.strictObject({ usual: z.strictObject({ heat: heatSchema, seconds }), cells: z.array(cellSchema).max(48) }))
    .max(6)
    .default([])
    .describe('what other films showed that were pressed with it'),
});

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
    cells: z.array(cellSchema).max(48).default([]),
    dial: dialSchema.optional().describe('a press that is set by words: cards and recipe are said in them'),
    places: z
      .strictObject({ heat: heatSchema, seconds, grades: z.array(z.enum(bondWords).nullable()).length(9) })
      .optional()
      .describe('the same swatch in nine places, row by row from the top left'),
    seed: z.int().min(0).max(1e9).default(1),
  })
  .superRefine(({ cells, film, places, range, dial }, context) => {
    dial?.words.forEach((w, i) => {
      const before = dial.words[i - 1];
      if (dial.words.findIndex((o) => o.word === w.word) < i)
        context.addIssue({
          code: 'custom',
          path: ['dial', 'words', i, 'word'],
          message: `“${w.word}” stands there twice`,
        });
      else if (before && heatOf(w) <= heatOf(before))
        context.addIssue({
          code: 'custom',
          path: ['dial', 'words', i, 'heat'],
          message: `“${w.word}” is not hotter than “${before.word}”, which stands before it`,
        });
    });
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

const heatOf = (c: { heat: { degrees: number; unit: 'C' | 'F' } }) => toMilliCelsius(c.heat.degrees, c.heat.unit);
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
const seenOf = (c: {
  heat: number;
  seconds: number;
  word?: string | undefined;
  bond?: string | undefined;
  harm?: string | undefined;
  washed?: string | undefined;
}): SwatchSeen => ({
  heat: c.heat,
  seconds: c.seconds,
  word: c.word,
  bond: bondOf(c.washed ?? c.bond),
  harm: harmOf(c.harm),
});

type Said = { celsius: number; fahrenheit: number; seconds: number; word?: string };
const said = (c: SwatchCell): Said => ({
  ...(c.word === undefined ? {} : { word: c.word }),
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
  /** Where each word of the dial lies, and how much doubt is left, °C. */
  dial:
    | { word: string; celsius: number; fahrenheit: number; doubt: number; known: 'measured' | 'found' | 'open' }[]
    | undefined;
};

/** A dial as it is read: the words that nobody has measured are in doubt, the others lie where they were measured. */
function dialOf(said: z.infer<typeof dialSchema> | undefined): Dial {
  const doubtful = (said?.words ?? []).filter((w) => w.doubt > 0);
  return {
    words: doubtful.map((w) => ({ word: w.word, heat: heatOf(w), sd: Math.round(w.doubt * 1000) })),
    others: (said?.others ?? []).map((o) => ({
      usual: { heat: heatOf(o.usual), seconds: o.usual.seconds },
      seen: o.cells.map((c) => seenOf({ ...c, heat: heatOf(c) })).filter(isGraded),
    })),
  };
}
const isGraded = (c: SwatchSeen) => c.bond !== undefined || c.harm !== undefined;

/** Words that film and fabric bear: one that may well be hotter than they do is not tried, unless none is cooler. */
function wordsWithin(words: readonly DialWord[], to: number): DialWord[] {
  const within = words.filter((w) => w.heat - w.sd / 2 <= to);
  return within.length > 0 ? within : words.slice(0, 1);
}

/** Reads swatches and plans the next card; `bin/core swatch`. */
export function swatch(input: SwatchInput): SwatchResult {
  const usual = { heat: heatOf(input.usual), seconds: input.usual.seconds };
  const to = toMilliCelsius(input.range.to, input.range.unit);
  const graded = input.cells.map((c) => seenOf({ ...c, heat: heatOf(c) })).filter(isGraded);
  const dial = dialOf(input.dial);
  const found = input.dial && wordsOf(graded, usual, dial, input.seed);
  const words = input.dial?.words.map(
    (w): DialWord => found!.find((f) => f.word === w.word) ?? { word: w.word, heat: heatOf(w), sd: 0 },
  );
  const grid = words
    ? gridOfWords(wordsWithin(words, to), input.longest)
    : gridOf(toMilliCelsius(input.range.from, input.range.unit), to, input.longest);
  // What was pressed where heats are known is no square too many of a press that is set by words.
  const elsewhere = words ? graded.filter((c) => !words.some((w) => w.word === c.word)).length : 0;
  const reading = readSwatch(graded, usual, grid, { seed: input.seed, dial, most: readDefaults.most + elsewhere });
  const next = reading.verdict === 'more' ? planSwatch(graded, usual, grid, reading, { seed: input.seed, dial }) : [];
  const p = input.places;
  const set = (c: SwatchCell) => (c.word === undefined ? bothHeats(c.heat) : `“${c.word}”`);
  return {
    format: 'versipel-swatch-result/1',
    verdict: reading.verdict,
    says:
      reading.verdict === 'enough'
        ? `Press at ${set(reading.recipe!)} for ${reading.recipe!.seconds} s: enough.`
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
        { heat: heatOf(p), seconds: p.seconds },
        usual,
        graded,
      ),
    dial: words?.map((w) => ({
      word: w.word,
      celsius: Math.round(milliCelsiusToCelsius(w.heat)),
      fahrenheit: Math.round(milliCelsiusToFahrenheit(w.heat)),
      doubt: Math.round(w.sd / 100) / 10,
      known: w.sd === 0 ? 'measured' : w.sd <= dialDefaults.found ? 'found' : 'open',
    })),
  };
}
