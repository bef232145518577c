import pg from 'pg';

// bigint columns hold lengths in µm and counts: far below 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Query = {
  query: <R extends pg.QueryResultRow>(text: string, values?: unknown[]) => Promise<pg.QueryResult<R>>;
};

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
  return (await q.query<R>(text, values)).rows[0];
}

export async function many<R extends pg.QueryResultRow>(q: Query, text: string, values: unknown[] = []): Promise<R[]> {
  return (await q.query<R>(text, values)).rows;
}
