import type { Setting } from '#core/controls/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { many, one, type Query } from '#store/base/db.ts';

export const insertJob = (q: Query, cutId: string, wanted: Wanted, witness: boolean) =>
  q.query('insert into job (cut_id, wanted, witness) values ($1, $2, $3)', [cutId, wanted, witness]);

export const dropJob = (q: Query, cutId: string) =>
  q.query('update job set dropped_at = now() where cut_id = $1 and dropped_at is null', [cutId]);

export type JobRow = {
  id: string;
  person_id: string;
  vinyl_id: string;
  colour_id: string | null;
  cutter_id: string;
  cutter: string;
  wanted: Wanted;
  witness: boolean;
  cell_id: string;
  setting: Setting;
  created_at: Date;
  graded: boolean;
};

const jobSelect = `select cut.id, cut.person_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.colour_id, cut.cutter_id, k.name as cutter, job.wanted, job.witness, cell.id as cell_id,
    cell.setting, cut.created_at,
    exists (select 1 from grade_event e where e.cell_id = cell.id and e.kind = 'grade'
      and not exists (select 1 from grade_event x where x.cell_id = cell.id and x.retracts = e.id)) as graded
  from job join cut on cut.id = job.cut_id join cell on cell.cut_id = cut.id and cell.number = 1 join cutter k on k.id = cut.cutter_id`;

export const jobById = (q: Query, id: string) => one<JobRow>(q, `${jobSelect} where cut.id = $1`, [id]);

/** Jobs nobody has graded yet, latest first. */
export const openJobs = (q: Query, personId: string, limit: number) =>
  many<JobRow>(
    q,
    `select * from (${jobSelect} where cut.person_id = $1 and job.dropped_at is null) x
      where not graded order by created_at desc limit $2`,
    [personId, limit],
  );
