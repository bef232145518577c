import type { Setting } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { many, type Query, one } from '#store/base/db.ts';
import type { CouponSheet } from '#core/coupon/index.ts';
import type { Plan } from '#core/planner/index.ts';

export type Wanted = 'clean' | 'through';

export type CouponRow = {
  id: string;
  person_id: string;
  vinyl_id: string;
  colour_id: string | null;
  batch_id: string | null;
  cutter_id: string;
  mounting_id: string;
  blade_id: string;
  wanted: Wanted;
  plan: Plan;
  sheet: CouponSheet;
  created_at: Date;
  set_aside_at: Date | null;
  left_out_at: Date | null;
  /** The job it was made for, while that is there. */
  job_id: string | null;
  job_name: string | null;
};

export const insertCut = (
  q: Query,
  c: {
    id: string;
    kind: 'coupon' | 'ordinary';
    personId: string;
    vinylId: string;
    colourId: string | null;
    cutterId: string;
    mountingId: string;
    batchId?: string | null;
    /** Share of its life the blade has behind it; null where that is not known. */
    wear: number | null;
    createdAt?: Date;
  },
) =>
  q.query(
    `insert into cut (id, kind, person_id, vinyl_id, colour_id, batch_id, cutter_id, mounting_id, wear, mat_id, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $10, (select mat_id from bench where person_id = $3 and cutter_id = $7), coalesce($9, now()))`,
    [
      c.id,
      c.kind,
      c.personId,
      c.vinylId,
      c.colourId,
      c.batchId ?? null,
      c.cutterId,
      c.mountingId,
      c.createdAt ?? null,
      c.wear,
    ],
  );

/** Whose job it is that a coupon is made for. */
export const jobOf = (q: Query, id: string) =>
  one<{ id: string; person_id: string }>(q, 'select id, person_id from job where id = $1', [id]);

export const insertCoupon = (
  q: Query,
  cutId: string,
  c: { wanted: Wanted; plan: Plan; sheet: CouponSheet; jobId: string | undefined },
) =>
  q.query('insert into coupon (cut_id, wanted, plan, sheet, job_id) values ($1, $2, $3, $4, $5)', [
    cutId,
    c.wanted,
    c.plan,
    c.sheet,
    c.jobId ?? null,
  ]);

export const insertCell = (
  q: Query,
  c: { id: string; cutId: string; number: number; setting: Setting; lengthUm: number },
) =>
  q.query('insert into cell (id, cut_id, number, setting, length_um) values ($1, $2, $3, $4, $5)', [
    c.id,
    c.cutId,
    c.number,
    c.setting,
    c.lengthUm,
  ]);

export const couponById = (q: Query, id: string) =>
  one<CouponRow>(
    q,
    `select cut.id, cut.person_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.colour_id, cut.batch_id, cut.cutter_id, cut.mounting_id, n.blade_id,
        coupon.wanted, coupon.plan, coupon.sheet, cut.created_at, coupon.set_aside_at, cut.left_out_at, coupon.job_id, job.name as job_name
       from cut join coupon on coupon.cut_id = cut.id join mounting n on n.id = cut.mounting_id left join job on job.id = coupon.job_id
      where cut.id = $1`,
    [id],
  );

export const setAside = (q: Query, id: string, aside: boolean) =>
  q.query('update coupon set set_aside_at = case when $2 then now() end where cut_id = $1', [id, aside]);

export type CellRow = { id: string; number: number; setting: Setting };
export const cellsOf = (q: Query, cutId: string) =>
  many<CellRow>(q, 'select id, number, setting from cell where cut_id = $1 order by number', [cutId]);

export type EvidenceCell = {
  cell_id: string;
  cut_id: string;
  colour_id: string | null;
  batch_id: string | null;
  blade_id: string;
  wear: number | null;
  setting: Setting;
};

/**
 * Every cell one person cut of one vinyl, under any of its entries, on one cutter, coupons and ordinary cuts alike, with its occasion. Cuts
 * that were left out count for nothing, apart from one that is looked at by itself.
 */
export const evidenceCells = (q: Query, personId: string, vinylId: string, cutterId: string, alone: string | null) =>
  many<EvidenceCell>(
    q,
    `select cell.id as cell_id, cut.id as cut_id, colour_root(cut.colour_id) as colour_id, cut.batch_id, n.blade_id, cut.wear, cell.setting
       from cut join cell on cell.cut_id = cut.id join mounting n on n.id = cut.mounting_id
      where cut.person_id = $1 and cut.vinyl_id = any(array(select vinyl_kin($2))) and cut.cutter_id = $3
        and (cut.left_out_at is null or cut.id = $4)
      order by cut.created_at, cut.id, cell.number`,
    [personId, vinylId, cutterId, alone],
  );

/** The latest coupon that lay all over the mat of a cutter and has grades. */
export const lastEven = (q: Query, personId: string, cutterId: string) =>
  one<{ id: string }>(
    q,
    `select cut.id from cut join coupon on coupon.cut_id = cut.id
      where cut.person_id = $1 and cut.cutter_id = $2 and cut.left_out_at is null and coupon.plan ->> 'mode' = 'even'
        and exists (select 1 from cell join grade_event e on e.cell_id = cell.id where cell.cut_id = cut.id)
      order by cut.created_at desc limit 1`,
    [personId, cutterId],
  );

/** Somebody else's number that was last tried here, in the version of the model it was planned with. */
export const aroundOf = (q: Query, personId: string, vinylId: string, cutterId: string, wanted: Wanted) =>
  one<{ around: { position: number; sd: number }; version: number }>(
    q,
    `select coupon.plan -> 'around' as around, (coupon.sheet #>> '{cells,0,setting,version}')::int as version
       from cut join coupon on coupon.cut_id = cut.id
      where cut.person_id = $1 and cut.vinyl_id = any(array(select vinyl_kin($2))) and cut.cutter_id = $3 and coupon.wanted = $4
        and coupon.plan ? 'around' and cut.left_out_at is null
      order by cut.created_at desc limit 1`,
    [personId, vinylId, cutterId, wanted],
  );

/** The controls of the latest cut of a vinyl on a cutter for what is wanted; those kept as its setting come before. */
export const lastControls = (q: Query, personId: string, vinylId: string, cutterId: string, wanted: Wanted) =>
  one<{ setting: Setting }>(
    q,
    `select setting from (
       select s.controls as setting, 0 as rank, s.kept_at as at from setting s
        where s.person_id = $1 and s.vinyl_id = any(array(select vinyl_kin($2))) and s.cutter_id = $3 and s.wanted = $4 and s.replaced_at is null
       union all
       select coalesce(coupon.plan -> 'base', cell.setting), 1, cut.created_at from cut join cell on cell.cut_id = cut.id and cell.number = 1
         left join coupon on coupon.cut_id = cut.id left join ordinary_cut o on o.cut_id = cut.id
        where cut.person_id = $1 and cut.vinyl_id = any(array(select vinyl_kin($2))) and cut.cutter_id = $3 and coalesce(coupon.wanted, o.wanted) = $4
          and cut.left_out_at is null) x
     order by rank, at desc limit 1`,
    [personId, vinylId, cutterId, wanted],
  );

/** What anybody wanted of a vinyl on a cutter so far. */
export const wantedOf = async (q: Query, personId: string, vinylId: string, cutterId: string) =>
  (
    await many<{ wanted: Wanted }>(
      q,
      `select wanted from reading where person_id = $1 and vinyl_id = $2 and cutter_id = $3
       union select coalesce(coupon.wanted, o.wanted) from cut
         left join coupon on coupon.cut_id = cut.id left join ordinary_cut o on o.cut_id = cut.id
        where cut.person_id = $1 and cut.vinyl_id = any(array(select vinyl_kin($2))) and cut.cutter_id = $3
          and coalesce(coupon.wanted, o.wanted) is not null`,
      [personId, vinylId, cutterId],
    )
  ).map((r) => r.wanted);

/** The occasion of each cell: when, with what blade, on which colour and batch. */
export const cellDetails = (q: Query, cellIds: string[]) =>
  many<{
    cell_id: string;
    at: Date;
    /** In the words of packs and of what cards keep: an ordinary cut is a "job" there. */
    kind: 'coupon' | 'job';
    angle: number;
    colour: string | null;
    batch: string | null;
  }>(
    q,
    `select cell.id as cell_id, cut.created_at as at, case cut.kind when 'coupon' then 'coupon' else 'job' end as kind, b.angle_degrees as angle, c.name as colour, t.label as batch
       from cell join cut on cut.id = cell.cut_id join mounting n on n.id = cut.mounting_id join blade b on b.id = n.blade_id
       left join colour c on c.id = cut.colour_id left join batch t on t.id = cut.batch_id
      where cell.id = any($1)`,
    [cellIds],
  );

export type ListedCoupon = {
  id: string;
  vinyl_id: string;
  brand: string;
  vinyl: string;
  type: string;
  colour: string | null;
  hex: string | null;
  cutter: string;
  cutter_id: string;
  created_at: Date;
  cells: number;
  graded: number;
  cut: number;
  set_aside_at: Date | null;
  left_out_at: Date | null;
};

/** Coupons of one person, latest first; of one vinyl where that is said. */
export const listCoupons = (q: Query, personId: string, limit: number, vinylId: string | null = null) =>
  many<ListedCoupon>(
    q,
    `select cut.id, v.id as vinyl_id, v.brand, v.name as vinyl, v.type, c.name as colour, c.hex, k.name as cutter, k.id as cutter_id,
        cut.created_at, coupon.set_aside_at, cut.left_out_at,
        (select count(*)::int from cell where cell.cut_id = cut.id
            and not exists (select 1 from device_cell d where d.cell_id = cell.id and d.state = 'spoiled')) as cells,
        (select count(distinct e.cell_id)::int from cell join grade_event e on e.cell_id = cell.id
          where cell.cut_id = cut.id and e.kind = 'grade'
            and not exists (select 1 from grade_event x where x.cell_id = e.cell_id and x.retracts = e.id)) as graded,
        (select count(distinct e.cell_id)::int from cell join cell_cut_event e on e.cell_id = cell.id where cell.cut_id = cut.id) as cut
       from cut join coupon on coupon.cut_id = cut.id join vinyl v on v.id = cut.vinyl_id
       left join colour c on c.id = cut.colour_id join cutter k on k.id = cut.cutter_id
      where cut.person_id = $1 ${vinylId === null ? '' : 'and cut.vinyl_id = any(array(select vinyl_kin($3)))'}
      order by cut.created_at desc limit $2`,
    vinylId === null ? [personId, limit] : [personId, limit, vinylId],
  );

export type RunState = 'waiting' | 'sending' | 'cut' | 'unclear' | 'not cut' | 'spoiled';
export type RunCellRow = {
  run_id: string;
  cell_id: string;
  pass: number;
  number: number;
  state: RunState;
  note: string | null;
};

/** Cells of a cut that nobody is sure about, and those that are spoiled, whichever run they belong to. */
export const doubtfulCells = (q: Query, cutId: string) =>
  many<RunCellRow>(
    q,
    `select d.* from device_cell d join device_run r on r.id = d.run_id
      where r.cut_id = $1 and d.state in ('unclear', 'spoiled') order by d.number, d.pass`,
    [cutId],
  );

/** Cells of a cut of which there is a picture. */
export const picturedCells = async (q: Query, cutId: string) =>
  new Set(
    (
      await many<{ cell_id: string }>(
        q,
        'select distinct p.cell_id from cell_picture p join cell on cell.id = p.cell_id where cell.cut_id = $1',
        [cutId],
      )
    ).map((r) => r.cell_id),
  );

/** One graded cell of the evidence as people read it, the same on the bench card and on a card that is shared. */
export type EvidenceRow = {
  at: string;
  kind: 'coupon' | 'job';
  setting: Setting;
  passes: number;
  grade: Grade;
  angle: number;
  colour: string;
  batch: string;
};

/** Whether the newest plan of somebody's job leaves room for a test cut on the film of a vinyl. */
export const hasCorner = async (q: Query, personId: string, jobId: string, vinylId: string) =>
  (await one(
    q,
    `select 1 from job j join lateral (select plan from job_plan where job_id = j.id order by rev desc limit 1) p on true
      where j.id = $1 and j.person_id = $2
        and p.plan -> 'layers' @> jsonb_build_array(jsonb_build_object('vinyl', $3::text, 'test', true))`,
    [jobId, personId, vinylId],
  )) !== undefined;
