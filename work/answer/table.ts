import { z } from 'zod';
import { columns, escapeFormula, sayCell, writeRow, type CatalogueRecord } from '#core/catalogue/index.ts';
import { atStrength, formatPosition, startingSetting } from '#core/controls/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/answer/table.ts';
import { recordOf } from '#work/vinyls/catalogue.ts';
import { typeSays } from '#work/vinyls/types.ts';
import { settingColumns, writeCsv, writeJsonTable } from '#core/tables/index.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import type { PressAnswer } from '#core/press/index.ts';
import { pressAnswersOf } from '#work/vinyls/pressAnswers.ts';
import { foundIds } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { vinylRows } from './list.ts';

/** What the table shows, as its address says it. Anything it does not know is as if it were not there. */
export const tableQuery = z.object({
  q: z.string().max(200).catch('').default(''),
  mine: z
    .enum(['yes', 'no'])
    .catch('yes')
    .default('yes')
    .transform((s) => s === 'yes'),
  type: z.enum(vinylTypeKeys).optional().catch(undefined),
  sort: z.enum(['name', 'type', 'used', 'made']).catch('name').default('name'),
  down: z
    .string()
    .optional()
    .transform((s) => s === 'yes'),
  page: z.coerce.number().int().min(0).max(10_000).catch(0).default(0),
  size: z.coerce.number().int().min(10).max(100).catch(25).default(25),
});
export type TableQuery = z.output<typeof tableQuery>;

/** By last use only what is in hand can be sorted. */
const sortOf = (query: TableQuery, mine: boolean) => ({
  by: query.sort === 'used' && !mine ? ('name' as const) : query.sort,
  down: query.down,
});

/** Best fits that a search in the table is held to. */
const FOUND = 2000;

const filterOf = async (person: Person | undefined, query: TableQuery) => ({
  personId: person?.id ?? NOBODY,
  ids: query.q.trim() === '' ? undefined : await foundIds(person, query.q, FOUND),
  // A stranger has nothing in hand.
  mine: query.mine && person !== undefined,
  type: query.type,
});

/** A column of the controls of the cutter on the bench, and of what is known of its numbers. */
export type NumberColumn = { key: string; word: string };

export type TableRow = {
  id: string;
  cells: Record<string, string>;
  /** What its type says where nothing is said of the vinyl itself. */
  fromType: Record<string, string>;
  /** What to set on the cutter on the bench, by the key of a column. */
  numbers: Record<string, string>;
  hex: string | undefined;
  usedAt: string | undefined;
  /** How it is pressed on plain cloth, by its one answer. */
  press: PressAnswer;
};

const byColumn = (record: CatalogueRecord) => Object.fromEntries(columns.map((c) => [c.key, sayCell(c, record)]));

/** Columns for the cutter on the bench: its controls and the blade, as a table brings them in, and what is known of the number. */
const numberColumns = (bench: Bench | undefined): NumberColumn[] =>
  bench
    ? [
        ...settingColumns(bench.cutter.model),
        { key: 'standing', word: 'standing' },
        { key: 'chance', word: 'chance' },
        { key: 'last_cut', word: 'last cut' },
      ]
    : [];

/**
 * What to set for some vinyls on the cutter on the bench, each control a cell: the number that lists and cards say, kept or not.
 * @param known only what is kept or was found on this cutter: what goes out as a file comes in again as one's own
 */
async function numbersOf(
  person: Person | undefined,
  bench: Bench | undefined,
  ids: readonly string[],
  known: boolean,
): Promise<Map<string, Record<string, string>>> {
  const found = new Map<string, Record<string, string>>();
  if (!person || !bench) return found;
  const { model } = bench.cutter;
  const [rows, last] = await Promise.all([
    vinylRows(person, bench, ids),
    store.lastCuts(db(), person.id, bench.cutter.id, ids),
  ]);
  const cut = new Map(last.map((l) => [l.vinyl_id, l.at.toISOString().slice(0, 10)]));
  for (const { id, answer, controls, standing } of rows) {
    const { position, from, chance } = answer;
    if (position === undefined || (known && from !== 'kept' && from !== 'here')) continue;
    const setting = atStrength(model, controls ?? startingSetting(model), position);
    found.set(id, {
      ...Object.fromEntries(model.axes.map((a) => [`set.${a.key}`, formatPosition(a, setting.steps[a.key]!)])),
      'on.blade': from === 'kept' || from === 'here' ? (bench.blade?.name ?? '') : '',
      standing:
        from === 'kept' ? (standing ?? '') : from === 'here' ? 'tried' : from === 'type' ? 'a guess' : 'from others',
      chance: chance === undefined || from === 'type' ? '' : String(Math.round(chance * 100)),
      last_cut: cut.get(id) ?? '',
    });
  }
  return found;
}

/** One page of the wide table with how many rows there are. */
export async function tablePage(
  person: Person | undefined,
  bench: Bench | undefined,
  query: TableQuery,
): Promise<{ rows: TableRow[]; total: number; numbers: NumberColumn[] }> {
  const filter = await filterOf(person, query);
  const [rows, total] = await Promise.all([
    store.tablePage(db(), filter, sortOf(query, filter.mine), query.page * query.size, query.size),
    store.tableCount(db(), filter),
  ]);
  const [numbers, presses] = await Promise.all([
    numbersOf(
      person,
      bench,
      rows.map((r) => r.id),
      false,
    ),
    pressAnswersOf(person, rows),
  ]);
  return {
    total,
    numbers: numberColumns(bench),
    rows: rows.map((row) => ({
      id: row.id,
      cells: byColumn(recordOf(row, row.colours)),
      fromType: byColumn({ ...recordOf(row, []), behaviour: typeSays(row) }),
      numbers: numbers.get(row.id) ?? {},
      hex: row.colours[0]?.hex,
      usedAt: row.used_at?.toISOString(),
      press: presses.get(row.id)!,
    })),
  };
}

/** Everything the filter lets through as a file, in the columns it can be brought in with again; numbers of one's own beside it. */
export async function tableFile(
  person: Person | undefined,
  bench: Bench | undefined,
  query: TableQuery,
  kind: 'csv' | 'json',
): Promise<string> {
  const filter = await filterOf(person, query);
  const further = numberColumns(bench);
  const rows: string[][] = [];
  const step = 1000;
  for (let offset = 0; ; offset += step) {
    const page = await store.tablePage(db(), filter, sortOf(query, filter.mine), offset, step);
    const numbers = await numbersOf(
      person,
      bench,
      page.map((r) => r.id),
      true,
    );
    rows.push(
      ...page.map((row) => [
        ...writeRow(recordOf(row, row.colours)),
        ...further.map((c) => escapeFormula(numbers.get(row.id)?.[c.key] ?? '')),
      ]),
    );
    if (page.length < step) break;
  }
  const keys = [...columns.map((c) => c.key), ...further.map((c) => c.word)];
  return kind === 'csv' ? writeCsv([keys, ...rows]) : writeJsonTable(keys, rows);
}
