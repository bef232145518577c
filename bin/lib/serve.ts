import { existsSync, writeFileSync } from 'node:fs';
import type { ServerResponse } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { loadDemo, demoSignIns } from '#demo/load.ts';
import { closeDb } from '#store/base/db.ts';
import { grantTo } from '#store/base/grants.ts';
import { migrate } from '#store/base/migrate.ts';
import { startBackground } from '#work/tasks.ts';
import { stopComputing } from '#work/base/compute.ts';
import { log } from '#work/base/log.ts';
import { mailsTo } from '#work/people/mail.ts';
import { prepareQueue, stopQueue } from '#work/base/queue.ts';
import { devices } from '#work/cuts/deviceList.ts';
import { pressLines } from '#work/workshop/livePresses.ts';
import { stewardList, stewards } from '#work/people/stewards.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { listenFrom, makeServer } from './httpServer.ts';
import { startMailer, startPress, startStandIn } from './standIn.ts';
import { clusterFolder, ensureDatabase, roleIn, startCluster, type Cluster } from './postgres.ts';

// What bin/demo and bin/start run after set-up: database, migrations, demo data, server. Ctrl-C ends all of it.
// V8 lets a heap grow by what it pleases before it looks for what can go, and gives little back: a busy server would hold twice what it uses.
// So it looks whenever the heap is a third larger than what was left the last time.
setFlagsFromString('--heap-growing-percent=33');

const root = join(fileURLToPath(import.meta.url), '../../..');
const demo = process.argv.includes('--demo');
const host = process.env.HOST ?? '127.0.0.1';
const wanted = Number(process.env.PORT ?? 4780);
const say = (line: string) => console.log(`  ${line}`);
/** Writes that are under way when the server is told to stop have so long to be answered, ms. */
const DRAIN = 10_000;

let cluster: Cluster | undefined;
let loaded: string | undefined;
const standIns: { stop: () => void }[] = [];
let stopping = false;
/** Answers that are under way. */
const underWay = new Set<ServerResponse>();
let server: Awaited<ReturnType<typeof makeServer>> | undefined;

/** Answers what is under way, takes nothing new, and ends; what is not answered in time is cut off. */
async function stop(code: number): Promise<never> {
  if (!stopping) {
    stopping = true;
    if (server?.listening)
      await new Promise<void>((done) => {
        const late = setTimeout(() => server!.closeAllConnections(), DRAIN);
        server!.close(() => {
          clearTimeout(late);
          done();
        });
        // Whoever is answered now is told to ask nothing more on that connection.
        const last = (res: ServerResponse) => !res.headersSent && res.setHeader('Connection', 'close');
        underWay.forEach(last);
        server!.prependListener('request', (_, res: ServerResponse) => last(res));
        server!.closeIdleConnections();
        const idle = setInterval(() => server!.closeIdleConnections(), 200);
        server!.once('close', () => clearInterval(idle));
      });
    await stopQueue().catch(() => undefined);
    await stopComputing().catch(() => undefined);
    await closeDb().catch(() => undefined);
    for (const s of standIns) s.stop();
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
// The last net: whatever nobody waited for is told, and one request's error is no reason to end everybody's.
process.on('unhandledRejection', (error) => log.error({ event: 'broken', err: error }, 'nobody waited for this error'));
process.on('uncaughtException', (error) => log.error({ event: 'broken', err: error }, 'nobody caught this error'));

try {
  if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65_535)
    throw new Error(`PORT is not a port: ${process.env.PORT}`);
  let owner: string;
  if (process.env.DATABASE_URL) {
    say('using the database of DATABASE_URL');
    owner = process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL;
  } else {
    const folder = process.env.VERSIPEL_DATA ?? clusterFolder(root, 'pg');
    if (!folder.startsWith(root)) say(`the database is in ${folder}`);
    cluster = await startCluster(folder, say);
    // The demo has a database of its own: bin/start never shows invented people beside real work.
    // A demo that was cut short while it was loaded is loaded anew.
    loaded = join(folder, 'demo-loaded');
    const made = await ensureDatabase(cluster, demo ? 'versipel_demo' : 'versipel', demo && !existsSync(loaded));
    process.env.DATABASE_URL = made.app;
    ({ owner } = made);
    cluster.watch();
    process.env.VERSIPEL_DISK ??= folder;
  }
  const url = process.env.DATABASE_URL;
  const ran = await migrate(owner, join(root, 'store/migrations'));
  if (ran.length > 0) say(`database brought up to ${ran.at(-1)}`);
  await prepareQueue(owner);
  await grantTo(owner, roleIn(url));
  await publishShippedModels();
  if (demo) {
    await loadDemo(say);
    if (loaded) writeFileSync(loaded, '');
  }
  if (demo && !process.env.VERSIPEL_CUTTERS) {
    const cutter = await startStandIn(root, ['--ms', '900']);
    standIns.push(cutter);
    process.env.VERSIPEL_CUTTERS = cutter.listFile;
  }
  if (demo && !process.env.VERSIPEL_PRESSES) {
    // Three times as quick as a real one: nobody waits five minutes to look at it.
    const press = await startPress(root, ['--speed', '3', '--warm', '140']);
    standIns.push(press);
    process.env.VERSIPEL_PRESSES = press.listFile;
  }
  if (demo && !process.env.VERSIPEL_SMTP) {
    const mailer = await startMailer(root);
    standIns.push(mailer);
    process.env.VERSIPEL_SMTP = mailer.url;
    process.env.VERSIPEL_SIMULATED_MAIL = '1';
    say('letters go to a simulated mail server: they are shown here, and leave for nowhere');
  }
  for (const d of devices()) say(`cutter on a line: ${d.name}${d.simulated ? ' (simulated)' : ''}`);
  for (const p of pressLines()) say(`press on a line: ${p.name}${p.simulated ? ' (simulated)' : ''}`);
  if (mailsTo() === 'the console')
    say('there is no mail server (VERSIPEL_SMTP): links for accounts and passwords are shown here, hand them on');

  // Who keeps order on the shelf is said by whoever runs the server; an address counts once it is proven.
  const named = await stewards();
  for (const email of stewardList())
    if (!named.some((s) => s.email.toLowerCase() === email))
      say(`${email} is no proven address of an account yet: no steward`);
  for (const { id } of named) log.info({ event: 'steward', account: id });
  await startBackground(url);

  server = await makeServer(root);
  server.prependListener('request', (_, res: ServerResponse) => {
    underWay.add(res);
    res.once('close', () => underWay.delete(res));
  });
  const port = await listenFrom(server, wanted, host, (taken) => say(`port ${taken} is taken, trying the next`));
  process.env.VERSIPEL_PORT = String(port);
  console.log(`\nVersipel is at http://${host === '0.0.0.0' ? 'localhost' : host}:${port}\n`);
  if (demo) {
    console.log('Open it as a guest, or sign in (all made up):');
    for (const { email, password, about } of demoSignIns) console.log(`  ${email}  ${password}  ${about}`);
    console.log('');
  }
  console.log('Ctrl-C stops it.');
} catch (error) {
  console.error(`\nVersipel could not start: ${(error as Error).message}`);
  await stop(1);
}
