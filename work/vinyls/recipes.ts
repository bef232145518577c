import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  beyond,
  rankRecipes,
  recipeStanding,
  sayHeld,
  twoClocks,
  type PressAnswer,
  type SaidWay,
} from '#core/press/index.ts';
import { parseDecimal, toMilliCelsius } from '#core/units/index.ts';
import {
  blankKeys,
  peels,
  pressures,
  pressWaySchema,
  supports,
  type Behaviour,
  type BlankKey,
  type PressWay,
} from '#core/vinyls/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as store from '#store/vinyls/recipes.ts';
import { pressById } from '#store/workshop/workshop.ts';
import { today } from '#work/base/clock.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read, ticked } from '#work/base/forms.ts';
import { line } from '#work/base/text.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { owned } from '#work/people/owned.ts';
import type { Person } from '#work/people/person.ts';
import { answerFrom, saidOf, type Pressable, type SaidOf } from './pressAnswers.ts';
import { vinylOf } from './vinyls.ts';

/** A way to press with where it stands on one fabric. */
export type RecipeView = {
  /** Of one's own or shared ones; undefined for what the type or its leaflet says. */
  id: string | undefined;
  way: PressWay;
  /** Where it comes from; `from` says in short whose it is: one's own, that of a type or leaflet, or somebody's who shares it. */
  source: SaidWay['source'];
  from: 'you' | 'type' | 'shared';
  by: string | undefined;
  surface: BlankKey | undefined;
  press: string | undefined;
  shared: boolean;
  standing: 'draft' | 'tried' | 'proven' | 'doubted' | 'retired';
  says: string;
  held: number;
  pieces: number;
  /** How many of the pieces were timed by two clocks, and count as planned. */
  twoClocks: number;
  lower: number;
  beyond: string[];
};

/** All ways to press a vinyl on a fabric: the answer first, then one's own, then by what is proven. */
export async function recipesOn(
  person: Person | undefined,
  vinyl: Pressable & { behaviour: Pick<Behaviour, 'heat'> },
  surface: BlankKey,
): Promise<{ answer: PressAnswer; recipes: RecipeView[]; raises: SaidOf['raises'] }> {
  const said = (await saidOf(person, [vinyl], surface, { weigh: true })).get(vinyl.id);
  const answer = answerFrom(vinyl, surface, said, undefined);
  const on = today();
  const view = (s: SaidWay): RecipeView => {
    const kept = said?.recipes.find((r) => r.row.id === s.id);
    const stands = kept?.stands ?? recipeStanding(s.way, said?.outcomes ?? [], on, s.press);
    return {
      id: s.id,
      way: s.way,
      source: s.source,
      from: s.source.startsWith('own') ? 'you' : s.source.endsWith('others') ? 'shared' : 'type',
      by: s.by,
      surface: blankKeys.find((k) => k === kept?.row.surface),
      press: s.press,
      shared: kept?.row.shared ?? false,
      standing: stands.standing,
      says: sayHeld(stands),
      held: stands.clean,
      pieces: stands.cuts,
      twoClocks: twoClocks(s.way, said?.outcomes ?? [], s.press),
      lower: stands.lower,
      beyond: beyond(s.way, vinyl.behaviour.heat, surface),
    };
  };
  const all = [...(answer.said ? [answer.said] : []), ...answer.beside].map(view);
  const [first, rest] = answer.said ? [all.slice(0, 1), all.slice(1)] : [[], all];
  const mine = rest.filter((r) => r.from === 'you');
  const others = rest.filter((r) => r.from !== 'you');
  const ranked = rankRecipes(others.map((r) => ({ ...r, standing: { standing: r.standing, lower: r.lower } }))).map(
    (r) => ({ ...r, standing: r.standing.standing }),
  );
  return { answer, recipes: [...first, ...mine, ...ranked], raises: said?.raises ?? [] };
}

const seconds = (what: string, most: number) =>
  z
    .string()
    .default('')
    .transform((s) => (s.trim() === '' ? undefined : (parseDecimal(s) ?? NaN)))
    .refine((s) => s === undefined || (Number.isInteger(s) && s >= 0 && s <= most), {
      message: `${what}: whole seconds, at most ${most}.`,
    });
const chosen = <T extends string>(of: readonly [T, ...T[]]) =>
  z
    .union([z.enum(of), z.literal('')])
    .optional()
    .transform((v) => v || undefined);

const length = (what: string) =>
  z
    .string()
    .default('')
    .transform((s) => (s.trim() === '' ? undefined : (parseDecimal(s) ?? NaN)))
    .refine((v) => v === undefined || (v > 0 && v < 10_000), {
      message: `${what}: a length, in the same unit both times.`,
    });

/** A further press of the same recipe, each with all its own figures. */
const further = <N extends 1 | 2>(n: N) =>
  ({
    [`heat${n}`]: z.string().default(''),
    [`seconds${n}`]: seconds('How long', 180),
    [`pressure${n}`]: chosen(pressures),
    [`cover${n}`]: line('what covers it', 60, { optional: true }).default(''),
    [`ask${n}`]: line('the question', 80, { optional: true }).default(''),
  }) as Record<`heat${N}` | `cover${N}` | `ask${N}`, z.ZodType<string>> &
    Record<`seconds${N}`, z.ZodType<number | undefined>> &
    Record<`pressure${N}`, z.ZodType<'light' | 'medium' | 'heavy' | undefined>>;

const recipeForm = z.object({
  purpose: z.enum(['full', 'tack']).default('full'),
  heat: z.string().default(''),
  unit: z.enum(['C', 'F']),
  from: seconds('How long', 180),
  to: seconds('How long', 180),
  pressure: chosen(pressures),
  cover: line('what covers it', 60, { optional: true }).default(''),
  peel: z.enum(peels).default('by the leaflet'),
  wait: seconds('The wait before the peel', 900),
  before: seconds('The bare blank', 180),
  after: seconds('The press after the peel', 180),
  back: seconds('The press from the back', 180),
  support: chosen(supports),
  margin: chosen(['kept', 'trimmed']),
  /** Measured: how wide it was drawn, and is now, mm. */
  drawn: length('How wide it was'),
  pressed: length('How wide it is now'),
  then: line('what follows', 200, { optional: true }).default(''),
  ...further(1),
  ...further(2),
  surface: chosen(blankKeys as [BlankKey, ...BlankKey[]]),
  press: optionalId,
  shared: ticked,
  agreed: ticked,
});

/** A heat as somebody typed it in the scale of their press, m°C. @throws Invalid at its field */
function heatSaid(text: string, unit: 'C' | 'F', field: string): number | undefined {
  if (text.trim() === '') return undefined;
  const degrees = parseDecimal(text);
  const heat = degrees === undefined ? undefined : toMilliCelsius(degrees, unit);
  if (heat === undefined || heat < 100_000 || heat > 220_000)
    throw new Invalid({
      [field]: 'A press is meant to be between 100 and 220 °C (212 and 428 °F). Which scale does yours read?',
    });
  return heat;
}

/** The presses that follow in a recipe; what is left empty is no press. @throws Invalid where one lacks its time */
function furtherOf(input: z.output<typeof recipeForm>): PressWay[] {
  const one = (n: 1 | 2): PressWay[] => {
    const s = input[`seconds${n}`];
    const heat = heatSaid(input[`heat${n}`], input.unit, `heat${n}`);
    const [pressure, ask] = [input[`pressure${n}`], input[`ask${n}`]];
    if (s === undefined) {
      if (heat !== undefined || pressure || ask) throw new Invalid({ [`seconds${n}`]: 'How long is it pressed then?' });
      return [];
    }
    if (s < 1) throw new Invalid({ [`seconds${n}`]: 'At least a second.' });
    return [
      {
        ...(heat === undefined ? {} : { heat }),
        seconds: [s, s],
        ...(pressure ? { pressure } : {}),
        cover: input[`cover${n}`] || 'baking paper',
        peel: 'by the leaflet',
        ...(ask ? { ask } : {}),
      },
    ];
  };
  return [...one(1), ...one(2)];
}

/**
 * Writes a recipe of one's own. One that goes beyond what its vinyl or its fabric bears is refused until it is meant so.
 * @throws Invalid with a message a field
 */
export async function addRecipe(person: Person, vinylId: string, form: FormData): Promise<string> {
  const input = read(recipeForm, form);
  const vinyl = await vinylOf(person, vinylId);
  const heat = heatSaid(input.heat, input.unit, 'heat');
  if (heat === undefined && input.from === undefined) throw new Invalid({ heat: 'Say the heat, or how long.' });
  const from = input.from ?? input.to;
  const to = input.to ?? input.from;
  if (from !== undefined && to !== undefined && (from > to || from < 1))
    throw new Invalid({ to: 'The first number of seconds is the smaller one, at least 1.' });
  if ((input.drawn === undefined) !== (input.pressed === undefined))
    throw new Invalid({ pressed: 'Both lengths, or none: as drawn, and as pressed.' });
  const shrink = input.drawn !== undefined && input.pressed !== undefined ? 1 - input.pressed / input.drawn : undefined;
  if (shrink !== undefined && (shrink < 0 || shrink > 0.05))
    throw new Invalid({ pressed: 'It loses 0 to 5 in 100 of its width. Measure both along the same line.' });
  const next = input.purpose === 'full' ? furtherOf(input) : [];
  const parsed = pressWaySchema.safeParse({
    ...(input.purpose === 'full' ? {} : { purpose: input.purpose }),
    ...(heat === undefined ? {} : { heat }),
    ...(from === undefined || to === undefined ? {} : { seconds: [from, to] }),
    ...Object.fromEntries(
      (['pressure', 'wait', 'before', 'after', 'back', 'support', 'margin'] as const).flatMap((k) =>
        input[k] === undefined ? [] : [[k, input[k]]],
      ),
    ),
    ...(shrink === undefined ? {} : { shrink: Math.round(shrink * 1e5) / 1e5 }),
    cover: input.cover || 'its own carrier',
    peel: input.peel,
    ...(input.then ? { then: input.then } : {}),
    ...(next.length > 0 ? { next } : {}),
  });
  if (!parsed.success)
    throw new Invalid({ form: `${parsed.error.issues[0]!.path.join('.')}: ${parsed.error.issues[0]!.message}` });
  const warned = input.surface ? beyond(parsed.data, vinyl.behaviour.heat, input.surface) : [];
  if (warned.length > 0 && !input.agreed)
    throw new Invalid({ agreed: `${warned.join(' ')} Tick this to keep it all the same.` });
  if (input.press) await owned(person, 'change', 'press', input.press, (it) => pressById(db(), it));
  await enforceQuota(person, 'recipes');
  const id = uuidv7();
  await store.insertRecipe(db(), {
    id,
    personId: person.id,
    vinylId: vinyl.id,
    surface: input.surface ?? null,
    pressId: input.press ?? null,
    way: parsed.data,
    shared: input.shared,
    agreed: warned.length > 0 ? warned.join(' ').slice(0, 600) : null,
  });
  return id;
}

/** How pieces of several layers held, by the way their layers were pressed: what a choice of school rests on. */
export const schoolsHeld = (person: Person | undefined) =>
  person ? store.heldBySchool(db(), person.id) : Promise.resolve([]);

const ownRecipe = (person: Person, id: string) =>
  owned(person, 'change', 'recipe', id, (it) => store.recipeById(db(), it));

/** Puts a recipe away, or takes it up again. @throws NotFound for anybody else's */
export async function setRecipeAway(person: Person, id: string, away: boolean): Promise<void> {
  await ownRecipe(person, id);
  await store.setRecipeAway(db(), id, away);
}
export async function setRecipeShared(person: Person, id: string, shared: boolean): Promise<void> {
  await ownRecipe(person, id);
  await store.shareRecipe(db(), id, shared);
}

/** Takes what somebody shared, or what the type says, as one's own for a fabric. @throws NotFound */
export async function takeRecipe(person: Person, vinylId: string, surface: BlankKey, which: string): Promise<void> {
  const vinyl = await vinylOf(person, vinylId);
  const { recipes } = await recipesOn(person, vinyl, surface);
  const found =
    recipes.find((r) => r.id === which) ??
    recipes.filter((r) => r.id === undefined)[Number(which.replace(/^way /, '')) - 1];
  if (!found) throw new NotFound('No such recipe.');
  await enforceQuota(person, 'recipes');
  await transaction((q) =>
    store.insertRecipe(q, {
      id: uuidv7(),
      personId: person.id,
      vinylId: vinyl.id,
      surface,
      pressId: null,
      way: found.way,
      shared: false,
      agreed: null,
    }),
  );
}
