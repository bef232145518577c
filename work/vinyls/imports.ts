import { v7 as uuidv7 } from 'uuid';
import { columnByKey } from '#core/catalogue/index.ts';
import { mappedTwice, tableLimits, type Judged, type JudgeInput } from '#core/tables/index.ts';
import { afterCommit, db, patiently, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/vinyls/imports.ts';
import { ownTypesOf } from './types.ts';
import { judgeOnThread, tableOnThread } from '#work/base/compute.ts';
import { Invalid } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { needRoom } from '#work/people/limits.ts';
import { quotas } from '#work/base/quotas.ts';
import { owned } from '#work/people/owned.ts';

/** How long a statement of an import may take: the words of 20 000 vinyls are made anew in one. */
const IMPORT_SECONDS = 180;

/** Takes a file to look at. Nothing is added yet. @throws Invalid at "file" */
export async function seeFile(person: Person, file: { name: string; bytes: Uint8Array }): Promise<string> {
  if (file.bytes.length === 0) throw new Invalid({ file: 'Choose a file: CSV, or JSON as this table writes it.' });
  if (file.bytes.length > tableLimits.bytes)
    throw new Invalid({
      file: `The file has ${Math.ceil(file.bytes.length / 1e6)} MB; ${tableLimits.bytes / 1e6} MB fit.`,
    });
  const { content, mapping } = await tableOnThread(file.name, file.bytes);
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertImport(q, {
      id,
      personId: person.id,
      fileName: file.name.replace(/[\p{Cc}]/gu, '').slice(0, 200) || 'table.csv',
      content,
      mapping,
    });
    // Of tables that were looked at and not brought in, the last ones stay.
    await store.dropSeenImports(q, person.id, person.email ? quotas.rows.account.imports : quotas.rows.guest.imports);
  });
  return id;
}

export type ImportView = Omit<Judged, 'vinyls'> & {
  id: string;
  fileName: string;
  state: store.ImportRow['state'];
  mapping: (string | undefined)[];
  report: store.ImportReport | undefined;
};

const ownImport = (person: Person | undefined, id: string): Promise<store.ImportRow> =>
  owned(person, 'change', 'import', id, (it) => store.importById(db(), it));
const judgeInput = async (q: Query, person: Person, row: store.ImportRow): Promise<JudgeInput> => ({
  content: row.content,
  mapping: row.mapping,
  ownTypes: (await ownTypesOf(person)).map(({ id, word, parent }) => ({ id, word, parent })),
  own: row.state === 'seen' ? await store.ownNames(q, person.id) : [],
});

export async function importOf(person: Person | undefined, id: string): Promise<ImportView> {
  const row = await ownImport(person, id);
  // What was brought in has nothing left to judge: its report says what became of it.
  const judged = await judgeOnThread(await judgeInput(db(), person!, row), false);
  const done = row.state === 'seen' ? {} : { counts: { new: 0, already: 0, refused: 0 }, refused: [], sample: [] };
  return {
    headings: judged.headings,
    samples: judged.samples,
    missing: judged.missing,
    counts: judged.counts,
    refused: judged.refused,
    sample: judged.sample,
    ...done,
    id: row.id,
    fileName: row.file_name,
    state: row.state,
    mapping: row.mapping.map((k) => k ?? undefined),
    report: row.report ?? undefined,
  };
}

/** Which column each heading means. @throws Invalid when two headings mean one column */
export async function mapColumns(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownImport(person, id);
  if (row.state !== 'seen') throw new Invalid({ form: 'This file is in already.' });
  const mapping = row.mapping.map((_, i) => {
    const key = String(form.get(`column-${i}`) ?? '');
    return columnByKey(key) ? key : null;
  });
  const twice = mappedTwice(mapping);
  if (twice) throw new Invalid({ form: `Two columns of the file are put under ${twice}. Leave one out.` });
  await store.setMapping(db(), row.id, mapping);
}

/** Adds the good rows in one transaction, and says exactly what it did. A second time adds nothing. */
export async function doImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  return transaction(async (q) => {
    await patiently(q, IMPORT_SECONDS);
    const row = (await store.lockedImport(q, id))!;
    if (row.state !== 'seen') return row.report!;
    const { counts, vinyls } = await judgeOnThread(await judgeInput(q, person, row), true);
    await needRoom(person, 'vinyls', counts.new);
    await store.insertMany(q, person.id, id, vinyls!);
    const report = { added: counts.new, already: counts.already, refused: counts.refused };
    await store.finishImport(q, id, 'done', report);
    await afterCommit(() => store.freshStatistics(db()));
    return report;
  });
}

/** Takes back what an import added; what was used since stays and is counted. */
export async function undoImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  return transaction(async (q) => {
    await patiently(q, IMPORT_SECONDS);
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
