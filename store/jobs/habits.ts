import type { JobBlank } from '#core/job/index.ts';
import { many, type Query } from '#store/base/db.ts';

/** The ways somebody goes whatever the vinyl: topic and way; an empty way was asked and is not wanted. */
export const ownWays = (q: Query, personId: string) =>
  many<{ topic: string; way: string }>(q, 'select topic, way from own_way where person_id = $1', [personId]);
export const setOwnWay = (q: Query, personId: string, topic: string, way: string) =>
  q.query(
    `insert into own_way (person_id, topic, way) values ($1, $2, $3)
     on conflict (person_id, topic) do update set way = excluded.way, at = now()`,
    [personId, topic, way],
  );

/** Only the newest jobs of somebody are looked at: a job page asks at every look, and habits are of now. */
const newest = '(select id from job where person_id = $1 order by made_at desc limit 40)';

/** Where the design went on somebody's last jobs on one side of a shape, the newest first; and how their layers were pressed. */
export const lastPlaces = (q: Query, personId: string, on: { shape: string; side: string }, limit: number) =>
  many<{ down: number | null; widthUm: number; size: string; from: string }>(
    q,
    `select (p.plan #>> '{design,spot,down}')::int as down, (p.plan #>> '{design,widthUm}')::int as "widthUm",
        p.plan #>> '{blank,size}' as size, p.plan #>> '{design,spot,from}' as "from"
       from ${newest} j join job_plan p on p.job_id = j.id
      where p.rev = (select max(m.rev) from job_plan m where m.job_id = j.id)
        and p.plan #>> '{blank,shape}' = $2 and p.plan #>> '{blank,side}' = $3 and (p.plan #>> '{design,sized}')::boolean
      order by p.made_at desc limit $4`,
    [personId, on.shape, on.side, limit],
  );
export const lastSchools = (q: Query, personId: string, limit: number) =>
  many<{ school: string }>(
    q,
    `select coalesce(p.plan ->> 'school', 'tack') as school
       from ${newest} j join job_plan p on p.job_id = j.id
      where p.rev = (select max(m.rev) from job_plan m where m.job_id = j.id)
        and jsonb_array_length(p.plan -> 'layers') > 1 and (p.plan #>> '{design,sized}')::boolean
      order by p.made_at desc limit $2`,
    [personId, limit],
  );
/** What somebody did the last times a film came up with its carrier. */
export const lastLifts = (q: Query, personId: string, limit: number) =>
  many<{ remedy: string }>(
    q,
    `select e.body ->> 'remedy' as remedy from job_event e
      where e.person_id = $1 and e.kind = 'wrong' and e.body ->> 'seen' = 'came up'
        and e.body ->> 'remedy' in ('wait and peel', 'press again')
        and not exists (select 1 from job_event u where u.job_id = e.job_id and u.kind = 'undo' and u.body ->> 'event' = e.id::text)
      order by e.taken_at desc limit $2`,
    [personId, limit],
  );

type Noted = {
  eventId: string;
  personId: string;
  jobId: string | null;
  step: string;
  vinylId: string | null;
  blank: Pick<JobBlank, 'shape' | 'surface'> | null;
  says: string;
  at: Date;
};
export const insertNote = (q: Query, n: Noted) =>
  q.query(
    `insert into bench_note (event_id, person_id, job_id, step, vinyl_id, shape, surface, says, at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [n.eventId, n.personId, n.jobId, n.step, n.vinylId, n.blank?.shape ?? null, n.blank?.surface ?? null, n.says, n.at],
  );
export const undoNote = (q: Query, eventId: string) =>
  q.query('update bench_note set undone_at = now() where event_id = $1 and undone_at is null', [eventId]);

export type NoteRow = { vinyl_id: string | null; step: string; says: string; at: Date };
/** What somebody noted of some vinyls, and of a kind of blank, in other jobs: of each, and each kind of step, the newest. */
export const notesFor = (
  q: Query,
  personId: string,
  vinylIds: readonly string[],
  blank: Pick<JobBlank, 'shape' | 'surface'>,
  exceptJob: string,
) =>
  many<NoteRow>(
    q,
    `select distinct on (vinyl_id, step) vinyl_id, step, says, at from bench_note
      where person_id = $1 and undone_at is null and job_id is distinct from $5
        and (vinyl_id = any($2::uuid[]) or (vinyl_id is null and shape = $3 and surface = $4))
      order by vinyl_id, step, at desc limit 200`,
    [personId, vinylIds, blank.shape, blank.surface, exceptJob],
  );
/** What somebody noted of a vinyl, the newest first. */
export const notesOfVinyl = (q: Query, personId: string, vinylId: string, limit: number) =>
  many<NoteRow>(
    q,
    `select vinyl_id, step, says, at from bench_note
      where person_id = $1 and vinyl_id = $2 and undone_at is null order by at desc limit $3`,
    [personId, vinylId, limit],
  );
