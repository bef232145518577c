import { db } from '#store/base/db.ts';

/** Asks the database for an answer. @throws when there is none */
export async function isAwake(): Promise<true> {
  await db().query('select 1');
  return true;
}
