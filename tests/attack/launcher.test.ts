import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { claimAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { closeDb } from '#store/base/db.ts';
import { form, password } from '../bench.ts';
import { serverProcess, type ServerProcess } from '../browser/serverProcess.ts';
import { clusterFolder } from '../../bin/lib/postgres.ts';
import { root, rows } from '../testDatabase.ts';
import { until } from './house.ts';
import { pause, Stranger } from './stranger.ts';

// What bin/start runs, on a database server of its own: it looks after that server, serves as a role that owns nothing, drains, is backed up
// while it runs and brought back elsewhere, and stands beside a second process.
const folder = join(dirname(clusterFolder(root, 'x')), `launcher-${process.pid}`);
const data = join(folder, 'pg');
let scratch: string;
let server: ServerProcess;
const second: ServerProcess[] = [];

const port = () => Number(readFileSync(join(data, 'data/postmaster.pid'), 'utf8').split('\n')[3]);
const url = (role: 'app' | 'owner' | 'admin', database = 'versipel') => {
  const file = join(data, role === 'admin' ? 'password' : `password-${role}`);
  const name = { app: 'versipel_app', owner: 'versipel_owner', admin: 'versipel' }[role];
  return `postgres://${name}:${readFileSync(file, 'utf8').trim()}@127.0.0.1:${port()}/${database}`;
};

beforeAll(async () => {
  scratch = mkdtempSync(join(tmpdir(), 'versipel-launcher-'));
  server = await serverProcess('', { VERSIPEL_DATA: data });
  process.env.DATABASE_URL = url('app');
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'Mine', blade: 'first', angle: '45', used: '0' }));
  await addVinyl(person, { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' });
  await claimAccount(person, form({ email: 'ada@example.org', password, name: 'Ada' }));
  await closeDb();
});
afterAll(async () => {
  await closeDb();
  for (const s of second) await s.kill().catch(() => undefined);
  await server?.stop();
  rmSync(folder, { recursive: true, force: true });
  rmSync(scratch, { recursive: true, force: true });
});

test('the database server is watched: stopped or killed, it is started again, and that is said', async () => {
  for (const [before, signal] of (['SIGINT', 'SIGKILL'] as const).entries()) {
    const stops = before + 1;
    const pid = Number(readFileSync(join(data, 'data/postmaster.pid'), 'utf8').split('\n')[0]);
    process.kill(pid, signal);
    await until(async () => (await fetch(`${server.base}/health`)).status === 503 || server.said().includes('is back'));
    await until(async () => {
      const now = existsSync(join(data, 'data/postmaster.pid'))
        ? Number(readFileSync(join(data, 'data/postmaster.pid'), 'utf8').split('\n')[0])
        : pid;
      return now !== pid && (await fetch(`${server.base}/health`)).status === 200;
    }, 60);
    expect(server.said()).toContain('the database server has stopped: starting it again');
    // The launcher learns it from pg_ctl, which looks once a second; a page may be served sooner.
    await until(() => Promise.resolve(server.said().split('the database server is back').length - 1 === stops));
  }
  expect((await fetch(`${server.base}/vinyls`)).status).toBe(200);
});

test('it serves as a role that owns nothing and can make, change and drop nothing', async () => {
  const [who] = await rows<{ me: string; super: boolean }>(
    url('app'),
    'select current_user as me, rolsuper as super from pg_roles where rolname = current_user',
  );
  expect(who).toEqual({ me: 'versipel_app', super: false });
  const serving = await rows<{ usename: string }>(
    url('admin'),
    `select distinct usename from pg_stat_activity where application_name in ('versipel', 'versipel-tasks')`,
  );
  expect(serving.map((r) => r.usename)).toEqual(['versipel_app']);
  for (const sql of [
    'create table x (i int)',
    'drop table vinyl',
    'alter table vinyl add column x int',
    'truncate grade_event',
    'create role x',
    'delete from migration',
    `copy (select 1) to program 'true'`,
  ])
    await expect(rows(url('app'), sql)).rejects.toThrow(/permission denied|must be owner|must be superuser/);
  expect(
    (
      await rows<{ n: number }>(
        url('admin'),
        `select count(*)::int as n from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname in ('public', 'pgboss') and c.relkind = 'r' and pg_get_userbyid(c.relowner) <> 'versipel_owner'`,
      )
    )[0]!.n,
  ).toBe(0);
});

test('with a mail server and no home it does not start: nobody’s links lead wherever a request says', async () => {
  await expect(
    serverProcess(url('app'), { VERSIPEL_SMTP: 'smtp://127.0.0.1:9', DATABASE_OWNER_URL: url('owner') }),
  ).rejects.toThrow(/say in VERSIPEL_ORIGIN where they lead/);
});

describe('backup and restore', () => {
  const run = (program: string, args: string[], env: Record<string, string> = {}) => {
    try {
      return {
        code: 0,
        said: execFileSync(join(root, program), args, {
          env: { ...process.env, DATABASE_URL: '', ...env },
          encoding: 'utf8',
          stdio: 'pipe',
        }),
      };
    } catch (error) {
      const { status, stderr } = error as { status: number; stderr: string };
      return { code: status, said: stderr };
    }
  };
  test('taken while it runs and is written to; brought back elsewhere it is the same, and people come in again', async () => {
    const file = join(scratch, 'all.vpb');
    const ada = new Stranger(server.base);
    await ada.post('/sign-in', { what: 'sign in', email: 'ada@example.org', password });
    let stop = false;
    const writing = (async () => {
      for (let i = 0; !stop; i++)
        await ada.post('/vinyls/new', {
          what: 'add',
          brand: 'Tansy',
          name: `Loft ${i}`,
          type: 'puff',
          colour: 'm',
          hex: '#e0ac33',
        });
    })();
    await pause(500);
    const backup = run('bin/backup', [file], { VERSIPEL_DATA: data });
    stop = true;
    await writing;
    expect(backup).toMatchObject({ code: 0 });
    expect(backup.said).toMatch(/\d+ rows.*checksum/);
    expect(statSync(file).mode & 0o077).toBe(0);
    expect(run('bin/backup', [file], { VERSIPEL_DATA: data })).toMatchObject({
      code: 2,
      said: expect.stringContaining('is there already') as string,
    });
    // Into one that is not empty: refused, and nothing is changed.
    expect(run('bin/restore', [file], { VERSIPEL_DATA: data })).toMatchObject({
      code: 2,
      said: expect.stringContaining('not empty') as string,
    });
    // Damaged and cut short: refused before anything is touched.
    const bad = join(scratch, 'bad.vpb');
    const bytes = readFileSync(file);
    bytes[bytes.length - 500] = bytes[bytes.length - 500]! ^ 1;
    writeFileSync(bad, bytes);
    const elsewhere = { VERSIPEL_DATA: join(folder, 'elsewhere') };
    expect(run('bin/restore', [bad], elsewhere)).toMatchObject({
      code: 2,
      said: expect.stringContaining('damaged') as string,
    });
    truncateSync(bad, bytes.length - 1000);
    expect(run('bin/restore', [bad], elsewhere)).toMatchObject({
      code: 2,
      said: expect.stringContaining('cut short') as string,
    });
    expect(run('bin/restore', [join(root, 'README.md')], elsewhere)).toMatchObject({
      code: 2,
      said: expect.stringContaining('no backup') as string,
    });
    const restore = run('bin/restore', [file], elsewhere);
    expect(restore).toMatchObject({ code: 0, said: expect.stringContaining('as it was') as string });
    const there = await serverProcess('', elsewhere);
    second.push(there);
    const back = new Stranger(there.base);
    expect((await back.post('/sign-in', { what: 'sign in', email: 'ada@example.org', password })).status).toBe(302);
    expect((await back.get('/vinyls')).body).toContain('Quillow Drift');
    expect(
      (
        await back.post('/vinyls/new', {
          what: 'add',
          brand: 'Tansy',
          name: 'After',
          type: 'puff',
          colour: 'm',
          hex: '#e0ac33',
        })
      ).status,
    ).toBe(302);
    await there.stop();
    ada.leave();
    back.leave();
  });
});

test('a second process beside the first: both serve, recurring work is done once', async () => {
  const two = await serverProcess(url('app'), { DATABASE_OWNER_URL: url('owner') });
  second.push(two);
  const visitors = [new Stranger(server.base), new Stranger(two.base)];
  for (const v of visitors)
    expect((await v.post('/sign-in', { what: 'sign in', email: 'ada@example.org', password })).status).toBe(302);
  const fields = {
    what: 'add',
    brand: 'Tansy',
    name: 'Twice',
    type: 'puff',
    colour: 'm',
    hex: '#e0ac33',
    once: 'one form on two servers',
  };
  const made = await Promise.all([...visitors, ...visitors].map((v) => v.post('/vinyls/new', fields)));
  expect(new Set(made.map((m) => m.headers.location)).size).toBe(1);
  // The budget: two processes and their queues fit the server with room for a look by hand.
  const [{ n }] = (await rows<{ n: number }>(
    url('admin'),
    `select count(*)::int as n from pg_stat_activity where usename = 'versipel_app'`,
  )) as [{ n: number }];
  expect(n).toBeLessThanOrEqual(34);
  const jobs = await rows<{ n: number }>(url('admin'), `select count(*)::int as n from pgboss.schedule`);
  expect(jobs[0]!.n).toBe(4);
  await two.stop();
});

test('told to stop, it answers what is under way and takes nothing new', async () => {
  const at = new URL(server.base);
  const body = new URLSearchParams({
    what: 'add',
    brand: 'Tansy',
    name: 'Under way',
    type: 'puff',
    colour: 'm',
    hex: '#e0ac33',
  }).toString();
  const answered = new Promise<number>((done, failed) => {
    const req = http.request(
      {
        host: at.hostname,
        port: at.port,
        path: '/vinyls/new',
        method: 'POST',
        headers: {
          'Content-Type': 'application/x-www-form-urlencoded',
          'Content-Length': String(body.length),
          Origin: server.base,
        },
      },
      (res) => {
        res.resume();
        res.on('end', () => done(res.statusCode!));
      },
    );
    req.on('error', failed);
    req.write(body.slice(0, 20));
    // The rest comes once the server has been told.
    setTimeout(() => req.end(body.slice(20)), 1_500);
  });
  await pause(500);
  const gone = server.stop();
  await pause(300);
  await expect(fetch(`${server.base}/health`)).rejects.toThrow();
  expect(await answered).toBe(302);
  expect(await gone).toBe(0);
  expect(existsSync(join(data, 'data/postmaster.pid'))).toBe(false);
});
