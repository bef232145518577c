import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { CutterModel } from '#core/controls/index.ts';
import { couponSvg, layCoupon, type CouponSheet } from '#core/coupon/index.ts';
import { benchEventSchema, type GradeEvent } from '#core/grades/index.ts';
import { cellLimits, planCoupon, planDefaults, type Plan } from '#core/planner/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';
import { fitInputFrom, type Evidence, type FitResult } from '#core/window/index.ts';
import * as store from '#store/coupons.ts';
import { db, transaction } from '#store/db.ts';
import * as workshopStore from '#store/workshop.ts';
import { Invalid, NotFound } from './errors.ts';
import type { Person } from './people.ts';
import { can } from './permissions.ts';
import { evidenceFor, posteriorOf, refreshReading, typeReading } from './readings.ts';
import { vinylOf, type Vinyl } from './vinyls.ts';
import type { Bench } from './workshop.ts';

const countForm = z.coerce.number().int().min(cellLimits.min).max(cellLimits.max).catch(planDefaults.cells);

export type Preview = { plan: Plan; sheet: CouponSheet; before: FitResult };

/** Plans a coupon without making it. */
export async function previewCoupon(
  person: Person | undefined,
  bench: Bench,
  vinyl: Vinyl,
  count: unknown,
): Promise<Preview> {
  const cells = countForm.parse(count ?? planDefaults.cells);
  const { evidence, events } = person
    ? await evidenceFor(person.id, vinyl.id, bench.cutter.id)
    : { evidence: undefined, events: [] as GradeEvent[] };
  const input = evidence && fitInputFrom(evidence, events);
  const before = input ? (await posteriorOf(input)).result : await typeReading(bench.cutter.model, vinyl.type);
  const plan = planCoupon({
    format: 'versipel-plan/1',
    model: bench.cutter.model,
    type: vinyl.type,
    cells: input?.cells ?? [],
    count: cells,
    seed: 1,
  });
  return { plan, sheet: draw(bench.cutter.model, vinyl, plan), before };
}

function draw(model: CutterModel, vinyl: Vinyl, plan: Plan): CouponSheet {
  return layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: [vinyl.brand, vinyl.name, vinyl.colour?.name].filter(Boolean).join(' ').slice(0, 200),
    cutFrom: vinylTypes[vinyl.type].cutFrom,
    cells: plan.cells.map((c) => ({ number: c.number, setting: c.setting })),
  });
}

/** Makes the coupon that the preview showed. */
export async function makeCoupon(
  person: Person,
  bench: Bench,
  vinylId: string,
  count: unknown,
  createdAt?: Date,
): Promise<string> {
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  const vinyl = await vinylOf(person, vinylId);
  const { plan, sheet } = await previewCoupon(person, bench, vinyl, count);
  const id = uuidv7();
  await transaction(async (q) => {
    await store.insertCut(q, {
      id,
      kind: 'coupon',
      personId: person.id,
      vinylId: vinyl.id,
      colourId: vinyl.colour?.id ?? null,
      cutterId: bench.cutter.id,
      mountingId: bench.blade!.mounting,
      ...(createdAt ? { createdAt } : {}),
    });
    await store.insertCoupon(q, id, plan, sheet);
    for (const cell of sheet.cells)
      await store.insertCell(q, {
        id: uuidv7(),
        cutId: id,
        number: cell.number,
        setting: cell.setting,
        lengthUm: cell.length,
      });
  });
  return id;
}

export type CouponView = {
  id: string;
  createdAt: string;
  vinyl: Vinyl;
  cutter: { id: string; name: string; model: CutterModel };
  plan: Plan;
  sheet: CouponSheet;
  setAside: boolean;
  cells: { id: string; number: number; position: number; passesRun: number }[];
  /** Everything known of this vinyl on this cutter: what the browser needs to read the grades itself. */
  evidence: Evidence;
  events: GradeEvent[];
  result: FitResult;
};

async function ownCoupon(
  person: Person | undefined,
  id: string,
  verb: 'see' | 'change' = 'see',
): Promise<store.CouponRow> {
  const row = z.uuid().safeParse(id).success ? await store.couponById(db(), id) : undefined;
  if (!row || !can(person, verb, { owner: row.person_id })) throw new NotFound('No such coupon.');
  return row;
}

/** A coupon with all that grading it needs. Another person's is not found. */
export async function couponOf(person: Person | undefined, id: string): Promise<CouponView> {
  const row = await ownCoupon(person, id);
  const [vinyl, cutter, cells, runs, { evidence, events }] = await Promise.all([
    vinylOf(person, row.vinyl_id),
    workshopStore.cutterById(db(), row.cutter_id),
    store.cellsOf(db(), id),
    store.passesRun(db(), id),
    evidenceFor(row.person_id, row.vinyl_id, row.cutter_id),
  ]);
  const axis = cutter!.model.axes.find((a) => a.role === 'strength')!;
  const { result } = await posteriorOf(fitInputFrom(evidence, events));
  return {
    id,
    createdAt: row.created_at.toISOString(),
    vinyl,
    cutter: { id: cutter!.id, name: cutter!.name, model: cutter!.model },
    plan: row.plan,
    sheet: row.sheet,
    setAside: row.set_aside_at !== null,
    cells: cells.map((c) => ({
      id: c.id,
      number: c.number,
      position: c.setting.steps[axis.key]!,
      passesRun: runs.find((r) => r.cell_id === c.id)?.passes ?? 0,
    })),
    evidence,
    events,
    result,
  };
}

/** The coupon as SVG, whole or one cell of it on the same origin. */
export async function couponFile(
  person: Person | undefined,
  id: string,
  cell: number | undefined,
): Promise<{ name: string; svg: string }> {
  const row = await ownCoupon(person, id);
  const cutter = await workshopStore.cutterById(db(), row.cutter_id);
  if (cell !== undefined && !row.sheet.cells.some((c) => c.number === cell)) throw new NotFound('No such cell.');
  return {
    name: cell === undefined ? 'coupon.svg' : `coupon-cell-${cell}.svg`,
    svg: couponSvg(row.sheet, cutter!.model, cell),
  };
}

export type ListedCoupon = store.ListedCoupon;

export const listCoupons = (person: Person | undefined, limit = 100): Promise<ListedCoupon[]> =>
  person ? store.listCoupons(db(), person.id, limit) : Promise.resolve([]);

/** Puts an unfinished coupon out of the way; its grades still count. */
export async function setCouponAside(person: Person, id: string): Promise<void> {
  await ownCoupon(person, id, 'change');
  await store.setAside(db(), id);
}

export type Outcome = { id: string; outcome: 'stored' | 'already' | 'refused'; why?: string };

/** At most this many events in one delivery. */
export const MAX_EVENTS = 200;

/**
 * Takes what the bench sends. Each event stands alone: it is stored, was there already, or is refused for good with a reason;
 * a failure of the database is an error, so that the outbox keeps everything and tries again. Readings follow after the
 * events are safe.
 */
export async function takeEvents(person: Person, raw: unknown[]): Promise<Outcome[]> {
  const outcomes: Outcome[] = [];
  const touched = new Map<string, { vinylId: string; cutterId: string }>();
  for (const item of raw) {
    const id = typeof item === 'object' && item && 'id' in item ? String(item.id).slice(0, 60) : '';
    const parsed = benchEventSchema.safeParse(item);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      outcomes.push({ id, outcome: 'refused', why: `${issue.path.join('.') || 'event'}: ${issue.message}` });
      continue;
    }
    const event = parsed.data;
    const cell = await store.cellOwner(db(), event.cell);
    if (!cell || !can(person, 'grade', { owner: cell.person_id })) {
      outcomes.push({ id, outcome: 'refused', why: 'There is no such cell among your coupons.' });
      continue;
    }
    const stored =
      event.kind === 'cut'
        ? await store.insertCellCutEvent(db(), person.id, event)
        : await store.insertGradeEvent(db(), person.id, event);
    outcomes.push({ id, outcome: stored ? 'stored' : 'already' });
    if (event.kind !== 'cut')
      touched.set(`${cell.vinyl_id} ${cell.cutter_id}`, { vinylId: cell.vinyl_id, cutterId: cell.cutter_id });
  }
  // The events are safe from here on: a reading that fails is made again by the job.
  for (const { vinylId, cutterId } of touched.values())
    await refreshReading(person.id, vinylId, cutterId).catch(() => undefined);
  return outcomes;
}
