import {
  dialDefaults,
  rankSources,
  setFor,
  usualLevels,
  type HeatSource,
  type Level,
  type SwatchInput,
  type SwatchResult,
} from '#core/press/index.ts';
import type { BlankKey } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import type { SwatchCellRow, SwatchRow } from '#store/vinyls/swatches.ts';
import { mostPressed } from '#store/vinyls/recipes.ts';
import * as store from '#store/vinyls/swatches.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { sourcesOf } from '#work/workshop/presses.ts';
import { vinylOf, type Vinyl } from './vinyls.ts';

/** So many other films tell of the words of a dial. */
const OTHERS = 6;
/** A card of squares of 25 mm, with its seconds written beside them, µm. */
const CARD = { widthUm: 110_000, heightUm: 75_000 };

/** What cards are pressed with: the press that is asked for, else that of the newest card, else the one that suits them best. */
export async function swatchPress(
  person: Person | undefined,
  rows: readonly SwatchRow[],
  heats: { from: number; to: number },
  asked: string | undefined,
): Promise<{ presses: HeatSource[]; press: HeatSource | undefined }> {
  const presses = (await sourcesOf(person)).map((s) => s.source);
  const of = (id: string | null | undefined) => presses.find((p) => p.id === id);
  const [best] = rankSources(presses, { ...heats, ...CARD, cap: false, relief: false });
  return { presses, press: of(asked) ?? of(rows.at(-1)?.press_id) ?? of(best?.id) };
}

/** Where a word of a dial is thought to lie before any swatch: as a thermometer showed it, else as such words usually do. */
const before = (source: HeatSource, l: Level): Level =>
  l.how === 'swatch' ? (usualLevels[source.kind]?.find((u) => u.word === l.word) ?? l) : l;

type Cell = SwatchInput['cells'][number];
const celsius = (heat: number) => ({ degrees: heat / 1000, unit: 'C' as const });

/**
 * A square as the model takes it: at the heat it had, or at a word of the dial that is asked about. One that was set by a word of another press
 * is left out while nobody knows what that word has.
 */
export function cellOf(
  row: Pick<SwatchRow, 'press_id'>,
  cell: SwatchCellRow,
  presses: readonly HeatSource[],
  press: HeatSource | undefined,
): Cell[] {
  const { id: _, heat, word, ...seen } = cell;
  if (word === undefined) return [{ ...seen, heat: celsius(heat) }];
  const source = presses.find((p) => p.id === row.press_id);
  const level = source?.levels.find((l) => l.word === word);
  if (!source || !level) return [];
  if (source.id === press?.id) return [{ ...seen, word, heat: celsius(before(source, level).heat) }];
  return level.how === 'label' ? [] : [{ ...seen, heat: celsius(level.heat) }];
}

/** The dial of a press that is set by words, with what other films showed of it; undefined for one that shows degrees. */
export async function dialOf(
  person: Person,
  press: HeatSource | undefined,
  vinylId: string,
  usualOf: (vinyl: Vinyl, surface: BlankKey) => SwatchInput['usual'],
): Promise<SwatchInput['dial']> {
  if (!press || press.levels.length === 0) return undefined;
  let last = 0;
  const words = press.levels
    .map((l) => ({
      word: l.word,
      heat: before(press, l).heat,
      doubt: l.how === 'thermometer' ? 0 : dialDefaults.sd / 1000,
    }))
    .sort((a, b) => a.heat - b.heat)
    .slice(0, 4)
    .map((w) => {
      // What was measured may lie where another word is only thought to be: the dial still runs upwards.
      last = Math.max(w.heat, last + 1);
      return { ...w, heat: celsius(last) };
    });
  // Nothing is left to tell of words that were measured.
  if (words.every((w) => w.doubt === 0)) return { words, others: [] };
  const rows = await store.swatchesWith(db(), press.id, vinylId);
  const films = [...new Set(rows.map((r) => `${r.vinyl_id} ${r.surface}`))].slice(0, OTHERS);
  const others = await Promise.all(
    films.map(async (film) => {
      const cards = rows.filter((r) => `${r.vinyl_id} ${r.surface}` === film);
      try {
        const usual = usualOf(await vinylOf(person, cards[0]!.vinyl_id), cards[0]!.surface as BlankKey);
        return [
          { usual, cells: cards.flatMap((r) => r.cells.flatMap((c) => cellOf(r, c, [press], press))).slice(0, 48) },
        ];
      } catch (error) {
        // A vinyl that is no longer seen tells nothing.
        if (error instanceof NotFound) return [];
        throw error;
      }
    }),
  );
  return { words, others: others.flat() };
}

/** The words of a press as they stand after a reading: what a thermometer showed stays, what swatches found is kept, the rest is as usual. */
export function levelsFound(press: HeatSource, dial: SwatchResult['dial']): Level[] {
  const measured = press.levels.filter((l) => l.how === 'thermometer');
  const found = (dial ?? []).filter((w) => w.known === 'found');
  return [...measured, ...found.map((w): Level => ({ word: w.word, heat: w.celsius * 1000, how: 'swatch' }))];
}

/** What is set for a square: its word, or what the display of the press is to show; undefined where no press is known. */
export const setOf = (
  press: HeatSource | undefined,
  c: { heat: number; word?: string | undefined },
): string | undefined => (c.word === undefined ? press && setFor(press, c.heat).says : `“${c.word}”`);

/** Vinyls that somebody has pressed most: squares of those tell most of another press. */
export async function wellKnown(person: Person): Promise<Pick<Vinyl, 'id' | 'brand' | 'name' | 'type'>[]> {
  const ids = await mostPressed(db(), person.id, 3);
  const seen = await Promise.allSettled(ids.map((id) => vinylOf(person, id)));
  return seen.flatMap((v) =>
    v.status === 'fulfilled' ? [{ id: v.value.id, brand: v.value.brand, name: v.value.name, type: v.value.type }] : [],
  );
}
