import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { migrate } from '#store/base/migrate.ts';

export const root = join(fileURLToPath(import.meta.url), '../..');

/** A fresh database on the server that bin/test started, migrated; and the way to be rid of it. */
export async function testDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const admin = process.env.VERSIPEL_TEST_ADMIN;
  if (!admin) throw new Error('No test server: run these tests through bin/test.');
  const name = `t_${randomBytes(6).toString('hex')}`;
  const as = async (sql: string) => {
    const client = new pg.Client({ connectionString: admin });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  };
  await as(`create database ${name}`);
  const url = admin.replace(/[^/]+$/, name);
  await migrate(url, join(root, 'store/migrations'));
  return { url, drop: () => as(`drop database if exists ${name} with (force)`) };
}

/** Rows of a query, for looking at what the product wrote. */
export async function rows<R extends pg.QueryResultRow>(
  url: string,
  sql: string,
  values: unknown[] = [],
): Promise<R[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<R>(sql, values)).rows;
  } finally {
    await client.end();
  }
}
