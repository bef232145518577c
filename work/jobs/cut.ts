import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  atStrength,
  formatSetting,
  passesOf,
  type CutterModel,
  type Setting,
  type SettingPart,
} from '#core/controls/index.ts';
import {
  cutFileKinds,
  cutFileType,
  pieceAt,
  writeDrawing,
  type CutDrawing,
  type CutFileKind,
} from '#core/cutfile/index.ts';
import { cutLength, layWitness, type Path } from '#core/coupon/index.ts';
import { cutId, layerOfPart, loadsOf, quarterTurned, standingEvents, type Plan } from '#core/job/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import * as coupons from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import { vinylRows, type VinylRow } from '#work/answer/list.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import { settingField } from '#work/cuts/cuts.ts';
import { baseFor } from '#work/coupons/evidence.ts';
import { LINE_DEVICE, sendCells, settleCut } from '#work/cuts/line.ts';
import type { Person } from '#work/people/person.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { deliver, type Outcome } from '#work/people/delivery.ts';
import { jobEvents } from './events.ts';
import { filmFor } from './film.ts';
import { jobOf, type JobLayer, type JobView } from './view.ts';

/** What is to be set for a part, as the bench card says it. */
type ToSet = { setting: Setting; parts: SettingPart[]; model: CutterModel };
const toSet = (model: CutterModel, setting: Setting): ToSet => ({
  setting,
  model,
  parts: formatSetting(model, setting),
});

/** What the bench card says for a layer: the row with its strip and standing, and the whole setting. */
export type LayerAnswer = { layer: string; row: VinylRow; toSet: ToSet | undefined };

/** What to set for each layer of a job, on the cutter on the bench: the same number as on its bench card. */
export async function answersFor(
  person: Person,
  bench: Bench | undefined,
  job: Pick<JobView, 'layers'>,
): Promise<LayerAnswer[]> {
  const chosen = job.layers.filter((l) => l.vinyl);
  if (!bench || chosen.length === 0) return [];
  const rows = await vinylRows(person, bench, [...new Set(chosen.map((l) => l.vinyl!.id))]);
  const answers = await Promise.all(
    chosen.map(async (layer): Promise<LayerAnswer | undefined> => {
      const row = rows.find((r) => r.id === layer.vinyl!.id);
      if (!row) return undefined;
      const { position } = row.answer;
      const base = row.controls ?? (await baseFor(person.id, row.id, bench.cutter, wantedOfType(row.type)));
      const { model } = bench.cutter;
      return {
        layer: layer.id,
        row,
        toSet: position === undefined ? undefined : toSet(model, atStrength(model, base, position)),
      };
    }),
  );
  return answers.filter((a) => a !== undefined);
}

/** A part as it is cut at a setting: the design, and the test mark in the waste at its own strengths. */
function drawingOf(job: JobView, layer: JobLayer, bench: Bench, setting: Setting): CutDrawing {
  const { model } = bench.cutter;
  const planned = job.plan.layers.find((l) => l.id === layer.id);
  const drawn = filmFor(planFor(job, layer.part), planned, layer.shown, layer.vinyl!, job.under);
  const { film } = drawn;
  const { mark } = film;
  const lies = (path: Path) => (film.turned ? quarterTurned(path, film) : path);
  const cells = mark ? layWitness(model, setting, layer.vinyl!.behaviour.cutFrom).sheet.cells : [];
  const marks = cells.map((c) =>
    pieceAt(
      c.number,
      `test mark ${c.number}`,
      c.paths.map((p) => lies({ ...p, points: p.points.map(([x, y]) => [x + mark!.x, y + mark!.y] as const) })),
      model,
      c.setting,
    ),
  );
  return {
    width: film.turned ? film.height : film.width,
    height: film.turned ? film.width : film.height,
    pieces: [pieceAt(1, job.name, drawn.paths().map(lies), model, setting), ...marks],
  };
}

/** The plan of the pieces a part is for: all of them, or those that lost it. */
function planFor({ plan, events }: Pick<JobView, 'plan' | 'events'>, part: string): Plan {
  const pieces = loadsOf(plan, standingEvents(events))
    .flatMap((l) => l.parts)
    .find((p) => p.id === part)?.pieces;
  return pieces ? { ...plan, pieces: plan.pieces.filter((p) => pieces.includes(p.id)) } : plan;
}

const ownLayerOfPart = (job: JobView, part: string): JobLayer => {
  const layer = layerOfPart(job, part);
  if (!layer?.vinyl || !layer.film) throw new NotFound('No such part.');
  return layer;
};

/** A part as a cut file, mirrored where its vinyl lies face down. @throws NotFound */
export async function partFile(
  person: Person | undefined,
  bench: Bench | undefined,
  jobId: string,
  part: string,
  asked: string,
) {
  const job = await jobOf(person, jobId);
  const layer = ownLayerOfPart(job, part);
  const kind: CutFileKind | undefined = cutFileKinds.find((k) => k === asked);
  if (!kind || !bench) throw new NotFound('No such file.');
  const answer = (await answersFor(person!, bench, job)).find((a) => a.layer === layer.id);
  const setting =
    answer?.toSet?.setting ??
    (await baseFor(person!.id, layer.vinyl!.id, bench.cutter, wantedOfType(layer.vinyl!.type)));
  return {
    name: `part.${kind}`,
    type: cutFileType(kind),
    body: writeDrawing(kind, drawingOf(job, layer, bench, setting)),
  };
}

const sendForm = z.object({
  device: z.string().max(60),
  part: z.uuid(),
  attempt: z.coerce.number().int().min(1).max(50),
  rev: z.coerce.number().int().min(1),
  stock: optionalId,
  setting: settingField,
  pass: z.coerce.number().int().min(1).max(9),
});

/** Sends a part to a cutter on a line: the cut is written down first, its passes as the line says they were cut. */
export async function sendPart(person: Person, bench: Bench | undefined, jobId: string, form: FormData): Promise<void> {
  const input = read(sendForm, form);
  if (!bench?.blade) throw new Invalid({ form: 'Put a cutter with a blade on the bench first.' });
  const job = await jobOf(person, jobId);
  const layer = ownLayerOfPart(job, input.part);
  const id = cutId(input.part, input.attempt);
  if (!job.facts.some((f) => f.cut === id && !f.undone)) {
    const event = {
      id: uuidv7(),
      job: jobId,
      step: `cut/${input.part}`,
      attempt: input.attempt,
      rev: input.rev,
      device: LINE_DEVICE,
      deviceAt: new Date().toISOString(),
      kind: 'cut',
      part: input.part,
      setting: input.setting,
      mounting: bench.blade.mounting,
      ...(input.stock ? { stock: input.stock } : {}),
      witness: layer.film!.mark !== undefined,
    };
    const [{ outcome, why }] = (await deliver(person, [event], [jobEvents])) as [Outcome];
    if (outcome === 'refused' || outcome === 'later')
      throw new Invalid({ form: why ?? 'The plan has changed: load the page again.' });
  }
  const all = await coupons.cellsOf(db(), id);
  const drawing = drawingOf(job, layer, bench, all[0]!.setting);
  // The plan may have left the test mark out since.
  const cells = all.filter((c) => drawing.pieces.some((p) => p.number === c.number));
  const passes = Math.max(input.pass, passesOf(bench.cutter.model, cells[0]!.setting));
  await sendCells(
    person,
    { device: input.device, cells: cells.map((c) => c.number), pass: passes },
    {
      cutId: id,
      vinylId: layer.vinyl!.id,
      model: bench.cutter.model,
      cells,
      drawn: (cell) => {
        const piece = drawing.pieces.find((p) => p.number === cell.number)!;
        return { piece, height: drawing.height, lengthUm: cutLength(piece.paths) };
      },
    },
  );
}

/** What was seen on the mat of a pass that was unclear. */
export async function settlePart(person: Person, jobId: string, form: FormData): Promise<void> {
  const job = await jobOf(person, jobId);
  const cut = job.facts.find((f) => f.cell === form.get('cell'));
  if (!cut) throw new NotFound('No such cut.');
  await settleCut(person, cut.cut, form);
}
