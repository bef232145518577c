import { withClient } from './withClient.ts';

/**
 * Lets the role that serves pages read and write the tables, and no more: it makes, changes and drops none. Asked by the owner after each
 * migration; where owner and role are one, there is nothing to do.
 *
 * @param owner address of the database as its owner
 * @param role the role that serves pages
 */
export async function grantTo(owner: string, role: string): Promise<void> {
  return withClient(owner, async (client) => {
    const { rows } = await client.query<{ me: string }>('select current_user as me');
    if (rows[0]!.me === role) return;
    const name = client.escapeIdentifier(role);
    for (const schema of ['public', 'pgboss']) {
      const { rowCount } = await client.query('select 1 from pg_namespace where nspname = $1', [schema]);
      if (rowCount === 0) continue;
      await client.query(`grant usage on schema ${schema} to ${name}`);
      await client.query(`grant select, insert, update, delete on all tables in schema ${schema} to ${name}`);
      await client.query(`grant usage, select on all sequences in schema ${schema} to ${name}`);
      await client.query(`grant execute on all functions in schema ${schema} to ${name}`);
    }
    // What has run is for the owner to say.
    await client.query(`revoke insert, update, delete on migration from ${name}`);
  });
}
