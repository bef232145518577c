import { one, type Query } from '#store/base/db.ts';

/** Answers false where this act is known already; waits for one that is under way. */
export const beginAct = async (q: Query, key: Buffer): Promise<boolean> =>
  (await q.query('insert into act (key) values ($1) on conflict (key) do nothing', [key])).rowCount === 1;

export const endAct = (q: Query, key: Buffer, personId: string, guest: boolean, answer: string) =>
  q.query('update act set person_id = $2, guest = $3, answer = $4 where key = $1', [key, personId, guest, answer]);

export const actOf = (q: Query, key: Buffer) =>
  one<{ person_id: string; guest: boolean; answer: string }>(
    q,
    'select person_id, guest, answer from act where key = $1',
    [key],
  );

export const forgetActs = (q: Query, days: number) =>
  q.query('delete from act where at < now() - make_interval(days => $1)', [days]);
