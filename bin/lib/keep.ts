import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream, existsSync, renameSync, rmSync, statSync } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { clear, contentOf, holdStill, isEmpty } from '#store/base/checksum.ts';
import { clusterFolder, ensureDatabase, postgresPrograms, startCluster, type Cluster } from './postgres.ts';

/**
 * bin/backup and bin/restore. A backup is one file: a line of JSON that says what it holds and how to tell that it is whole, then what
 * pg_dump writes (its custom format). It is taken of one moment, while Versipel runs.
 */
const MAGIC = 'versipel-backup/1';
type Head = {
  format: typeof MAGIC;
  at: string;
  /** Of the database: what a restored one must have as well. */
  content: { sum: string; rows: number };
  /** Of the rest of this file. */
  dump: { sha256: string; bytes: number };
};
const HEAD = 4096;

const root = join(fileURLToPath(import.meta.url), '../../..');
const [verb, ...rest] = process.argv.slice(2);
const demo = rest.includes('--demo');
const file = rest.find((a) => !a.startsWith('--'));
const say = (line: string) => console.log(`  ${line}`);

class Complaint extends Error {}

function program(name: string): string {
  const folder = postgresPrograms();
  if (!folder) throw new Complaint('PostgreSQL is not installed. Install it with: apt-get install postgresql');
  return join(folder, name);
}

/** Runs a program of PostgreSQL; its complaints are ours. */
function run(name: string, args: string[], url: string, input?: string, from = 0): Promise<void> {
  const address = new URL(url);
  const child = spawn(program(name), args, {
    cwd: '/',
    stdio: [input ? 'pipe' : 'ignore', 'ignore', 'pipe'],
    // The password stands in the environment, not among the arguments that everybody on the machine can read.
    env: {
      ...process.env,
      PGHOST: address.hostname,
      PGPORT: address.port || '5432',
      PGUSER: decodeURIComponent(address.username),
      PGPASSWORD: decodeURIComponent(address.password),
      PGDATABASE: decodeURIComponent(address.pathname.slice(1)),
    },
  });
  let said = '';
  child.stderr!.on('data', (d: Buffer) => (said = (said + d.toString()).slice(-2000)));
  if (input) {
    child.stdin!.on('error', () => undefined);
    createReadStream(input, { start: from }).pipe(child.stdin!);
  }
  return new Promise((done, failed) => {
    child.once('error', failed);
    child.once('exit', (code) =>
      code === 0 ? done() : failed(new Complaint(`${name} failed: ${said.trim().split('\n').at(-1) ?? code}`)),
    );
  });
}

async function sha256(path: string, start: number): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path, { start })) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** The database that is kept: that of DATABASE_OWNER_URL, else that of bin/start, whose server is started where it is not running. */
async function withDatabase<T>(work: (url: string) => Promise<T>): Promise<T> {
  const outside = process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL;
  if (outside) return work(outside);
  const folder = process.env.VERSIPEL_DATA ?? clusterFolder(root, 'pg');
  if (verb === 'backup' && !existsSync(join(folder, 'data/PG_VERSION')))
    throw new Complaint(`there is nothing to back up: no database in ${folder}`);
  let taken = false;
  const cluster: Cluster = await startCluster(folder, (line) => (taken ||= line.startsWith('taking over')));
  try {
    return await work((await ensureDatabase(cluster, demo ? 'versipel_demo' : 'versipel')).owner);
  } finally {
    // A server that somebody else runs goes on.
    if (!taken) await cluster.stop();
  }
}

async function backup(path: string): Promise<void> {
  if (existsSync(path)) throw new Complaint(`${path} is there already: name a new file`);
  const part = `${path}.part`;
  rmSync(part, { force: true });
  await withDatabase(async (url) => {
    // Dump and checksum are of the same moment, whatever is written meanwhile.
    const still = await holdStill(url);
    try {
      const dump = `${part}.dump`;
      const [content] = await Promise.all([
        contentOf(url, still.snapshot),
        run(
          'pg_dump',
          [
            '--format=custom',
            '--no-owner',
            '--no-privileges',
            '--exclude-schema=pgboss',
            `--snapshot=${still.snapshot}`,
            '-f',
            dump,
          ],
          url,
        ),
      ]);
      const head: Head = {
        format: MAGIC,
        at: new Date().toISOString(),
        content: { sum: content.sum, rows: content.rows },
        dump: { sha256: await sha256(dump, 0), bytes: statSync(dump).size },
      };
      const out = await open(part, 'wx', 0o600);
      try {
        await out.write(JSON.stringify(head).padEnd(HEAD - 1) + '\n');
        for await (const chunk of createReadStream(dump)) await out.write(chunk as Buffer);
        await out.sync();
      } finally {
        await out.close();
        rmSync(dump, { force: true });
      }
      // The name appears once all of it is on the disk.
      renameSync(part, path);
      say(
        `${path}: ${content.rows} rows, ${(head.dump.bytes / 1e6).toFixed(1)} MB, checksum ${content.sum.slice(0, 16)}`,
      );
    } finally {
      await still.end();
      rmSync(part, { force: true });
    }
  });
}

async function readHead(path: string): Promise<Head> {
  const size = (await stat(path).catch(() => undefined))?.size;
  if (size === undefined) throw new Complaint(`there is no file ${path}`);
  const handle = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD), 0, HEAD, 0);
    let head: Head;
    try {
      head = JSON.parse(buffer.toString('utf8', 0, bytesRead)) as Head;
    } catch {
      throw new Complaint(`${path} is no backup of Versipel`);
    }
    if (head.format !== MAGIC) throw new Complaint(`${path} is no backup of Versipel that this version reads`);
    if (size - HEAD !== head.dump.bytes)
      throw new Complaint(`${path} is cut short: ${size - HEAD} of ${head.dump.bytes} bytes`);
    return head;
  } finally {
    await handle.close();
  }
}

async function restore(path: string): Promise<void> {
  const head = await readHead(path);
  if ((await sha256(path, HEAD)) !== head.dump.sha256)
    throw new Complaint(`${path} is damaged: its checksum is another`);
  await withDatabase(async (url) => {
    if (!(await isEmpty(url)))
      throw new Complaint(
        'this Versipel is not empty: a backup is brought into an empty one only, nothing was changed',
      );
    await clear(url);
    await run(
      'pg_restore',
      [
        '--no-owner',
        '--no-privileges',
        '--exit-on-error',
        '--single-transaction',
        '-d',
        new URL(url).pathname.slice(1),
      ],
      url,
      path,
      HEAD,
    );
    const { sum, rows } = await contentOf(url);
    if (sum !== head.content.sum)
      throw new Complaint(`what came out is not what went in: ${rows} rows of ${head.content.rows}; do not use it`);
    say(`${rows} rows of ${head.at} are back, checksum ${sum.slice(0, 16)} as it was. Start it with bin/start.`);
  });
}

try {
  if (!file || (verb !== 'backup' && verb !== 'restore')) throw new Complaint(`say the file: bin/${verb} FILE`);
  await (verb === 'backup' ? backup(file) : restore(file));
} catch (error) {
  const known = error instanceof Complaint || (error as { code?: string }).code !== undefined;
  console.error(`${verb}: ${known ? (error as Error).message : ((error as Error).stack ?? error)}`);
  process.exit(known ? 2 : 1);
}
