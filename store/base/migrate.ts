import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { withClient } from './withClient.ts';

/** Any number will do, as long as every Versipel uses the same. */
const LOCK = 7_310_055;

/**
 * Brings a database up to the newest migration, forward only, one transaction each, under an advisory lock, so that two
 * starts at once do not run the same file twice. A file that changed after it ran is an error.
 *
 * @returns the names of the files that ran
 */
export async function migrate(url: string, folder: string): Promise<string[]> {
  return withClient(url, async (client) => {
    await client.query('select pg_advisory_lock($1)', [LOCK]);
    await client.query(
      'create table if not exists migration (name text primary key, hash text not null, ran_at timestamptz not null default now())',
    );
    const done = new Map(
      (await client.query<{ name: string; hash: string }>('select name, hash from migration')).rows.map((r) => [
        r.name,
        r.hash,
      ]),
    );
    const ran: string[] = [];
    for (const name of readdirSync(folder)
      .filter((f) => f.endsWith('.sql'))
      .sort()) {
      const sql = readFileSync(join(folder, name), 'utf8');
      const hash = createHash('sha256').update(sql).digest('hex');
      if (done.has(name)) {
        if (done.get(name) !== hash)
          throw new Error(`migration ${name} was changed after it ran: add a new file instead`);
        continue;
      }
      await client.query('begin');
      try {
        await client.query(sql);
        await client.query('insert into migration (name, hash) values ($1, $2)', [name, hash]);
        await client.query('commit');
      } catch (error) {
        await client.query('rollback');
        throw new Error(`migration ${name} failed: ${(error as Error).message}`, { cause: error });
      }
      ran.push(name);
    }
    return ran;
  });
}
