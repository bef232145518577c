import { createHash } from 'node:crypto';
import pg from 'pg';
import { withClient } from './withClient.ts';

/** What a database holds: a checksum over every row of every table, and how many rows there are. */
export type Content = { sum: string; rows: number; tables: Record<string, number> };

/** Tables whose rows come and go by themselves, and say nothing that anybody made. */
const PASSING = new Set(['session', 'attempt', 'act']);

/**
 * A checksum of what is in a database, whatever order its rows lie in: SHA-256 over the tables by name, each with the sum of the hashes of its
 * rows as text. Two databases with the same one hold the same.
 *
 * @param snapshot of a transaction that exported one: the content as of that moment
 */
export async function contentOf(url: string, snapshot?: string): Promise<Content> {
  return withClient(url, async (client) => {
    await client.query('begin isolation level repeatable read read only');
    if (snapshot) await client.query(`set transaction snapshot ${client.escapeLiteral(snapshot)}`);
    // The text of a row must not hang on where and how it is read.
    for (const [name, value] of [
      ['timezone', 'UTC'],
      ['datestyle', 'ISO, YMD'],
      ['extra_float_digits', '1'],
      ['bytea_output', 'hex'],
      ['intervalstyle', 'iso_8601'],
    ])
      await client.query('select set_config($1, $2, true)', [name, value]);
    const { rows: tables } = await client.query<{ name: string }>(
      `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
        where n.nspname = 'public' and c.relkind in ('r', 'p')
          and not exists (select 1 from pg_depend d where d.objid = c.oid and d.deptype = 'e')
        order by c.relname collate "C"`,
    );
    const hash = createHash('sha256');
    const counts: Record<string, number> = {};
    for (const { name } of tables) {
      if (PASSING.has(name)) continue;
      // The sum of 128 bits of each row's hash does not hang on their order; the number of rows stands beside it.
      const { rows } = await client.query<{ n: number; sum: string }>(
        `select count(*)::int as n, coalesce(sum(('x' || substr(h, 1, 16))::bit(64)::bigint::numeric), 0)::text || ' ' ||
            coalesce(sum(('x' || substr(h, 17, 16))::bit(64)::bigint::numeric), 0)::text as sum
           from (select encode(sha256(convert_to(t::text, 'UTF8')), 'hex') as h from ${client.escapeIdentifier(name)} t) x`,
      );
      hash.update(`${name} ${rows[0]!.n} ${rows[0]!.sum}\n`);
      counts[name] = rows[0]!.n;
    }
    await client.query('commit');
    return { sum: hash.digest('hex'), rows: Object.values(counts).reduce((a, b) => a + b, 0), tables: counts };
  });
}

/** Whether nobody ever used a database: no person in it. One that was never migrated is empty too. */
export async function isEmpty(url: string): Promise<boolean> {
  return withClient(url, async (client) => {
    const { rows } = await client.query<{ there: boolean }>(`select to_regclass('public.person') is not null as there`);
    if (!rows[0]!.there) return true;
    return (await client.query('select 1 from person limit 1')).rowCount === 0;
  });
}

/** Holds a moment still while others read it: a snapshot that other connections may use until `end`. */
export async function holdStill(url: string): Promise<{ snapshot: string; end: () => Promise<void> }> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query('begin isolation level repeatable read read only');
  const { rows } = await client.query<{ id: string }>('select pg_export_snapshot() as id');
  return {
    snapshot: rows[0]!.id,
    end: async () => {
      await client.query('commit').catch(() => undefined);
      await client.end();
    },
  };
}

/** Takes everything of ours out of an empty database, so that a backup can be brought in whole. */
export async function clear(url: string): Promise<void> {
  return withClient(url, async (client) => {
    await client.query('drop schema if exists pgboss cascade');
    await client.query('drop schema public cascade');
    await client.query('create schema public');
  });
}
