import { many, one, type Query } from './db.ts';

export type PersonRow = {
  id: string;
  email: string | null;
  name: string;
  zone: string;
  length_unit: 'mm' | 'in';
  temperature_unit: 'C' | 'F';
  /** Whether they keep order on the shelf. */
  steward?: boolean;
  lends_private?: boolean;
};

const columns =
  'p.id, p.email::text as email, p.name, p.zone, p.length_unit, p.temperature_unit, p.steward_since is not null as steward, p.lends_private';

export const insertGuest = (q: Query, id: string, zone: string) =>
  q.query('insert into person (id, zone) values ($1, $2)', [id, zone]);

export const personOfSession = (q: Query, tokenHash: Buffer) =>
  one<PersonRow>(
    q,
    // Written once a minute at most: looking at a page need not wait for the disk.
    `with seen as (update session set seen_at = now() where token_hash = $1 and seen_at < now() - interval '1 minute')
     select ${columns} from session s join person p on p.id = s.person_id
      where s.token_hash = $1 and s.expires_at > now() and p.deleted_at is null`,
    [tokenHash],
  );

export const insertSession = (q: Query, tokenHash: Buffer, personId: string, days: number) =>
  q.query(
    `insert into session (token_hash, person_id, expires_at) values ($1, $2, now() + make_interval(days => $3))`,
    [tokenHash, personId, days],
  );

export const deleteSession = (q: Query, tokenHash: Buffer) =>
  q.query('delete from session where token_hash = $1', [tokenHash]);
export const deleteOldSessions = (q: Query) => q.query('delete from session where expires_at < now()');

export const credentialsOf = (q: Query, email: string) =>
  one<{ id: string; password_hash: string }>(
    q,
    'select id, password_hash from person where email = $1 and deleted_at is null',
    [email],
  );

/** Gives a guest's row an e-mail and password. Answers whether it was a guest; a taken e-mail is a unique violation. */
export const claim = async (q: Query, id: string, email: string, passwordHash: string, name: string) =>
  (
    await q.query(
      'update person set email = $2, password_hash = $3, name = $4 where id = $1 and email is null and deleted_at is null',
      [id, email, passwordHash, name],
    )
  ).rowCount === 1;

/** Hands everything a guest made to an account. The guest's events stay as they were written. */
export async function handOver(q: Query, guestId: string, personId: string): Promise<void> {
  await q.query('update person set became = $2 where id = $1 and email is null and became is null', [
    guestId,
    personId,
  ]);
  // Numbers that both kept: the guest's is the newer one.
  await q.query(
    `update setting s set replaced_at = now() from setting g
      where s.person_id = $2 and g.person_id = $1 and s.replaced_at is null and g.replaced_at is null
        and (s.vinyl_id, s.cutter_id, s.wanted) = (g.vinyl_id, g.cutter_id, g.wanted)
        and s.colour_id is not distinct from g.colour_id`,
    [guestId, personId],
  );
  for (const [table, key] of [
    ['vinyl_mine', 'x.vinyl_id = o.vinyl_id'],
    ['follow', 'x.vinyl_id = o.vinyl_id'],
    ['school', '(x.vinyl_id, x.topic) = (o.vinyl_id, o.topic)'],
    ['vinyl_type', 'lower(x.word) = lower(o.word)'],
  ] as const)
    await q.query(
      `update ${table} x set person_id = $2
        where x.person_id = $1 and not exists (select 1 from ${table} o where o.person_id = $2 and ${key})`,
      [guestId, personId],
    );
  for (const table of [
    'cutter',
    'blade',
    'vinyl',
    'cut',
    'reading',
    'setting',
    'mat',
    'press',
    'stock',
    'import',
    'notice',
    'model_owner',
  ])
    await q.query(`update ${table} set person_id = $2 where person_id = $1`, [guestId, personId]);
  await q.query(
    `insert into bench (person_id, cutter_id) select $2, cutter_id from bench where person_id = $1 on conflict (person_id) do nothing`,
    [guestId, personId],
  );
  await q.query('delete from bench where person_id = $1', [guestId]);
  await q.query('delete from session where person_id = $1', [guestId]);
}

/**
 * Takes a person out of the database: name, e-mail, password, sessions and what only they see. The evidence stays, under a number; what
 * they wrote to others goes, so that nobody is quoted who is gone.
 */
export async function erase(q: Query, id: string): Promise<void> {
  for (const sql of [
    'delete from session where person_id = any($1)',
    'delete from notice where person_id = any($1)',
    'delete from follow where person_id = any($1)',
    'delete from thanks where person_id = any($1)',
    'delete from bench where person_id = any($1)',
    'delete from school where person_id = any($1)',
    'delete from vinyl_mine where person_id = any($1)',
    "update remark set body = '—', hidden_at = coalesce(hidden_at, now()) where person_id = any($1)",
    "update confirmation set said = '' where person_id = any($1)",
    'update card_report set person_id = null where person_id = any($1)',
    "update setting set note = '' where person_id = any($1)",
    // What was private, or known by a link, is seen by nobody from now on.
    "update card set visibility = 'private', link_key = null where person_id = any($1) and visibility <> 'public'",
    "update cutter set name = 'a cutter', retired_at = coalesce(retired_at, now()) where person_id = any($1)",
    "update blade set name = 'a blade' where person_id = any($1)",
    "update stock set note = '', gone_at = coalesce(gone_at, now()) where person_id = any($1)",
    'update source set content = null where brought_by = any($1)',
    'delete from import where person_id = any($1) and not exists (select 1 from vinyl where import_id = import.id)',
    "update import set content = '{}', file_name = 'a file' where person_id = any($1)",
    `update person set name = 'a crafter', email = null, password_hash = null, lends_private = false, steward_since = null,
       zone = 'UTC', deleted_at = coalesce(deleted_at, now()) where id = any($1)`,
  ])
    await q.query(sql, [[id, ...(await formerSelves(q, id))]]);
}

/** What of somebody's others can see: said before an account is deleted. */
export const leftBehind = async (q: Query, id: string) =>
  (await one<{ cards: number; cuts: number; vinyls: number }>(
    q,
    `select (select count(*)::int from card where person_id = $1 and visibility = 'public') as cards,
       (select count(*)::int from confirmation where person_id = $1) as cuts,
       (select count(*)::int from vinyl where person_id = $1 and visibility = 'public') as vinyls`,
    [id],
  ))!;

export const setLends = (q: Query, id: string, lends: boolean) =>
  q.query('update person set lends_private = $2 where id = $1', [id, lends]);

/** The guests a person was on their devices before they signed in there. */
export const formerSelves = async (q: Query, personId: string) =>
  (await many<{ id: string }>(q, 'select id from person where became = $1', [personId])).map((r) => r.id);

export const setUnits = (q: Query, id: string, length: string, temperature: string) =>
  q.query('update person set length_unit = $2, temperature_unit = $3 where id = $1', [id, length, temperature]);

export const noteAttempt = (q: Query, kind: string, key: string) =>
  q.query('insert into attempt (kind, key) values ($1, $2)', [kind, key]);

export const countAttempts = async (q: Query, kind: string, keys: string[], minutes: number) =>
  many<{ key: string; n: number }>(
    q,
    `select key, count(*)::int as n from attempt
      where kind = $1 and key = any($2) and at > now() - make_interval(mins => $3) group by key`,
    [kind, keys, minutes],
  );

export const forgetAttempts = (q: Query, kind: string, key: string) =>
  q.query('delete from attempt where kind = $1 and key = $2', [kind, key]);

export const forgetOldAttempts = (q: Query, minutes: number) =>
  q.query('delete from attempt where at < now() - make_interval(mins => $1)', [minutes]);

/** Holds others who count for the same key until this transaction ends, so that ten at once do not all slip through. */
export const lockKey = (q: Query, key: string) =>
  q.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [key]);
