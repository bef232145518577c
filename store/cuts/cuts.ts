import type { Setting } from '#core/controls/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { many, one, type Query } from '#store/base/db.ts';

export const insertOrdinaryCut = (q: Query, cutId: string, wanted: Wanted, witness: boolean) =>
  q.query('insert into ordinary_cut (cut_id, wanted, witness) values ($1, $2, $3)', [cutId, wanted, witness]);

/** Says that a cut has a test mark. @returns false where it had one already */
export const markWitness = async (q: Query, cutId: string) =>
  (await q.query('update ordinary_cut set witness = true where cut_id = $1 and not witness', [cutId])).rowCount === 1;

export type OrdinaryCutRow = {
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
  left_out: boolean;
};

const cutSelect = `select cut.id, cut.person_id, vinyl_root(cut.vinyl_id) as vinyl_id, cut.colour_id, cut.cutter_id, k.name as cutter, o.wanted, o.witness, cell.id as cell_id,
    cell.setting, cut.created_at, cut.left_out_at is not null as left_out,
    exists (select 1 from grade_event e where e.cell_id = cell.id and e.kind = 'grade'
      and not exists (select 1 from grade_event x where x.cell_id = cell.id and x.retracts = e.id)) as graded
  from ordinary_cut o join cut on cut.id = o.cut_id join cell on cell.cut_id = cut.id and cell.number = 1 join cutter k on k.id = cut.cutter_id`;

export const cutById = (q: Query, id: string) => one<OrdinaryCutRow>(q, `${cutSelect} where cut.id = $1`, [id]);

/** Cuts nobody has graded yet, latest first. */
export const openCuts = (q: Query, personId: string, limit: number) =>
  many<OrdinaryCutRow>(
    q,
    `select * from (${cutSelect} where cut.person_id = $1 and cut.left_out_at is null) x
      where not graded order by created_at desc limit $2`,
    [personId, limit],
  );

/** Takes the metres of a cut off its blade, or puts them on it again: those of every pass that was run, in the type of its vinyl. */
export const ageBlade = (q: Query, cutId: string, sign: 1 | -1) =>
  q.query(
    `with x as (
       select n.blade_id, v.type, coalesce(sum(ce.length_um * coalesce((select max(e.passes) from cell_cut_event e where e.cell_id = ce.id), 0)), 0)::bigint as um
         from cut c join cell ce on ce.cut_id = c.id join mounting n on n.id = c.mounting_id join vinyl v on v.id = c.vinyl_id
        where c.id = $1 group by 1, 2
     ), known as (
       update blade_run r set run_um = greatest(0, r.run_um + $2 * x.um) from x where r.blade_id = x.blade_id and r.type = x.type returning 1
     )
     insert into blade_run (blade_id, type, run_um)
       select blade_id, type, um from x where $2 > 0 and um > 0 and not exists (select 1 from known)`,
    [cutId, sign],
  );
