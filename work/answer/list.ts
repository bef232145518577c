import { strengthAxis, type Setting } from '#core/controls/index.ts';
import { wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { Translated } from '#core/transfer/index.ts';
import { shownFit, type ShownFit } from '#core/window/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { typeReading } from '#work/coupons/readings.ts';
import { translationsFor } from '#work/shelf/translate.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { type Named, foundIds, throughTypes, named } from '#work/vinyls/vinyls.ts';

/** Where a number comes from: one's own cells, others on the same cutter model, others on theirs, or the type alone. */
export type From = 'here' | 'others' | 'translated' | 'type';

export type VinylRow = Named & {
  /** The current reading for the cutter on the bench. */
  result: ShownFit | undefined;
  from: From;
  crafters: number;
  kept: number | undefined;
  /** The whole setting that is kept. */
  controls: Setting | undefined;
  standing: string | undefined;
  adopted: boolean;
  pinned: boolean;
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
  if (search.trim() !== '') return vinylRows(person, bench, await foundIds(person, search, limit));
  const mine = person ? await store.myVinyls(db(), person.id, limit) : [];
  const open = mine.length < limit ? await store.openVinyls(db(), limit) : [];
  return vinylRows(person, bench, [...new Set([...mine, ...open])].slice(0, limit));
}

/**
 * Rows for vinyls by their ids, in that order.
 * @param patience how long to wait for types that were never read on the cutter, ms
 */
export async function vinylRows(
  person: Person | undefined,
  bench: Bench | undefined,
  ids: readonly string[],
  patience = PATIENCE,
): Promise<VinylRow[]> {
  if (ids.length === 0) return [];
  const rows = await store.listedVinyls(
    db(),
    person?.id ?? NOBODY,
    bench ? { id: bench.cutter.id, model: bench.cutter.model.key, version: bench.cutter.model.version } : null,
    ids,
    throughTypes,
  );
  const translated = await translatedRows(bench, rows);
  const missing = rows
    .filter((r) => !r.result && !r.shared && !translated.get(r.id))
    .map((r) => r.type as VinylTypeKey);
  const byType = bench ? await typesInTime(bench, [...new Set(missing)], patience) : new Map<VinylTypeKey, ShownFit>();
  const axis = bench && strengthAxis(bench.cutter.model);
  const list: VinylRow[] = [];
  for (const row of rows) {
    const vinyl = named(row, person);
    const own = row.result && row.result.evidence.cells > 0 ? row.result : undefined;
    const said = translated.get(row.id);
    const from: From = own ? 'here' : row.shared ? 'others' : said ? 'translated' : 'type';
    let result = own ?? row.shared ?? said?.shown ?? row.result ?? undefined;
    result ??= byType.get(vinyl.type);
    list.push({
      ...vinyl,
      // A row that was written before rows were made small.
      result: result && ('verdict' in result ? shownFit(result) : result),
      from,
      crafters: row.crafters ?? said?.crafters ?? 0,
      adopted: row.adopted,
      kept: axis && row.kept ? row.kept.steps[axis.key] : undefined,
      controls: row.kept ?? undefined,
      standing: row.standing ?? undefined,
      pinned: row.pinned,
    });
  }
  return list;
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
  if (types.length === 0) return found;
  const all = Promise.all(
    types.map((type) =>
      typeReading(bench.cutter.model, type).then(
        (reading) => void found.set(type, shownFit(reading)),
        // Too much to do just now, or too long: the row says nothing yet.
        () => undefined,
      ),
    ),
  );
  let late: NodeJS.Timeout | undefined;
  await Promise.race([all, new Promise((done) => (late = setTimeout(done, patience)))]);
  clearTimeout(late);
  return new Map(found);
}

/** What others on other cutters found, in the terms of the cutter on the bench; what only the type says is left out. */
async function translatedRows(bench: Bench | undefined, rows: readonly { id: string; type: string }[]) {
  const found = new Map<string, Translated>();
  if (!bench) return found;
  const translate = async (wanted: 'clean' | 'through') => {
    const ids = rows.filter((r) => wantedOfType(r.type as VinylTypeKey) === wanted).map((r) => r.id);
    for (const [id, row] of await translationsFor(bench, ids, wanted))
      if (row.result && row.result.basis !== 'type') found.set(id, row.result);
  };
  await Promise.all([translate('clean'), translate('through')]);
  return found;
}
