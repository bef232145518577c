import { nameLikeness } from '../vinyls/index.ts';
import { CellError, columnByKey, columns, type CatalogueRecord, type ReadContext } from './columns.ts';

export type Problem = { column: string; why: string };
export type ReadRow = { record: CatalogueRecord; problems: [] } | { record: undefined; problems: Problem[] };

const empty = (): CatalogueRecord => ({
  brand: '',
  name: '',
  type: 'smooth',
  ownType: '',
  colours: [],
  nicknames: [],
  codes: [],
  behaviour: {},
  sizes: [],
  note: '',
});

/**
 * A cell that a spreadsheet would run as a formula when the table is opened again. Signed numbers are not meant.
 * Source: the list of first characters in the OWASP note on CSV injection (=, +, -, @, tab, carriage return), from memory.
 */
const isFormula = (text: string): boolean =>
  /^[=+\-@\t\r]/.test(text) && !/^[+-]?[\d.,]+\s*[\p{L}°µ%"]{0,10}$/u.test(text);

/** A text that opens like a formula goes out behind an apostrophe, and comes back without it. */
export const escapeFormula = (text: string): string =>
  isFormula(text) || /^'+[=+\-@\t\r]/.test(text) ? `'${text}` : text;
const unescapeFormula = (text: string): string => (/^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

/** What cannot be text a person typed: bytes that were no UTF-8, control characters. */
function unreadable(text: string): string | undefined {
  if (text.includes('\ufffd')) return 'has letters that are not UTF-8: save the file as UTF-8';
  // eslint-disable-next-line no-control-regex
  if (/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u202a-\u202e\u2066-\u2069]/.test(text))
    return 'has control characters';
  return undefined;
}

/**
 * Reads one row of a table.
 * @param cells what stands under each column, by the column's key
 * @returns the record, or every problem of the row with its column; a row with one is not taken at all
 */
export function readRow(cells: Readonly<Record<string, string>>, context: ReadContext): ReadRow {
  const record = empty();
  const problems: Problem[] = [];
  for (const column of columns) {
    const raw = cells[column.key] ?? '';
    const bad = unreadable(raw) ?? (isFormula(raw) ? `begins like a formula: ${raw.slice(0, 20)}` : undefined);
    if (bad) {
      problems.push({ column: column.key, why: bad });
      continue;
    }
    const text = unescapeFormula(raw.normalize('NFC')).trim();
    if (text === '') {
      if (column.needed) problems.push({ column: column.key, why: 'is missing' });
      continue;
    }
    try {
      column.read(text, record, context);
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      problems.push({ column: column.key, why: error.message });
    }
  }
  const [way] = record.behaviour.press ?? [];
  if (way && way.seconds === undefined && problems.length === 0)
    problems.push({
      column: 'press_seconds',
      why: 'is missing: the other columns of the press mean nothing without it',
    });
  const heat = record.behaviour.heat;
  if (way?.heat !== undefined && heat && (way.heat < heat.from || way.heat > heat.to))
    problems.push({ column: 'press_heat', why: 'lies outside the heat it takes' });
  return problems.length > 0 ? { record: undefined, problems } : { record, problems: [] };
}

/** A record as the cells of a row, in the order of the columns. */
export const writeRow = (record: CatalogueRecord): string[] => columns.map((c) => escapeFormula(c.write(record)));

/** What makes two rows the same vinyl: brand and name, whatever the case and the spaces. */
export const recordKey = (r: Pick<CatalogueRecord, 'brand' | 'name'>): string =>
  [r.brand, r.name].map((t) => t.normalize('NFKC').toLowerCase().replace(/\s+/g, ' ').trim()).join('\u0001');

/** What spreadsheets call the columns beside their own words. Common practice, no source. */
const alsoHeaded: Readonly<Record<string, string>> = {
  color: 'colours',
  colors: 'colours',
  colour: 'colours',
  manufacturer: 'brand',
  maker: 'brand',
  make: 'brand',
  company: 'brand',
  product: 'name',
  vinyl: 'name',
  item: 'name',
  title: 'name',
  kind: 'type',
  category: 'type',
  htv: 'type',
  notes: 'note',
  comment: 'note',
  comments: 'note',
  remarks: 'note',
  temp: 'press_heat',
  temperature: 'press_heat',
  heat: 'press_heat',
  'press temp': 'press_heat',
  time: 'press_seconds',
  seconds: 'press_seconds',
  secs: 'press_seconds',
  sku: 'codes',
  code: 'codes',
  barcode: 'codes',
};

/** "Product name" holds "name": as good as a likeness that is enough. */
const holds = (heading: string, word: string): number => (` ${heading} `.includes(` ${word} `) ? 0.8 : 0);

/**
 * Which column of ours each heading of a file most likely means; undefined where none does. No column is given twice.
 */
export function guessColumns(headings: readonly string[]): (string | undefined)[] {
  const taken = new Set<string>();
  return headings.map((heading) => {
    const said = heading.trim().toLowerCase();
    const exact =
      columnByKey(said.replace(/[\s-]+/g, '_')) ??
      columns.find((c) => c.word === said) ??
      columnByKey(alsoHeaded[said.replace(/[_\s-]+/g, ' ')] ?? '');
    const likely =
      exact ??
      columns
        .map((c) => ({
          c,
          fit: Math.max(
            holds(said, c.word),
            nameLikeness(said, c.word),
            nameLikeness(said, c.key.replaceAll('_', ' ')),
          ),
        }))
        .filter(({ c, fit }) => fit >= 0.75 && !taken.has(c.key))
        .sort((a, b) => b.fit - a.fit)[0]?.c;
    if (!likely || taken.has(likely.key)) return undefined;
    taken.add(likely.key);
    return likely.key;
  });
}
