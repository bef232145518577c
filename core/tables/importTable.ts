import {
  columnByKey,
  columns,
  guessColumns,
  readRow,
  recordKey,
  type CatalogueRecord,
  type Problem,
  type ReadContext,
} from '../catalogue/index.ts';
import { readCsv, readJsonTable, type Table } from './table.ts';

export type RowState = 'new' | 'already' | 'refused';
export type SeenRow = { line: number; state: RowState; name: string; problems: Problem[] };

/** Which column each heading stands for: its key, or null for one that is left out. */
export type Mapping = (string | null)[];

/**
 * Reads a file as a table.
 * @returns the table as JSON, as it is kept, and what its headings are taken for
 * @throws TableError
 */
export function seeTable(name: string, bytes: Uint8Array): { content: string; mapping: Mapping } {
  const table = /\.json$/i.test(name) ? readJsonTable(bytes) : readCsv(bytes);
  return {
    // A database keeps no NUL; its row is refused for it, under another sign that is refused as well.
    content: JSON.stringify(table).replaceAll('\\u0000', '\\u0001'),
    mapping: guessColumns(table.headings).map((key) => key ?? null),
  };
}

export type JudgeInput = {
  /** As `seeTable` gave it. */
  content: string;
  mapping: Mapping;
  /** Types of one's own that a row may name. */
  ownTypes: { id: string; word: string; parent: string }[];
  /** What is in the catalogue already. */
  own: { brand: string; name: string }[];
};

export type Judged = {
  headings: string[];
  /** An example under each heading. */
  samples: string[];
  /** Columns that must be there and are not, by their word. */
  missing: string[];
  counts: Record<RowState, number>;
  /** The first 500 that cannot be taken, and the first few that can. */
  refused: SeenRow[];
  sample: SeenRow[];
  /** What is added, as JSON; only where ids were asked for. */
  vinyls: string | undefined;
};

const MOST_SHOWN = { refused: 500, sample: 8 };

/**
 * What would become of every row: new, there already (in the catalogue or further up in the file), or refused and why.
 * @param newId makes ids for what is added; without it nothing is made ready
 */
export function judgeTable(input: JudgeInput, newId?: () => string): Judged {
  const { headings, rows } = JSON.parse(input.content) as Table;
  const { mapping } = input;
  const context: ReadContext = {
    ownTypes: new Map(input.ownTypes.map((t) => [t.word.toLowerCase(), t.parent])) as ReadContext['ownTypes'],
  };
  const own = new Set(input.own.map(recordKey));
  const first = new Map<string, number>();
  const judged = rows.map(({ line, cells, trouble }): SeenRow & { record?: CatalogueRecord } => {
    const by: Record<string, string> = {};
    mapping.forEach((key, i) => {
      if (key !== null) by[key] = cells[i] ?? '';
    });
    const name = [by.brand, by.name].filter(Boolean).join(' ').slice(0, 120);
    const refuse = (problems: Problem[]) => ({ line, name, state: 'refused' as const, problems });
    if (trouble) return refuse([{ column: '', why: trouble }]);
    const read = readRow(by, context);
    if (!read.record) return refuse(read.problems);
    const key = recordKey(read.record);
    if (first.has(key)) return refuse([{ column: 'name', why: `is the same vinyl as line ${first.get(key)}` }]);
    first.set(key, line);
    return { line, name, state: own.has(key) ? 'already' : 'new', problems: [], record: read.record };
  });
  const counts = { new: 0, already: 0, refused: 0 };
  for (const r of judged) counts[r.state]++;
  const shown = (state: RowState, most: number): SeenRow[] =>
    judged
      .filter((r) => r.state === state)
      .slice(0, most)
      .map(({ record: _, ...row }) => row);
  return {
    headings,
    samples: headings.map((_, i) => rows.find((r) => r.cells[i])?.cells[i]?.slice(0, 60) ?? ''),
    missing: columns.filter((c) => c.needed && !mapping.includes(c.key)).map((c) => c.word),
    counts,
    refused: shown('refused', MOST_SHOWN.refused),
    sample: shown('new', MOST_SHOWN.sample),
    vinyls:
      newId && JSON.stringify(judged.flatMap((r) => (r.state === 'new' ? [asVinyl(r.record!, input, newId)] : []))),
  };
}

/** A record as the catalogue takes it in. */
const asVinyl = (record: CatalogueRecord, input: JudgeInput, newId: () => string) => ({
  id: newId(),
  brand: record.brand,
  name: record.name,
  type: record.type,
  own_type: input.ownTypes.find((t) => t.word.toLowerCase() === record.ownType.toLowerCase())?.id ?? null,
  behaviour: record.behaviour,
  nicknames: record.nicknames,
  codes: record.codes,
  sizes: record.sizes,
  note: record.note,
  colours: record.colours.map((c) => ({ id: newId(), ...c })),
});

/** Two headings that are put under one column, by its word; undefined where there are none. */
export function mappedTwice(mapping: Mapping): string | undefined {
  const twice = mapping.find((k, i) => k !== null && mapping.indexOf(k) < i);
  return twice ? columnByKey(twice)!.word : undefined;
}
