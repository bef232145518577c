import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { migrate } from '#store/base/migrate.ts';
import { openBrowser, type Browser } from '../bin/lib/browser.ts';
import { clusterFolder, ensureDatabase, startCluster } from '../bin/lib/postgres.ts';
import { awake, startServer } from './server.ts';

/**
 * Work in a browser on the built application, with a database of its own; everything is stopped and thrown away after it.
 * @param without switches that ChromeDriver sets and that are left out here
 */
export async function inApp<T>(
  database: string,
  port: number,
  without: string[],
  work: (b: Browser) => Promise<T>,
): Promise<T> {
  const root = join(fileURLToPath(import.meta.url), '../..');
  const folder = clusterFolder(root, `bench-${process.pid}`);
  const cluster = await startCluster(folder, (line) => console.error(`  ${line}`));
  let stop = async () => undefined as void;
  try {
    const { owner, app } = await ensureDatabase(cluster, database, false);
    await migrate(owner, join(root, 'store/migrations'));
    const server = startServer(root, port, { DATABASE_URL: app, DATABASE_OWNER_URL: owner }, { errors: 'inherit' });
    stop = async () => void server.kill();
    await awake(port);
    const b = await openBrowser(() => `http://127.0.0.1:${port}`, [], without);
    stop = async () => {
      await b.close();
      server.kill();
    };
    return await work(b);
  } finally {
    await stop();
    await cluster.stop().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  }
}
