import pg from 'pg';

/** Runs `work` on a connection of its own, outside the pool: for what is done to a whole database, as its owner. The connection ends with it. */
export async function withClient<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  // A connection that is lost between two statements ends the work at the next one, not the process.
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
