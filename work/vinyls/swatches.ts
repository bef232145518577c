import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  bondGrades,
  harmGrades,
  leafletWay,
  puffGrades,
  swatchInputSchema,
  type PressWord,
  type SwatchResult,
} from '#core/press/index.ts';
import { blanks, fullPress, type BlankKey, type PressWay } from '#core/vinyls/index.ts';
import { db, transaction } from '#store/base/db.ts';
import * as recipeStore from '#store/vinyls/recipes.ts';
import * as store from '#store/vinyls/swatches.ts';
import { swatchOnThread } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { owned } from '#work/people/owned.ts';
import { personById } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { setPressLevels } from '#store/workshop/workshop.ts';
import { cellOf, dialOf, levelsFound, setOf, swatchPress } from './swatchPress.ts';
import { vinylOf, type Vinyl } from './vinyls.ts';

/** How far a type's heats are looked beyond, m°C. */
const BEYOND = 8_000;
const harmWords = [...harmGrades, 'wrinkled'] as const;

/** What is usually said of a film on a fabric, and between which heats one may look: what film and fabric bear. */
function frameOf({ behaviour }: Pick<Vinyl, 'behaviour'>, surface: BlankKey) {
  const { heat, press, face } = behaviour;
  if (behaviour.bond !== 'heat' || !heat) throw new Invalid({ form: 'Nothing of this vinyl is pressed.' });
  const cap = blanks[surface].heat;
  if (cap === undefined) throw new Invalid({ form: 'Nothing is pressed on this surface.' });
  const way = fullPress(press) ?? press[0];
  const usual = Math.min(way?.heat ?? (heat.from + heat.to) / 2, cap);
  const to = Math.max(Math.min(heat.to + (heat.said ? 0 : BEYOND), cap), usual);
  return {
    film: face === 'relief' ? ('puff' as const) : ('flat' as const),
    usual: { heat: { degrees: usual / 1000, unit: 'C' as const }, seconds: way?.seconds?.[1] ?? 15 },
    range: { from: Math.min(heat.from - (heat.said ? 0 : BEYOND), usual) / 1000, to: to / 1000, unit: 'C' as const },
  };
}

/** A square with what is set for it on its press. */
type Square = store.SwatchCellRow & { set: string | undefined };
export type SwatchView = {
  film: 'flat' | 'puff';
  cards: { id: string; cells: Square[]; graded: boolean; press: string | undefined }[];
  result: SwatchResult;
  /** The next card as it is set on the press. */
  next: Omit<Square, 'id'>[];
  presses: { id: string; name: string }[];
  press: { id: string; name: string; words: boolean } | undefined;
};

/** What cards of a vinyl say, and the press they are pressed with. */
async function readCards(
  person: Person | undefined,
  vinyl: Vinyl,
  surface: BlankKey,
  rows: readonly store.SwatchRow[],
  asked: string | undefined,
) {
  const frame = frameOf(vinyl, surface);
  const { from, to } = frame.range;
  const { presses, press } = await swatchPress(person, rows, { from: from * 1000, to: to * 1000 }, asked);
  const result = await swatchOnThread(
    swatchInputSchema.parse({
      format: 'versipel-swatch/1',
      ...frame,
      cells: rows.flatMap((r) => r.cells.flatMap((c) => cellOf(r, c, presses, press))).slice(-48),
      dial: person && (await dialOf(person, press, vinyl.id, (v, on) => frameOf(v, on).usual)),
    }),
  );
  return { film: frame.film, presses, press, result };
}

/** The swatches of a vinyl on a fabric, what they say, and the next card for a press. @throws Invalid where nothing is pressed */
export async function swatchesOn(
  person: Person | undefined,
  vinyl: Vinyl,
  surface: BlankKey,
  asked?: string,
): Promise<SwatchView> {
  const rows = person ? await store.swatchesOf(db(), person.id, vinyl.id, surface) : [];
  const { film, presses, press, result } = await readCards(person, vinyl, surface, rows, asked);
  return {
    film,
    cards: rows.map((r) => {
      const on = presses.find((p) => p.id === r.press_id);
      return {
        id: r.id,
        cells: r.cells.map((c) => ({ ...c, set: setOf(on, c) })),
        graded: r.cells.every((c) => c.bond && c.harm),
        press: on?.name,
      };
    }),
    result,
    next: result.next.map((c) => {
      const heat = c.celsius * 1000;
      return { heat, seconds: c.seconds, ...(c.word ? { word: c.word } : {}), set: setOf(press, { ...c, heat }) };
    }),
    presses: presses.map(({ id, name }) => ({ id, name })),
    press: press && { id: press.id, name: press.name, words: press.levels.length > 0 },
  };
}

/** Begins the card that was planned. One that is not graded yet stands in the way of another. */
export async function beginSwatch(person: Person, vinylId: string, surface: BlankKey, asked?: string): Promise<void> {
  const vinyl = await vinylOf(person, vinylId);
  const { cards, result, next, press } = await swatchesOn(person, vinyl, surface, asked);
  if (cards.some((c) => !c.graded)) throw new Invalid({ form: 'Grade the card you have first.' });
  if (next.length === 0) throw new Invalid({ form: result.says });
  await enforceQuota(person, 'swatches');
  await store.insertSwatch(db(), {
    id: uuidv7(),
    personId: person.id,
    vinyl_id: vinyl.id,
    surface,
    press_id: press?.id ?? null,
    cells: next.map(({ set: _, ...c }) => ({ id: uuidv7(), ...c })),
  });
}

const cardOf = (person: Person, id: string): Promise<store.SwatchRow> =>
  owned(person, 'change', 'card', id, (it) => store.swatchById(db(), it));

/** Puts a card away: it was not pressed, or not as it says. What its squares said is taken back. */
export async function setSwatchAway(person: Person, id: string): Promise<void> {
  const row = await cardOf(person, id);
  const vinyl = await vinylOf(person, row.vinyl_id);
  const surface = row.surface as BlankKey;
  const { result, press } = await readWith(person, vinyl, surface, row, true);
  await transaction(async (q) => {
    await store.setSwatchAway(q, row.id);
    await store.keepFound(q, {
      personId: person.id,
      vinyl_id: vinyl.id,
      surface,
      ...foundIn(result, press?.id, vinyl.behaviour),
    });
    for (const c of row.cells) await recipeStore.undoPressOutcome(q, c.id);
  });
}

/** What a square says as the outcome of a press: what is wrong with it comes first. */
function wordOf(c: store.SwatchCellRow): PressWord | undefined {
  if (c.harm === 'scorched') return 'scorched';
  if (c.harm === 'wrinkled') return 'wrinkled';
  if (c.harm === 'shine mark') return 'shine mark';
  if (c.washed === 'not bonded') return 'came off in the wash';
  const bond = c.washed ?? c.bond;
  return bond;
}

/** The squares of a card with what a form says of them. @throws Invalid at a square */
function graded(cells: readonly store.SwatchCellRow[], film: 'flat' | 'puff', form: FormData): store.SwatchCellRow[] {
  const bond = z.union([z.enum(film === 'puff' ? puffGrades : bondGrades), z.literal('')]).default('');
  return cells.map(({ id, heat, seconds, word }, i) => {
    const said = read(
      z.object({ bond, harm: z.union([z.enum(harmWords), z.literal('')]).default(''), washed: bond }),
      Object.fromEntries((['bond', 'harm', 'washed'] as const).map((k) => [k, String(form.get(`${k}-${i}`) ?? '')])),
    );
    return {
      id,
      heat,
      seconds,
      ...(word ? { word } : {}),
      ...(said.bond ? { bond: said.bond } : {}),
      ...(said.harm ? { harm: said.harm } : {}),
      ...(said.washed ? { washed: said.washed } : {}),
    };
  });
}

/** What a person's cards of a vinyl on a surface say, with one of them as it is graded now, or without one that is put away. */
async function readWith(person: Person, vinyl: Vinyl, surface: BlankKey, now: store.SwatchRow, without = false) {
  const rows = await store.swatchesOf(db(), person.id, vinyl.id, surface);
  return readCards(
    person,
    vinyl,
    surface,
    rows.flatMap((r) => (r.id !== now.id ? [r] : without ? [] : [now])),
    now.press_id ?? undefined,
  );
}

/** The way that squares found: their heat and time, and nothing they do not say. */
const foundWay = (result: SwatchResult, film: Vinyl['behaviour']): PressWay | undefined =>
  result.recipe &&
  leafletWay(
    {
      source: '',
      heat: Math.round(result.recipe.celsius * 1000),
      seconds: [result.recipe.seconds, result.recipe.seconds],
    },
    film,
  );
/** The same as it is kept: by a word it is for that press alone. */
const foundIn = (result: SwatchResult, press: string | undefined, film: Vinyl['behaviour']) => ({
  way: foundWay(result, film) ?? null,
  press_id: result.recipe?.word === undefined ? null : (press ?? null),
});

/**
 * Keeps how the squares of a card came out; each is evidence for the way it was pressed. On a press that is set by words they also say what a
 * word has: once little doubt is left it is kept with the press, and open jobs take it. @throws Invalid at a square
 */
export async function gradeSwatch(person: Person, vinylId: string, id: string, form: FormData): Promise<void> {
  const row = await cardOf(person, id);
  const vinyl = await vinylOf(person, vinylId);
  const surface = row.surface as BlankKey;
  const cells = graded(row.cells, frameOf(vinyl, surface).film, form);
  const { result, press } = await readWith(person, vinyl, surface, { ...row, cells });
  const levels =
    press && press.id === row.press_id && cells.some((c) => c.word) && result.dial
      ? levelsFound(press, result.dial)
      : undefined;
  const found = foundIn(result, press?.id, vinyl.behaviour);
  await transaction(async (q) => {
    await store.gradeSwatch(q, id, cells);
    if (levels) await setPressLevels(q, row.press_id!, levels);
    await store.keepFound(q, { personId: person.id, vinyl_id: vinyl.id, surface, ...found });
    for (const c of cells) {
      const word = wordOf(c);
      await recipeStore.undoPressOutcome(q, c.id);
      const heat = c.word === undefined ? c.heat : levels?.find((l) => l.word === c.word)?.heat;
      // What a word has that nobody measured or found is no heat that a recipe could be proven at.
      if (!word || heat === undefined) continue;
      await recipeStore.insertPressOutcome(q, {
        eventId: c.id,
        vinylId: row.vinyl_id,
        personId: person.id,
        jobId: null,
        pieceId: c.id,
        surface: row.surface,
        pressId: row.press_id,
        way: { heat, seconds: [c.seconds, c.seconds], peel: 'by the leaflet' },
        word,
        kind: 'swatch',
        school: null,
        at: row.made_at,
      });
    }
  });
}

/**
 * Keeps the recipe that swatches found as one's own for that fabric, as the vinyl is pressed otherwise; by a word it is for that press alone.
 * @throws Invalid where there is none
 */
export async function keepSwatchRecipe(
  person: Person,
  vinylId: string,
  surface: BlankKey,
  asked?: string,
): Promise<void> {
  const vinyl = await vinylOf(person, vinylId);
  const { result, press } = await swatchesOn(person, vinyl, surface, asked);
  if (!result.recipe) throw new Invalid({ form: result.says });
  const way = foundWay(result, vinyl.behaviour)!;
  await enforceQuota(person, 'recipes');
  await recipeStore.insertRecipe(db(), {
    id: uuidv7(),
    personId: person.id,
    vinylId: vinyl.id,
    surface,
    pressId: result.recipe.word === undefined ? null : press!.id,
    way,
    shared: false,
    agreed: null,
  });
}

/** Reads cards that nobody has read yet for what they found. Answers how many. */
export async function readUnreadSwatches(limit = 20): Promise<number> {
  const due = await store.unreadSwatches(db(), limit);
  for (const { person_id, vinyl_id, surface } of due) {
    const nothing = { way: null, press_id: null };
    const read = async () => {
      const person = await personById(person_id);
      const vinyl = await vinylOf(person, vinyl_id);
      const rows = await store.swatchesOf(db(), person_id, vinyl_id, surface);
      const on = rows.at(-1)?.press_id ?? undefined;
      const { result, press } = await readCards(person, vinyl, surface as BlankKey, rows, on);
      return foundIn(result, press?.id, vinyl.behaviour);
    };
    // Of a vinyl that is no longer pressed, or no longer seen, nothing is found; it is not tried again.
    const found = await read().catch((error: unknown) => {
      if (error instanceof Invalid || error instanceof NotFound) return nothing;
      throw error;
    });
    await store.keepFound(db(), { personId: person_id, vinyl_id, surface, ...found });
  }
  return due.length;
}
