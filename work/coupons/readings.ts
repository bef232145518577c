import { createHash } from 'node:crypto';
import { startingSetting, type CutterModel } from '#core/controls/index.ts';
import { currentGrades, type GradeEvent } from '#core/grades/index.ts';
import { wantedOfType, type VinylTypeKey } from '#core/vinyls/index.ts';
import {
  fitInputFrom,
  MODEL_VERSION,
  PRIOR_VERSION,
  shownFit,
  type Evidence,
  type FitInput,
  type FitResult,
  placeToSet,
} from '#core/window/index.ts';
import * as coupons from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { bladeWear } from '#core/wear/index.ts';
import { db } from '#store/base/db.ts';
import * as workshop from '#store/workshop/workshop.ts';
import * as store from '#store/coupons/readings.ts';
import { fitOnThread } from '#work/base/compute.ts';
import { wearOf, evidenceFor, inTermsOf } from './evidence.ts';

/** Hash of everything a fit depends on. */
function inputHash(input: FitInput): Buffer {
  return createHash('sha256')
    .update(JSON.stringify([MODEL_VERSION, PRIOR_VERSION, input]))
    .digest();
}

/** The stored answer to an input, or a new one, stored. */
export async function posteriorOf(input: FitInput): Promise<{ hash: Buffer; result: FitResult }> {
  const hash = inputHash(input);
  const known = await store.posteriorByHash(db(), hash);
  if (known) return { hash, result: known.result };
  const result = await fitOnThread(input);
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
  const place = ({ summary }: FitResult) => placeToSet(summary).position;
  return { then: place(then.result), now: place(result), share: wear };
}
/** Less of a blade's life than this makes no difference worth a word. */
const WEAR_TOLD = 0.1;

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
  const { blade, wear } = evidence.target;
  await store.setReading(db(), { personId, vinylId, cutterId, wanted, hash: answer.hash, blade, wear });
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
    const { blade, wear } = evidence.target;
    const kept = await store.readingHash(db(), personId, vinylId, cutterId, wanted);
    if (!kept?.input_hash.equals(answer.hash))
      await store.setReading(db(), { personId, vinylId, cutterId, wanted, hash: answer.hash, blade, wear });
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
    numbers.push({ colour, position: placeToSet(summary).position });
  }
  return numbers;
}

/** Vinyls that are read again at once when a blade changes, at most; the others when somebody looks. */
const BEHIND = 60;

/** Reads again what was read for another blade than the one on a cutter, or for this one before it wore on. */
export async function readForBlade(personId: string, cutterId: string): Promise<void> {
  const cutter = await workshop.cutterById(db(), cutterId);
  if (!cutter?.blade_id) return;
  const wear = wearOf(bladeWear(cutter.blade_runs, cutter.blade_before_um!, cutter.blade_life_um!).share);
  for (const r of await store.readingsBehind(db(), personId, cutterId, cutter.blade_id, wear, BEHIND))
    await refreshReading(personId, r.vinyl_id, cutterId, r.wanted);
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
