import { one, type Query } from '#store/base/db.ts';

/** Answers false where this act is known already; waits for one that is under way. */
export const beginAct = async (q: Query, key: Buffer): Promise<boolean> =>
  (await q.query('insert into act (key) values ($1) on conflict (key) do nothing', [key])).rowCount === 1;

export const endAct = (q: Query, key: Buffer, personId: string, guest: boolean, answer: string) =>
  q.query('update act set person_id = $2, guest = $3, answer = $4 where key = $1', [key, personId, guest, answer]);

/** What an act was answered; `guest` while it made a guest who is one still, some minutes ago at most. */
export const actOf = (q: Query, key: Buffer, minutes: number) =>
  one<{ person_id: string; guest: boolean; answer: string }>(
    q,
    `select a.person_id, a.answer,
            a.guest and p.email is null and p.became is null and p.deleted_at is null and a.at > now() - make_interval(mins => $2) as guest
       from act a join person p on p.id = a.person_id where a.key = $1`,
    [key, minutes],
  );

export const forgetActs = (q: Query, days: number) =>
  q.query('delete from act where at < now() - make_interval(days => $1)', [days]);
