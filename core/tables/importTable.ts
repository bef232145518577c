import type { CutterModel, Setting } from '../controls/index.ts';
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
import { wantedOfType } from '../vinyls/index.ts';
import { guessSettingColumn, readBlade, readSetting, settingColumns } from './settingColumns.ts';
import { readCsv, readJsonTable, type Table } from './table.ts';

/**
 * What becomes of a row: a new vinyl; more of one that is there, a colour or a number; nothing, since all of it is there; or it cannot be
 * taken.
 */
type RowState = 'new' | 'more' | 'already' | 'refused';
type SeenRow = { line: number; state: RowState; name: string; problems: Problem[]; note?: string };
/** A row that cannot be taken, with what stands in its cells, to be mended. */
type RefusedRow = SeenRow & { cells: string[] };

/** Which column each heading stands for: its key, or null for one that is left out. */
export type Mapping = (string | null)[];

/**
 * Reads a file as a table.
 * @param model of the cutter on the bench: what the file says of its controls becomes numbers to try
 * @returns the table as JSON, as it is kept, and what its headings are taken for
 * @throws TableError
 */
export function seeTable(name: string, bytes: Uint8Array, model?: CutterModel): { content: string; mapping: Mapping } {
  const table = /\.json$/i.test(name) ? readJsonTable(bytes) : readCsv(bytes);
  const mapping = guessColumns(table.headings).map((key) => key ?? null);
  if (model)
    table.headings.forEach((heading, i) => {
      // A heading that is a column of vinyls to the letter is that; else it may be a control.
      const exact = mapping[i] && [mapping[i], columnByKey(mapping[i])?.word].includes(heading.toLowerCase());
      const key = exact ? undefined : guessSettingColumn(model, heading);
      if (key && !mapping.includes(key)) mapping[i] = key;
    });
  return {
    // A database keeps no NUL; its row is refused for it, under another sign that is refused as well.
    content: JSON.stringify(table).replaceAll('\\u0000', '\\u0001'),
    mapping,
  };
}

export type JudgeInput = {
  /** As `seeTable` gave it. */
  content: string;
  mapping: Mapping;
  /** Types of one's own that a row may name. */
  ownTypes: { id: string; word: string; parent: string }[];
  /** What is in the catalogue already, and whether a number is kept for it on the cutter on the bench. */
  own: { id: string; brand: string; name: string; kept: boolean; colours: { id: string; name: string }[] }[];
  /** The cutter on the bench with the blades of its person; the first is the one on it. */
  cutter?: { model: CutterModel; blades: { id: string; name: string; angle: number }[] };
};

export type Judged = {
  headings: string[];
  /** An example under each heading. */
  samples: string[];
  /** Columns that must be there and are not, by their word. */
  missing: string[];
  /** Rows by what becomes of them; numbers that would be kept as drafts, and colours that vinyls here would get. */
  counts: Record<RowState, number> & { numbers: number; colours: number };
  /** The first 500 that cannot be taken, and the first few that can. */
  refused: RefusedRow[];
  sample: SeenRow[];
  /** What is added, as JSON; only where ids were asked for. */
  vinyls: string | undefined;
  colours: string | undefined;
  numbers: JudgedNumber[] | undefined;
  /** The table with only the rows that cannot be taken: what stays to be mended once the others are in. */
  left: string | undefined;
};

/** A number from a table, to be kept as a draft. */
export type JudgedNumber = {
  vinyl: string;
  type: string;
  /** The colour it is for; null for all of them. */
  colour: string | null;
  wanted: 'clean' | 'through';
  controls: Setting;
  blade: string;
  /** The blade the row names, where that is none of the person's. */
  bladeSaid: string;
};

const MOST_SHOWN = { refused: 500, sample: 8 };

/** A vinyl that rows speak of: there already, or new with its first row. */
type Known = {
  id: string;
  type: string | undefined;
  /** The line it is new on. */
  line: number | undefined;
  record: (Omit<CatalogueRecord, 'colours'> & { colours: { id: string; name: string; hex: string }[] }) | undefined;
  colours: { id: string; name: string }[];
  kept: boolean;
  numbers: JudgedNumber[];
};

/**
 * What would become of every row: new, more of what is there (in the catalogue or further up in the file), there already, or refused and why.
 * @param newId makes ids for what is added; without it nothing is made ready
 */
export function judgeTable(input: JudgeInput, newId?: () => string): Judged {
  const { headings, rows } = JSON.parse(input.content) as Table;
  const { mapping, cutter } = input;
  const context: ReadContext = {
    ownTypes: new Map(input.ownTypes.map((t) => [t.word.toLowerCase(), t.parent])) as ReadContext['ownTypes'],
  };
  const known = new Map<string, Known>(
    input.own.map((v) => [
      recordKey(v),
      { ...v, colours: [...v.colours], type: undefined, line: undefined, record: undefined, numbers: [] },
    ]),
  );
  const id = () => newId?.() ?? '';
  const more: { id: string; vinyl: string; name: string; hex: string }[] = [];
  const judged = rows.map(({ line, cells, trouble }): RefusedRow & { twice?: boolean } => {
    const by: Record<string, string> = {};
    mapping.forEach((key, i) => {
      if (key !== null) by[key] = cells[i] ?? '';
    });
    const name = [by.brand, by.name].filter(Boolean).join(' ').slice(0, 120);
    const row = (state: RowState, problems: Problem[] = []) => ({
      line,
      name,
      state,
      problems,
      cells,
      ...(by.note ? { note: by.note.slice(0, 200) } : {}),
    });
    if (trouble) return row('refused', [{ column: '', why: trouble }]);
    const read = readRow(by, context);
    const stated = cutter && readSetting(cutter.model, by);
    const problems = [...read.problems, ...(stated && 'problems' in stated ? stated.problems : [])];
    if (!read.record || problems.length > 0) return row('refused', problems);
    const { record } = read;
    const key = recordKey(record);
    const before = known.get(key);
    const vinyl: Known = before ?? {
      id: id(),
      type: record.type,
      line,
      record: { ...record, colours: record.colours.map((c) => ({ ...c, id: id() })) },
      colours: [],
      kept: false,
      numbers: [],
    };
    if (!before) {
      known.set(key, vinyl);
      vinyl.colours = vinyl.record!.colours.map((c) => ({ id: c.id, name: c.name }));
    }
    // A colour it has not: of a new vinyl one more, of one that is there an addition.
    const has = new Set(vinyl.colours.map((c) => c.name.toLowerCase()));
    const fresh = before ? record.colours.filter((c) => !has.has(c.name.toLowerCase())) : [];
    for (const c of fresh) {
      const colour = { id: id(), ...c };
      vinyl.colours.push({ id: colour.id, name: c.name });
      if (vinyl.record) vinyl.record.colours.push(colour);
      else more.push({ ...colour, vinyl: vinyl.id });
    }
    const number =
      stated && 'setting' in stated ? numberOf(vinyl, record, stated.setting, readBlade(by), cutter!) : undefined;
    if (number) vinyl.numbers.push(number);
    if (!before) return row('new');
    if (fresh.length > 0 || number) return row('more');
    return vinyl.line === undefined
      ? row('already')
      : { ...row('refused', [{ column: 'name', why: `is the same vinyl as line ${vinyl.line}` }]), twice: true };
  });
  const numbers = [...known.values()].flatMap((v) => v.numbers);
  const counts = { new: 0, more: 0, already: 0, refused: 0, numbers: numbers.length, colours: more.length };
  for (const r of judged) counts[r.state]++;
  const of = (state: RowState, most: number) => judged.filter((r) => r.state === state).slice(0, most);
  return {
    headings,
    samples: headings.map((_, i) => rows.find((r) => r.cells[i])?.cells[i]?.slice(0, 60) ?? ''),
    missing: columns.filter((c) => c.needed && !mapping.includes(c.key)).map((c) => c.word),
    counts,
    refused: of('refused', MOST_SHOWN.refused),
    sample: of('new', MOST_SHOWN.sample).map(({ cells: _, ...row }) => row),
    vinyls:
      newId && JSON.stringify([...known.values()].flatMap((v) => (v.record ? [asVinyl(v.id, v.record, input)] : []))),
    colours: newId && JSON.stringify(more),
    numbers: newId && numbers,
    left:
      newId &&
      JSON.stringify({
        headings,
        // A vinyl that stands there twice is in: nothing of it is to be mended.
        rows: rows.filter((_, i) => judged[i]!.state === 'refused' && !judged[i]!.twice),
      }).replaceAll('\\u0000', '\\u0001'),
  };
}

/** The number a row states for a vinyl: for all its colours, or beside another number for its one colour; undefined where it is known already. */
function numberOf(
  vinyl: Known,
  record: CatalogueRecord,
  controls: Setting,
  bladeSaid: string,
  { blades }: NonNullable<JudgeInput['cutter']>,
): JudgedNumber | undefined {
  const mounted = blades[0];
  if (!mounted || (vinyl.kept && vinyl.line === undefined)) return undefined;
  const same = (n: JudgedNumber) => JSON.stringify(n.controls) === JSON.stringify(controls);
  if (vinyl.numbers.some(same)) return undefined;
  const [only, further] = record.colours;
  const colour =
    vinyl.numbers.length > 0 && only && !further
      ? (vinyl.colours.find((c) => c.name.toLowerCase() === only.name.toLowerCase())?.id ?? null)
      : null;
  if (vinyl.numbers.some((n) => n.colour === colour)) return undefined;
  const meant = blades.find((b) => b.name.toLowerCase() === bladeSaid.toLowerCase());
  const angled = /^\d+(?= ?°|$)/.exec(bladeSaid)?.[0];
  const blade = meant ?? (angled ? blades.find((b) => String(b.angle) === angled) : undefined);
  return {
    vinyl: vinyl.id,
    type: record.type,
    colour,
    wanted: wantedOfType(record.type),
    controls,
    blade: (blade ?? mounted).id,
    bladeSaid: blade || bladeSaid === '' ? '' : bladeSaid,
  };
}

/** A record as the catalogue takes it in. */
const asVinyl = (id: string, record: NonNullable<Known['record']>, input: JudgeInput) => ({
  id,
  brand: record.brand,
  name: record.name,
  type: record.type,
  own_type: input.ownTypes.find((t) => t.word.toLowerCase() === record.ownType.toLowerCase())?.id ?? null,
  behaviour: record.behaviour,
  nicknames: record.nicknames,
  codes: record.codes,
  sizes: record.sizes,
  note: record.note,
  colours: record.colours,
});

/** What a column of a mapping is called; undefined for a key that is none. */
export const columnWord = (key: string, model?: CutterModel): string | undefined =>
  columnByKey(key)?.word ?? (model && settingColumns(model).find((c) => c.key === key)?.word);

/** Two headings that are put under one column, by its word; undefined where there are none. */
export function mappedTwice(mapping: Mapping, model?: CutterModel): string | undefined {
  const twice = mapping.find((k, i) => k !== null && mapping.indexOf(k) < i);
  return twice ? columnWord(twice, model) : undefined;
}

/** A table with some rows mended: cells by line. Lines that are not there are left alone. */
export function mendTable(content: string, mended: ReadonlyMap<number, readonly string[]>): string {
  const table = JSON.parse(content) as Table;
  for (const row of table.rows) {
    const cells = mended.get(row.line);
    if (cells) row.cells = table.headings.map((_, i) => cells[i] ?? row.cells[i] ?? '');
    if (cells) delete row.trouble;
  }
  return JSON.stringify(table).replaceAll('\\u0000', '\\u0001');
}
