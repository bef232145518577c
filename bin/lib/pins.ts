import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { demoSignIns } from '#demo/load.ts';
import { normalise } from './normalise.ts';

/**
 * Pins what a change of the code behind must leave alone: answers of every verb of bin/core, and pages and API documents of a running demo.
 *   npx tsx bin/lib/pins.ts record FOLDER [ADDRESS]    walks from the front page and records 260 of what it meets
 *   npx tsx bin/lib/pins.ts again FOLDER OTHER [ADDRESS]  asks for the same, by the list in OTHER
 *   npx tsx bin/lib/pins.ts compare FOLDER OTHER       says what differs; 1 if anything does
 * Before and after run on copies of one database (the folder of a demo's VERSIPEL_DATA), about the same time.
 */
const [act, folder = '', ...rest] = process.argv.slice(2);
/** How many are recorded, and of one route at most. */
const MOST = 260;
const OF_A_ROUTE = 8;

type Pinned = { who: string; path: string };
const fileOf = ({ who, path }: Pinned) =>
  `${who}-${path.replaceAll(/[^\w-]+/g, '_').slice(0, 80)}-${createHash('sha256').update(path).digest('hex').slice(0, 8)}.txt`;

async function signIn(base: string): Promise<string> {
  const { email, password } = demoSignIns[0]!;
  const answer = await fetch(`${base}/sign-in`, {
    method: 'POST',
    redirect: 'manual',
    headers: { Origin: base },
    body: new URLSearchParams({ what: 'sign in', email, password }),
  });
  const cookies = answer.headers.getSetCookie().map((c) => c.split(';')[0]!);
  if (answer.status !== 302 || cookies.length === 0) throw new Error(`cannot sign in: ${answer.status}`);
  return cookies.join('; ');
}

/** The shape of an address: what it is apart from which thing it names. */
const routeOf = (path: string) =>
  path
    .replaceAll(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ':id')
    .replaceAll(/=[^&]*/g, '=')
    .replace(/^\/swatches\/.*/, '/swatches')
    .replace(/^\/s\/.*/, '/s');

async function ask(base: string, cookie: string, { who, path }: Pinned): Promise<{ told: string; links: string[] }> {
  const now = Date.now();
  const answer = await fetch(base + path, { redirect: 'manual', headers: who === 'maker' ? { Cookie: cookie } : {} });
  const type = answer.headers.get('Content-Type') ?? '';
  const raw = /text|json|xml|svg|csv/.test(type) ? (await answer.text()).replaceAll(base, '') : '';
  const told =
    raw === ''
      ? `${(await answer.arrayBuffer().catch(() => new ArrayBuffer())).byteLength} bytes`
      : normalise(raw, now);
  return {
    told: `${answer.status} ${type} ${answer.headers.get('Location') ?? ''}\n${told}`,
    links: [...raw.matchAll(/(?:href=|"(?:url|href)":)"(\/[^"#]*)/g)].map(([, href]) => href!.replaceAll('&amp;', '&')),
  };
}

async function record(base: string, list: Pinned[] | undefined): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const cookie = await signIn(base);
  const starts = [
    '/',
    '/vinyls',
    '/jobs',
    '/coupons',
    '/shelf',
    '/stock',
    '/workshop',
    '/blanks',
    '/chart',
    '/check',
    '/packs',
    '/inbox',
    '/api/openapi.json',
    '/api/v1/cards',
    '/api/v1/vinyls',
    '/feed',
  ];
  const queue: Pinned[] =
    list ??
    starts.flatMap((path) => [
      { who: 'maker', path },
      { who: 'stranger', path },
    ]);
  const known = new Set(queue.map((p) => `${p.who} ${p.path}`));
  const counts = new Map<string, number>();
  const done: Pinned[] = [];
  for (let one = queue.shift(); one && (list || done.length < MOST); one = queue.shift()) {
    const route = `${one.who} ${routeOf(one.path)}`;
    const n = (counts.get(route) ?? 0) + 1;
    if (!list && n > OF_A_ROUTE) continue;
    counts.set(route, n);
    const { told, links } = await ask(base, cookie, one);
    writeFileSync(join(folder, fileOf(one)), told);
    done.push(one);
    if (list) continue;
    for (const path of links) {
      if (/^\/(assets|fonts|sign-out)|\.(js|css|png|woff2?)(\?|$)/.test(path)) continue;
      // What one finds is asked for by the other as well: a page that is not theirs stays shut.
      for (const who of ['maker', 'stranger'])
        if (!known.has(`${who} ${path}`)) {
          known.add(`${who} ${path}`);
          queue.push({ who, path });
        }
    }
  }
  writeFileSync(join(folder, 'list.json'), JSON.stringify(done, null, 1));
  const schemas = 'docs/schemas';
  for (const file of readdirSync(schemas).filter((f) => f.endsWith('.example.json'))) {
    const verb = file.replace('.example.json', '');
    const { status, stdout } = spawnSync('bash', ['bin/core', verb], {
      input: readFileSync(join(schemas, file)),
      maxBuffer: 64e6,
      encoding: 'utf8',
    });
    writeFileSync(join(folder, `core-${verb}.txt`), `${status}\n${stdout}`);
  }
  console.log(`recorded ${done.length} pages and documents`);
}

function compare(other: string): void {
  const files = new Set([...readdirSync(folder), ...readdirSync(other)].filter((f) => f.endsWith('.txt')));
  let differ = 0;
  for (const file of [...files].sort()) {
    const [a, b] = [folder, other].map((f) => (existsSync(join(f, file)) ? readFileSync(join(f, file), 'utf8') : ''));
    if (a === b) continue;
    differ++;
    const at = [...a!].findIndex((c, i) => c !== b![i]);
    const about = (s: string) => JSON.stringify(s.slice(Math.max(0, at - 60), at + 100));
    console.log(`${file}\n  ${about(a!)}\n  ${about(b!)}`);
  }
  console.log(`${files.size} compared, ${differ} differ`);
  process.exitCode = differ > 0 ? 1 : 0;
}

const home = 'http://127.0.0.1:4780';
if (act === 'record') await record(rest[0] ?? home, undefined);
else if (act === 'again')
  await record(rest[1] ?? home, JSON.parse(readFileSync(join(rest[0]!, 'list.json'), 'utf8')) as Pinned[]);
else if (act === 'compare') compare(rest[0]!);
else {
  console.error('pins: record FOLDER [ADDRESS], again FOLDER OTHER [ADDRESS], or compare FOLDER OTHER');
  process.exit(2);
}
