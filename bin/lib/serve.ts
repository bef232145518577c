import { existsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { loadDemo, demoSignIns } from '#demo/load.ts';
import { closeDb } from '#store/db.ts';
import { migrate } from '#store/migrate.ts';
import { startBackground } from '#work/background.ts';
import { stopComputing } from '#work/compute.ts';
import { settleCards } from '#work/cards.ts';
import { sweepAttempts } from '#work/limits.ts';
import { sweepPacks } from '#work/packIn.ts';
import { sweepSessions } from '#work/people.ts';
import { stopQueue } from '#work/queue.ts';
import { refreshOverdue } from '#work/readings.ts';
import { devices } from '#work/deviceList.ts';
import { settleAfterCrash } from '#work/devices.ts';
import { makeSteward } from '#work/social.ts';
import { publishShippedModels } from '#work/workshop.ts';
import { listenFrom, makeServer } from './httpServer.ts';
import { startStandIn, type StandIn } from './standIn.ts';
import { clusterFolder, ensureDatabase, startCluster, type Cluster } from './postgres.ts';

// What bin/demo and bin/start run after set-up: database, migrations, demo data, server. Ctrl-C ends all of it.
const root = join(fileURLToPath(import.meta.url), '../../..');
const demo = process.argv.includes('--demo');
const host = process.env.HOST ?? '127.0.0.1';
const wanted = Number(process.env.PORT ?? 4780);
const say = (line: string) => console.log(`  ${line}`);

let cluster: Cluster | undefined;
let loaded: string | undefined;
let standIn: StandIn | undefined;
let stopping = false;
let server: Awaited<ReturnType<typeof makeServer>> | undefined;

async function stop(code: number): Promise<never> {
  if (!stopping) {
    stopping = true;
    server?.closeAllConnections();
    server?.close();
    standIn?.stop();
    await stopQueue().catch(() => undefined);
    await stopComputing().catch(() => undefined);
    await closeDb().catch(() => undefined);
    await cluster?.stop().catch((error: Error) => console.error(error.message));
  }
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    if (stopping) return;
    console.log('\nStopping.');
    void stop(0);
  });

try {
  if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65_535)
    throw new Error(`PORT is not a port: ${process.env.PORT}`);
  if (process.env.DATABASE_URL) say('using the database of DATABASE_URL');
  else {
    const folder = clusterFolder(root, 'pg');
    if (!folder.startsWith(root)) say(`the database goes to ${folder}: its account cannot walk into this folder`);
    cluster = await startCluster(folder, say);
    // The demo has a database of its own: bin/start never shows invented people beside real work.
    // A demo that was cut short while it was loaded is loaded anew.
    loaded = join(folder, 'demo-loaded');
    process.env.DATABASE_URL = await ensureDatabase(
      cluster,
      demo ? 'versipel_demo' : 'versipel',
      demo && !existsSync(loaded),
    );
  }
  const ran = await migrate(process.env.DATABASE_URL, join(root, 'store/migrations'));
  if (ran.length > 0) say(`database brought up to ${ran.at(-1)}`);
  await publishShippedModels();
  if (demo) {
    await loadDemo(say);
    if (loaded) writeFileSync(loaded, '');
  }
  if (demo && !process.env.VERSIPEL_CUTTERS) {
    standIn = await startStandIn(root, ['--ms', '900']);
    process.env.VERSIPEL_CUTTERS = standIn.listFile;
  }
  for (const d of devices()) say(`cutter on a line: ${d.name}${d.simulated ? ' (simulated)' : ''}`);
  await settleAfterCrash();
  await sweepSessions();

  // Who keeps order on the shelf is said by whoever runs the server.
  for (const email of (process.env.VERSIPEL_STEWARDS ?? '').split(',').map((e) => e.trim()))
    if (email !== '' && !(await makeSteward(email))) say(`no account of ${email} yet: no steward`);
  await startBackground(process.env.DATABASE_URL);

  server = await makeServer(root);
  const port = await listenFrom(server, wanted, host, (taken) => say(`port ${taken} is taken, trying the next`));
  console.log(`\nVersipel is at http://${host === '0.0.0.0' ? 'localhost' : host}:${port}\n`);
  if (demo) {
    console.log('Open it as a guest, or sign in (all made up):');
    for (const { email, password, about } of demoSignIns) console.log(`  ${email}  ${password}  ${about}`);
    console.log('');
  }
  console.log('Ctrl-C stops it.');
  // What a crash left half done is made up for, now and then.
  const tidy = () =>
    void Promise.all([refreshOverdue(), sweepAttempts(), sweepPacks(), settleAfterCrash(), settleCards()]).catch(
      (error: Error) => console.error(`tidying: ${error.message}`),
    );
  tidy();
  setInterval(tidy, 60_000).unref();
} catch (error) {
  console.error(`\nVersipel could not start: ${(error as Error).message}`);
  await stop(1);
}
