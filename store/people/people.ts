import { many, one, type Query } from '#store/base/db.ts';

export type PersonRow = {
  id: string;
  email: string | null;
  name: string;
  zone: string;
  length_unit: 'mm' | 'in';
  temperature_unit: 'C' | 'F';
  /** How they write what lies between whole numbers. */
  number_style: 'point' | 'comma' | 'fractions';
  /** Whether the link that was sent to the e-mail was used: only then the address carries rights. */
  proven?: boolean;
  lends_private?: boolean;
};

const columns =
  'p.id, p.email::text as email, p.name, p.zone, p.length_unit, p.temperature_unit, p.number_style, p.proven_at is not null as proven, p.lends_private';

export const insertGuest = (q: Query, id: string, zone: string) =>
  q.query('insert into person (id, zone) values ($1, $2)', [id, zone]);

/** Days a session lasts after the last visit. */
export const SESSION_DAYS = 30;

export const personOfSession = (q: Query, tokenHash: Buffer) =>
  one<PersonRow>(
    q,
    // Written once a minute at most: looking at a page need not wait for the disk.
    `with seen as (update session set seen_at = now(), expires_at = now() + make_interval(days => ${SESSION_DAYS})
                    where token_hash = $1 and seen_at < now() - interval '1 minute' and expires_at > now())
     select ${columns} from session s join person p on p.id = s.person_id
      where s.token_hash = $1 and s.expires_at > now() and p.deleted_at is null`,
    [tokenHash],
  );

export const personById = (q: Query, id: string) =>
  one<PersonRow>(q, `select ${columns} from person p where p.id = $1 and p.deleted_at is null`, [id]);

export const insertSession = (q: Query, tokenHash: Buffer, personId: string, device: string) =>
  q.query(
    `insert into session (token_hash, person_id, device, expires_at) values ($1, $2, $3, now() + make_interval(days => ${SESSION_DAYS}))`,
    [tokenHash, personId, device],
  );

export const deleteSession = async (q: Query, tokenHash: Buffer) => {
  const ended = (
    await q.query<{ person_id: string }>('delete from session where token_hash = $1 returning person_id', [tokenHash])
  ).rows[0]?.person_id;
  if (ended) await forgetActsOf(q, ended);
  return ended;
};
export const deleteOldSessions = (q: Query) => q.query('delete from session where expires_at < now()');
/** What forms of a person were answered is forgotten: none of them, sent again, leads anywhere. */
const forgetActsOf = (q: Query, personId: string) => q.query('delete from act where person_id = $1', [personId]);
/** Ends all sessions of a person; all but one where that is named. Answers how many. */
export const endSessions = async (q: Query, personId: string, but: Buffer | null = null) => {
  await forgetActsOf(q, personId);
  return (
    (await q.query('delete from session where person_id = $1 and token_hash is distinct from $2', [personId, but]))
      .rowCount ?? 0
  );
};

export type SessionRow = { token_hash: Buffer; device: string; created_at: Date; seen_at: Date };
export const sessionsOf = (q: Query, personId: string) =>
  many<SessionRow>(
    q,
    `select token_hash, device, created_at, seen_at from session where person_id = $1 and expires_at > now()
      order by seen_at desc`,
    [personId],
  );

// Links that are sent by mail -----------------------------------------------------------------------------------------------

export type LinkKind = 'claim' | 'prove' | 'change' | 'recover';
export type LinkRow = {
  person_id: string;
  kind: LinkKind;
  email: string;
  /** Of an account that is being made. */
  name: string | null;
  password_hash: string | null;
};
export const insertLink = (q: Query, l: LinkRow & { tokenHash: Buffer; hours: number }) =>
  q.query(
    `insert into link (token_hash, person_id, kind, email, name, password_hash, expires_at)
     values ($1, $2, $3, $4, $5, $6, now() + make_interval(hours => $7))`,
    [l.tokenHash, l.person_id, l.kind, l.email, l.name, l.password_hash, l.hours],
  );
/** A link that can still be used. */
export const openLink = (q: Query, tokenHash: Buffer) =>
  one<LinkRow>(
    q,
    `select person_id, kind, email::text as email, name, password_hash from link
      where token_hash = $1 and used_at is null and expires_at > now()`,
    [tokenHash],
  );
/** Uses a link: once, whoever comes at the same moment. */
export const useLink = async (q: Query, tokenHash: Buffer) =>
  (
    await q.query(
      `update link set used_at = now(), password_hash = null where token_hash = $1 and used_at is null and expires_at > now()`,
      [tokenHash],
    )
  ).rowCount === 1;
/** Links of a kind that are out for a person lose their use. */
export const dropLinks = (q: Query, personId: string, kinds: LinkKind[]) =>
  q.query('delete from link where person_id = $1 and kind = any($2) and used_at is null', [personId, kinds]);
export const forgetLinks = (q: Query, days: number) =>
  q.query('delete from link where expires_at < now() - make_interval(days => $1)', [days]);

export const setPassword = (q: Query, id: string, passwordHash: string) =>
  q.query('update person set password_hash = $2 where id = $1 and email is not null', [id, passwordHash]);
/** A new address, proven by the link that was sent to it. A taken one is a unique violation. */
export const setEmail = (q: Query, id: string, email: string) =>
  q.query('update person set email = $2, proven_at = now() where id = $1 and email is not null', [id, email]);
export const setProven = (q: Query, id: string, email: string) =>
  q.query('update person set proven_at = coalesce(proven_at, now()) where id = $1 and email = $2', [id, email]);

/** Accounts of some addresses that were proven. */
export const provenOf = (q: Query, emails: readonly string[]) =>
  many<{ id: string; email: string }>(
    q,
    'select id, email::text as email from person where email = any($1::citext[]) and proven_at is not null and deleted_at is null',
    [emails],
  );

/** Keeps a device as known to an account, and of all of them the `most` that were used last. */
export const knowDevice = async (q: Query, personId: string, deviceHash: Buffer, most: number) => {
  await q.query(
    `insert into known_device (person_id, device_hash) values ($1, $2)
     on conflict (person_id, device_hash) do update set seen_at = now()`,
    [personId, deviceHash],
  );
  await q.query(
    `delete from known_device where person_id = $1 and device_hash not in
      (select device_hash from known_device where person_id = $1 order by seen_at desc limit $2)`,
    [personId, most],
  );
};
/** Of the sessions of a person the ones seen last stay. */
export const dropOldestSessions = (q: Query, personId: string, most: number) =>
  q.query(
    `delete from session where person_id = $1 and token_hash not in
      (select token_hash from session where person_id = $1 order by seen_at desc limit $2)`,
    [personId, most],
  );
export const knowsDevice = async (q: Query, personId: string, deviceHash: Buffer) =>
  (await one(q, 'select 1 from known_device where person_id = $1 and device_hash = $2', [personId, deviceHash])) !==
  undefined;
export const forgetDevices = (q: Query, personId: string) =>
  q.query('delete from known_device where person_id = $1', [personId]);

/** Tables of what somebody made that follow them into their account as they are. */
const carried = [
  'cutter',
  'blade',
  'vinyl',
  'cut',
  'reading',
  'setting',
  'mat',
  'press',
  'stock',
  'notice',
  'model_owner',
  'batch',
  'job',
  'own_blank',
  'recipe',
  'press_outcome',
  'press_swatch',
  'bench_note',
] as const;
/** Tables that show besides that somebody did something here. */
const traces = [
  'vinyl_mine',
  'follow',
  'school',
  'own_way',
  'vinyl_type',
  'confirmation',
  'card',
  'card_report',
  'leaflet',
  'grade_event',
  'cell_cut_event',
  'weed_event',
  'device_run',
  'vinyl_alias',
  'remark',
  'thanks',
  'job_event',
] as const;

/** Guests that made nothing and did not come back: they go, with their sessions. Answers how many. */
export const sweepGuests = async (q: Query, days: number, limit: number) =>
  (
    await q.query(
      `with empty as (
         select p.id from person p
          where p.email is null and p.became is null and p.deleted_at is null and p.created_at < now() - make_interval(days => $1)
            and not exists (select 1 from session s where s.person_id = p.id and s.seen_at > now() - make_interval(days => $1))
            and not exists (select 1 from person b where b.became = p.id)
            ${[...carried, ...traces]
              .map((t) => `and not exists (select 1 from ${t} x where x.person_id = p.id)`)
              .join('\n            ')}
            and not exists (select 1 from import x where x.person_id = p.id and x.state <> 'seen')
            limit $2
            for update skip locked
       ), a as (delete from session where person_id in (select id from empty)),
          b as (delete from bench where person_id in (select id from empty)),
          c as (delete from link where person_id in (select id from empty)),
          d as (delete from import where person_id in (select id from empty))
       delete from person where id in (select id from empty)`,
      [days, limit],
    )
  ).rowCount ?? 0;

export const credentialsOf = (q: Query, email: string) =>
  one<{ id: string; password_hash: string; proven: boolean }>(
    q,
    'select id, password_hash, proven_at is not null as proven from person where email = $1 and deleted_at is null',
    [email],
  );

/** Gives a guest's row an e-mail that was proven, and a password. Answers whether it was a guest; a taken e-mail is a unique violation. */
export const claim = async (q: Query, id: string, email: string, passwordHash: string, name: string) =>
  (
    await q.query(
      'update person set email = $2, password_hash = $3, name = $4, proven_at = now() where id = $1 and email is null and became is null and deleted_at is null',
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
    ['own_way', 'x.topic = o.topic'],
    ['vinyl_type', 'lower(x.word) = lower(o.word)'],
  ] as const)
    await q.query(
      `update ${table} x set person_id = $2
        where x.person_id = $1 and not exists (select 1 from ${table} o where o.person_id = $2 and ${key})`,
      [guestId, personId],
    );
  // What squares of both found is read anew from all of them.
  await q.query(
    `delete from swatch_found f using swatch_found g
      where (f.vinyl_id, f.surface) = (g.vinyl_id, g.surface) and f.person_id = any($1) and g.person_id = any($1) and f.person_id <> g.person_id`,
    [[guestId, personId]],
  );
  for (const table of [...carried, 'swatch_found', 'import'])
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
    'delete from link where person_id = any($1)',
    'delete from known_device where person_id = any($1)',
    'delete from notice where person_id = any($1)',
    'delete from follow where person_id = any($1)',
    'delete from thanks where person_id = any($1)',
    'delete from bench where person_id = any($1)',
    'delete from school where person_id = any($1)',
    'delete from own_way where person_id = any($1)',
    'delete from bench_note where person_id = any($1)',
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
    // Jobs and blanks are seen by nobody else; the cuts they made stay.
    'delete from job where person_id = any($1)',
    'delete from own_blank where person_id = any($1)',
    'delete from swatch_found where person_id = any($1)',
    'update source set content = null where brought_by = any($1)',
    `delete from import where person_id = any($1) and not exists (select 1 from vinyl where import_id = import.id)
       and not exists (select 1 from setting where import_id = import.id)`,
    "update import set content = '{}', file_name = 'a file' where person_id = any($1)",
    `update person set name = 'a crafter', email = null, password_hash = null, lends_private = false, proven_at = null,
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

export const setPreferences = (
  q: Query,
  id: string,
  { length, temperature, numbers, zone }: { length: string; temperature: string; numbers: string; zone: string },
) =>
  q.query('update person set length_unit = $2, temperature_unit = $3, number_style = $4, zone = $5 where id = $1', [
    id,
    length,
    temperature,
    numbers,
    zone,
  ]);

/** Where a kind of thing is that a person may have so many of. */
const owned = {
  vinyls: 'vinyl where person_id = $1',
  cutters: 'cutter where person_id = $1 and retired_at is null',
  coupons: "cut where person_id = $1 and kind = 'coupon'",
  stock: 'stock where person_id = $1 and gone_at is null',
  mats: 'mat where person_id = $1 and retired_at is null',
  presses: 'press where person_id = $1 and retired_at is null',
  imports: "import where person_id = $1 and state = 'seen'",
  models: 'model_owner where person_id = $1',
  types: 'vinyl_type where person_id = $1',
  jobs: 'job where person_id = $1',
  blanks: 'own_blank where person_id = $1 and away_at is null',
  recipes: 'recipe where person_id = $1',
  swatches: 'press_swatch where person_id = $1',
  notes: 'bench_note where person_id = $1 and job_id is null and undone_at is null',
} as const;
export const countOwned = async (q: Query, personId: string, kind: keyof typeof owned) =>
  (await one<{ n: number }>(q, `select count(*)::int as n from ${owned[kind]}`, [personId]))!.n;

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
