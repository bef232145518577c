import { strengthAxis, type Setting } from '#core/controls/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import type { PressAnswer } from '#core/press/index.ts';
import { shownFit, type ShownFit } from '#core/window/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { inTermsOf, wearOf } from '#work/coupons/evidence.ts';
import { refreshReading, typeReading } from '#work/coupons/readings.ts';
import { shelfOnBench } from '#work/shelf/onBench.ts';
import { pressAnswersOf } from '#work/vinyls/pressAnswers.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { answerFor, bestKnown, small, type Answer, type From, type Split } from '#core/answer/index.ts';
import { type Named, foundIds, throughTypes, named } from '#work/vinyls/vinyls.ts';

export type VinylRow = Named & {
  /** The current reading for the cutter on the bench. */
  result: ShownFit | undefined;
  from: From;
  /** What to set now. */
  answer: Answer;
  crafters: number;
  /** The whole setting that is kept. */
  controls: Setting | undefined;
  standing: string | undefined;
  adopted: boolean;
  /** Its number stands in notes that were imported: it was found by cutting, and no square of it is here. */
  imported: boolean;
  pinned: boolean;
  /** How it is pressed on plain cloth, and what that rests on, where that was asked. */
  press: PressAnswer | undefined;
};

/**
 * The vinyls a person sees, for the cutter on their bench: those that fit a search, or without one what is in hand, pinned first,
 * then used last first, then what everybody may see. Reads rows only; a type never read on this model is fitted once.
 */
export async function listVinyls(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
  limit = 60,
): Promise<VinylRow[]> {
  if (search.trim() !== '') return vinylRows(person, bench, await foundIds(person, search, limit), { pressed: true });
  const mine = person ? await store.myVinyls(db(), person.id, limit) : [];
  const open = mine.length < limit ? await store.openVinyls(db(), person?.id ?? NOBODY, limit) : [];
  return vinylRows(person, bench, [...new Set([...mine, ...open])].slice(0, limit), { pressed: true });
}

/**
 * Rows for vinyls by their ids, in that order.
 * @param patience how long to wait for types that were never read on the cutter, ms
 * @param pressed whether it is asked how they are pressed
 */
export async function vinylRows(
  person: Person | undefined,
  bench: Bench | undefined,
  ids: readonly string[],
  { patience = PATIENCE, pressed = false } = {},
): Promise<VinylRow[]> {
  if (ids.length === 0) return [];
  const rows = await store.listedVinyls(
    db(),
    person?.id ?? NOBODY,
    bench ? { id: bench.cutter.id, model: bench.cutter.model.key, version: bench.cutter.model.version } : null,
    ids,
    throughTypes,
  );
  const [{ translated, split }, again, kept, presses] = await Promise.all([
    shelfRows(bench, rows),
    bench && person ? readAgain(person.id, bench, rows, patience) : new Map<string, ShownFit>(),
    keptRows(bench, rows),
    pressed ? pressAnswersOf(person, rows) : new Map<string, PressAnswer>(),
  ]);
  const missing = rows
    .filter((r) => !r.result && !r.shared && !translated.get(r.id))
    .map((r) => r.type as VinylTypeKey);
  const byType = bench ? await typesInTime(bench, [...new Set(missing)], patience) : new Map<VinylTypeKey, ShownFit>();
  const axis = bench && strengthAxis(bench.cutter.model);
  const list: VinylRow[] = [];
  for (const row of rows) {
    const vinyl = named(row, person);
    const said = translated.get(row.id);
    const { reading = byType.get(vinyl.type), from } = bestKnown({
      result: again.get(row.id) ?? row.result ?? undefined,
      shared: row.shared ? { result: row.shared } : undefined,
      translated: said,
    });
    // A row that was written before rows were made small.
    const result = reading && small(reading);
    const controls = kept.get(row.id);
    list.push({
      ...vinyl,
      result,
      from,
      answer: answerFor({
        kept: axis && controls?.steps[axis.key],
        reading: result,
        from,
        split: split.get(row.id),
      }),
      crafters: row.crafters ?? said?.crafters ?? 0,
      adopted: row.adopted,
      imported: row.imported,
      controls,
      standing: row.standing ?? undefined,
      pinned: row.pinned,
      press: presses.get(row.id),
    });
  }
  return list;
}

/** The settings that are kept, in the terms of the model's present version. */
async function keptRows(bench: Bench | undefined, rows: readonly { id: string; kept: Setting | null }[]) {
  const found = new Map<string, Setting>();
  if (!bench) return found;
  for (const { id, kept } of rows) {
    const controls = kept && (await inTermsOf(bench.cutter.model, kept));
    if (controls) found.set(id, controls);
  }
  return found;
}

/**
 * Readings that were made for another blade, or for this one before it wore on: made again, so that a list says what a bench card
 * says. What is not there in time is there next time.
 */
async function readAgain(
  personId: string,
  bench: Bench,
  rows: readonly Pick<store.ListedVinyl, 'id' | 'result' | 'read_blade' | 'read_wear' | 'wanted'>[],
  patience: number,
): Promise<Map<string, ShownFit>> {
  const found = new Map<string, ShownFit>();
  const { blade } = bench;
  if (!blade) return found;
  const wear = wearOf(blade.wear.share);
  const same = (read: number | null) => read !== null && Math.abs(read - wear) < 0.001;
  const due = rows.filter(
    (r) => r.result && r.result.evidence.cells > 0 && !(r.read_blade === blade.id && same(r.read_wear)),
  );
  await inTime(
    due.map(async (r) => {
      const { result } = await refreshReading(personId, r.id, bench.cutter.id, r.wanted);
      found.set(r.id, shownFit(result));
    }),
    patience,
  );
  return new Map(found);
}

/** Waits for all of some work, or until patience is at an end; what fails is as if it were late. */
async function inTime(work: readonly Promise<void>[], patience: number): Promise<void> {
  if (work.length === 0) return;
  let late: NodeJS.Timeout | undefined;
  await Promise.race([
    Promise.allSettled(work),
    new Promise((done) => {
      late = setTimeout(done, patience);
    }),
  ]);
  clearTimeout(late);
}

/** How long a list waits for types that were never read on a model, ms: what is not there by then is there next time. */
const PATIENCE = 1_200;

/** What is believed of types on the cutter on the bench, as far as it is there in time: no row of a list waits for a computation. */
async function typesInTime(
  bench: Bench,
  types: readonly VinylTypeKey[],
  patience: number,
): Promise<Map<VinylTypeKey, ShownFit>> {
  const found = new Map<VinylTypeKey, ShownFit>();
  // Too much to do just now, or too long: the row says nothing yet.
  await inTime(
    types.map(async (type) => void found.set(type, shownFit(await typeReading(bench.cutter.model, type)))),
    patience,
  );
  return new Map(found);
}

/**
 * What others on other cutters found, in the terms of the cutter on the bench (what only the type says is left out), and the camps
 * that vinyls fall into.
 */
async function shelfRows(bench: Bench | undefined, rows: readonly { id: string; wanted: Wanted }[]) {
  const translated = new Map<string, Translated>();
  const split = new Map<string, Split>();
  await Promise.all(
    (['clean', 'through'] as const).map(async (wanted) => {
      const ids = rows.filter((r) => r.wanted === wanted).map((r) => r.id);
      const said = await shelfOnBench(bench, ids, wanted);
      for (const [id, { result }] of said.translations)
        if (result && result.basis !== 'type') translated.set(id, result);
      for (const [id, camps] of said.splits) split.set(id, camps);
    }),
  );
  return { translated, split };
}
