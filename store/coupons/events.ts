import type { Finest } from '#core/coupon/index.ts';
import type { Grade, Detail, GradeEvent, WeedEvent } from '#core/grades/index.ts';
import { many, type Query, one } from '#store/base/db.ts';

/** Who made a cell, to decide who may grade it, and how much was said of it. */
export const cellOwner = (q: Query, cellId: string) =>
  one<{ person_id: string; cut_id: string; vinyl_id: string; cutter_id: string; told: number }>(
    q,
    `select cut.person_id, cut.id as cut_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.cutter_id,
        (select count(*)::int from grade_event e where e.cell_id = cell.id)
          + (select count(*)::int from cell_cut_event e where e.cell_id = cell.id)
          + (select count(*)::int from weed_event e where e.cell_id = cell.id) as told
       from cell join cut on cut.id = cell.cut_id where cell.id = $1`,
    [cellId],
  );

/** Adds an event; answers false when it was there already. */
export const insertGradeEvent = async (q: Query, personId: string, e: GradeEvent) =>
  (
    await q.query(
      `insert into grade_event (id, cell_id, kind, figure, passes, grade, retracts, person_id, device_id, device_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict (id) do nothing`,
      [
        e.id,
        e.cell,
        e.kind,
        e.kind === 'grade' ? e.figure : null,
        e.kind === 'grade' ? e.passes : null,
        e.kind === 'grade' ? e.grade : null,
        e.kind === 'retract' ? e.retracts : null,
        personId,
        e.device,
        e.deviceAt,
      ],
    )
  ).rowCount === 1;

export const insertCellCutEvent = async (
  q: Query,
  personId: string,
  e: { id: string; cell: string; passes: number; device: string; deviceAt: string },
) =>
  (
    await q.query(
      `insert into cell_cut_event (id, cell_id, person_id, passes, device_id, device_at)
       values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing`,
      [e.id, e.cell, personId, e.passes, e.device, e.deviceAt],
    )
  ).rowCount === 1;

export const passesRun = (q: Query, cutId: string) =>
  many<{ cell_id: string; passes: number }>(
    q,
    `select e.cell_id, max(e.passes)::int as passes from cell_cut_event e join cell on cell.id = e.cell_id
      where cell.cut_id = $1 group by e.cell_id`,
    [cutId],
  );

type EventRow = {
  id: string;
  cell_id: string;
  kind: 'grade' | 'retract';
  figure: number;
  passes: number;
  grade: Grade;
  retracts: string;
  device_id: string;
  device_at: Date;
};
const toEvent = (r: EventRow): GradeEvent => {
  const common = { id: r.id, cell: r.cell_id, device: r.device_id, deviceAt: r.device_at.toISOString() };
  return r.kind === 'grade'
    ? { ...common, kind: 'grade', figure: r.figure, passes: r.passes, grade: r.grade }
    : { ...common, kind: 'retract', retracts: r.retracts };
};

/** Adds what was said about weeding a cell; answers false when it was there already. */
export const insertWeedEvent = async (q: Query, personId: string, e: WeedEvent) =>
  (
    await q.query(
      `insert into weed_event (id, cell_id, ease, lost, torn, person_id, device_id, device_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict (id) do nothing`,
      [e.id, e.cell, e.ease, e.lost, e.torn, personId, e.device, e.deviceAt],
    )
  ).rowCount === 1;

/** Cells of some vinyls that one person cut and told of how they weeded. */
export const weededCells = (q: Query, personId: string, vinylIds: readonly string[]) =>
  many<{ cell_id: string; vinyl_id: string }>(
    q,
    `select distinct cell.id as cell_id, cut.vinyl_id from cut join cell on cell.cut_id = cut.id join weed_event e on e.cell_id = cell.id
     where cut.person_id = $1 and cut.vinyl_id = any($2)`,
    [personId, vinylIds],
  );

/** How cells weeded, with what their figures tested where that was not the usual. */
export const weedsOfCells = async (q: Query, cells: readonly string[]): Promise<(WeedEvent & { finest?: Finest })[]> =>
  (
    await many<{
      id: string;
      cell_id: string;
      ease: number;
      lost: Detail[];
      torn: boolean;
      device_id: string;
      device_at: Date;
      finest: Finest | null;
    }>(
      q,
      `select e.id, e.cell_id, e.ease, e.lost, e.torn, e.device_id, e.device_at, coupon.sheet -> 'finest' as finest
       from weed_event e join cell on cell.id = e.cell_id left join coupon on coupon.cut_id = cell.cut_id where e.cell_id = any($1)`,
      [cells],
    )
  ).map((e) => ({
    id: e.id,
    kind: 'weed',
    cell: e.cell_id,
    ease: e.ease,
    lost: e.lost,
    torn: e.torn,
    device: e.device_id,
    deviceAt: e.device_at.toISOString(),
    ...(e.finest ? { finest: e.finest } : {}),
  }));

export const eventsOfCells = async (q: Query, cellIds: string[]) =>
  (await many<EventRow>(q, 'select * from grade_event where cell_id = any($1) order by device_at, id', [cellIds])).map(
    toEvent,
  );
