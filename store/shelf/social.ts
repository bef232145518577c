import type { Wanted } from '#store/coupons/coupons.ts';
import { many, one, type Query } from '#store/base/db.ts';

// Thanks -------------------------------------------------------------------------------------------------------------------

export const setThanks = (q: Query, cardId: string, personId: string, given: boolean) =>
  given
    ? q.query('insert into thanks (card_id, person_id) values ($1, $2) on conflict do nothing', [cardId, personId])
    : q.query('delete from thanks where card_id = $1 and person_id = $2', [cardId, personId]);
export const thanksFor = async (q: Query, cardId: string, personId: string | null) =>
  (await one<{ n: number; mine: boolean }>(
    q,
    'select count(*)::int as n, coalesce(bool_or(person_id = $2), false) as mine from thanks where card_id = $1',
    [cardId, personId],
  ))!;

// Questions and answers ----------------------------------------------------------------------------------------------------

export type RemarkRow = {
  id: string;
  card_id: string;
  answers: string | null;
  person_id: string;
  who: string;
  body: string;
  at: Date;
  hidden_at: Date | null;
  taken_back_at: Date | null;
  changed_at: Date | null;
};
const remarkSelect = `select r.id, r.card_id, r.answers, r.person_id, p.name as who, r.body, r.at, r.hidden_at, r.taken_back_at, r.changed_at
  from remark r join person p on p.id = r.person_id`;
export const remarksOf = (q: Query, cardId: string) =>
  many<RemarkRow>(q, `${remarkSelect} where r.card_id = $1 order by r.at, r.id`, [cardId]);
export const remarkById = (q: Query, id: string) => one<RemarkRow>(q, `${remarkSelect} where r.id = $1`, [id]);
export const insertRemark = (
  q: Query,
  r: { id: string; cardId: string; answers: string | null; personId: string; body: string },
) =>
  q.query('insert into remark (id, card_id, answers, person_id, body) values ($1, $2, $3, $4, $5)', [
    r.id,
    r.cardId,
    r.answers,
    r.personId,
    r.body,
  ]);
export const changeRemark = (q: Query, id: string, body: string) =>
  q.query('update remark set body = $2, changed_at = now() where id = $1', [id, body]);
export const hideRemark = (q: Query, id: string) => q.query('update remark set hidden_at = now() where id = $1', [id]);

// Following and notices ----------------------------------------------------------------------------------------------------

export const setFollow = (q: Query, personId: string, vinylId: string, on: boolean) =>
  on
    ? q.query('insert into follow (person_id, vinyl_id) values ($1, $2) on conflict do nothing', [personId, vinylId])
    : q.query('delete from follow where person_id = $1 and vinyl_id = any(array(select vinyl_kin($2)))', [
        personId,
        vinylId,
      ]);
export const isFollowed = async (q: Query, personId: string, vinylId: string) =>
  (await one<{ found: boolean }>(
    q,
    'select exists (select 1 from follow where person_id = $1 and vinyl_id = any(array(select vinyl_kin($2)))) as found',
    [personId, vinylId],
  ))!.found;
export const followersOf = (q: Query, vinylId: string) =>
  many<{ person_id: string }>(
    q,
    'select distinct person_id from follow where vinyl_id = any(array(select vinyl_kin($1)))',
    [vinylId],
  );

export type NoticeKind = 'question' | 'answer' | 'best' | 'standing' | 'hidden' | 'report' | 'way gone';
export type NoticeRow = {
  id: string;
  kind: NoticeKind;
  card_id: string | null;
  vinyl_id: string | null;
  brand: string | null;
  vinyl: string | null;
  content: { said?: string; who?: string; standing?: string; before?: string };
  at: Date;
  read_at: Date | null;
};
export const insertNotice = (
  q: Query,
  n: {
    id: string;
    personId: string;
    kind: NoticeKind;
    cardId: string | null;
    vinylId: string | null;
    content: NoticeRow['content'];
  },
) =>
  q.query('insert into notice (id, person_id, kind, card_id, vinyl_id, content) values ($1, $2, $3, $4, $5, $6)', [
    n.id,
    n.personId,
    n.kind,
    n.cardId,
    n.vinylId,
    n.content,
  ]);
export const noticesOf = (q: Query, personId: string, limit: number) =>
  many<NoticeRow>(
    q,
    `select n.id, n.kind, n.card_id, n.vinyl_id, v.brand, v.name as vinyl, n.content, n.at, n.read_at
       from notice n left join vinyl v on v.id = n.vinyl_id where n.person_id = $1 order by n.at desc limit $2`,
    [personId, limit],
  );
export const unreadNotices = async (q: Query, personId: string) =>
  (await one<{ n: number }>(q, 'select count(*)::int as n from notice where person_id = $1 and read_at is null', [
    personId,
  ]))!.n;
export const markNoticesRead = (q: Query, personId: string, upTo: Date) =>
  q.query('update notice set read_at = now() where person_id = $1 and read_at is null and at <= $2', [personId, upTo]);

// The best card of a vinyl -------------------------------------------------------------------------------------------------

/** Public cards of a vinyl with where they stand: proven before tried, then by the lower bound of what did as wanted. */
export const bestOf = (q: Query, vinylId: string, wanted: Wanted) =>
  one<{ card_id: string; version: number; standing: string; author: string }>(
    q,
    `select c.id as card_id, v.number as version, s.standing, p.name as author
       from card c join person p on p.id = c.person_id
       join card_version v on v.card_id = c.id and v.number = (select max(number) from card_version where card_id = c.id)
       join card_standing s on s.card_id = c.id
      where c.vinyl_id = any(array(select vinyl_kin($1))) and c.wanted = $2 and c.visibility = 'public' and c.hidden_at is null
      order by array_position(array['proven', 'tried', 'draft', 'doubted', 'retired'], s.standing), (s.proof ->> 'lower')::float desc, c.id
      limit 1`,
    [vinylId, wanted],
  );
export const knownBest = (q: Query, vinylId: string, wanted: Wanted) =>
  one<{ card_id: string; version: number; standing: string }>(
    q,
    'select card_id, version, standing from best_card where vinyl_id = $1 and wanted = $2 for update',
    [vinylId, wanted],
  );
export const setBest = (
  q: Query,
  vinylId: string,
  wanted: Wanted,
  best: { card_id: string; version: number; standing: string } | undefined,
) =>
  best
    ? q.query(
        `insert into best_card (vinyl_id, wanted, card_id, version, standing) values ($1, $2, $3, $4, $5)
         on conflict (vinyl_id, wanted) do update set card_id = excluded.card_id, version = excluded.version,
           standing = excluded.standing, since = now()`,
        [vinylId, wanted, best.card_id, best.version, best.standing],
      )
    : q.query('delete from best_card where vinyl_id = $1 and wanted = $2', [vinylId, wanted]);

// Order on the shelf -------------------------------------------------------------------------------------------------------

export const setHidden = (q: Query, cardId: string, hidden: boolean) =>
  q.query('update card set hidden_at = case when $2 then now() end where id = $1', [cardId, hidden]);

export type ReportRow = {
  id: number;
  card_id: string;
  why: string;
  at: Date;
  who: string | null;
  vinyl: string;
  author: string;
  hidden: boolean;
};
export const openReports = (q: Query, limit: number) =>
  many<ReportRow>(
    q,
    `select r.id, r.card_id, r.why, r.at, w.name as who, concat_ws(' ', v.brand, v.name) as vinyl, a.name as author,
        c.hidden_at is not null as hidden
       from card_report r join card c on c.id = r.card_id join person a on a.id = c.person_id join vinyl v on v.id = c.vinyl_id
       left join person w on w.id = r.person_id where r.settled_at is null order by r.at limit $1`,
    [limit],
  );
export const settleReport = (q: Query, id: number) =>
  one<{ card_id: string }>(
    q,
    'update card_report set settled_at = now() where id = $1 and settled_at is null returning card_id',
    [id],
  );
export const settleReportsOf = (q: Query, cardId: string) =>
  q.query('update card_report set settled_at = now() where card_id = $1 and settled_at is null', [cardId]);

export type BatchReportRow = { id: number; label: string; vinyl: string; why: string; at: Date; who: string | null };
export const openBatchReports = (q: Query, limit: number) =>
  many<BatchReportRow>(
    q,
    `select r.id, b.label, concat_ws(' ', v.brand, v.name) as vinyl, r.why, r.at, w.name as who
       from batch_report r join batch b on b.id = r.batch_id join vinyl v on v.id = b.vinyl_id left join person w on w.id = r.person_id
      where r.settled_at is null order by r.at limit $1`,
    [limit],
  );
export const insertBatchReport = (q: Query, batchId: string, personId: string, why: string) =>
  q.query('insert into batch_report (batch_id, person_id, why) values ($1, $2, $3)', [batchId, personId, why]);
/** Settles all reports of the batch of one; hides it where that is asked. */
export const settleBatchReport = (q: Query, id: number, hide: boolean) =>
  one<{ vinyl_id: string }>(
    q,
    `with of as (select batch_id from batch_report where id = $1 and settled_at is null),
          settled as (update batch_report set settled_at = now() where settled_at is null and batch_id in (select batch_id from of))
     update batch set hidden_at = case when $2 then now() else hidden_at end where id in (select batch_id from of) returning vinyl_id`,
    [id, hide],
  );

export type Act =
  | 'hide card'
  | 'show card'
  | 'hide remark'
  | 'merge vinyls'
  | 'part vinyls'
  | 'settle report'
  | 'hide batch'
  | 'leave batch';
export const insertAct = (
  q: Query,
  a: {
    personId: string;
    act: Act;
    why: string;
    cardId?: string;
    remarkId?: string;
    vinylId?: string;
    otherId?: string;
  },
) =>
  q.query(
    'insert into steward_act (person_id, act, why, card_id, remark_id, vinyl_id, other_id) values ($1, $2, $3, $4, $5, $6, $7)',
    [a.personId, a.act, a.why, a.cardId ?? null, a.remarkId ?? null, a.vinylId ?? null, a.otherId ?? null],
  );
export type ActRow = {
  id: number;
  who: string;
  act: Act;
  why: string;
  at: Date;
  card_id: string | null;
  vinyl: string | null;
  other: string | null;
};
export const actsOf = (q: Query, limit: number) =>
  many<ActRow>(
    q,
    `select a.id, p.name as who, a.act, a.why, a.at, a.card_id, concat_ws(' ', v.brand, v.name) as vinyl,
        concat_ws(' ', o.brand, o.name) as other
       from steward_act a join person p on p.id = a.person_id
       left join vinyl v on v.id = coalesce(a.vinyl_id, (select vinyl_id from card where id = a.card_id))
       left join vinyl o on o.id = a.other_id order by a.at desc, a.id desc limit $1`,
    [limit],
  );
