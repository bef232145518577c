import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { fileLimits } from '../catalogue/index.ts';

/** A file that is no table we can read: one sentence that says why. */
export class TableError extends Error {}

/** A table as it was read: the headings, and each row with the line it began on. */
export type Table = { headings: string[]; rows: { line: number; cells: string[]; trouble?: string }[] };

/** Largest file that is read, and most rows of it. */
export const tableLimits = fileLimits;

/**
 * Reads CSV as spreadsheets write it: RFC 4180, with comma, semicolon or tab between cells, whichever the heading has most of.
 * Bytes that are no UTF-8 stay visible as U+FFFD, so that their row can be named.
 * @throws TableError when it is no table at all
 */
export function readCsv(bytes: Uint8Array): Table {
  const text = new TextDecoder('utf-8').decode(bytes).replace(/^\ufeff/, '');
  if (text.trim() === '') throw new TableError('The file is empty.');
  const head = text.slice(0, text.search(/\r?\n|$/));
  const delimiter = [',', ';', '\t'].map((d) => ({ d, n: head.split(d).length })).sort((a, b) => b.n - a.n)[0]!.d;
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      delimiter,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      max_record_size: 200_000,
    }) as unknown as typeof records;
  } catch (error) {
    const { lines } = error as { lines?: number };
    throw new TableError(
      `The file cannot be read as CSV${lines ? ` from line ${lines} on` : ''}: a quote that does not close, most likely.`,
    );
  }
  const [first, ...rest] = records;
  const headings = first!.record.map((h) => h.trim());
  if (headings.length > tableLimits.columns)
    throw new TableError(`The file has ${headings.length} columns; ${tableLimits.columns} fit.`);
  if (rest.length === 0) throw new TableError('The file has headings and no row.');
  if (rest.length > tableLimits.rows)
    throw new TableError(
      `The file has ${rest.length} rows; ${tableLimits.rows} fit. Part it and bring the parts in one by one.`,
    );
  // The line a row ends on is told; it begins one after the row before ended.
  let before = first!.info.lines;
  const rows = rest.map(({ record, info }) => {
    const line = before + 1;
    before = info.lines;
    const extra = record.length - headings.length;
    const trouble =
      extra !== 0
        ? `has ${record.length} cells under ${headings.length} headings`
        : record.some((c) => c.length > tableLimits.cell)
          ? 'has a cell too long to be read'
          : undefined;
    return { line, cells: record.map((c) => c.slice(0, tableLimits.cell)), ...(trouble ? { trouble } : {}) };
  });
  return { headings, rows };
}

const FORMAT = 'versipel-vinyls/1';

/** Reads the JSON form of the table: the same columns by their keys. @throws TableError */
export function readJsonTable(bytes: Uint8Array): Table {
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8').decode(bytes));
  } catch (error) {
    throw new TableError(`The file is no JSON: ${(error as Error).message.slice(0, 120)}.`);
  }
  const vinyls = (raw as { format?: unknown; vinyls?: unknown } | null)?.vinyls;
  if ((raw as { format?: unknown } | null)?.format !== FORMAT || !Array.isArray(vinyls))
    throw new TableError(`The file does not say "format": "${FORMAT}" with a list of vinyls.`);
  if (vinyls.length === 0) throw new TableError('The file has no row.');
  if (vinyls.length > tableLimits.rows)
    throw new TableError(`The file has ${vinyls.length} rows; ${tableLimits.rows} fit.`);
  const isRow = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);
  const headings = [...new Set(vinyls.filter(isRow).flatMap((v) => Object.keys(v)))].slice(0, tableLimits.columns);
  const rows = vinyls.map((v, i) => {
    const bad = !isRow(v) || Object.values(v).some((c) => typeof c !== 'string' && typeof c !== 'number');
    return {
      line: i + 1,
      cells: headings.map((h) => (isRow(v) && Object.hasOwn(v, h) ? String(v[h]).slice(0, tableLimits.cell) : '')),
      ...(bad ? { trouble: 'is not a list of texts by column' } : {}),
    };
  });
  return { headings, rows };
}

/** A table as CSV: RFC 4180, lines ended by CR LF, quotes where they are needed. */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  stringify(rows as string[][], { record_delimiter: '\r\n' });

export const writeJsonTable = (keys: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${JSON.stringify(
    {
      format: FORMAT,
      vinyls: rows.map((r) => Object.fromEntries(keys.flatMap((k, i) => (r[i] === '' ? [] : [[k, r[i]]])))),
    },
    null,
    1,
  )}\n`;
