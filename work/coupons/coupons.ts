import { passesOf, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import type { CouponSheet } from '#core/coupon/index.ts';
import { writeCutFile, type CutFileKind } from '#core/cutfile/index.ts';
import type { GradeEvent, WeedEvent } from '#core/grades/index.ts';
import type { Plan } from '#core/planner/index.ts';
import { fitInputFrom, type Evidence, type FitResult } from '#core/window/index.ts';
import * as store from '#store/coupons/coupons.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { evidenceFor } from './evidence.ts';
import { posteriorOf } from './readings.ts';
import { vinylOf, type Vinyl } from '#work/vinyls/vinyls.ts';
import * as eventStore from '#store/coupons/events.ts';
import { owned } from '#work/people/owned.ts';

export type CouponView = {
  id: string;
  createdAt: string;
  vinyl: Vinyl;
  cutter: { id: string; name: string; model: CutterModel };
  plan: Plan;
  sheet: CouponSheet;
  wanted: Wanted;
  setAside: boolean;
  /** Counted nowhere: on the wrong vinyl, or the sheet slipped. */
  leftOut: boolean;
  /** The job it was made for: its number is waited for there. */
  job: { id: string; name: string } | undefined;
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
export const ownCoupon = (
  person: Person | undefined,
  id: string,
  verb: 'see' | 'change' = 'see',
): Promise<store.CouponRow> => owned(person, verb, 'coupon', id, (it) => store.couponById(db(), it));

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
    eventStore.passesRun(db(), id),
    store.picturedCells(db(), id),
    store.doubtfulCells(db(), id),
  ]);
  const spoiled = new Set(doubtful.filter((d) => d.state === 'spoiled').map((d) => d.cell_id));
  const { evidence, events } = await evidenceFor(row.person_id, row.vinyl_id, row.cutter_id, row.wanted, {
    base: setting,
    version: model,
    colour: row.colour_id ?? undefined,
    batch: row.batch_id ?? undefined,
    alone: id,
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
    job: row.job_id === null ? undefined : { id: row.job_id, name: row.job_name! },
    leftOut: row.left_out_at !== null,
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
    weeds: await eventStore.weedsOfCells(
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

/** Puts an unfinished coupon out of the way, or takes it up again; its grades count all the same. */
export async function setCouponAside(person: Person, id: string, aside: boolean): Promise<void> {
  await ownCoupon(person, id, 'change');
  await store.setAside(db(), id, aside);
}
