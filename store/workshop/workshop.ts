import type { HandPressures, Level } from '#core/press/index.ts';
import type { CutterModel } from '#core/controls/index.ts';
import { many, one, type Query } from '#store/base/db.ts';

export const publishModel = (q: Query, model: CutterModel) =>
  q.query(
    'insert into cutter_model (key, version, name, definition) values ($1, $2, $3, $4) on conflict (key, version) do nothing',
    [model.key, model.version, model.name, model],
  );

/** Newest versions of the models that ship and of a person's own. */
export const newestModels = (q: Query, personId: string | null) =>
  many<{ definition: CutterModel; own: boolean }>(
    q,
    `select distinct on (m.key) m.definition, o.person_id is not null as own
       from cutter_model m left join model_owner o on o.key = m.key
      where o.person_id is null or o.person_id = $1 order by m.key, m.version desc`,
    [personId],
  );
export const modelOwner = (q: Query, key: string) =>
  one<{ person_id: string | null }>(
    q,
    `select o.person_id from cutter_model m left join model_owner o on o.key = m.key where m.key = $1 limit 1`,
    [key],
  );
export const setModelOwner = (q: Query, key: string, personId: string) =>
  q.query('insert into model_owner (key, person_id) values ($1, $2)', [key, personId]);

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
  usable_width_um: number | null;
  model: CutterModel;
  mounting_id: string | null;
  blade_id: string | null;
  blade_name: string | null;
  blade_angle: number | null;
  blade_life_um: number | null;
  blade_offset_um: number | null;
  blade_before_um: number | null;
  blade_cut_um: number | null;
  blade_runs: Record<string, number>;
  mounted_at: Date | null;
  model_person: string | null;
};

/** What a blade has cut: what it brought along and what it ran since, all together and a figure for each type of vinyl. */
const bladeRun = `b.cut_before_um + coalesce((select sum(run_um) from blade_run where blade_id = b.id), 0)::bigint`;
const bladeRuns = `coalesce((select jsonb_object_agg(type, run_um) from blade_run where blade_id = b.id), '{}')`;

const cutterSelect = `select k.id, k.person_id, k.name, k.usable_width_um, m.definition as model, n.id as mounting_id,
    b.id as blade_id, b.name as blade_name, b.angle_degrees as blade_angle, b.offset_um as blade_offset_um,
    b.life_um as blade_life_um, b.cut_before_um as blade_before_um, ${bladeRun} as blade_cut_um, ${bladeRuns} as blade_runs,
    n.mounted_at, o.person_id as model_person
  from cutter k join cutter_model m on (m.key, m.version) = (k.model_key, k.model_version)
  left join mounting n on n.cutter_id = k.id and n.removed_at is null
  left join blade b on b.id = n.blade_id left join model_owner o on o.key = k.model_key`;

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
  b: {
    id: string;
    personId: string;
    name: string;
    angle: number;
    offsetUm: number;
    lifeUm: number;
    cutBeforeUm: number;
  },
) =>
  q.query(
    `insert into blade (id, person_id, name, angle_degrees, offset_um, life_um, cut_before_um) values ($1, $2, $3, $4, $5, $6, $7)`,
    [b.id, b.personId, b.name, b.angle, b.offsetUm, b.lifeUm, b.cutBeforeUm],
  );

export const updateCutter = (q: Query, id: string, c: { name: string; usable_width_um: number | null }) =>
  q.query('update cutter set name = $2, usable_width_um = $3 where id = $1', [id, c.name, c.usable_width_um]);

export type OwnBlade = {
  person_id: string;
  name: string;
  angle: number;
  offset_um: number;
  life_um: number;
  before_um: number;
};
export const bladeById = (q: Query, id: string) =>
  one<OwnBlade>(
    q,
    `select person_id, name, angle_degrees as angle, offset_um, life_um, cut_before_um as before_um from blade where id = $1`,
    [id],
  );
export const updateBlade = (q: Query, id: string, b: Omit<OwnBlade, 'person_id'>) =>
  q.query(
    'update blade set name = $2, angle_degrees = $3, offset_um = $4, life_um = $5, cut_before_um = $6 where id = $1',
    [id, b.name, b.angle, b.offset_um, b.life_um, b.before_um],
  );

export type BladeRow = {
  id: string;
  name: string;
  angle: number;
  life_um: number;
  cut_um: number;
  before_um: number;
  runs: Record<string, number>;
  offset_um: number;
  cutter_id: string | null;
};
export const bladesOf = (q: Query, personId: string) =>
  many<BladeRow>(
    q,
    `select b.id, b.name, b.angle_degrees as angle, b.life_um, ${bladeRun} as cut_um, b.cut_before_um as before_um, ${bladeRuns} as runs, b.offset_um, n.cutter_id
       from blade b left join (mounting n join cutter k on k.id = n.cutter_id and k.retired_at is null)
           on n.blade_id = b.id and n.removed_at is null
      where b.person_id = $1 and b.retired_at is null order by b.created_at`,
    [personId],
  );

/** What blades of a person's had cut that were on a cutter and came off, put away or not. */
export const wornBlades = (q: Query, personId: string) =>
  many<{ before_um: number; life_um: number; runs: Record<string, number> }>(
    q,
    `select b.cut_before_um as before_um, b.life_um, ${bladeRuns} as runs from blade b
      where b.person_id = $1 and exists (select 1 from mounting where blade_id = b.id)
        and not exists (select 1 from mounting where blade_id = b.id and removed_at is null)`,
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

/** Which numbers the blade that is on a cutter moved when it was put on. */
export type Moved = { vinyl: string; before: number; after: number };
export const setMoved = (q: Query, cutterId: string, moved: readonly Moved[]) =>
  q.query('update mounting set moved = $2 where cutter_id = $1 and removed_at is null', [
    cutterId,
    JSON.stringify(moved),
  ]);
export const movedOf = (q: Query, cutterId: string) =>
  one<{ moved: Moved[]; mounted_at: Date; blade: string }>(
    q,
    `select m.moved, m.mounted_at, b.name as blade from mounting m join blade b on b.id = m.blade_id
      where m.cutter_id = $1 and m.removed_at is null`,
    [cutterId],
  );

// A scale under the tip -----------------------------------------------------------------------------------------------------

export type ScaleRow = { id: string; position: number; milligrams: number; at: Date };
export const scaleReadings = (q: Query, cutterId: string) =>
  many<ScaleRow>(q, 'select id, position, milligrams, at from scale_reading where cutter_id = $1 order by position', [
    cutterId,
  ]);
/** Weighed again at the same place, the later figure counts. */
export const setScaleReading = (q: Query, r: { id: string; cutterId: string; position: number; milligrams: number }) =>
  q.query(
    `insert into scale_reading (id, cutter_id, position, milligrams) values ($1, $2, $3, $4)
     on conflict (cutter_id, position) do update set milligrams = excluded.milligrams, at = now()`,
    [r.id, r.cutterId, r.position, r.milligrams],
  );
export const dropScaleReading = (q: Query, cutterId: string, id: string) =>
  q.query('delete from scale_reading where cutter_id = $1 and id = $2', [cutterId, id]);

// Mats ----------------------------------------------------------------------------------------------------------------------

export type MatRow = {
  id: string;
  name: string;
  grip: 'light' | 'ordinary' | 'high';
  width_um: number;
  length_um: number;
  washed_at: Date;
  washes: number;
  /** Cuts since it was washed. */
  loads: number;
  in_use: boolean;
};
export const matsOf = (q: Query, personId: string) =>
  many<MatRow>(
    q,
    `select m.id, m.name, m.grip, m.width_um, m.length_um, m.washed_at, m.washes,
        (m.loads_before + (select count(*) from cut where cut.mat_id = m.id and cut.created_at > m.washed_at))::int as loads,
        exists (select 1 from bench where mat_id = m.id) as in_use
       from mat m where m.person_id = $1 and m.retired_at is null order by m.made_at`,
    [personId],
  );
export const insertMat = (
  q: Query,
  m: { id: string; personId: string; name: string; grip: string; widthUm: number; lengthUm: number; loads: number },
) =>
  q.query(
    'insert into mat (id, person_id, name, grip, width_um, length_um, loads_before) values ($1, $2, $3, $4, $5, $6, $7)',
    [m.id, m.personId, m.name, m.grip, m.widthUm, m.lengthUm, m.loads],
  );
export type OwnMat = {
  person_id: string;
  name: string;
  grip: MatRow['grip'];
  width_um: number;
  length_um: number;
  loads: number;
};
/** A mat with its loads since it was washed, those before it was here included. */
export const matById = (q: Query, id: string) =>
  one<OwnMat>(
    q,
    `select m.person_id, m.name, m.grip, m.width_um, m.length_um,
        (m.loads_before + (select count(*) from cut where cut.mat_id = m.id and cut.created_at > m.washed_at))::int as loads
       from mat m where m.id = $1`,
    [id],
  );
/** @param loads since it was washed: what is cut on it from now on comes on top */
export const updateMat = (q: Query, id: string, m: Omit<OwnMat, 'person_id'>) =>
  q.query(
    `update mat m set name = $2, grip = $3, width_um = $4, length_um = $5,
        loads_before = greatest(0, $6 - (select count(*) from cut where cut.mat_id = m.id and cut.created_at > m.washed_at))
      where id = $1`,
    [id, m.name, m.grip, m.width_um, m.length_um, m.loads],
  );
export const washMat = async (q: Query, personId: string, id: string) =>
  (
    await q.query(
      'update mat set washed_at = now(), washes = washes + 1, loads_before = 0 where id = $2 and person_id = $1 and retired_at is null',
      [personId, id],
    )
  ).rowCount === 1;
export const layMat = async (q: Query, personId: string, id: string | null) =>
  (
    await q.query(
      `update bench set mat_id = $2 where person_id = $1
         and ($2::uuid is null or exists (select 1 from mat where id = $2 and person_id = $1 and retired_at is null))`,
      [personId, id],
    )
  ).rowCount === 1;
// Presses -------------------------------------------------------------------------------------------------------------------

export type PressRow = {
  id: string;
  name: string;
  kind: string;
  width_um: number;
  length_um: number;
  hottest: number;
  shows: 'C' | 'F';
  off: number;
};
/** What its words mean, how hard it presses, how even it is. */
export type PressMeasured = {
  levels: Level[];
  pressures: HandPressures;
  uneven: number;
  places: { heat: number; seconds: number; grades: (string | null)[] } | null;
};
export const pressesOf = (q: Query, personId: string) =>
  many<PressRow & PressMeasured>(
    q,
    `select id, name, kind, width_um, length_um, hottest, shows, off, levels, pressures, uneven, places from press
      where person_id = $1 and retired_at is null order by made_at`,
    [personId],
  );
export const insertPress = (q: Query, p: PressRow & { personId: string }) =>
  q.query(
    `insert into press (id, person_id, name, kind, width_um, length_um, hottest, shows, off) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [p.id, p.personId, p.name, p.kind, p.width_um, p.length_um, p.hottest, p.shows, p.off],
  );
export const pressById = (q: Query, id: string) =>
  one<PressRow & PressMeasured & { person_id: string }>(
    q,
    'select id, person_id, name, kind, width_um, length_um, hottest, shows, off, levels, pressures, uneven, places from press where id = $1',
    [id],
  );
export const keepPlaces = (q: Query, id: string, places: PressMeasured['places'], uneven: number) =>
  q.query('update press set places = $2, uneven = $3 where id = $1', [id, JSON.stringify(places), uneven]);
export const measurePress = (q: Query, id: string, m: Omit<PressMeasured, 'places'>) =>
  q.query('update press set levels = $2, pressures = $3, uneven = $4 where id = $1', [
    id,
    JSON.stringify(m.levels),
    JSON.stringify(m.pressures),
    m.uneven,
  ]);
export const setPressLevels = (q: Query, id: string, levels: readonly Level[]) =>
  q.query('update press set levels = $2 where id = $1', [id, JSON.stringify(levels)]);
export const updatePress = (q: Query, p: PressRow) =>
  q.query(
    'update press set name = $2, kind = $3, width_um = $4, length_um = $5, hottest = $6, shows = $7, off = $8 where id = $1',
    [p.id, p.name, p.kind, p.width_um, p.length_um, p.hottest, p.shows, p.off],
  );

/** Changes of heat that were timed at the press, of a person's newest: from when it was opened last to when it was said to have its new heat. */
export const heatChanges = (q: Query, personId: string) =>
  many<{ press: string | null; from: number; to: number; seconds: number }>(
    q,
    `select * from (
       select e.body ->> 'source' as press, (e.body ->> 'heat')::int as to,
          lag((e.body ->> 'heat')::int) over (partition by e.job_id, e.body ->> 'source' order by e.device_at) as from,
          extract(epoch from e.device_at - (select max(o.device_at) from job_event o where o.job_id = e.job_id and o.kind = 'opened' and o.device_at < e.device_at))::float as seconds
         from (select * from job_event where person_id = $1 and kind = 'plate' order by device_at desc limit 200) e) x
      where x.from is not null and x.seconds is not null`,
    [personId],
  );
