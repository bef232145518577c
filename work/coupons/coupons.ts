import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  carrySetting,
  passesOf,
  startingSetting,
  strengthAxis,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import { layCoupon, type CouponSheet } from '#core/coupon/index.ts';
import { writeCutFile, type CutFileKind } from '#core/cutfile/index.ts';
import { benchEventSchema, type BenchEvent, type GradeEvent, type WeedEvent } from '#core/grades/index.ts';
import { cellLimits, planDefaults, planModes, type Plan, type PlanInput } from '#core/planner/index.ts';
import { wantedOfType } from '#core/vinyls/index.ts';
import { aroundSchema, fitInputFrom, type Around, type Evidence, type FitResult } from '#core/window/index.ts';
import * as store from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { afterCommit, db, transaction } from '#store/base/db.ts';
import * as devicesStore from '#store/cuts/line.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { batchFor } from '#work/vinyls/catalogue.ts';
import { planAside } from '#work/base/compute.ts';
import { BadValue, Invalid, NotFound } from '#work/base/errors.ts';
import { optionalId, read } from '#work/base/forms.ts';
import { needRoom } from '#work/people/limits.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { cardView, sharedAfterGrades, type CardView } from '#work/shelf/cards.ts';
import { refreshProofs } from '#work/shelf/standing.ts';
import { baseFor, evidenceFor, posteriorOf, readControls, refreshReadings, wantedForm, wearOf } from './readings.ts';
import { pieceOf, takeFromPiece, type Piece } from '#work/vinyls/stock.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/workshop.ts';

const countForm = z.coerce.number().int().min(cellLimits.min).max(cellLimits.max).catch(planDefaults.cells);

const modeForm = z.object({
  mode: z.enum(planModes).catch('new'),
  also: z
    .array(z.enum(['passes', 'speed']))
    .max(2)
    .catch([]),
});

/** Cells of a coupon that looks how evenly the cutter presses over its mat, and how much of the mat they cover, µm. */
export const EVEN = { cells: 12, width: 280_000, height: 280_000 };

/** Where a card of the same model has it, on the axis of the cutter at hand. */
function aroundCard(card: CardView, bench: Bench): Around | undefined {
  const { model, controls } = card.content;
  const here = bench.cutter.model;
  if (model.key !== here.key) return undefined;
  const carried = model.version === here.version ? controls : carrySetting(model, here, controls);
  return carried && aroundSchema.parse({ position: carried.steps[strengthAxis(here).key]! });
}

/** What a person asks of a plan: how many cells, what is wanted, and the controls other than strength. */
export type PlanWish = {
  count: unknown;
  wanted: Wanted;
  base: Setting;
  mode: PlanInput['mode'];
  also: PlanInput['also'];
  /** Somebody else's number that is tried here. */
  around?: Around;
};

/** Reads a plan's wish from the address or a form. @throws Invalid for a control outside its limits */
export async function planWish(
  person: Person | undefined,
  bench: Bench,
  vinyl: Vinyl,
  form: FormData,
): Promise<PlanWish> {
  const wanted = wantedForm.parse(form.get('wanted') ?? wantedOfType(vinyl.type));
  const base = person ? await baseFor(person.id, vinyl.id, bench.cutter, wanted) : startingSetting(bench.cutter.model);
  const { mode, also } = read(modeForm, { mode: form.get('mode') ?? undefined, also: form.getAll('also') });
  const card =
    mode === 'check' && form.get('card') ? await cardView(person, bench, String(form.get('card')), null) : undefined;
  const around = card && aroundCard(card, bench);
  return {
    count: form.get('cells') ?? (mode === 'new' ? planDefaults.cells : mode === 'even' ? EVEN.cells : planDefaults.few),
    wanted,
    base: readControls(bench.cutter.model, form, base),
    mode,
    also,
    ...(around ? { around } : {}),
  };
}

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
  { count, wanted, base, mode, also, around }: PlanWish,
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
  const plan = await planAside({
    format: 'versipel-plan/1',
    model: bench.cutter.model,
    type: vinyl.type,
    cells: input.cells,
    wanted,
    target: input.target,
    base,
    mode,
    also,
    ...(input.around || around ? { around: around ?? input.around! } : {}),
    count: countForm.parse(count),
    seed: 1,
  });
  return { plan, sheet: draw(bench.cutter.model, vinyl, plan), before, wanted, base, mode, also };
}

type Drawn = { cells: readonly { number: number; setting: Setting }[]; mode?: Plan['mode'] };
function draw(model: CutterModel, vinyl: Vinyl, plan: Drawn): CouponSheet {
  return layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: [vinyl.brand, vinyl.name, vinyl.colour?.name].filter(Boolean).join(' ').slice(0, 200),
    cutFrom: vinyl.behaviour.cutFrom,
    cells: plan.cells.map((c) => ({ number: c.number, setting: c.setting })),
    ...(plan.mode === 'even' ? { over: { width: EVEN.width, height: EVEN.height } } : {}),
  });
}

/** Makes the coupon that the preview showed. */
export async function makeCoupon(
  person: Person,
  bench: Bench,
  vinylId: string,
  form: FormData,
  createdAt?: Date,
): Promise<string> {
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  await needRoom(person, 'coupons');
  const { vinyl, batchId, piece } = await inHand(person, vinylId, form);
  const wish = await planWish(person, bench, vinyl, form);
  const count = piece ? roomFor(bench.cutter.model, vinyl, wish, piece) : wish.count;
  const { plan: fitted, sheet } = await previewCoupon(person, bench, vinyl, { ...wish, count }, batchId);
  const plan = { ...fitted, asked: countForm.parse(wish.count) };
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
    await store.insertCoupon(q, id, wish.wanted, plan, sheet);
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

/** Room round a coupon so that it can be cut off its piece and put down by hand, µm. */
export const HANDLING = 6_000;

/** What a cut is made on, as a form says it: a piece of stock with its colour and batch, or a colour and the label of a batch. */
export async function inHand(
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

export type CouponView = {
  id: string;
  createdAt: string;
  vinyl: Vinyl;
  cutter: { id: string; name: string; model: CutterModel };
  plan: Plan;
  sheet: CouponSheet;
  wanted: Wanted;
  setAside: boolean;
  /** `planned`: passes it is planned with; `leftOut`: half cut when a line broke, not to be graded. */
  cells: {
    id: string;
    number: number;
    position: number;
    planned: number;
    passesRun: number;
    pictured: boolean;
    leftOut: boolean;
  }[];
  /** Everything known of this vinyl on this cutter: what the browser needs to read the grades itself. */
  evidence: Evidence;
  events: GradeEvent[];
  /** How its cells weeded, as told so far. */
  weeds: WeedEvent[];
  result: FitResult;
};

/** A coupon of one's own, as it is kept. @throws NotFound for anybody else's */
export async function ownCoupon(
  person: Person | undefined,
  id: string,
  verb: 'see' | 'change' = 'see',
): Promise<store.CouponRow> {
  const row = z.uuid().safeParse(id).success ? await store.couponById(db(), id) : undefined;
  if (!row || !can(person, verb, { owner: row.person_id })) throw new NotFound('No such coupon.');
  return row;
}

/** The model a coupon was planned for, in the version it was planned with. */
export async function couponModel(person: Person | undefined, id: string, verb: 'see' | 'change' = 'see') {
  const row = await ownCoupon(person, id, verb);
  const { model: key, version } = row.sheet.cells[0]!.setting;
  const model = (await workshopStore.modelByVersion(db(), key, version))!.definition;
  return { row, model };
}

/** A coupon with all that grading it needs. Another person's is not found. */
export async function couponOf(person: Person | undefined, id: string): Promise<CouponView> {
  const { row, model } = await couponModel(person, id);
  // The reading of a coupon is that of its own controls, in the version of the model it was planned with.
  const setting = row.plan.base ?? row.sheet.cells[0]!.setting;
  const [vinyl, cutter, cells, runs, pictured, doubtful] = await Promise.all([
    vinylOf(person, row.vinyl_id, row.colour_id ?? undefined),
    workshopStore.cutterById(db(), row.cutter_id),
    store.cellsOf(db(), id),
    store.passesRun(db(), id),
    devicesStore.picturedCells(db(), id),
    devicesStore.doubtfulCells(db(), id),
  ]);
  const spoiled = new Set(doubtful.filter((d) => d.state === 'spoiled').map((d) => d.cell_id));
  const { evidence, events } = await evidenceFor(row.person_id, row.vinyl_id, row.cutter_id, row.wanted, {
    base: setting,
    version: model,
    colour: row.colour_id ?? undefined,
    batch: row.batch_id ?? undefined,
  });
  const axis = strengthAxis(model);
  const { result } = await posteriorOf(fitInputFrom(evidence, events));
  return {
    id,
    createdAt: row.created_at.toISOString(),
    vinyl,
    cutter: { id: cutter!.id, name: cutter!.name, model },
    wanted: row.wanted,
    plan: row.plan,
    sheet: row.sheet,
    setAside: row.set_aside_at !== null,
    cells: cells.map((c) => ({
      id: c.id,
      number: c.number,
      position: c.setting.steps[axis.key]!,
      planned: passesOf(model, c.setting),
      passesRun: runs.find((r) => r.cell_id === c.id)?.passes ?? 0,
      pictured: pictured.has(c.id),
      leftOut: spoiled.has(c.id),
    })),
    evidence,
    events,
    weeds: await store.weedsOfCells(
      db(),
      cells.map((c) => c.id),
    ),
    result,
  };
}

/** The coupon as a cut file, whole or one cell of it on the same origin. */
export async function couponFile(
  person: Person | undefined,
  id: string,
  kind: CutFileKind,
  cell: number | undefined,
): Promise<{ name: string; body: string }> {
  const { row, model } = await couponModel(person, id);
  if (cell !== undefined && !row.sheet.cells.some((c) => c.number === cell)) throw new NotFound('No such cell.');
  return {
    name: `coupon${cell === undefined ? '' : `-cell-${cell}`}.${kind}`,
    body: writeCutFile(kind, row.sheet, model, cell),
  };
}

export type ListedCoupon = store.ListedCoupon;

export const listCoupons = (person: Person | undefined, limit = 100, vinylId?: string): Promise<ListedCoupon[]> =>
  person ? store.listCoupons(db(), person.id, limit, vinylId ?? null) : Promise.resolve([]);

/** Puts an unfinished coupon out of the way; its grades still count. */
export async function setCouponAside(person: Person, id: string): Promise<void> {
  await ownCoupon(person, id, 'change');
  await store.setAside(db(), id);
}

/**
 * What became of an event. `later`: what it speaks of has not arrived yet; the outbox keeps it and sends it again. `refused`: it will never
 * be taken, and why.
 */
export type Outcome = { id: string; outcome: 'stored' | 'already' | 'later' | 'refused'; why?: string };

/** At most this many events in one delivery. */
export const MAX_EVENTS = 200;

/** How long an event waits for what it speaks of, days since it was made. */
const WAITS_DAYS = 7;

/** When an id was made (RFC 9562, 5.7: the first 48 bits are milliseconds). */
const madeAt = (id: string): number => parseInt(id.replaceAll('-', '').slice(0, 12), 16);

/** An event about something that is not there: it waits a while, then it is refused for good. */
const notYet = (id: string, why: string): Outcome =>
  Date.now() - madeAt(id) < WAITS_DAYS * 86_400_000 ? { id, outcome: 'later' } : { id, outcome: 'refused', why };

async function storeEvent(person: Person, event: BenchEvent): Promise<Outcome> {
  const { id } = event;
  const stored =
    event.kind === 'cut'
      ? await store.insertCellCutEvent(db(), person.id, event)
      : event.kind === 'weed'
        ? await store.insertWeedEvent(db(), person.id, event)
        : await store.insertGradeEvent(db(), person.id, event);
  return { id, outcome: stored ? 'stored' : 'already' };
}

/** What the database says of one event that it cannot keep. A database that is away is an error for all of them. */
function refusal(id: string, error: unknown): Outcome {
  const { code } = error as { code?: string };
  // 23503: it takes back a grade that has not arrived. Other constraints it will never meet.
  if (code === '23503') return notYet(id, 'What it speaks of is not here.');
  if (error instanceof BadValue || code?.startsWith('23')) return { id, outcome: 'refused', why: 'It cannot be kept.' };
  throw error;
}

/**
 * Takes what the bench sends. Each event stands alone: it is stored, was there already, waits for what it speaks of, or is refused for good
 * with a reason; one that cannot be kept does not keep the others back. A failure of the database is an error, so that the outbox keeps
 * everything and tries again. Readings follow after the events are safe.
 */
export async function takeEvents(person: Person, raw: unknown[]): Promise<Outcome[]> {
  const outcomes: Outcome[] = [];
  const touched = new Map<string, { vinylId: string; cutterId: string }>();
  const cuts = new Set<string>();
  for (const item of raw) {
    const id = typeof item === 'object' && item && 'id' in item ? String(item.id).slice(0, 60) : '';
    const parsed = benchEventSchema.safeParse(item);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      outcomes.push({ id, outcome: 'refused', why: `${issue.path.join('.') || 'event'}: ${issue.message}` });
      continue;
    }
    // One clock for all: the zone a device writes its time in says nothing more.
    const event = { ...parsed.data, deviceAt: new Date(parsed.data.deviceAt).toISOString() };
    const cell = await store.cellOwner(db(), event.cell);
    if (!cell || !can(person, 'grade', { owner: cell.person_id })) {
      // Another's cell and one that is not there look the same.
      outcomes.push(notYet(id, 'There is no such cell among your coupons.'));
      continue;
    }
    const outcome = await storeEvent(person, event).catch((error: unknown) => refusal(id, error));
    outcomes.push(outcome);
    const kept = outcome.outcome === 'stored' || outcome.outcome === 'already';
    if (kept && (event.kind === 'grade' || event.kind === 'retract')) {
      cuts.add(cell.cut_id);
      touched.set(`${cell.vinyl_id} ${cell.cutter_id}`, { vinylId: cell.vinyl_id, cutterId: cell.cutter_id });
    }
  }
  // The events are safe from here on: a reading that fails is made again by the task.
  await afterCommit(async () => {
    for (const { vinylId, cutterId } of touched.values())
      await refreshReadings(person.id, vinylId, cutterId)
        .then(() => refreshProofs(person.id, person.zone, vinylId, cutterId))
        .catch(() => undefined);
    await sharedAfterGrades([...cuts]).catch(() => undefined);
  });
  return outcomes;
}
