import type { Artwork } from '#core/artwork/index.ts';
import type { Setting } from '#core/controls/index.ts';
import type { CauseKey, JobBlank, JobEvent, Plan } from '#core/job/index.ts';
import { many, one, type Query } from '#store/base/db.ts';
import { ageBlade } from '#store/cuts/cuts.ts';

export type JobRow = {
  id: string;
  person_id: string;
  name: string;
  made_at: Date;
  archived_at: Date | null;
};

export const insertJob = (q: Query, j: { id: string; personId: string; name: string }) =>
  q.query('insert into job (id, person_id, name) values ($1, $2, $3)', [j.id, j.personId, j.name]);
export const jobById = (q: Query, id: string) =>
  one<JobRow>(q, 'select id, person_id, name, made_at, archived_at from job where id = $1', [id]);
/** Locks a job, so that two devices do not write the same revision. */
export const lockJob = (q: Query, id: string) => q.query('select 1 from job where id = $1 for update', [id]);
/** The same of a person’s own job; undefined where it is nobody's or another's. */
export const lockOwnJob = (q: Query, id: string, personId: string) =>
  one<{ id: string; person_id: string }>(
    q,
    'select id, person_id from job where id = $1 and person_id = $2 for update',
    [id, personId],
  );
export const renameJob = (q: Query, id: string, name: string) =>
  q.query('update job set name = $2 where id = $1', [id, name]);
export const archiveJob = (q: Query, id: string, away: boolean) =>
  q.query('update job set archived_at = case when $2 then now() end where id = $1', [id, away]);

/** Jobs of a person, the one last worked at first. */
export const jobsOf = (q: Query, personId: string, limit: number, archived: boolean) =>
  many<JobRow & { touched_at: Date }>(
    q,
    `select j.id, j.person_id, j.name, j.made_at, j.archived_at,
        greatest(j.made_at, (select max(p.made_at) from job_plan p where p.job_id = j.id), (select max(e.taken_at) from job_event e where e.job_id = j.id)) as touched_at
       from job j where j.person_id = $1 and (j.archived_at is not null) = $3 order by touched_at desc limit $2`,
    [personId, limit, archived],
  );
/** The plan that holds of each job: its revision, and how wide the design was in every one up to it. */
export type PlanRow = { job_id: string; rev: number; plan: Plan; widths: (number | null)[] };
export const newestPlans = (q: Query, jobIds: readonly string[]) =>
  many<PlanRow>(
    q,
    `select p.job_id, p.rev, p.plan,
        (select jsonb_agg(w.plan #> '{design,widthUm}' order by w.rev) from job_plan w where w.job_id = p.job_id) as widths
       from job_plan p
      where p.job_id = any($1) and p.rev = (select max(m.rev) from job_plan m where m.job_id = p.job_id)`,
    [jobIds],
  );
/** The newest plan of a job that showed another drawing than this one. */
export const planBeforeDrawing = (q: Query, jobId: string, artwork: string) =>
  one<{ plan: Plan }>(
    q,
    `select plan from job_plan
      where job_id = $1 and plan #>> '{design,artwork}' <> $2
      order by rev desc limit 1`,
    [jobId, artwork],
  );
export const insertPlan = (q: Query, jobId: string, rev: number, plan: Plan) =>
  q.query('insert into job_plan (job_id, rev, plan) values ($1, $2, $3)', [jobId, rev, JSON.stringify(plan)]);

type EventRow = {
  id: string;
  job_id: string;
  step: string;
  attempt: number;
  rev: number;
  kind: JobEvent['kind'];
  body: object;
  device_id: string;
  device_at: Date;
};
export const eventsOf = async (q: Query, jobIds: readonly string[]): Promise<JobEvent[]> =>
  (
    await many<EventRow>(
      q,
      'select id, job_id, step, attempt, rev, kind, body, device_id, device_at from job_event where job_id = any($1) order by device_at, id',
      [jobIds],
    )
  ).map(
    (r) =>
      ({
        ...r.body,
        id: r.id,
        job: r.job_id,
        step: r.step,
        attempt: r.attempt,
        rev: r.rev,
        kind: r.kind,
        device: r.device_id,
        deviceAt: r.device_at.toISOString(),
      }) as JobEvent,
  );
/** Adds events, in one statement. */
export async function insertEvents(q: Query, personId: string, events: readonly JobEvent[]): Promise<void> {
  if (events.length === 0) return;
  const rows = events.map(({ id, job, step, attempt, rev, kind, device, deviceAt, ...body }) => ({
    ...{ id, job, step, attempt, rev, kind, device, deviceAt },
    body,
  }));
  await q.query(
    `insert into job_event (id, job_id, step, attempt, rev, kind, body, person_id, device_id, device_at)
     select id, job, step, attempt, rev, kind, body, $2, device, "deviceAt"
       from jsonb_to_recordset($1::jsonb) as e (id uuid, job uuid, step text, attempt integer, rev integer, kind text, body jsonb,
         device uuid, "deviceAt" timestamptz)
     on conflict (id) do nothing`,
    [JSON.stringify(rows), personId],
  );
}

export type BeforeEvents = { there: string[]; n: number; revs: number[]; plan: unknown };
/** What new events of one locked job are checked against; the plan of the first only where something is read from it. */
export const beforeEvents = async (
  q: Query,
  events: readonly Pick<JobEvent, 'id' | 'job' | 'rev'>[],
  withPlan: boolean,
): Promise<BeforeEvents> =>
  (await one<BeforeEvents>(
    q,
    `select array(select id::text from job_event where id = any($2)) as there,
        (select count(*)::int from job_event where job_id = $1) as n,
        array(select rev from job_plan where job_id = $1 and rev = any($3)) as revs,
        ${withPlan ? '(select plan from job_plan where job_id = $1 and rev = ($3::int[])[1])' : 'null'} as plan`,
    [events[0]!.job, events.map((e) => e.id), events.map((e) => e.rev)],
  ))!;
export const eventById = (q: Query, id: string) =>
  one<{ id: string; job_id: string; kind: string; body: Record<string, unknown> }>(
    q,
    'select id, job_id, kind, body from job_event where id = $1',
    [id],
  );

// Cuts ------------------------------------------------------------------------------------------------------------------

export type JobCutRow = {
  part_id: string;
  attempt: number;
  job_id: string;
  cut_id: string;
  event_id: string;
  width_um: number;
  height_um: number;
  undone: boolean;
  cell_id: string;
  /** Cells of its test mark, lightest first. */
  marks: string[];
  setting: Setting;
  batch: string | null;
  wanted: 'clean' | 'through';
};
export const cutsOf = (q: Query, jobIds: readonly string[]) =>
  many<JobCutRow>(
    q,
    `select j.part_id, j.attempt, j.job_id, j.cut_id, j.event_id, j.width_um, j.height_um, j.undone_at is not null as undone,
        cell.id as cell_id, cell.setting, b.label as batch, o.wanted,
        array(select m.id from cell m where m.cut_id = j.cut_id and m.number > 1 order by m.number) as marks
       from job_cut j join cut on cut.id = j.cut_id join ordinary_cut o on o.cut_id = cut.id left join batch b on b.id = cut.batch_id
       join cell on cell.cut_id = cut.id and cell.number = 1
      where j.job_id = any($1)`,
    [jobIds],
  );
export const insertJobCut = (
  q: Query,
  c: {
    partId: string;
    attempt: number;
    jobId: string;
    cutId: string;
    eventId: string;
    hash: Buffer;
    widthUm: number;
    heightUm: number;
  },
) =>
  q.query(
    `insert into job_cut (part_id, attempt, job_id, cut_id, event_id, geometry_hash, width_um, height_um)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [c.partId, c.attempt, c.jobId, c.cutId, c.eventId, c.hash, c.widthUm, c.heightUm],
  );
/**
 * Takes a cut back, or takes it as made again: it counts for nothing, the blade has not run those metres, and the film is whole.
 * @returns false where it stood so already
 */
export async function undoCut(q: Query, cutId: string, undone: boolean): Promise<boolean> {
  const changed = await q.query(
    'update job_cut set undone_at = case when $2 then now() end where cut_id = $1 and (undone_at is null) = $2',
    [cutId, undone],
  );
  if (changed.rowCount !== 1) return false;
  await q.query('update cut set left_out_at = case when $2 then now() end where id = $1', [cutId, undone]);
  await q.query('update stock_take set undone_at = case when $2 then now() end where cut_id = $1', [cutId, undone]);
  // Made after all, an area is laid anew: something else may lie there by now.
  if (undone) await q.query('update stock_area_take set undone_at = now() where cut_id = $1', [cutId]);
  await ageBlade(q, cutId, undone ? -1 : 1);
  return true;
}
/** Another event that says the same part was cut, and that nobody took back. */
export const otherCutEvent = (q: Query, jobId: string, partId: string, attempt: number, except: string) =>
  one<{ id: string }>(
    q,
    `select e.id from job_event e where e.job_id = $1 and e.kind = 'cut' and e.body ->> 'part' = $2 and e.attempt = $3 and e.id <> $4
        and not exists (select 1 from job_event u where u.job_id = $1 and u.kind = 'undo' and u.body ->> 'event' = e.id::text)
      order by e.id limit 1`,
    [jobId, partId, attempt, except],
  );
/** The event that a cut now stands by. */
export const setCutEvent = (q: Query, cutId: string, eventId: string) =>
  q.query('update job_cut set event_id = $2 where cut_id = $1', [cutId, eventId]);
/** Passes run over some cells. */
export const passesOfCells = (q: Query, cells: readonly string[]) =>
  many<{ cell_id: string; passes: number }>(
    q,
    'select cell_id, max(passes)::int as passes from cell_cut_event where cell_id = any($1) group by cell_id',
    [cells],
  );
/** A mounting of a blade on a person's own cutter, now or before. */
export const mountingOf = (q: Query, id: string, personId: string) =>
  one<{ id: string; cutter_id: string; model_key: string; model_version: number }>(
    q,
    `select n.id, n.cutter_id, k.model_key, k.model_version from mounting n join cutter k on k.id = n.cutter_id
      where n.id = $1 and k.person_id = $2`,
    [id, personId],
  );
/** Whether anything of a cut stands graded: the part, or its test mark. */
export const isGraded = async (q: Query, cutId: string) =>
  (await one(
    q,
    `select 1 from cell join grade_event e on e.cell_id = cell.id and e.kind = 'grade' where cell.cut_id = $1
       and not exists (select 1 from grade_event x where x.cell_id = cell.id and x.retracts = e.id) limit 1`,
    [cutId],
  )) !== undefined;

/** The last setting that came out clean with each of some vinyls on a cutter, and the batch it was cut from. */
export const lastClean = (q: Query, personId: string, cutterId: string, vinylIds: readonly string[]) =>
  many<{ vinyl_id: string; setting: Setting; batch: string | null }>(
    q,
    `select distinct on (c.vinyl_id) c.vinyl_id, cell.setting, b.label as batch
       from cut c join cell on cell.cut_id = c.id join grade_event e on e.cell_id = cell.id left join batch b on b.id = c.batch_id
      where c.person_id = $1 and c.cutter_id = $2 and c.vinyl_id = any($3) and c.left_out_at is null
        and e.kind = 'grade' and e.grade = 'clean' and not exists (select 1 from grade_event x where x.retracts = e.id)
      order by c.vinyl_id, e.device_at desc, cell.number`,
    [personId, cutterId, vinylIds],
  );
/** How often a person acted on each cause of something that went wrong, and whether that helped. */
export const triedBy = (q: Query, personId: string) =>
  many<{ cause: CauseKey; vinyl: string | null; helped: number; not_helped: number }>(
    q,
    `select w.body ->> 'cause' as cause, w.body ->> 'vinyl' as vinyl, count(*) filter (where h.helped)::int as helped, count(*) filter (where not h.helped)::int as not_helped
       from job_event w
       join lateral (select (e.body ->> 'helped')::boolean as helped from job_event e
                      where e.job_id = w.job_id and e.kind = 'helped' and e.body ->> 'event' = w.id::text
                        and not exists (select 1 from job_event u where u.job_id = w.job_id and u.kind = 'undo' and u.body ->> 'event' = e.id::text)
                      order by e.device_at desc, e.id desc limit 1) h on true
      where w.kind = 'wrong' and w.person_id = $1
        and not exists (select 1 from job_event u where u.job_id = w.job_id and u.kind = 'undo' and u.body ->> 'event' = w.id::text)
      group by 1, 2`,
    [personId],
  );

// Drawings --------------------------------------------------------------------------------------------------------------

export const insertArtwork = (q: Query, a: { hash: Buffer; bytes: Buffer; summary: Artwork; version: string }) =>
  q.query(
    `insert into artwork (hash, bytes, summary, version) values ($1, $2, $3, $4)
     on conflict (hash) do update set summary = excluded.summary, version = excluded.version where artwork.version <> excluded.version`,
    [a.hash, a.bytes, JSON.stringify(a.summary), a.version],
  );
export const artworkOf = (q: Query, hash: string) =>
  one<{ summary: Artwork; version: string }>(q, `select summary, version from artwork where hash = decode($1, 'hex')`, [
    hash,
  ]);
/** A drawing that is brought again is as fresh as a new one. */
export const touchArtwork = (q: Query, hash: string) =>
  q.query(`update artwork set made_at = now() where hash = decode($1, 'hex') and made_at < now() - interval '1 day'`, [
    hash,
  ]);
export const artworkBytes = (q: Query, hash: string) =>
  one<{ bytes: Buffer }>(q, `select bytes from artwork where hash = decode($1, 'hex')`, [hash]);

/** Drawings that no plan has shown for so long go. */
export const sweepArtworks = (q: Query, days: number) =>
  q.query(
    `delete from artwork a where a.made_at < now() - make_interval(days => $1)
       and not exists (select 1 from job_plan p where p.plan #>> '{design,artwork}' = encode(a.hash, 'hex')
         or p.plan -> 'pieces' @> jsonb_build_array(jsonb_build_object('name', jsonb_build_object('artwork', encode(a.hash, 'hex')))))`,
    [days],
  );

// Blanks ----------------------------------------------------------------------------------------------------------------

export type OwnBlankRow = { id: string; person_id: string; name: string; blank: JobBlank; away: boolean };
export const blanksOf = (q: Query, personId: string, limit: number) =>
  many<OwnBlankRow>(
    q,
    `select id, person_id, name, blank, away_at is not null as away from own_blank
      where person_id = $1 and away_at is null order by made_at desc limit $2`,
    [personId, limit],
  );
/** Measures a blank that is kept under a name anew. @returns false where none bears that name */
export const updateBlank = async (q: Query, personId: string, name: string, blank: JobBlank): Promise<boolean> =>
  (
    await q.query(
      'update own_blank set blank = $3 where person_id = $1 and lower(name) = lower($2) and away_at is null',
      [personId, name, JSON.stringify(blank)],
    )
  ).rowCount !== 0;
export const setBlankAway = async (q: Query, personId: string, id: string, away: boolean): Promise<boolean> =>
  (
    await q.query('update own_blank set away_at = case when $3 then now() end where person_id = $1 and id = $2', [
      personId,
      id,
      away,
    ])
  ).rowCount === 1;
export const insertBlank = (q: Query, b: { id: string; personId: string; name: string; blank: JobBlank }) =>
  q.query('insert into own_blank (id, person_id, name, blank) values ($1, $2, $3, $4)', [
    b.id,
    b.personId,
    b.name,
    JSON.stringify(b.blank),
  ]);
