import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { startingSetting, type CutterModel, type Setting } from '#core/controls/index.ts';
import { couponRoom, finestLimits, HANDLING, layCoupon, type CouponSheet, type Finest } from '#core/coupon/index.ts';
import type { GradeEvent } from '#core/grades/index.ts';
import {
  cellLimits,
  decideDefaults,
  planDefaults,
  planModes,
  type Plan,
  type PlanInput,
  type TwoCamps,
} from '#core/planner/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { fitInputFrom, type Around, type Evidence, type FitResult } from '#core/window/index.ts';
import * as store from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db, transaction } from '#store/base/db.ts';
import { batchFor } from '#work/vinyls/catalogue.ts';
import { planOnThread } from '#work/base/compute.ts';
import { Invalid } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import { enforceQuota } from '#work/people/limits.ts';
import { isId, owned } from '#work/people/owned.ts';
import type { Person } from '#work/people/person.ts';
import { baseFor, evidenceFor, wearOf } from './evidence.ts';
import { posteriorOf } from './readings.ts';
import { readControls, wantedForm } from './controls.ts';
import { pieceOf, takeFromPiece, type Piece } from '#work/vinyls/stock.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/bench.ts';

const countForm = z.coerce.number().int().min(cellLimits.min).max(cellLimits.max).catch(planDefaults.cells);

const modeForm = z.object({
  mode: z.enum(planModes).catch('new'),
  also: z
    .array(z.enum(['passes', 'speed']))
    .max(2)
    .catch([]),
});

/** Whether a coupon goes into the corner that a job of this person left free on the film of this vinyl. */
export async function cornerOf(
  person: Person | undefined,
  job: string | null,
  vinyl: string,
  sheet: { width: number; height: number },
): Promise<boolean> {
  const room = couponRoom();
  if (!person || !isId(job ?? '') || sheet.width + HANDLING > room.width || sheet.height + HANDLING > room.height)
    return false;
  return store.hasCorner(db(), person.id, job!, vinyl);
}

/** Cells of a coupon that looks how evenly the cutter presses over its mat, and how much of the mat they cover, µm. */
const EVEN = { cells: 12, width: 280_000, height: 280_000 };

/** What a person asks of a plan: how many cells, what is wanted, and the controls other than strength. */
export type PlanWish = {
  count: unknown;
  wanted: Wanted;
  base: Setting;
  mode: PlanInput['mode'];
  also: PlanInput['also'];
  /** Somebody else's number that is tried here. */
  around?: Around;
  /** The numbers of two camps that it is decided between. */
  camps?: TwoCamps;
  /** The finest line and gap of an artwork that it is made for. */
  finest?: Finest | undefined;
};

/** What others have it at: one number to be checked, or those of two camps. */
export type FromOthers = { prior?: Around | undefined; camps?: TwoCamps | undefined };

/**
 * Reads a plan's wish from the address or a form.
 * @param prior where somebody else's card has it, for a check of it
 * @throws Invalid for a control outside its limits
 */
export async function planWish(
  person: Person | undefined,
  bench: Bench,
  vinyl: Vinyl,
  form: FormData,
  { prior, camps }: FromOthers = {},
): Promise<PlanWish> {
  const wanted = wantedForm.parse(form.get('wanted') ?? wantedOfType(vinyl.type));
  const base = person ? await baseFor(person.id, vinyl.id, bench.cutter, wanted) : startingSetting(bench.cutter.model);
  const { mode: asked, also } = read(modeForm, { mode: form.get('mode') ?? undefined, also: form.getAll('also') });
  // Where crafters do not differ there is nothing to decide between.
  const mode = asked === 'decide' && !camps ? 'new' : asked;
  const around = mode === 'check' ? prior : undefined;
  return {
    count:
      form.get('cells') ??
      {
        new: planDefaults.cells,
        even: EVEN.cells,
        decide: decideDefaults.cells,
        check: planDefaults.few,
        retune: planDefaults.few,
      }[mode],
    wanted,
    base: readControls(bench.cutter.model, form, base),
    mode,
    also,
    finest: finestIn(form),
    ...(around ? { around } : {}),
    ...(mode === 'decide' ? { camps: camps! } : {}),
  };
}

const finestForm = (limits: { min: number; max: number }) => z.coerce.number().int().min(limits.min).max(limits.max);
/** The finest line and gap of an artwork that a plan is made for, µm; the usual figure where none are said, or none it can show. */
const finestIn = (form: FormData): Finest | undefined =>
  z
    .object({ bar: finestForm(finestLimits.bar), gap: finestForm(finestLimits.gap) })
    .optional()
    .catch(undefined)
    .parse(form.has('bar') ? { bar: form.get('bar'), gap: form.get('gap') } : undefined);

export type Preview = {
  plan: Plan;
  sheet: CouponSheet;
  before: FitResult;
  wanted: Wanted;
  base: Setting;
  mode: PlanInput['mode'];
  also: PlanInput['also'];
};

/** Plans a coupon without making it. */
export async function previewCoupon(
  person: Person | undefined,
  bench: Bench,
  vinyl: Vinyl,
  { count, wanted, base, mode, also, around, camps, finest }: PlanWish,
  batch?: string,
): Promise<Preview> {
  const { evidence, events } = person
    ? await evidenceFor(person.id, vinyl.id, bench.cutter.id, wanted, { base, colour: vinyl.colour?.id, batch })
    : {
        evidence: { model: bench.cutter.model, type: vinyl.type, wanted, target: {}, base, cells: [] } as Evidence,
        events: [] as GradeEvent[],
      };
  const input = fitInputFrom(evidence, events);
  const before = (await posteriorOf({ ...input, ...(around ? { around } : {}) })).result;
  const plan = await planOnThread({
    format: 'versipel-plan/1',
    model: bench.cutter.model,
    type: vinyl.type,
    cells: input.cells,
    wanted,
    target: input.target,
    base,
    mode,
    ...(camps ? { camps: [...camps] } : {}),
    also,
    ...(input.around || around ? { around: around ?? input.around! } : {}),
    count: countForm.parse(count),
    seed: 1,
  });
  return { plan, sheet: draw(bench.cutter.model, vinyl, plan, finest), before, wanted, base, mode, also };
}

type Drawn = { cells: readonly { number: number; setting: Setting }[]; mode?: Plan['mode'] };
function draw(model: CutterModel, vinyl: Vinyl, plan: Drawn, finest?: Finest): CouponSheet {
  return layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: [vinyl.brand, vinyl.name, vinyl.colour?.name].filter(Boolean).join(' ').slice(0, 200),
    cutFrom: vinyl.behaviour.cutFrom,
    cells: plan.cells.map((c) => ({ number: c.number, setting: c.setting })),
    ...(finest ? { finest } : {}),
    ...(plan.mode === 'even' ? { over: { width: EVEN.width, height: EVEN.height } } : {}),
  });
}

/** Makes the coupon that the preview showed. */
export async function makeCoupon(
  person: Person,
  bench: Bench,
  vinylId: string,
  form: FormData,
  { createdAt, ...others }: FromOthers & { createdAt?: Date } = {},
): Promise<string> {
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  await enforceQuota(person, 'coupons');
  const { vinyl, batchId, piece } = await inHand(person, vinylId, form);
  const wish = await planWish(person, bench, vinyl, form, others);
  const count = piece ? roomFor(bench.cutter.model, vinyl, wish, piece) : wish.count;
  const { plan: fitted, sheet } = await previewCoupon(person, bench, vinyl, { ...wish, count }, batchId);
  const jobId = await jobIn(person, form);
  const plan = { ...fitted, asked: countForm.parse(wish.count), ...(wish.camps ? { camps: wish.camps } : {}) };
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertCut(q, {
      id,
      kind: 'coupon',
      personId: person.id,
      vinylId: vinyl.id,
      colourId: vinyl.colour?.id ?? null,
      batchId: batchId ?? null,
      cutterId: bench.cutter.id,
      mountingId: bench.blade!.mounting,
      wear: wearOf(bench.blade!.wear.share),
      ...(createdAt ? { createdAt } : {}),
    });
    await store.insertCoupon(q, id, { wanted: wish.wanted, plan, sheet, jobId });
    for (const cell of sheet.cells)
      await store.insertCell(q, {
        id: uuidv7(),
        cutId: id,
        number: cell.number,
        setting: cell.setting,
        lengthUm: cell.length,
      });
    if (piece) await takeFromPiece(person, piece.id, { lengthUm: sheet.height + HANDLING, cutId: id }, q);
  });
  return id;
}

/** The job a coupon is made for, where a form names one of one's own. @throws NotFound for anybody else's */
async function jobIn(person: Person, form: FormData): Promise<string | undefined> {
  const id = read(z.object({ job: optionalId }), form).job;
  if (id === undefined) return undefined;
  return (await owned(person, 'change', 'job', id, (it) => store.jobOf(db(), it))).id;
}

/**
 * As many cells as the piece in hand has room for, from those asked for down: how large a sheet is hangs on their number alone, so that
 * nothing has to be planned to know it. @throws Invalid where even the fewest do not fit
 */
function roomFor(model: CutterModel, vinyl: Vinyl, { count: asked, base, mode }: PlanWish, piece: Piece): number {
  for (let count = countForm.parse(asked); ; count--) {
    const cells = Array.from({ length: count }, (_, i) => ({ number: i + 1, setting: base }));
    const { width, height } = draw(model, vinyl, { cells, mode });
    if (width + HANDLING <= piece.widthUm && height + HANDLING <= piece.leftUm) return count;
    if (count <= cellLimits.min)
      throw new Invalid({
        piece: `What is left of ${piece.code} is too small even for ${count} cells. Choose another piece.`,
      });
  }
}

/** What a cut is made on, as a form says it: a piece of stock with its colour and batch, or a colour and the label of a batch. */
async function inHand(
  person: Person,
  vinylId: string,
  form: FormData,
): Promise<{ vinyl: Vinyl; batchId: string | undefined; piece: Piece | undefined }> {
  const { piece: pieceId, colour } = read(z.object({ piece: optionalId, colour: optionalId }), {
    piece: form.get('piece') ?? undefined,
    colour: form.get('colour') ?? undefined,
  });
  const piece = pieceId ? await pieceOf(person, pieceId) : undefined;
  const vinyl = await vinylOf(person, vinylId, piece?.colourId ?? colour);
  if (piece && piece.vinyl.id !== vinyl.id) throw new Invalid({ piece: 'That piece is another vinyl.' });
  const label = piece?.batch ?? String(form.get('batch') ?? '');
  return { vinyl, batchId: await batchFor(person, vinyl.id, vinyl.colour?.id, label), piece };
}
