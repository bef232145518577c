import { z } from 'zod';
import { standing, type ProofEvidence, type StandingResult } from '../proof/index.ts';
import { bothHeats } from '../units/index.ts';
import {
  blankKeys,
  blanks,
  pressWaySchema,
  saySeconds,
  vinylTypeKeys,
  behaviourOf,
  type PressWay,
} from '../vinyls/index.ts';
import { overSurface } from './pressAnswer.ts';
import { timeFor } from './laidFilm.ts';
import { SAME_HEAT } from './troubles.ts';

/** How a film came out, as it is seen, and what that counts for the way it was pressed. Undefined: the press is not to blame. */
export const pressWords = {
  bonded: 'worked',
  raised: 'worked',
  'washed well': 'worked',
  'edges lift': 'almost',
  'shine mark': 'almost',
  'plate mark': 'almost',
  part: 'almost',
  'not bonded': 'failed',
  'not raised': 'failed',
  flat: 'failed',
  wrinkled: 'failed',
  scorched: 'failed',
  'came off in the wash': 'failed',
  slipped: undefined,
  tore: undefined,
} as const satisfies Record<string, 'worked' | 'almost' | 'failed' | undefined>;
export type PressWord = keyof typeof pressWords;

/** A press as it was done. */
export type Pressed = Pick<PressWay, 'heat' | 'seconds' | 'pressure' | 'peel'> & {
  /** What it was meant to last, s, where it was held so much shorter or longer that it says nothing for that. */
  meant?: number | undefined;
  /** It was closed by the clock of one device and opened by that of another: it counts as long as it was planned. */
  clocks?: 2 | undefined;
};

/** One film that was pressed: how, and how it came out. */
export type PressOutcome = {
  /** Day in the zone of the person, YYYY-MM-DD. */
  day: string;
  person: string;
  /** The piece it was on: of one piece the last word counts. */
  piece: string;
  /** Its job or its swatch: pieces of one are alike. */
  of: string;
  kind: 'job' | 'swatch';
  way: Pressed;
  /** All of its presses as they were shown, in order, where that is known; `way` is the one that holds it. */
  presses?: readonly Pressed[] | undefined;
  word: PressWord;
  /** What it was pressed with, where that is known. */
  press?: string | undefined;
};

/** Times nearer than this are one time of a hand at a press, s. Common practice, no source. */
const SAME_TIME = 2;

/** Whether a press was done as one of a recipe says. */
function samePress(recipe: PressWay, done: Pressed): boolean {
  const heat =
    recipe.heat === undefined ||
    done.heat === undefined ||
    (done.heat >= recipe.heat - SAME_HEAT && done.heat <= Math.max(recipe.heat, recipe.upTo ?? 0) + SAME_HEAT);
  const lasts = (from: number, to: number) =>
    !recipe.seconds || (to >= recipe.seconds[0] - SAME_TIME && from <= recipe.seconds[1] + SAME_TIME);
  const time = !done.seconds || lasts(...done.seconds);
  const off = done.meant !== undefined && lasts(done.meant, done.meant);
  const same = <T>(a: T | undefined, b: T | undefined) => a === undefined || b === undefined || a === b;
  const leaflet = 'by the leaflet';
  return (
    heat &&
    time &&
    !off &&
    same(recipe.pressure, done.pressure) &&
    (recipe.peel === leaflet || done.peel === leaflet || recipe.peel === done.peel)
  );
}

/**
 * Whether a film was pressed as a recipe says, press by press: heats that one press shows as the same, times a hand does not tell apart, the same
 * pressure and peel. What neither says does not tell them apart. A press that was far off what it was meant to be says nothing for that; a press
 * behind a question may be left out. Of older outcomes the press that holds it is all that is known.
 */
export function sameWay(recipe: PressWay, { way, presses }: Pick<PressOutcome, 'way' | 'presses'>): boolean {
  if (!presses) return samePress(recipe, way);
  const wanted = [recipe, ...(recipe.next ?? [])];
  const must = wanted.filter((w) => !w.ask).length;
  return (
    presses.length >= must && presses.length <= wanted.length && presses.every((done, i) => samePress(wanted[i]!, done))
  );
}

/** What outcomes say as evidence: of each piece its last word, a job's pieces alike. In the order in which they were seen. */
export function evidenceOf(outcomes: readonly PressOutcome[]): ProofEvidence[] {
  const last = new Map<string, PressOutcome>();
  for (const o of outcomes) if (pressWords[o.word] !== undefined) last.set(`${o.of} ${o.piece}`, o);
  return [...last.values()].map((o) => ({
    kind: o.kind === 'job' ? 'job' : 'coupon',
    day: o.day,
    person: o.person,
    outcome: pressWords[o.word]!,
    occasion: `${o.person} ${o.day} ${o.of}`,
  }));
}

/** How many pieces that speak for a recipe were timed by two clocks: they count as planned, and are named. */
export const twoClocks = (recipe: PressWay, outcomes: readonly PressOutcome[], press?: string): number =>
  new Set(
    outcomes
      .filter((o) => speaksFor(recipe, o, press) && o.presses?.some((p) => p.clocks === 2))
      .map((o) => `${o.of} ${o.piece}`),
  ).size;

/** What was pressed with another press says nothing of a recipe for this one. */
const speaksFor = (recipe: PressWay, o: PressOutcome, press: string | undefined): boolean =>
  (press === undefined || o.press === undefined || o.press === press) && sameWay(recipe, o);

/**
 * Where a recipe stands by what came out of the press so far: draft, tried, proven, doubted. The rule is that of settings, see `standing`.
 * @param press the press it is for; what was pressed with another one says nothing of it then
 */
export function recipeStanding(
  recipe: PressWay,
  outcomes: readonly PressOutcome[],
  on: string,
  press?: string,
): StandingResult {
  return standing({
    format: 'versipel-standing/1',
    on,
    evidence: evidenceOf(outcomes.filter((o) => speaksFor(recipe, o, press))),
  });
}

/** Where a recipe stands, in a sentence: pieces that held, days, people, and what is missing. */
export function sayHeld({ standing: at, cuts, clean, days, people, missing }: StandingResult): string {
  const seen = `held on ${clean} of ${cuts} ${cuts === 1 ? 'piece' : 'pieces'}, on ${days === 1 ? 'one day' : `${days} days`}${people > 1 ? `, by ${people} people` : ''}`;
  switch (at) {
    case 'draft':
      return 'Nobody has pressed it so yet.';
    case 'proven':
      return `Proven: ${seen}.`;
    case 'doubted':
      return `Doubted: it failed lately; ${seen}.`;
    case 'retired':
      return `Nothing new for years; ${seen}.`;
    case 'tried':
      return missing
        ? `Tried: ${seen}; ${missing.cuts === 1 ? 'one more that holds' : `${missing.cuts} more that hold`}${missing.days > 0 ? ', on another day,' : ''} would prove it.`
        : `Tried: ${seen}.`;
  }
}

/** Which of several recipes to begin with: what is proven before what is tried, before what nobody tried; what is doubted comes last. */
const ranks = { proven: 0, tried: 1, draft: 2, doubted: 3, retired: 4 } as const;
export const rankRecipes = <T extends { standing: Pick<StandingResult, 'standing' | 'lower'> }>(
  recipes: readonly T[],
): T[] =>
  recipes.toSorted(
    (a, b) => ranks[a.standing.standing] - ranks[b.standing.standing] || b.standing.lower - a.standing.lower,
  );

/** A way to press in a line: "305 °F (152 °C), 10 to 15 s, medium pressure, peel warm". */
export const sayWay = (way: PressWay): string =>
  [
    way.word !== undefined ? `“${way.word}”` : way.heat === undefined ? 'heat not said' : bothHeats(way.heat),
    way.seconds ? saySeconds(way.seconds) : 'time not said',
    way.pressure ? `${way.pressure} pressure` : '',
    way.peel === 'by the leaflet' ? '' : `peel ${way.peel}`,
  ]
    .filter(Boolean)
    .join(', ');

/** What a recipe does that its fabric or its film does not bear, in words; empty where nothing. */
export function beyond(
  way: PressWay,
  range: { from: number; to: number; said?: boolean } | undefined,
  surface: keyof typeof blanks,
): string[] {
  const { heat } = way;
  const blank = blanks[surface];
  if (heat === undefined) return [];
  const over = overSurface(heat, blank);
  return [
    range && heat > range.to + SAME_HEAT
      ? `This vinyl takes ${bothHeats(range.to)} at most${range.said ? '' : ', as its type goes'}.`
      : '',
    range && heat < range.from - SAME_HEAT
      ? `This vinyl wants at least ${bothHeats(range.from)}${range.said ? '' : ', as its type goes'}.`
      : '',
    over ?? '',
    blank.heat === undefined ? 'Nothing is pressed on this surface.' : '',
  ].filter(Boolean);
}

const pressedSchema = pressWaySchema.pick({ heat: true, seconds: true, pressure: true, peel: true }).extend({
  meant: z.int().min(1).max(3_600).optional().describe('what it was meant to last, s, where it was far off'),
});
const wordKeys = Object.keys(pressWords) as [PressWord, ...PressWord[]];
const press = z.string().min(1).max(80).describe('what it is, or was, pressed with');
export const recipeInputSchema = z.strictObject({
  format: z.literal('versipel-recipe/1'),
  on: z.iso.date().describe('the day it is asked on'),
  type: z.enum(vinylTypeKeys),
  surface: z.enum(blankKeys),
  thinUm: z.int().min(0).max(1_000_000).optional().describe('the thinnest line of the artwork, µm'),
  recipes: z
    .array(z.strictObject({ name: z.string().min(1).max(80), way: pressWaySchema, press: press.optional() }))
    .max(12)
    .default([])
    .describe('ways to press it; those of its type when left out'),
  outcomes: z
    .array(
      z.strictObject({
        day: z.iso.date(),
        person: z.string().min(1).max(200).default('you'),
        piece: z.string().min(1).max(80),
        of: z.string().min(1).max(80).default('a job').describe('its job or its swatch'),
        kind: z.enum(['job', 'swatch']).default('job'),
        way: pressedSchema,
        presses: z.array(pressedSchema).min(1).max(8).optional().describe('all its presses in order'),
        word: z.enum(wordKeys),
        press: press.optional(),
      }),
    )
    .max(20_000)
    .default([]),
});
export type RecipeInput = z.infer<typeof recipeInputSchema>;

/** Recipes of one vinyl on one fabric with where each stands, the one to begin with first; `bin/core recipe`. */
export function recipes(input: RecipeInput) {
  const { press, heat } = behaviourOf(input.type);
  const ways: { name: string; way: PressWay; press?: string | undefined }[] =
    input.recipes.length > 0
      ? input.recipes
      : press.flatMap((way, i) =>
          (way.purpose ?? 'full') === 'full' && way.word === undefined ? [{ name: `way ${i + 1}`, way }] : [],
        );
  const outcomes = input.outcomes as readonly PressOutcome[];
  return {
    format: 'versipel-recipe-result/1' as const,
    recipes: rankRecipes(
      ways.map(({ name, way, press: of }) => {
        const stands = recipeStanding(way, outcomes, input.on, of);
        return {
          name,
          says: sayWay(way),
          seconds: timeFor(way, input.thinUm),
          standing: {
            standing: stands.standing,
            sentence: sayHeld(stands),
            lower: stands.lower,
            cuts: stands.cuts,
            clean: stands.clean,
            failed: stands.failed,
          },
          beyond: beyond(way, heat, input.surface),
        };
      }),
    ),
  };
}
