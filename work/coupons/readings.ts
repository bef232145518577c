import { createHash } from 'node:crypto';
import { z } from 'zod';
import {
  AxisError,
  carrySetting,
  depthOf,
  parseSetting,
  startingSetting,
  strengthAxis,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import { currentGrades, type GradeEvent } from '#core/grades/index.ts';
import { bladeWear } from '#core/wear/index.ts';
import { currentWeeds, weedReading, type WeedReading } from '#core/weed/index.ts';
import { wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import {
  fitInputFrom,
  MODEL_VERSION,
  PRIOR_VERSION,
  shownFit,
  type Evidence,
  type FitInput,
  type FitResult,
} from '#core/window/index.ts';
import type { CardCell } from '#store/shelf/cards.ts';
import * as coupons from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/coupons/readings.ts';
import * as vinyls from '#store/vinyls/vinyls.ts';
import * as workshop from '#store/workshop/workshop.ts';
import { fitAside } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';

/** Hash of everything a fit depends on. */
export function inputHash(input: FitInput): Buffer {
  return createHash('sha256')
    .update(JSON.stringify([MODEL_VERSION, PRIOR_VERSION, input]))
    .digest();
}

/** The stored answer to an input, or a new one, stored. */
export async function posteriorOf(input: FitInput): Promise<{ hash: Buffer; result: FitResult }> {
  const hash = inputHash(input);
  const known = await store.posteriorByHash(db(), hash);
  if (known) return { hash, result: known.result };
  const result = await fitAside(input);
  await store.insertPosterior(db(), hash, result, shownFit(result));
  return { hash, result };
}

/** What is believed about a type on a model before anybody cuts it. */
export async function typeReading(model: CutterModel, type: VinylTypeKey, wanted?: Wanted): Promise<FitResult> {
  const evidence: Evidence = {
    model,
    type,
    wanted: wanted ?? wantedOfType(type),
    target: {},
    base: startingSetting(model),
    cells: [],
  };
  return (await posteriorOf(fitInputFrom(evidence, []))).result;
}

/** A setting in the terms of a model's version; undefined where it belongs to another model or has no place there. */
async function inTermsOf(model: CutterModel, setting: Setting): Promise<Setting | undefined> {
  if (setting.model !== model.key) return undefined;
  if (setting.version === model.version) return setting;
  const from = await workshop.modelByVersion(db(), setting.model, setting.version);
  return from && carrySetting(from.definition, model, setting);
}

/** The controls that the coming cut of a vinyl starts from: what is kept, else what was cut last, else the maker's start. */
export async function baseFor(
  personId: string,
  vinylId: string,
  cutter: { id: string; model: CutterModel },
  wanted: Wanted,
): Promise<Setting> {
  const last = await coupons.lastControls(db(), personId, vinylId, cutter.id, wanted);
  return (last && (await inTermsOf(cutter.model, last.setting))) ?? startingSetting(cutter.model);
}

/** What a reading is asked for, where it is not the usual. */
export type Asked = {
  /** Controls of the coming cut other than strength; those of `baseFor` when left out. */
  base?: Setting;
  /** The cutter's model in another version, for what was planned with that. */
  version?: CutterModel;
  /** The colour and batch in hand; the vinyl's first colour when left out. */
  colour?: string | undefined;
  batch?: string | undefined;
};

/** A blade's wear in steps: a metre more is no reason to read everything anew. */
export const wearOf = (share: number): number => Math.round(share * 20) / 20;

/** How a number moved since it was found, because the blade has aged. */
export type Drift = { then: number; now: number; share: number };

/**
 * What the blade's age does to the number: where it would stand on a blade as worn as the graded cells were cut with, and where it stands
 * on this one. Undefined where nothing is known of their wear, or it is the same.
 */
export async function driftOf(
  evidence: Evidence,
  events: readonly GradeEvent[],
  result: FitResult,
): Promise<Drift | undefined> {
  const { wear } = evidence.target;
  const graded = new Set(currentGrades(events).map((g) => g.cell));
  const known = evidence.cells.flatMap((c) => (graded.has(c.id) && c.wear !== undefined ? [c.wear] : []));
  if (wear === undefined || known.length === 0) return undefined;
  const before = wearOf(known.reduce((a, b) => a + b, 0) / known.length);
  if (Math.abs(wear - before) < WEAR_TOLD) return undefined;
  const then = await posteriorOf(fitInputFrom({ ...evidence, target: { ...evidence.target, wear: before } }, events));
  const place = ({ summary }: FitResult) => (summary.recommended ?? summary.best).position;
  return { then: place(then.result), now: place(result), share: wear };
}
/** Less of a blade's life than this makes no difference worth a word. */
const WEAR_TOLD = 0.1;

/** All evidence one person has for a vinyl, under any of its entries, on a cutter, and every event about it. */
export async function evidenceFor(
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
  { base, version, colour, batch }: Asked = {},
): Promise<{ evidence: Evidence; events: GradeEvent[] }> {
  const [vinyl, cutter, cells] = await Promise.all([
    vinyls.vinylById(db(), vinylId),
    workshop.cutterById(db(), cutterId),
    coupons.evidenceCells(db(), personId, vinylId, cutterId),
  ]);
  if (!vinyl || !cutter) throw new NotFound('No such vinyl or cutter.');
  const model = version ?? cutter.model;
  const [events, standing, carried, around] = await Promise.all([
    coupons.eventsOfCells(
      db(),
      cells.map((c) => c.cell_id),
    ),
    base ?? baseFor(personId, vinylId, { id: cutterId, model }, wanted),
    Promise.all(cells.map((c) => inTermsOf(model, c.setting))),
    coupons.aroundOf(db(), personId, vinylId, cutterId, wanted),
  ]);
  return {
    evidence: {
      model,
      type: vinyl.type as VinylTypeKey,
      wanted,
      target: {
        ...(colour || vinyl.colour_id ? { colour: colour ?? vinyl.colour_id! } : {}),
        ...(batch ? { batch } : {}),
        ...(cutter.blade_id
          ? {
              blade: cutter.blade_id,
              wear: wearOf(bladeWear(cutter.blade_runs, cutter.blade_before_um!, cutter.blade_life_um!).share),
            }
          : {}),
      },
      ...(around && around.version === model.version ? { around: around.around } : {}),
      base: standing,
      cells: cells.flatMap((c, i) => {
        const setting = carried[i];
        return setting
          ? [
              {
                id: c.cell_id,
                cut: c.cut_id,
                ...(c.colour_id ? { colour: c.colour_id } : {}),
                ...(c.batch_id ? { batch: c.batch_id } : {}),
                blade: c.blade_id,
                ...(c.wear === null ? {} : { wear: c.wear }),
                setting,
              },
            ]
          : [];
      }),
    },
    events,
  };
}

/**
 * Reads the evidence again and makes the answer the current one. Where nothing changed, nothing is computed. What was read comes
 * with the answer, for those who show it.
 */
export async function refreshReading(
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
): Promise<{ hash: Buffer; result: FitResult; evidence: Evidence; events: GradeEvent[] }> {
  const { evidence, events } = await evidenceFor(personId, vinylId, cutterId, wanted);
  const answer = await posteriorOf(fitInputFrom(evidence, events));
  await store.setReading(db(), { personId, vinylId, cutterId, wanted, hash: answer.hash });
  return { ...answer, evidence, events };
}

/**
 * The reading for the colour and batch in hand. Without a colour it is the vinyl's own, kept for lists; another colour is read
 * beside it.
 */
export async function readingFor(
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
  colour: string | undefined,
): ReturnType<typeof refreshReading> {
  const { evidence, events } = await evidenceFor(personId, vinylId, cutterId, wanted, { colour });
  const answer = await posteriorOf(fitInputFrom(evidence, events));
  // Looking at a card writes nothing unless something changed.
  if (colour === undefined) {
    const kept = await store.readingHash(db(), personId, vinylId, cutterId, wanted);
    if (!kept?.input_hash.equals(answer.hash))
      await store.setReading(db(), { personId, vinylId, cutterId, wanted, hash: answer.hash });
  }
  return { ...answer, evidence, events };
}

/** Where each colour that was cut and graded looks best: nothing as long as one colour alone was. */
export async function colourNumbers(
  evidence: Evidence,
  events: readonly GradeEvent[],
): Promise<{ colour: string; position: number }[]> {
  const graded = new Set(currentGrades(events).map((g) => g.cell));
  const colours = [...new Set(evidence.cells.flatMap((c) => (c.colour && graded.has(c.id) ? [c.colour] : [])))];
  if (colours.length < 2) return [];
  const numbers = [];
  for (const colour of colours) {
    const target = { ...evidence.target, colour };
    const { summary } = (await posteriorOf(fitInputFrom({ ...evidence, target }, events))).result;
    numbers.push({ colour, position: (summary.recommended ?? summary.best).position });
  }
  return numbers;
}

/** Reads again everything that was ever wanted of a vinyl on a cutter: a grade speaks about all of it. */
export async function refreshReadings(personId: string, vinylId: string, cutterId: string): Promise<void> {
  for (const wanted of await coupons.wantedOf(db(), personId, vinylId, cutterId))
    await refreshReading(personId, vinylId, cutterId, wanted);
}

/** Task: readings of an older model, or cut short by a crash between grade and fit. Answers how many were made. */
export async function refreshOverdue(limit = 50): Promise<number> {
  const due = [
    ...(await store.overdueReadings(db(), limit)),
    ...(await store.staleReadings(db(), MODEL_VERSION, PRIOR_VERSION, limit)),
  ];
  for (const r of due) await refreshReading(r.person_id, r.vinyl_id, r.cutter_id, r.wanted);
  return due.length;
}

/** The setting kept for a vinyl on a cutter, in the terms of the model's present version. */
export async function settingOf(
  personId: string,
  vinylId: string,
  cutter: { id: string; model: CutterModel },
  wanted: Wanted,
  colourId?: string,
): Promise<store.SettingRow | undefined> {
  const row = await store.currentSetting(db(), personId, vinylId, cutter.id, wanted, colourId);
  const controls = row && (await inTermsOf(cutter.model, row.controls));
  return row && controls && { ...row, controls };
}

/**
 * Controls as a form states them: the strength as "strength", every other axis as "c." and its key. What is left out stands as
 * in `base`. @throws Invalid with the axis and its limits at the field that is wrong
 */
export function readControls(model: CutterModel, form: FormData, base: Setting, strength?: string): Setting {
  const typed: Record<string, string> = {};
  const fieldOf = (key: string) => (key === strengthAxis(model).key ? 'strength' : `c.${key}`);
  for (const axis of model.axes) {
    const text = axis.role === 'strength' ? strength : form.get(fieldOf(axis.key));
    if (typeof text === 'string') typed[axis.key] = text;
  }
  for (const [key, text] of Object.entries(typed))
    try {
      parseSetting(model, { [key]: text }, base);
    } catch (error) {
      if (error instanceof AxisError) throw new Invalid({ [fieldOf(key)]: `${error.message}.` });
      throw error;
    }
  return parseSetting(model, typed, base);
}

export const wantedForm = z.enum(['clean', 'through']).catch('clean');

/** One graded cell of the evidence as people read it, the same on the bench card and on a card that is shared. */
export type EvidenceRow = CardCell;

/** The graded cells a reading rests on: when, on which occasion, with what blade, and what was seen. */
export async function evidenceRows(evidence: Evidence, events: readonly GradeEvent[]): Promise<EvidenceRow[]> {
  const details = new Map(
    (
      await coupons.cellDetails(
        db(),
        evidence.cells.map((c) => c.id),
      )
    ).map((d) => [d.cell_id, d]),
  );
  return currentGrades(events).flatMap((g): EvidenceRow[] => {
    const cell = evidence.cells.find((c) => c.id === g.cell);
    const d = details.get(g.cell);
    // Another blade depth is another cut: it does not speak for this number.
    if (!cell || !d || depthOf(evidence.model, cell.setting) !== depthOf(evidence.model, evidence.base)) return [];
    return [
      {
        at: d.at.toISOString(),
        kind: d.kind,
        setting: cell.setting,
        passes: g.passes,
        grade: g.grade,
        angle: d.angle,
        colour: d.colour ?? '',
        batch: d.batch ?? '',
      },
    ];
  });
}

/** What weeding the clean cells of a vinyl told, on any cutter of one's own. */
export async function weedingOf(evidence: Evidence, events: readonly GradeEvent[]): Promise<WeedReading | undefined> {
  const clean = currentGrades(events).flatMap((g) => (g.grade === 'clean' ? [g.cell] : []));
  if (clean.length === 0 || evidence.cells.length === 0) return undefined;
  return weedReading(currentWeeds(await coupons.weedsOfCells(db(), clean)));
}
