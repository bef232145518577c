import type { Finest } from '#core/coupon/index.ts';
import type { BenchEvent, Grade, Detail, GradeEvent, WeedEvent } from '#core/grades/index.ts';
import { many, type Query } from '#store/base/db.ts';

/** Who made each of some cells, to decide who may grade it, and how much was said of it. */
export const cellOwners = (q: Query, cells: readonly string[]) =>
  many<{ cell_id: string; person_id: string; cut_id: string; vinyl_id: string; cutter_id: string; told: number }>(
    q,
    `select cell.id as cell_id, cut.person_id, cut.id as cut_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.cutter_id,
        (select count(*)::int from grade_event e where e.cell_id = cell.id)
          + (select count(*)::int from cell_cut_event e where e.cell_id = cell.id)
          + (select count(*)::int from weed_event e where e.cell_id = cell.id) as told
       from cell join cut on cut.id = cell.cut_id where cell.id = any($1)`,
    [cells],
  );

/** Those of some events that are there already. */
export const eventsThere = async (q: Query, ids: readonly string[]): Promise<string[]> =>
  (
    await many<{ id: string }>(
      q,
      `select id from grade_event where id = any($1) union all select id from cell_cut_event where id = any($1)
       union all select id from weed_event where id = any($1)`,
      [ids],
    )
  ).map((r) => r.id);

/** A pass over a cell, as a hand or the line to a cutter tells it. */
export type PassRun = Pick<BenchEvent, 'id' | 'cell' | 'device' | 'deviceAt'> & { kind: 'cut'; passes: number };

/** Adds what was said of cells, one statement a table; what is there already stays as it is. Answers the ids of those that were added. */
export async function insertEvents(
  q: Query,
  personId: string,
  events: readonly (GradeEvent | WeedEvent | PassRun)[],
): Promise<Set<string>> {
  const added = new Set<string>();
  const insert = async (kinds: readonly string[], statement: string) => {
    const these = events.filter((e) => kinds.includes(e.kind));
    if (these.length === 0) return;
    const { rows } = await q.query<{ id: string }>(`${statement} on conflict (id) do nothing returning id`, [
      JSON.stringify(these),
      personId,
    ]);
    for (const { id } of rows) added.add(id);
  };
  await insert(
    ['grade', 'retract'],
    `insert into grade_event (id, cell_id, kind, figure, passes, grade, retracts, person_id, device_id, device_at)
     select id, cell, kind, figure, passes, grade, retracts, $2, device, "deviceAt"
       from jsonb_to_recordset($1::jsonb) as e (id uuid, cell uuid, kind text, figure integer, passes integer, grade text,
         retracts uuid, device uuid, "deviceAt" timestamptz)`,
  );
  await insert(
    ['cut'],
    `insert into cell_cut_event (id, cell_id, person_id, passes, device_id, device_at)
     select id, cell, $2, passes, device, "deviceAt"
       from jsonb_to_recordset($1::jsonb) as e (id uuid, cell uuid, passes integer, device uuid, "deviceAt" timestamptz)`,
  );
  await insert(
    ['weed'],
    `insert into weed_event (id, cell_id, ease, lost, torn, person_id, device_id, device_at)
     select id, cell, ease, lost, torn, $2, device, "deviceAt"
       from jsonb_to_recordset($1::jsonb) as e (id uuid, cell uuid, ease integer, lost text[], torn boolean, device uuid,
         "deviceAt" timestamptz)`,
  );
  return added;
}

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
