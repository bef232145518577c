import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  formatSetting,
  passesOf,
  SettingError,
  shortPosition,
  strengthAxis,
  validateSetting,
  type CutterModel,
  type Setting,
  type SettingPart,
  AxisError,
  settingSchema,
} from '#core/controls/index.ts';
import { layWitness, markCellId } from '#core/coupon/index.ts';
import { cutFileKinds, writeCutFile } from '#core/cutfile/index.ts';
import type { GradeEvent } from '#core/grades/index.ts';
import * as coupons from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db, transaction, type Query } from '#store/base/db.ts';
import * as store from '#store/cuts/cuts.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read, ticked } from '#work/base/forms.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import { wantedForm } from '#work/coupons/controls.ts';
import { wearOf } from '#work/coupons/evidence.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';
import * as eventStore from '#store/coupons/events.ts';
import { owned } from '#work/people/owned.ts';

/** A whole setting as a form carries it. */
export const settingField = z
  .string()
  .max(2000)
  .transform((s, context) => {
    try {
      return settingSchema.parse(JSON.parse(s));
    } catch {
      context.addIssue({ code: 'custom', message: 'That is no setting.' });
      return z.NEVER;
    }
  });

const cutForm = z.object({
  cut: z.uuid({ version: 'v7' }),
  vinyl: z.uuid(),
  colour: optionalId,
  cutter: z.uuid(),
  wanted: wantedForm,
  /** Whether a test mark was cut in the margin. */
  witness: ticked,
  setting: settingField,
});

/** An id for a cut that is about to be reported: sent along, so that a repeated tap is no second cut. */
export const nextCutId = (): string => uuidv7();

/**
 * "I cut this": an ordinary cut at the setting that was shown. Its one cell waits for its grade. The same id again changes
 * nothing.
 */
export async function reportCut(person: Person, bench: Bench, form: FormData, createdAt?: Date): Promise<string> {
  const input = read(cutForm, form);
  if (bench.cutter.id !== input.cutter)
    throw new Invalid({ form: 'Another cutter is on the bench now. Look at the number again: it may differ.' });
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  const vinyl = await vinylOf(person, input.vinyl, input.colour);
  try {
    validateSetting(bench.cutter.model, input.setting);
  } catch (error) {
    if (error instanceof SettingError || error instanceof AxisError) throw new Invalid({ form: `${error.message}.` });
    throw error;
  }
  const before = await store.cutById(db(), input.cut);
  if (before) {
    if (!can(person, 'see', { owner: before.person_id })) throw new NotFound('No such cut.');
    return input.cut;
  }
  await transaction(async (q) => {
    await coupons.insertCut(q, {
      id: input.cut,
      kind: 'ordinary',
      personId: person.id,
      vinylId: vinyl.id,
      colourId: vinyl.colour?.id ?? null,
      cutterId: bench.cutter.id,
      mountingId: bench.blade!.mounting,
      wear: wearOf(bench.blade!.wear.share),
      ...(createdAt ? { createdAt } : {}),
    });
    await store.insertOrdinaryCut(q, input.cut, input.wanted, input.witness);
    // How long the cut was is not known: it does not age the blade until a job brings their artwork.
    await coupons.insertCell(q, {
      id: uuidv7(),
      cutId: input.cut,
      number: 1,
      setting: input.setting,
      lengthUm: 0,
    });
    if (input.witness) await insertMarks(q, input.cut, bench.cutter.model, input.setting, vinyl);
  });
  return input.cut;
}

/** The cells of the test mark, beside the one cell of the cut. Answers their ids. */
export async function insertMarks(
  q: Query,
  cutId: string,
  model: CutterModel,
  setting: Setting,
  vinyl: Vinyl,
): Promise<string[]> {
  const { marks, sheet } = layWitness(model, setting, vinyl.behaviour.cutFrom);
  for (const { number, setting: at } of marks)
    await coupons.insertCell(q, {
      id: markCellId(cutId, number),
      cutId,
      number,
      setting: at,
      lengthUm: sheet.cells.find((c) => c.number === number)!.length,
    });
  return marks.map(({ number }) => markCellId(cutId, number));
}

/** "I cut the test mark too": its cells wait for their grades. Said twice, it is one mark. */
export async function addMarks(person: Person, id: string): Promise<void> {
  const row = await ownCut(person, id);
  const [vinyl, model] = await Promise.all([
    vinylOf(person, row.vinyl_id, row.colour_id ?? undefined),
    workshopStore.modelByVersion(db(), row.setting.model, row.setting.version),
  ]);
  await transaction(async (q) => {
    if (await store.markWitness(q, row.id)) await insertMarks(q, row.id, model!.definition, row.setting, vinyl);
  });
}

/**
 * The test mark for the margin of a cut at this setting, as a cut file.
 * @throws NotFound for a setting that is none of the cutter on the bench, or a kind of file there is not
 */
export async function markFile(
  person: Person | undefined,
  bench: Bench,
  vinylId: string,
  setting: string,
  asked: string,
): Promise<{ name: string; body: string }> {
  const vinyl = await vinylOf(person, vinylId);
  const { model } = bench.cutter;
  let parsed;
  try {
    parsed = validateSetting(model, settingSchema.parse(JSON.parse(setting)));
  } catch {
    throw new NotFound('That is no setting of the cutter on the bench.');
  }
  const { sheet } = layWitness(model, parsed, vinyl.behaviour.cutFrom);
  const kind = cutFileKinds.find((k) => k === asked);
  if (!kind) throw new NotFound('No such file.');
  return { name: `test-mark.${kind}`, body: writeCutFile(kind, sheet, model) };
}

export type CutView = {
  id: string;
  createdAt: string;
  cell: string;
  vinyl: Vinyl;
  cutterId: string;
  cutter: string;
  model: CutterModel;
  wanted: Wanted;
  /** Where it was cut, on the cutter's axis. */
  position: number;
  parts: SettingPart[];
  /** Passes it was to be cut with, and those that were run so far: more where it was run again before it was unloaded. */
  passesSet: number;
  passes: number;
  /** Cells of the test mark in the margin, lightest first. */
  marks: { cell: string; number: number; shown: string }[];
  /** What was said about them so far. */
  events: GradeEvent[];
  /** Counted nowhere: noted by mistake, or on the wrong vinyl. */
  leftOut: boolean;
};

async function view(person: Person, row: store.OrdinaryCutRow): Promise<CutView> {
  const marked = row.witness ? (await coupons.cellsOf(db(), row.id)).filter((c) => c.number > 1) : [];
  const [vinyl, model, events, run] = await Promise.all([
    vinylOf(person, row.vinyl_id, row.colour_id ?? undefined),
    workshopStore.modelByVersion(db(), row.setting.model, row.setting.version),
    eventStore.eventsOfCells(db(), [row.cell_id, ...marked.map((c) => c.id)]),
    eventStore.passesRun(db(), row.id),
  ]);
  const axis = strengthAxis(model!.definition);
  const passesSet = passesOf(model!.definition, row.setting);
  return {
    id: row.id,
    createdAt: row.created_at.toISOString(),
    cell: row.cell_id,
    vinyl,
    cutterId: row.cutter_id,
    cutter: row.cutter,
    model: model!.definition,
    wanted: row.wanted,
    position: row.setting.steps[axis.key]!,
    parts: formatSetting(model!.definition, row.setting),
    passesSet,
    passes: Math.max(passesSet, ...run.filter((r) => r.cell_id === row.cell_id).map((r) => r.passes)),
    marks: marked.map((c) => ({
      cell: c.id,
      number: c.number,
      shown: shortPosition(axis, c.setting.steps[axis.key]!),
    })),
    events,
    leftOut: row.left_out,
  };
}

const ownCut = (person: Person | undefined, id: string): Promise<store.OrdinaryCutRow> =>
  owned(person, 'change', 'cut', id, (it) => store.cutById(db(), it));

export async function cutOf(person: Person | undefined, id: string): Promise<CutView> {
  return view(person!, await ownCut(person, id));
}

/** Cuts that nobody has said anything about yet: asked at the next visit, so that failures do not go unrecorded. */
export async function openCuts(person: Person | undefined, limit = 3): Promise<CutView[]> {
  if (!person) return [];
  return Promise.all((await store.openCuts(db(), person.id, limit)).map((row) => view(person, row)));
}
