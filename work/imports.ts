import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  columnByKey,
  columns,
  guessColumns,
  readRow,
  recordKey,
  type CatalogueRecord,
  type Problem,
  type ReadContext,
} from '#core/catalogue/index.ts';
import { db, transaction, type Query } from '#store/db.ts';
import * as store from '#store/imports.ts';
import { ownTypesOf, readContext } from './catalogue.ts';
import { importLimits, readCsv, readJsonTable } from './csv.ts';
import { Invalid, NotFound } from './errors.ts';
import type { Person } from './people.ts';
import { can } from './permissions.ts';
import { quotas } from './quotas.ts';

/** Takes a file to look at. Nothing is added yet. @throws Invalid at "file" */
export async function seeFile(person: Person, file: { name: string; bytes: Uint8Array }): Promise<string> {
  if (file.bytes.length === 0) throw new Invalid({ file: 'Choose a file: CSV, or JSON as this table writes it.' });
  if (file.bytes.length > importLimits.bytes)
    throw new Invalid({
      file: `The file has ${Math.ceil(file.bytes.length / 1e6)} MB; ${importLimits.bytes / 1e6} MB fit.`,
    });
  const content = /\.json$/i.test(file.name) ? readJsonTable(file.bytes) : readCsv(file.bytes);
  // PostgreSQL keeps no NUL; its row is refused for it, under another sign that is refused as well.
  const kept = JSON.parse(JSON.stringify(content).replaceAll('\\u0000', '\\u0001')) as store.ImportContent;
  const id = uuidv7();
  await store.insertImport(db(), {
    id,
    personId: person.id,
    fileName: file.name.replace(/[\p{Cc}]/gu, '').slice(0, 200) || 'table.csv',
    content: kept,
    mapping: guessColumns(content.headings).map((key) => key ?? null),
  });
  return id;
}

export type RowState = 'new' | 'already' | 'refused';
export type SeenRow = { line: number; state: RowState; name: string; problems: Problem[] };
export type ImportView = {
  id: string;
  fileName: string;
  state: store.ImportRow['state'];
  headings: string[];
  /** An example under each heading. */
  samples: string[];
  mapping: (string | undefined)[];
  /** Columns that must be there and are not. */
  missing: string[];
  counts: Record<RowState, number>;
  refused: SeenRow[];
  sample: SeenRow[];
  report: store.ImportReport | undefined;
};

type Judged = SeenRow & { record: CatalogueRecord | undefined };

/** What would become of every row: new, there already (in the catalogue or further up in the file), or refused and why. */
function judge(
  content: store.ImportContent,
  mapping: readonly (string | null)[],
  context: ReadContext,
  own: ReadonlySet<string>,
): Judged[] {
  const first = new Map<string, number>();
  return content.rows.map(({ line, cells, trouble }) => {
    const by: Record<string, string> = {};
    mapping.forEach((key, i) => {
      if (key !== null) by[key] = cells[i] ?? '';
    });
    const name = [by.brand, by.name].filter(Boolean).join(' ').slice(0, 120);
    const refuse = (problems: Problem[]): Judged => ({ line, name, state: 'refused', problems, record: undefined });
    if (trouble) return refuse([{ column: '', why: trouble }]);
    const read = readRow(by, context);
    if (!read.record) return refuse(read.problems);
    const key = recordKey(read.record);
    if (first.has(key)) return refuse([{ column: 'name', why: `is the same vinyl as line ${first.get(key)}` }]);
    first.set(key, line);
    return { line, name, state: own.has(key) ? 'already' : 'new', problems: [], record: read.record };
  });
}

async function ownImport(person: Person | undefined, id: string): Promise<store.ImportRow> {
  const row = z.uuid().safeParse(id).success ? await store.importById(db(), id) : undefined;
  if (!row || !can(person, 'change', { owner: row.person_id })) throw new NotFound('No such import.');
  return row;
}
const judgeFor = async (q: Query, person: Person, row: store.ImportRow) => {
  const own = new Set((await store.ownNames(q, person.id)).map(recordKey));
  return judge(row.content, row.mapping, await readContext(person), own);
};

export async function importOf(person: Person | undefined, id: string): Promise<ImportView> {
  const row = await ownImport(person, id);
  const seen = row.state === 'seen' ? await judgeFor(db(), person!, row) : [];
  const counts = { new: 0, already: 0, refused: 0 };
  for (const r of seen) counts[r.state]++;
  const plain = ({ line, state, name, problems }: Judged): SeenRow => ({ line, state, name, problems });
  return {
    id: row.id,
    fileName: row.file_name,
    state: row.state,
    headings: row.content.headings,
    samples: row.content.headings.map((_, i) => row.content.rows.find((r) => r.cells[i])?.cells[i]?.slice(0, 60) ?? ''),
    mapping: row.mapping.map((k) => k ?? undefined),
    missing: columns.filter((c) => c.needed && !row.mapping.includes(c.key)).map((c) => c.word),
    counts,
    refused: seen
      .filter((r) => r.state === 'refused')
      .slice(0, 500)
      .map(plain),
    sample: seen
      .filter((r) => r.state === 'new')
      .slice(0, 8)
      .map(plain),
    report: row.report ?? undefined,
  };
}

/** Which column each heading means. @throws Invalid when two headings mean one column */
export async function mapColumns(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownImport(person, id);
  if (row.state !== 'seen') throw new Invalid({ form: 'This file is in already.' });
  const mapping = row.content.headings.map((_, i) => {
    const key = String(form.get(`column-${i}`) ?? '');
    return columnByKey(key) ? key : null;
  });
  const twice = mapping.find((k, i) => k !== null && mapping.indexOf(k) < i);
  if (twice)
    throw new Invalid({ form: `Two columns of the file are put under ${columnByKey(twice)!.word}. Leave one out.` });
  await store.setMapping(db(), row.id, mapping);
}

/** Adds the good rows in one transaction, and says exactly what it did. A second time adds nothing. */
export async function doImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  const own = await ownTypesOf(person);
  return transaction(async (q) => {
    const row = (await store.lockedImport(q, id))!;
    if (row.state !== 'seen') return row.report!;
    const seen = await judgeFor(q, person, row);
    const added = seen.flatMap(({ state, record }) =>
      state === 'new' && record
        ? [
            {
              id: uuidv7(),
              brand: record.brand,
              name: record.name,
              type: record.type,
              own_type: own.find((t) => t.word.toLowerCase() === record.ownType.toLowerCase())?.id ?? null,
              behaviour: record.behaviour,
              nicknames: record.nicknames,
              codes: record.codes,
              sizes: record.sizes,
              note: record.note,
              colours: record.colours.map((c) => ({ id: uuidv7(), ...c })),
            },
          ]
        : [],
    );
    await store.insertMany(q, person.id, id, added);
    const count = (state: RowState) => seen.filter((r) => r.state === state).length;
    const report = { added: count('new'), already: count('already'), refused: count('refused') };
    await store.finishImport(q, id, 'done', report);
    return report;
  });
}

/** Takes back what an import added; what was used since stays and is counted. */
export async function undoImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  return transaction(async (q) => {
    const row = (await store.lockedImport(q, id))!;
    if (row.state !== 'done') throw new Invalid({ form: 'There is nothing to take back.' });
    const undone = await store.undoImport(q, id);
    const report = { ...row.report!, undone, kept: await store.countImported(q, id) };
    await store.finishImport(q, id, 'undone', report);
    return report;
  });
}

export const importsOf = async (person: Person | undefined) =>
  person
    ? (await store.importsOf(db(), person.id, 20)).map((r) => ({
        id: r.id,
        fileName: r.file_name,
        state: r.state,
        report: r.report ?? undefined,
        at: r.at.toISOString(),
      }))
    : [];

export const sweepImports = () => store.sweepImports(db(), quotas.keptDays.seenImport);
