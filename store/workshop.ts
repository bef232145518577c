import type { CutterModel } from '#core/controls/index.ts';
import { many, one, type Query } from './db.ts';

export const publishModel = (q: Query, model: CutterModel) =>
  q.query(
    'insert into cutter_model (key, version, name, definition) values ($1, $2, $3, $4) on conflict (key, version) do nothing',
    [model.key, model.version, model.name, model],
  );

export const newestModels = (q: Query) =>
  many<{ definition: CutterModel }>(
    q,
    'select distinct on (key) definition from cutter_model order by key, version desc',
  );

export const modelByVersion = (q: Query, key: string, version: number) =>
  one<{ definition: CutterModel }>(q, 'select definition from cutter_model where key = $1 and version = $2', [
    key,
    version,
  ]);

/** Moves a cutter to another version of its model; what was cut keeps the version it was cut with. */
export const setModelVersion = (q: Query, cutterId: string, version: number) =>
  q.query('update cutter set model_version = $2 where id = $1', [cutterId, version]);

export type CutterRow = {
  id: string;
  person_id: string;
  name: string;
  model: CutterModel;
  mounting_id: string | null;
  blade_id: string | null;
  blade_name: string | null;
  blade_angle: number | null;
  blade_life_um: number | null;
  blade_cut_um: number | null;
};

/** What a blade has cut: what it brought along, and every pass run over cells while it was mounted. */
const bladeCut = `(b.cut_before_um + coalesce((
  select sum(ce.length_um * (select coalesce(max(e.passes), 0) from cell_cut_event e where e.cell_id = ce.id))
    from mounting m2 join cut c on c.mounting_id = m2.id join cell ce on ce.cut_id = c.id
   where m2.blade_id = b.id), 0))::bigint`;

const cutterSelect = `select k.id, k.person_id, k.name, m.definition as model, n.id as mounting_id,
    b.id as blade_id, b.name as blade_name, b.angle_degrees as blade_angle, b.life_um as blade_life_um, ${bladeCut} as blade_cut_um
  from cutter k join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
  left join mounting n on n.cutter_id = k.id and n.removed_at is null
  left join blade b on b.id = n.blade_id`;

export const cuttersOf = (q: Query, personId: string) =>
  many<CutterRow>(q, `${cutterSelect} where k.person_id = $1 and k.retired_at is null order by k.created_at`, [
    personId,
  ]);

export const cutterById = (q: Query, id: string) => one<CutterRow>(q, `${cutterSelect} where k.id = $1`, [id]);

export const benchOf = (q: Query, personId: string) =>
  one<CutterRow>(q, `${cutterSelect} join bench h on h.cutter_id = k.id where h.person_id = $1`, [personId]);

export const insertCutter = (
  q: Query,
  c: { id: string; personId: string; name: string; modelKey: string; modelVersion: number },
) =>
  q.query('insert into cutter (id, person_id, name, model_key, model_version) values ($1, $2, $3, $4, $5)', [
    c.id,
    c.personId,
    c.name,
    c.modelKey,
    c.modelVersion,
  ]);

export const putOnBench = (q: Query, personId: string, cutterId: string) =>
  q.query(
    'insert into bench (person_id, cutter_id) values ($1, $2) on conflict (person_id) do update set cutter_id = excluded.cutter_id',
    [personId, cutterId],
  );

export const insertBlade = (
  q: Query,
  b: { id: string; personId: string; name: string; angle: number; lifeUm: number; cutBeforeUm: number },
) =>
  q.query(
    'insert into blade (id, person_id, name, angle_degrees, life_um, cut_before_um) values ($1, $2, $3, $4, $5, $6)',
    [b.id, b.personId, b.name, b.angle, b.lifeUm, b.cutBeforeUm],
  );

export const bladeOwner = (q: Query, id: string) =>
  one<{ person_id: string }>(q, 'select person_id from blade where id = $1', [id]);

export type BladeRow = {
  id: string;
  name: string;
  angle: number;
  life_um: number;
  cut_um: number;
  cutter_id: string | null;
};
export const bladesOf = (q: Query, personId: string) =>
  many<BladeRow>(
    q,
    `select b.id, b.name, b.angle_degrees as angle, b.life_um, ${bladeCut} as cut_um, n.cutter_id
       from blade b left join mounting n on n.blade_id = b.id and n.removed_at is null
      where b.person_id = $1 order by b.created_at`,
    [personId],
  );

/** Takes off what is on this cutter, and this blade from wherever it is. */
export const unmount = (q: Query, cutterId: string, bladeId: string) =>
  q.query('update mounting set removed_at = now() where removed_at is null and (cutter_id = $1 or blade_id = $2)', [
    cutterId,
    bladeId,
  ]);

export const insertMounting = (q: Query, id: string, cutterId: string, bladeId: string) =>
  q.query('insert into mounting (id, cutter_id, blade_id) values ($1, $2, $3)', [id, cutterId, bladeId]);
