import { createHash } from 'node:crypto';
import pg from 'pg';

// bigint columns hold lengths in µm and counts: far below 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Query = {
  query: <R extends pg.QueryResultRow>(
    text: string | { name: string; text: string; values: unknown[] },
    values?: unknown[],
  ) => Promise<pg.QueryResult<R>>;
};

/**
 * Statements that read are prepared once a connection: planning the joins of a list takes longer than running it. Their texts are
 * those that stand in this room, so there are few; nothing that somebody typed is ever part of one.
 */
const names = new Map<string, string>();
function prepared(text: string, values: unknown[]) {
  let name = names.get(text);
  if (name === undefined) {
    name = createHash('sha256').update(text).digest('base64url').slice(0, 24);
    names.set(text, name);
  }
  return { name, text, values };
}

let pool: pg.Pool | undefined;

/** The one pool of the process, on DATABASE_URL. */
export function db(): pg.Pool {
  if (!pool) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error('DATABASE_URL is not set: start Versipel with bin/start or bin/demo');
    pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5_000 });
    // An idle connection lost with its server must not take the process down: the next query opens another.
    pool.on('error', () => undefined);
  }
  return pool;
}

export async function closeDb(): Promise<void> {
  await pool?.end();
  pool = undefined;
}

/** Runs `work` in one transaction; any error rolls all of it back. */
export async function transaction<T>(work: (q: Query) => Promise<T>): Promise<T> {
  const client = await db().connect();
  try {
    await client.query('begin');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

/** The first row, or undefined. */
export async function one<R extends pg.QueryResultRow>(
  q: Query,
  text: string,
  values: unknown[] = [],
): Promise<R | undefined> {
  return (await q.query<R>(prepared(text, values))).rows[0];
}

export async function many<R extends pg.QueryResultRow>(q: Query, text: string, values: unknown[] = []): Promise<R[]> {
  return (await q.query<R>(prepared(text, values))).rows;
}
