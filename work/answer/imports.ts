import { v7 as uuidv7 } from 'uuid';
import { strengthAxis, type CutterModel } from '#core/controls/index.ts';
import {
  columnWord,
  mappedTwice,
  settingColumns,
  tableLimits,
  type Judged,
  type JudgedNumber,
  type JudgeInput,
  type SettingColumn,
} from '#core/tables/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { fitInputFrom } from '#core/window/index.ts';
import { afterCommit, db, patiently, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/vinyls/imports.ts';
import { ownTypesOf } from '#work/vinyls/types.ts';
import { posteriorOf } from '#work/coupons/readings.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { judgeOnThread, mendOnThread, tableOnThread } from '#work/base/compute.ts';
import { Invalid } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { quotas } from '#work/base/quotas.ts';
import { owned } from '#work/people/owned.ts';

/** How long a statement of an import may take: the words of 20 000 vinyls are made anew in one. */
const IMPORT_SECONDS = 180;

/** The cutter on the bench, whose controls a table may state; undefined where none is there or it has no blade. */
async function cutterOf(
  person: Person,
): Promise<(NonNullable<JudgeInput['cutter']> & { id: string; name: string }) | undefined> {
  const bench = await benchOf(person);
  if (!bench?.blade) return undefined;
  const { blades } = await workshopOf(person);
  const mounted = bench.blade.id;
  return {
    id: bench.cutter.id,
    name: bench.cutter.name,
    model: bench.cutter.model,
    blades: blades
      .toSorted((a, b) => Number(b.id === mounted) - Number(a.id === mounted))
      .map(({ id, name, angle }) => ({ id, name, angle })),
  };
}

/** Takes a file to look at. Nothing is added yet. @throws Invalid at "file" */
export async function seeFile(person: Person, file: { name: string; bytes: Uint8Array }): Promise<string> {
  if (file.bytes.length === 0) throw new Invalid({ file: 'Choose a file: CSV, or JSON as this table writes it.' });
  if (file.bytes.length > tableLimits.bytes)
    throw new Invalid({
      file: `The file has ${Math.ceil(file.bytes.length / 1e6)} MB; ${tableLimits.bytes / 1e6} MB fit.`,
    });
  const { content, mapping } = await tableOnThread(file.name, file.bytes, (await cutterOf(person))?.model);
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

export type ImportView = Omit<Judged, 'vinyls' | 'colours' | 'numbers' | 'left'> & {
  id: string;
  fileName: string;
  state: store.ImportRow['state'];
  mapping: (string | undefined)[];
  report: store.ImportReport | undefined;
  /** The cutter whose controls the table may state, and their columns. */
  cutter: { name: string; columns: SettingColumn[] } | undefined;
};

const ownImport = (person: Person | undefined, id: string): Promise<store.ImportRow> =>
  owned(person, 'change', 'import', id, (it) => store.importById(db(), it));
const judgeInput = async (
  q: Query,
  person: Person,
  row: store.ImportRow,
  cutter: Awaited<ReturnType<typeof cutterOf>>,
): Promise<JudgeInput> => ({
  content: row.content,
  mapping: row.mapping,
  ownTypes: (await ownTypesOf(person)).map(({ id, word, parent }) => ({ id, word, parent })),
  own: row.state === 'seen' ? await store.ownNames(q, person.id, cutter?.id ?? null) : [],
  ...(cutter ? { cutter: { model: cutter.model, blades: cutter.blades } } : {}),
});

export async function importOf(person: Person | undefined, id: string): Promise<ImportView> {
  const row = await ownImport(person, id);
  const cutter = await cutterOf(person!);
  // What was brought in has nothing left to judge: its report says what became of it.
  const judged = await judgeOnThread(await judgeInput(db(), person!, row, cutter), false);
  const nothing = { new: 0, more: 0, already: 0, refused: 0, numbers: 0, colours: 0 };
  const done = row.state === 'seen' ? {} : { counts: nothing, refused: [], sample: [] };
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
    cutter: cutter && { name: cutter.name, columns: settingColumns(cutter.model) },
  };
}

/** Which column each heading means. @throws Invalid when two headings mean one column */
export async function mapColumns(person: Person, id: string, form: FormData): Promise<void> {
  const row = await ownImport(person, id);
  if (row.state !== 'seen') throw new Invalid({ form: 'This file is in already.' });
  const model = (await cutterOf(person))?.model;
  const mapping = row.mapping.map((_, i) => {
    const key = String(form.get(`column-${i}`) ?? '');
    return columnWord(key, model) ? key : null;
  });
  const twice = mappedTwice(mapping, model);
  if (twice) throw new Invalid({ form: `Two columns of the file are put under ${twice}. Leave one out.` });
  await store.setMapping(db(), row.id, mapping);
}

/** Most rows that are mended in one go, and most letters of a cell. */
const MENDED = { rows: 50, cell: 2000 };

/** Puts rows of a table right on the page: cells by line and column. They are judged again as they stand then. */
export async function mendRows(person: Person, id: string, form: FormData): Promise<void> {
  await ownImport(person, id);
  await transaction(async (q) => {
    const row = (await store.lockedImport(q, id))!;
    if (row.state !== 'seen') throw new Invalid({ form: 'This file is in already.' });
    const mended = new Map<number, string[]>();
    for (const [field, value] of form) {
      const at = /^cell-(\d{1,7})-(\d{1,3})$/.exec(field);
      if (!at || typeof value !== 'string') continue;
      const line = Number(at[1]);
      const cells = mended.get(line) ?? [];
      cells[Number(at[2])] = value.slice(0, MENDED.cell);
      mended.set(line, cells);
    }
    if (mended.size > MENDED.rows) throw new Invalid({ form: `Mend ${MENDED.rows} rows at a time.` });
    await store.setContent(q, id, await mendOnThread(row.content, mended));
  });
}

/**
 * Adds the good rows in one transaction, and says exactly what it did. Rows that cannot be taken stay, to be mended and added after. A second
 * time adds nothing.
 */
export async function doImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  return transaction(async (q) => {
    await patiently(q, IMPORT_SECONDS);
    const row = (await store.lockedImport(q, id))!;
    if (row.state !== 'seen') return row.report!;
    const cutter = await cutterOf(person);
    const input = await judgeInput(q, person, row, cutter);
    const { counts, vinyls, colours, numbers, left } = await judgeOnThread(input, true);
    // Nothing new since it was added: what was done stays as it was said.
    if (row.report && counts.new + counts.more === 0) {
      if (counts.refused === 0) await store.finishImport(q, id, 'done', row.report);
      return row.report;
    }
    await enforceQuota(person, 'vinyls', counts.new);
    await store.insertMany(q, person.id, id, vinyls!);
    if (counts.colours > 0) await store.insertColours(q, colours!);
    if (cutter && numbers!.length > 0)
      await store.insertNumbers(q, person.id, id, cutter.id, JSON.stringify(await drafts(cutter.model, numbers!)));
    const before = row.report;
    const report = {
      added: counts.new + (before?.added ?? 0),
      already: counts.already + (before?.already ?? 0),
      refused: counts.refused,
      numbers: counts.numbers + (before?.numbers ?? 0),
      colours: counts.colours + (before?.colours ?? 0),
    };
    await store.finishImport(q, id, counts.refused > 0 ? 'seen' : 'done', report);
    if (counts.refused > 0) await store.setContent(q, id, left!);
    await afterCommit(() => store.freshStatistics(db()));
    return report;
  });
}

/** Numbers as drafts: each with the fit of its type at its other controls, which is all that is known before it is cut. */
async function drafts(model: CutterModel, numbers: readonly JudgedNumber[]) {
  const strength = strengthAxis(model).key;
  const fits = new Map<string, string>();
  const list = [];
  for (const { bladeSaid, type, ...n } of numbers) {
    const { [strength]: _, ...others } = n.controls.steps;
    const key = JSON.stringify([type, n.wanted, others]);
    if (!fits.has(key)) {
      const evidence = {
        model,
        type: type as VinylTypeKey,
        wanted: n.wanted,
        target: {},
        base: n.controls,
        cells: [],
      };
      fits.set(key, (await posteriorOf(fitInputFrom(evidence, []))).hash.toString('hex'));
    }
    const note = bladeSaid === '' ? '' : `Cut with a blade called ${bladeSaid}.`;
    list.push({ ...n, id: uuidv7(), hash: fits.get(key)!, note });
  }
  return list;
}

/** Takes back what an import added; what was used since stays and is counted. */
export async function undoImport(person: Person, id: string): Promise<store.ImportReport> {
  await ownImport(person, id);
  return transaction(async (q) => {
    await patiently(q, IMPORT_SECONDS);
    const row = (await store.lockedImport(q, id))!;
    if (row.state === 'undone' || !row.report) throw new Invalid({ form: 'There is nothing to take back.' });
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
