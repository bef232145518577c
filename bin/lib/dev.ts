import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { grantTo } from '#store/base/grants.ts';
import { migrate } from '#store/base/migrate.ts';
import { clusterFolder, ensureDatabase, roleIn, startCluster } from './postgres.ts';

// npm run dev: the demo's database, and React Router's development server on it. The queue, the launcher's door (limits, drained stops) and
// the stand-ins belong to bin/demo; a change of those is looked at there.
const root = join(fileURLToPath(import.meta.url), '../../..');
const folder = clusterFolder(root, 'pg');
if (!existsSync(join(folder, 'demo-loaded'))) {
  console.error('There is no demo database yet: run bin/demo once, then this again.');
  process.exit(1);
}
const cluster = await startCluster(folder, (line) => console.log(`  ${line}`));
const { owner, app } = await ensureDatabase(cluster, 'versipel_demo');
await migrate(owner, join(root, 'store/migrations'));
await grantTo(owner, roleIn(app));
const dev = spawn(join(root, 'node_modules/.bin/react-router'), ['dev', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: app },
});
process.on('SIGINT', () => undefined);
dev.once('exit', (code) => void cluster.stop().finally(() => process.exit(code ?? 0)));
