import type { ChildProcess } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import http from 'node:http';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { migrate } from '#store/base/migrate.ts';
import { answers, clusterFolder, ensureDatabase, startCluster } from '../bin/lib/postgres.ts';
import { wavyDiscs, worstDrawings } from './worstDrawings.ts';
import { loopDelay, startServer, type LoopDelay } from './server.ts';

/**
 * What each dear request costs, and what a bystander waits meanwhile: a stranger asks for one thing over and over for some seconds, several at
 * once, while somebody else looks at /health and at a file that asks nothing of anybody; and how late the event loop was, by Node's own measure.
 * `before` names another checkout, built, to be laid beside this one in the same run.
 */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-attack-cases/1'),
  before: z.string().optional().describe('folder of another checkout, built: measured in the same way'),
  seconds: z.number().min(1).max(60).describe('how long each request is asked for'),
  atOnce: z.int().min(1).max(64).describe('how many are under way'),
  rows: z.int().min(1).max(5000).describe('vinyls in the hands of the one who asks'),
  drawn: z.number().min(1).max(300).default(60).describe('how long two strangers send drawings'),
  restarts: z.int().min(0).max(20).describe('how often the database is stopped and started'),
});
type Cases = z.infer<typeof casesSchema>;
export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-attack-cases/1',
  seconds: each,
  atOnce: 8,
  rows: 400,
  drawn: 60,
  restarts: 5,
});

type Row = {
  what: string;
  version: 'before' | 'now';
  /** Answers a second by status; the median and the slowest twentieth of them, ms. */
  answered: Record<string, number>;
  median: number;
  p95: number;
  /** What a bystander waited, ms. */
  health50: number;
  health99: number;
  file99: number;
  /** How late the event loop was, ms. */
  loop: LoopDelay;
};
type Restart = { fromFirstSelect: number[] };
/** What somebody waits for signing in and for a plan, and how long /health takes, while two strangers send drawings, against without them. */
type Drawings = {
  signIn: number[];
  plan: number[];
  health99: number[];
  /** Memory before and at the most meanwhile, MB. */
  rss: number[];
  answered: Record<string, number>;
};
type Groups = { requests: Row[]; drawings: Drawings; restart: Restart; rss: Record<string, number> };

const quantile = (list: number[], q: number): number => {
  const sorted = [...list].sort((a, b) => a - b);
  return Math.round(10 * (sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? 0)) / 10;
};
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A visitor over plain HTTP: keeps cookies, sends forms. */
class Visitor {
  private readonly agent = new http.Agent({ keepAlive: true, maxSockets: 200 });
  private cookies = new Map<string, string>();
  private readonly port: number;
  private readonly address: string;
  constructor(port: number, address: string) {
    [this.port, this.address] = [port, address];
  }
  ask(
    path: string,
    method = 'GET',
    headers: Record<string, string> = {},
    body?: Buffer,
  ): Promise<{ status: number; location: string; body: string }> {
    return new Promise((done) => {
      const req = http.request(
        {
          host: '127.0.0.1',
          port: this.port,
          path,
          method,
          agent: this.agent,
          headers: {
            'X-Forwarded-For': this.address,
            Cookie: [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; '),
            ...headers,
            ...(body ? { 'Content-Length': String(body.length) } : {}),
          },
        },
        (res) => {
          let text = '';
          res.on('data', (d: Buffer) => (text.length < 2_000_000 ? (text += d.toString('latin1')) : undefined));
          res.on('error', () => done({ status: 0, location: '', body: '' }));
          res.on('end', () => {
            for (const line of res.headers['set-cookie'] ?? []) {
              const [name, value] = line.split(';')[0]!.split('=') as [string, string];
              this.cookies.set(name, value);
            }
            done({ status: res.statusCode!, location: res.headers.location ?? '', body: text });
          });
        },
      );
      req.on('error', () => done({ status: 0, location: '', body: '' }));
      req.setTimeout(120_000, () => req.destroy());
      req.end(body);
    });
  }
  post(path: string, fields: Record<string, string>) {
    const origin = `http://127.0.0.1:${this.port}`;
    return this.ask(
      path,
      'POST',
      { 'Content-Type': 'application/x-www-form-urlencoded', Origin: origin },
      Buffer.from(new URLSearchParams(fields).toString()),
    );
  }
  upload(path: string, name: string, bytes: Buffer, what = 'see') {
    const origin = `http://127.0.0.1:${this.port}`;
    const body = Buffer.concat([
      Buffer.from(
        `--x\r\nContent-Disposition: form-data; name="what"\r\n\r\n${what}\r\n--x\r\nContent-Disposition: form-data; name="file"; filename="${name}"\r\nContent-Type: text/csv\r\n\r\n`,
      ),
      bytes,
      Buffer.from('\r\n--x--\r\n'),
    ]);
    return this.ask(path, 'POST', { 'Content-Type': 'multipart/form-data; boundary=x', Origin: origin }, body);
  }
}

/** Starts a checkout with its demo and somebody in it who has a cutter and many vinyls. */
async function open(root: string, port: number, rows: number, data: string) {
  const server = startServer(
    root,
    port,
    { VERSIPEL_BENCH: '1', VERSIPEL_TRUST_PROXY: '1', VERSIPEL_DATA: data, VERSIPEL_LOG: 'silent' },
    { args: ['--demo'] },
  );
  const health = () =>
    fetch(`http://127.0.0.1:${port}/health`).then(
      (r) => r.ok,
      () => false,
    );
  for (let i = 0; !(await health()); i++) {
    if (i > 1800 || server.exitCode !== null)
      throw new Error(`the server in ${root} did not come up: build it with bin/start once`);
    await pause(100);
  }
  const visitor = new Visitor(port, '198.51.100.7');
  await visitor.post('/workshop/cutters/new', {
    what: 'add',
    model: 'marlow-24',
    name: 'Mine',
    blade: 'b',
    angle: '45',
    used: '0',
  });
  const table = (n: number, from: string) =>
    Buffer.from(
      `brand,name,type\n${Array.from({ length: n }, (_, i) => `Tansy,${from} ${i},${['puff', 'glitter', 'smooth', 'flock'][i % 4]}`).join('\n')}\n`,
    );
  const { location } = await visitor.upload('/vinyls/import', 't.csv', table(rows, 'Loft'));
  await visitor.post(location, { what: 'do' });
  const list = await visitor.ask('/vinyls');
  const vinyl = /\/vinyls\/([0-9a-f-]{36})/.exec(list.body)?.[1] ?? '';
  const cards = [
    ...new Set([...(await visitor.ask('/shelf')).body.matchAll(/\/cards\/([0-9a-f-]{36})/g)].map((m) => m[1]!)),
  ];
  return { server, visitor, vinyl, cards, table, port };
}

async function stop(server: ChildProcess): Promise<void> {
  const gone = new Promise((done) => server.once('exit', done));
  server.kill('SIGTERM');
  await Promise.race([gone, pause(20_000).then(() => server.kill('SIGKILL'))]);
}

const dear = (h: Awaited<ReturnType<typeof open>>): Record<string, (i: number) => Promise<{ status: number }>> => ({
  'nothing (a bystander alone)': async () => (await pause(50), { status: 200 }),
  'vinyls, sixty rows': () => h.visitor.ask('/vinyls'),
  'search that finds nothing as written': (i) => h.visitor.ask(`/vinyls?q=${['qillow', 'starlnig', 'lfot'][i % 3]}`),
  'wall chart on screen': () => h.visitor.ask('/chart'),
  'wall chart on paper': (i) => h.visitor.ask(`/chart/${i % 2 ? 'a4' : 'letter'}.pdf`),
  'plan of a coupon': (i) => h.visitor.ask(`/coupons/new?vinyl=${h.vinyl}&cells=${4 + (i % 12)}`),
  'picture of a card': (i) => h.visitor.ask(`/cards/${h.cards[i % h.cards.length]}/picture.png`),
  'table of 20 000 rows, looked at': () => h.visitor.upload('/vinyls/import', 'large.csv', h.table(20_000, 'Fold')),
  'refused form': () => h.visitor.post('/vinyls/new', {}),
  'form of 1 MB': () =>
    h.visitor.ask(
      '/sign-in',
      'POST',
      { 'Content-Type': 'application/x-www-form-urlencoded', Origin: `http://127.0.0.1:${h.port}` },
      Buffer.from('a&'.repeat(500_000)),
    ),
});

async function measure(h: Awaited<ReturnType<typeof open>>, cases: Cases, version: Row['version']): Promise<Row[]> {
  const rows: Row[] = [];
  const bystander = new Visitor(h.port, '203.0.113.5');
  for (const [what, ask] of Object.entries(dear(h))) {
    let stopped = false;
    const times: number[] = [];
    const answered: Record<string, number> = {};
    let i = 0;
    const attackers = Array.from({ length: cases.atOnce }, async () => {
      while (!stopped) {
        const from = performance.now();
        const { status } = await ask(i++);
        times.push(performance.now() - from);
        answered[status] = (answered[status] ?? 0) + 1;
        if (status === 429 || status === 503) await pause(100);
      }
    });
    const [health, file]: [number[], number[]] = [[], []];
    await loopDelay(h.server);
    const looking = [
      ['/health', health],
      ['/icon.svg', file],
    ].map(async ([path, list]) => {
      while (!stopped) {
        const from = performance.now();
        await bystander.ask(path as string);
        (list as number[]).push(performance.now() - from);
        await pause(20);
      }
    });
    const began = performance.now();
    await pause(cases.seconds * 1000);
    stopped = true;
    const loop = await loopDelay(h.server);
    await Promise.all([...attackers, ...looking]);
    const seconds = (performance.now() - began) / 1000;
    rows.push({
      what,
      version,
      answered: Object.fromEntries(Object.entries(answered).map(([k, n]) => [k, Math.round((10 * n) / seconds) / 10])),
      median: quantile(times, 0.5),
      p95: quantile(times, 0.95),
      health50: quantile(health, 0.5),
      health99: quantile(health, 0.99),
      file99: quantile(file, 0.99),
      loop,
    });
    console.error(`  ${version}: ${what}`);
    // What is still under way is done before the next one begins; a minute's limits begin anew.
    await pause(2_000);
  }
  return rows;
}

const rssOf = (pid: number) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

/** A sign-in of the demo, as bin/demo prints it. */
const DEMO = { email: 'ottoline@parade.example', password: 'lantern-river-7' };

/** Two strangers send the worst drawings as fast as they are answered; somebody else signs in and plans, first without them. */
async function whileDrawn(h: Awaited<ReturnType<typeof open>>, seconds: number): Promise<Drawings> {
  const strangers = await Promise.all(
    ['198.51.100.91', '198.51.100.92'].map(async (address) => {
      const who = new Visitor(h.port, address);
      const { location } = await who.post('/jobs/new', {
        what: 'begin',
        shape: 'shirt',
        surface: 'plain-cloth',
        width: '20 in',
        height: '26 in',
        side: 'front',
        edge: '1 in',
        top: '1 in',
        bottom: '2 in',
        size: 'M',
        hex: '#223344',
        count: '1',
      });
      return { who, art: location };
    }),
  );
  const found: Drawings = { signIn: [], plan: [], health99: [], rss: [], answered: {} };
  const drawings = [...worstDrawings(), ...[100, 200, 400].map((n) => ({ svg: wavyDiscs(n, 17) }))];
  for (const attacked of [false, true]) {
    let stopped = false;
    let n = 0;
    const [signIn, plan, health]: number[][] = [[], [], []];
    let most = rssOf(h.server.pid!);
    const attack = strangers.flatMap(({ who, art }) =>
      Array.from({ length: attacked ? 4 : 0 }, async () => {
        while (!stopped) {
          // A comment makes each another drawing: none is known already.
          const svg = drawings[n++ % drawings.length]!.svg.replace('<svg', `<!-- ${n} --><svg`);
          const { status } = await who.upload(art, 'x.svg', Buffer.from(svg), 'set');
          found.answered[status] = (found.answered[status] ?? 0) + 1;
          if (status === 429 || status === 503) await pause(100);
        }
      }),
    );
    const timed = async (list: number[], work: () => Promise<{ status: number }>) => {
      const from = performance.now();
      const { status } = await work();
      list.push(status < 400 ? performance.now() - from : 60_000);
    };
    const looking = (async () => {
      const bystander = new Visitor(h.port, '203.0.113.6');
      while (!stopped) {
        await timed(health!, () => bystander.ask('/health'));
        most = Math.max(most, rssOf(h.server.pid!));
        await pause(20);
      }
    })();
    const until = performance.now() + seconds * 1000;
    for (let i = 0; performance.now() < until; i++) {
      const someone = new Visitor(h.port, `203.0.113.${20 + (i % 200)}`);
      await timed(signIn!, () => someone.post('/sign-in', { what: 'sign in', ...DEMO }));
      await timed(plan!, () => h.visitor.ask(`/coupons/new?vinyl=${h.vinyl}&cells=${4 + (i % 12)}`));
      await pause(700);
    }
    stopped = true;
    await Promise.all([...attack, looking]);
    found.signIn.push(quantile(signIn!, 0.5));
    found.plan.push(quantile(plan!, 0.5));
    found.health99.push(quantile(health!, 0.99));
    found.rss.push(Math.round(most));
    console.error(`  drawings: ${attacked ? 'with' : 'without'} strangers`);
  }
  return found;
}

/** From the first bare `select 1` that works to the first page, ms. */
async function restarts(root: string, n: number): Promise<Restart> {
  const folder = clusterFolder(root, `bench-attack-${process.pid}`);
  const cluster = await startCluster(folder);
  const fromFirstSelect: number[] = [];
  try {
    const { owner, app } = await ensureDatabase(cluster, 'attack');
    await migrate(owner, join(root, 'store/migrations'));
    const port = 4991;
    const server = startServer(root, port, { DATABASE_URL: app, DATABASE_OWNER_URL: owner, VERSIPEL_LOG: 'silent' });
    const page = () =>
      fetch(`http://127.0.0.1:${port}/vinyls`, { signal: AbortSignal.timeout(5_000) }).then(
        (r) => r.status === 200,
        () => false,
      );
    while (!(await page())) await pause(100);
    for (let i = 0; i < n; i++) {
      await cluster.stop();
      for (let k = 0; k < 20; k++) await page();
      const up = cluster.restart();
      // The page is looked at all the while, as visitors do.
      let back = 0;
      const looking = (async () => {
        while (!(await page())) await pause(10);
        back = performance.now();
      })();
      while (!(await answers(app))) await pause(5);
      const from = performance.now();
      await looking;
      fromFirstSelect.push(Math.max(0, Math.round(back - from)));
      await up;
    }
    await stop(server);
  } finally {
    await cluster.stop().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  }
  return { fromFirstSelect };
}

export async function run(cases: Cases): Promise<Groups> {
  const root = join(fileURLToPath(import.meta.url), '../..');
  const requests: Row[] = [];
  const rss: Record<string, number> = {};
  let drawings: Drawings | undefined;
  for (const [version, where, port] of [
    ...(cases.before ? [['before', resolve(cases.before), 4992] as const] : []),
    ['now', root, 4993] as const,
  ]) {
    const h = await open(where, port, cases.rows, join('/var/tmp', `versipel-bench-${process.pid}-${version}`, 'pg'));
    if (version === 'now') drawings = await whileDrawn(h, cases.drawn);
    requests.push(...(await measure(h, cases, version)));
    rss[version] = Math.round(
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${h.server.pid}/status`, 'utf8'))![1]) / 1024,
    );
    await stop(h.server);
    rmSync(join('/var/tmp', `versipel-bench-${process.pid}-${version}`), { recursive: true, force: true });
  }
  return { requests, drawings: drawings!, restart: await restarts(root, cases.restarts), rss };
}

export const table = ({ requests, drawings, restart, rss }: Groups): string =>
  [
    '| asked for, several at once | version | answers a second | median ms | p95 | /health p50 | p99 | a file p99 | event loop late p50 | p99 | most |',
    '| --- | --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |',
    ...requests.map(
      (r) =>
        `| ${r.what} | ${r.version} | ${Object.entries(r.answered)
          .map(([k, n]) => `${n} × ${k === '0' ? 'no answer' : k}`)
          .join(
            ', ',
          )} | ${r.median} | ${r.p95} | ${r.health50} | ${r.health99} | ${r.file99} | ${r.loop.p50.toFixed(1)} | ${r.loop.p99.toFixed(1)} | ${r.loop.max.toFixed(1)} |`,
    ),
    `while two strangers send drawings (${JSON.stringify(drawings.answered)}), without them → with them: sign-in ${drawings.signIn.join(' → ')} ms, a plan ${drawings.plan.join(' → ')} ms, /health p99 ${drawings.health99.join(' → ')} ms, memory at most ${drawings.rss.join(' → ')} MB`,
    `from the first select that works to the first page, ms: ${restart.fromFirstSelect.join(', ')}`,
    `memory afterwards, MB: ${Object.entries(rss)
      .map(([k, n]) => `${k} ${n}`)
      .join(', ')}`,
  ].join('\n');
