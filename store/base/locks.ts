import type { Query } from './db.ts';

/** Holds others who are at the same thing until this transaction ends, so that ten at once do not all slip through. */
export const lockKey = (q: Query, key: string) =>
  q.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [key]);
