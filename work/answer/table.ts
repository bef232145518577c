import { z } from 'zod';
import { columns, sayCell, writeRow, type CatalogueRecord } from '#core/catalogue/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/answer/table.ts';
import { recordOf } from '#work/vinyls/catalogue.ts';
import { typeSays } from '#work/vinyls/types.ts';
import { writeCsv, writeJsonTable } from '#core/tables/index.ts';
import { type Person, NOBODY } from '#work/people/person.ts';
import { foundIds } from '#work/vinyls/vinyls.ts';

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

export type TableRow = {
  id: string;
  cells: Record<string, string>;
  /** What its type says where nothing is said of the vinyl itself. */
  fromType: Record<string, string>;
  hex: string | undefined;
  usedAt: string | undefined;
};

const byColumn = (record: CatalogueRecord) => Object.fromEntries(columns.map((c) => [c.key, sayCell(c, record)]));

/** One page of the wide table with how many rows there are. */
export async function tablePage(
  person: Person | undefined,
  query: TableQuery,
): Promise<{ rows: TableRow[]; total: number }> {
  const filter = await filterOf(person, query);
  const [rows, total] = await Promise.all([
    store.tablePage(db(), filter, sortOf(query, filter.mine), query.page * query.size, query.size),
    store.tableCount(db(), filter),
  ]);
  return {
    total,
    rows: rows.map((row) => ({
      id: row.id,
      cells: byColumn(recordOf(row, row.colours)),
      fromType: byColumn({ ...recordOf(row, []), behaviour: typeSays(row) }),
      hex: row.colours[0]?.hex,
      usedAt: row.used_at?.toISOString(),
    })),
  };
}

/** Everything the filter lets through as a file, in the columns it can be brought in with again. */
export async function tableFile(person: Person | undefined, query: TableQuery, kind: 'csv' | 'json'): Promise<string> {
  const filter = await filterOf(person, query);
  const rows: string[][] = [];
  const step = 1000;
  for (let offset = 0; ; offset += step) {
    const page = await store.tablePage(db(), filter, sortOf(query, filter.mine), offset, step);
    rows.push(...page.map((row) => writeRow(recordOf(row, row.colours))));
    if (page.length < step) break;
  }
  const keys = columns.map((c) => c.key);
  return kind === 'csv' ? writeCsv([keys, ...rows]) : writeJsonTable(keys, rows);
}
