import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  bondGrades,
  harmGrades,
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
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import { owned } from '#work/people/owned.ts';
import type { Person } from '#work/people/person.ts';
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

export type SwatchView = {
  film: 'flat' | 'puff';
  cards: { id: string; cells: store.SwatchCellRow[]; graded: boolean }[];
  result: SwatchResult;
  from: number;
  to: number;
};

/** The swatches of a vinyl on a fabric, what they say, and the next card. @throws Invalid where nothing is pressed */
export async function swatchesOn(person: Person | undefined, vinyl: Vinyl, surface: BlankKey): Promise<SwatchView> {
  const frame = frameOf(vinyl, surface);
  const rows = person ? await store.swatchesOf(db(), person.id, vinyl.id, surface) : [];
  const result = await swatchOnThread(
    swatchInputSchema.parse({
      format: 'versipel-swatch/1',
      ...frame,
      cells: rows
        .flatMap((r) => r.cells)
        .slice(0, 48)
        .map(({ id: _, heat, ...c }) => ({ ...c, heat: { degrees: heat / 1000, unit: 'C' } })),
    }),
  );
  return {
    film: frame.film,
    cards: rows.map((r) => ({ id: r.id, cells: r.cells, graded: r.cells.every((c) => c.bond && c.harm) })),
    result,
    from: frame.range.from * 1000,
    to: frame.range.to * 1000,
  };
}

/** Begins the card that was planned. One that is not graded yet stands in the way of another. */
export async function beginSwatch(person: Person, vinylId: string, surface: BlankKey): Promise<void> {
  const vinyl = await vinylOf(person, vinylId);
  const { cards, result } = await swatchesOn(person, vinyl, surface);
  if (cards.some((c) => !c.graded)) throw new Invalid({ form: 'Grade the card you have first.' });
  if (result.next.length === 0) throw new Invalid({ form: result.says });
  await needRoom(person, 'swatches');
  await store.insertSwatch(db(), {
    id: uuidv7(),
    personId: person.id,
    vinyl_id: vinyl.id,
    surface,
    press_id: null,
    cells: result.next.map((c) => ({ id: uuidv7(), heat: c.celsius * 1000, seconds: c.seconds })),
  });
}

/** What a square says as the outcome of a press: what is wrong with it comes first. */
function wordOf(c: store.SwatchCellRow): PressWord | undefined {
  if (c.harm === 'scorched') return 'scorched';
  if (c.harm === 'wrinkled') return 'wrinkled';
  if (c.harm === 'shine mark') return 'shine mark';
  if (c.washed === 'not bonded') return 'came off in the wash';
  const bond = c.washed ?? c.bond;
  return bond === undefined ? undefined : (bond as PressWord);
}

/** Keeps how the squares of a card came out; each is evidence for the way it was pressed. @throws Invalid at a square */
export async function gradeSwatch(person: Person, vinylId: string, id: string, form: FormData): Promise<void> {
  await transaction(async (q) => {
    const row = await owned(person, 'change', 'card', id, (it) => store.swatchById(q, it));
    const vinyl = await vinylOf(person, vinylId);
    const { film } = frameOf(vinyl, row.surface as BlankKey);
    const bonds = film === 'puff' ? puffGrades : bondGrades;
    const bond = z.union([z.enum(bonds), z.literal('')]).default('');
    const cells = row.cells.map((cell, i): store.SwatchCellRow => {
      const said = read(
        z.object({ bond, harm: z.union([z.enum(harmWords), z.literal('')]).default(''), washed: bond }),
        Object.fromEntries((['bond', 'harm', 'washed'] as const).map((k) => [k, String(form.get(`${k}-${i}`) ?? '')])),
      );
      return {
        id: cell.id,
        heat: cell.heat,
        seconds: cell.seconds,
        ...(said.bond ? { bond: said.bond } : {}),
        ...(said.harm ? { harm: said.harm } : {}),
        ...(said.washed ? { washed: said.washed } : {}),
      };
    });
    await store.gradeSwatch(q, id, cells);
    for (const c of cells) {
      const word = wordOf(c);
      await recipeStore.undoPressOutcome(q, c.id);
      if (!word) continue;
      await recipeStore.insertPressOutcome(q, {
        eventId: c.id,
        vinylId: row.vinyl_id,
        personId: person.id,
        jobId: null,
        pieceId: c.id,
        surface: row.surface,
        way: { heat: c.heat, seconds: [c.seconds, c.seconds], peel: 'by the leaflet' },
        word,
        kind: 'swatch',
        school: null,
        at: row.made_at,
      });
    }
  });
}

/** Keeps the recipe that swatches found as one's own for that fabric, as the vinyl is pressed otherwise. @throws Invalid where there is none */
export async function keepSwatchRecipe(person: Person, vinylId: string, surface: BlankKey): Promise<void> {
  const vinyl = await vinylOf(person, vinylId);
  const { result } = await swatchesOn(person, vinyl, surface);
  if (!result.recipe) throw new Invalid({ form: result.says });
  const like = fullPress(vinyl.behaviour.press);
  const way: PressWay = {
    cover: like?.cover ?? 'its own carrier',
    peel: like?.peel ?? 'by the leaflet',
    ...(like?.pressure ? { pressure: like.pressure } : {}),
    heat: result.recipe.celsius * 1000,
    seconds: [result.recipe.seconds, result.recipe.seconds],
  };
  await needRoom(person, 'recipes');
  await recipeStore.insertRecipe(db(), {
    id: uuidv7(),
    personId: person.id,
    vinylId: vinyl.id,
    surface,
    pressId: null,
    way,
    shared: false,
    agreed: null,
  });
}
