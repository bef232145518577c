import { many, one, type Query } from '#store/base/db.ts';
import type { RunCellRow, RunState } from '#store/coupons/coupons.ts';

export type RunRow = {
  id: string;
  cut_id: string;
  person_id: string;
  device: string;
  started_at: Date;
  ended_at: Date | null;
  trouble: string | null;
};

export const insertRun = (
  q: Query,
  r: { id: string; cutId: string; personId: string; device: string; driver: string },
) =>
  q.query('insert into device_run (id, cut_id, person_id, device, driver) values ($1, $2, $3, $4, $5)', [
    r.id,
    r.cutId,
    r.personId,
    r.device,
    r.driver,
  ]);

/** The process that runs a run says that it is alive. */
export const beat = (q: Query, runId: string) =>
  q.query('update device_run set beat_at = now() where id = $1 and ended_at is null', [runId]);

export const insertRunCell = (q: Query, c: { runId: string; cellId: string; pass: number; number: number }) =>
  q.query('insert into device_cell (run_id, cell_id, pass, number) values ($1, $2, $3, $4)', [
    c.runId,
    c.cellId,
    c.pass,
    c.number,
  ]);

export const latestRun = (q: Query, cutId: string) =>
  one<RunRow>(q, 'select * from device_run where cut_id = $1 order by started_at desc, id desc limit 1', [cutId]);

export const runById = (q: Query, id: string) => one<RunRow>(q, 'select * from device_run where id = $1', [id]);

export const runCells = (q: Query, runId: string) =>
  many<RunCellRow>(q, 'select * from device_cell where run_id = $1 order by number, pass', [runId]);

/** Moves a pass from one state to another; answers false when it was not in the first. */
export const moveCell = async (
  q: Query,
  c: { runId: string; cellId: string; pass: number },
  from: RunState,
  to: RunState,
  note: string | null = null,
) =>
  (
    await q.query(
      `update device_cell set state = $5, note = $6, changed_at = now()
        where run_id = $1 and cell_id = $2 and pass = $3 and state = $4`,
      [c.runId, c.cellId, c.pass, from, to, note],
    )
  ).rowCount === 1;

/** Ends a run. What never left is not cut; what may have left is unclear. */
export async function endRun(q: Query, runId: string, trouble: string | null): Promise<void> {
  await q.query(
    `update device_cell set state = case state when 'sending' then 'unclear' else 'not cut' end,
        note = coalesce(note, $2), changed_at = now()
      where run_id = $1 and state in ('waiting', 'sending')`,
    [runId, trouble],
  );
  await q.query('update device_run set ended_at = now(), trouble = $2 where id = $1 and ended_at is null', [
    runId,
    trouble,
  ]);
}

/**
 * Runs that are open, and whether their process has been silent for so many seconds in which it could have spoken: while the database was
 * away nobody could.
 */
export const openRuns = (q: Query, seconds: number) =>
  many<RunRow & { driver: string | null; silent: boolean }>(
    q,
    `select *, greatest(beat_at, pg_postmaster_start_time()) < now() - make_interval(secs => $1) as silent
       from device_run where ended_at is null`,
    [seconds],
  );

export const insertPicture = (q: Query, cellId: string, pass: number, svg: string) =>
  q.query(
    `insert into cell_picture (cell_id, pass, svg) values ($1, $2, $3)
     on conflict (cell_id, pass) do update set svg = excluded.svg, taken_at = now()`,
    [cellId, pass, svg],
  );

/** The picture of a cell after so many passes, or after the most before. */
export const pictureOf = (q: Query, cutId: string, number: number, pass: number) =>
  one<{ svg: string }>(
    q,
    `select p.svg from cell_picture p join cell on cell.id = p.cell_id
      where cell.cut_id = $1 and cell.number = $2 and p.pass <= $3 order by p.pass desc limit 1`,
    [cutId, number, pass],
  );
