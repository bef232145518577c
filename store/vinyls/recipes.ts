import type { PressOutcome } from '#core/press/index.ts';
import type { PressWay } from '#core/vinyls/index.ts';
import { many, one, type Query } from '#store/base/db.ts';

export type RecipeRow = {
  id: string;
  person_id: string;
  person: string;
  vinyl_id: string;
  surface: string | null;
  press_id: string | null;
  way: PressWay;
  shared: boolean;
  made_at: Date;
};
const select = `select r.id, r.person_id, p.name as person, r.vinyl_id, r.surface, r.press_id, r.way, r.shared, r.made_at
  from recipe r join person p on p.id = r.person_id`;

export const insertRecipe = (
  q: Query,
  r: {
    id: string;
    personId: string;
    vinylId: string;
    surface: string | null;
    pressId: string | null;
    way: PressWay;
    shared: boolean;
    agreed: string | null;
  },
) =>
  q.query(
    'insert into recipe (id, person_id, vinyl_id, surface, press_id, way, shared, agreed) values ($1, $2, $3, $4, $5, $6, $7, $8)',
    [r.id, r.personId, r.vinylId, r.surface, r.pressId, JSON.stringify(r.way), r.shared, r.agreed],
  );

/** Recipes of some vinyls that a person sees, their own and those others shared, the newest first; of each vinyl so many at most. */
export const recipesOfMany = (q: Query, personId: string, vinylIds: readonly string[], each: number) =>
  many<RecipeRow & { asked: string }>(
    q,
    `select a.id as asked, r.* from unnest($2::uuid[]) as a(id) cross join lateral (
       ${select} where r.vinyl_id = any(array(select vinyl_kin(a.id))) and r.away_at is null and (r.person_id = $1 or r.shared)
        order by r.person_id = $1 desc, r.made_at desc limit $3) r
      order by r.made_at desc`,
    [personId, vinylIds, each],
  );
export const recipeById = (q: Query, id: string) =>
  one<RecipeRow & { away_at: Date | null }>(
    q,
    `${select.replace('r.made_at', 'r.made_at, r.away_at')} where r.id = $1`,
    [id],
  );
export const setRecipeAway = (q: Query, id: string, away: boolean) =>
  q.query('update recipe set away_at = case when $2 then now() end where id = $1', [id, away]);
export const shareRecipe = (q: Query, id: string, shared: boolean) =>
  q.query('update recipe set shared = $2 where id = $1', [id, shared]);

export const insertPressOutcome = (
  q: Query,
  o: {
    eventId: string;
    vinylId: string;
    personId: string;
    jobId: string | null;
    pieceId: string;
    surface: string;
    pressId: string | null;
    way: PressOutcome['way'];
    presses?: PressOutcome['presses'];
    word: string;
    kind: 'job' | 'swatch';
    school: string | null;
    at: Date;
  },
) =>
  q.query(
    `insert into press_outcome (event_id, vinyl_id, person_id, job_id, piece_id, surface, way, word, kind, at, school, press_id, presses)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) on conflict (event_id, vinyl_id) do update
       set undone_at = null, word = excluded.word, way = excluded.way, press_id = excluded.press_id, presses = excluded.presses`,
    [
      o.eventId,
      o.vinylId,
      o.personId,
      o.jobId,
      o.pieceId,
      o.surface,
      JSON.stringify(o.way),
      o.word,
      o.kind,
      o.at,
      o.school,
      o.pressId,
      o.presses ? JSON.stringify(o.presses) : null,
    ],
  );
export const undoPressOutcome = (q: Query, eventId: string) =>
  q.query('update press_outcome set undone_at = now() where event_id = $1 and undone_at is null', [eventId]);

/**
 * How vinyls came out of the press on a fabric, the oldest first: one's own, and everybody's who shares or lends what they learn; of each vinyl the
 * newest, so many at most.
 */
export const pressOutcomes = (
  q: Query,
  vinylIds: readonly string[],
  surface: string,
  personId: string,
  zone: string,
  each: number,
) =>
  many<{
    asked: string;
    day: string;
    person_id: string;
    piece_id: string;
    of: string;
    way: PressOutcome['way'];
    presses: PressOutcome['presses'] | null;
    word: string;
    kind: 'job' | 'swatch';
    press_id: string | null;
  }>(
    q,
    `select a.id as asked, x.* from unnest($1::uuid[]) as a(id) cross join lateral (
       select to_char(o.at at time zone $4, 'YYYY-MM-DD') as day, o.person_id, o.piece_id, coalesce(o.job_id, o.piece_id) as of, o.way, o.presses, o.word, o.kind, o.press_id, o.at, o.event_id
         from press_outcome o
        where o.vinyl_id = any(array(select vinyl_kin(a.id))) and o.undone_at is null and o.surface = $2
          and (o.person_id = $3 or exists (select 1 from recipe r where r.person_id = o.person_id and r.vinyl_id = o.vinyl_id and r.shared and r.away_at is null))
        order by o.at desc, o.event_id desc limit $5) x
      order by x.at, x.event_id`,
    [vinylIds, surface, personId, zone, each],
  );

/** How pieces of several layers held by the way their layers were pressed: of each piece its last word, of one person's jobs. */
export const heldBySchool = (q: Query, personId: string) =>
  many<{ school: 'tack' | 'full' | 'ten'; held: number; pieces: number }>(
    q,
    `select school, count(*) filter (where word in ('bonded', 'washed well'))::int as held, count(*)::int as pieces from (
       select distinct on (job_id, piece_id) school, word from press_outcome
        where person_id = $1 and school is not null and undone_at is null and word not in ('slipped', 'tore')
        order by job_id, piece_id, at desc, event_id desc) x
      group by school`,
    [personId],
  );

/** Vinyls that a person has pressed most. */
export const mostPressed = async (q: Query, personId: string, limit: number): Promise<string[]> =>
  (
    await many<{ vinyl_id: string }>(
      q,
      `select vinyl_id from press_outcome where person_id = $1 and undone_at is null and way ? 'heat'
        group by vinyl_id order by count(*) desc, vinyl_id limit $2`,
      [personId, limit],
    )
  ).map((r) => r.vinyl_id);
