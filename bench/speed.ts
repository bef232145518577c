import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { seededRandom } from '#core/stats/index.ts';
import { closeDb, db } from '#store/base/db.ts';
import { migrate } from '#store/base/migrate.ts';
import { listedVinyls } from '#store/vinyls/vinyls.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { foundIds, throughTypes } from '#work/vinyls/vinyls.ts';
import { signIn } from '#work/people/accounts.ts';
import { personOfToken } from '#work/people/people.ts';
import { clusterFolder, ensureDatabase, startCluster } from '../bin/lib/postgres.ts';
import { figure, timed, type Figure } from './figure.ts';
import { load } from './load.ts';
import { awake, startServer } from './server.ts';

/**
 * What finding and the bench card cost on a full database, each against a floor measured in turns with it in the same run: at the
 * database the bare trigram query, over HTTP a page whose loader returns one row and that renders one MUI part.
 */
export const casesSchema = z.object({
  format: z.literal('versipel-speed-cases/1'),
  fill: z.object({ people: z.int(), vinyls: z.int(), settings: z.int(), cells: z.int() }),
  repeats: z.int().min(1),
  searches: z.array(z.string()).min(1),
});
type Cases = z.infer<typeof casesSchema>;

export function makeCases(seed: number, each: number): Cases {
  const random = seededRandom(seed);
  const names = [
    'starling',
    'drift',
    'mirror',
    'fros',
    'lark gold',
    'quillow dri',
    'ember',
    'walk navy',
    'tidestone',
    'fer glint',
    'starlnig',
    'drfit',
  ];
  const searches = Array.from({ length: 24 }, () => names[Math.floor(random.uniform() * names.length)]!);
  return {
    format: 'versipel-speed-cases/1',
    fill: { people: 1000, vinyls: 20_000, settings: 100_000, cells: 1_000_000 },
    repeats: each,
    searches,
  };
}

export type Groups = Record<string, Figure>;

export async function run(cases: Cases): Promise<Groups> {
  const root = join(fileURLToPath(import.meta.url), '../..');
  const folder = clusterFolder(root, `bench-${process.pid}`);
  const cluster = await startCluster(folder, (line) => console.error(`  ${line}`));
  let stopServer = () => undefined as void;
  try {
    const { owner, app } = await ensureDatabase(cluster, 'speed', false);
    // Filled by the superuser, who may leave triggers out; served by the role that serves everywhere.
    process.env.DATABASE_URL = cluster.url('speed');
    await migrate(owner, join(root, 'store/migrations'));
    const loading = performance.now();
    const account = await load(cases.fill);
    console.error(`  loaded in ${((performance.now() - loading) / 1000).toFixed(0)} s`);
    const form = new FormData();
    for (const [key, value] of Object.entries(account)) form.set(key, value);
    const { token } = await signIn(form, 'bench');
    const person = (await personOfToken(token))!;
    const groups: Groups = {};

    // At the database: everything a find asks, against the trigram query alone.
    const cutter = (
      await db().query<{ id: string }>('select cutter_id as id from bench where person_id = $1', [person.id])
    ).rows[0]!;
    const find = async (q: string) =>
      listedVinyls(
        db(),
        person.id,
        { id: cutter.id, model: 'marlow-24', version: 1 },
        await foundIds(person, q, 6),
        throughTypes,
      );
    const bare = (q: string) =>
      db().query(
        `select w.vinyl_id, word_similarity($1, w.words) as fit from vinyl_words w
          where ${searchWords(q)
            .map((_, i) => `w.words ilike $${i + 2}`)
            .join(' and ')} order by 2 desc limit 6`,
        [q, ...searchWords(q).map((w) => `%${w}%`)],
      );
    const atDb: number[] = [];
    const atDbFloor: number[] = [];
    // A misspelt word finds nothing by the bare query, which is then no floor.
    const plain = cases.searches.filter((q) => !['starlnig', 'drfit'].includes(q));
    for (let i = 0; i < cases.repeats; i++)
      for (const q of plain) {
        const [mine, floor] = [await timed(() => find(q)), await timed(() => bare(q))];
        if (i === 0) continue;
        atDb.push(mine);
        atDbFloor.push(floor);
      }
    groups['find, database'] = figure(atDb, atDbFloor);

    // Over HTTP, with the session of somebody who has a cutter and settings.
    const port = 4980;
    const server = startServer(
      root,
      port,
      { DATABASE_URL: app, DATABASE_OWNER_URL: owner, VERSIPEL_BENCH: '1' },
      { errors: 'inherit' },
    );
    stopServer = () => void server.kill();
    await awake(port);
    const get = async (path: string) => {
      const answer = await fetch(`http://127.0.0.1:${port}${path}`, {
        headers: { cookie: `versipel_session=${token}` },
      });
      await answer.arrayBuffer();
      if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
    };
    const cards = (
      await db().query<{ vinyl_id: string }>('select vinyl_id from setting where person_id = $1 order by id limit 24', [
        person.id,
      ])
    ).rows.map((r) => `/vinyls/${r.vinyl_id}`);
    // A card is read once after its evidence changed; what is measured is looking at it.
    for (const path of cards) await get(path);
    const kinds: Record<string, string[]> = {
      'find as you type, HTTP': cases.searches.map((q) => `/find?q=${encodeURIComponent(q)}`),
      'bench card, HTTP': cards,
      'list of vinyls, HTTP': ['/vinyls'],
    };
    for (const [name, paths] of Object.entries(kinds)) {
      const times: number[] = [];
      const floor: number[] = [];
      for (let i = 0; i < cases.repeats * Math.ceil(24 / paths.length); i++)
        for (const path of paths) {
          const [mine, least] = [await timed(() => get(path)), await timed(() => get('/floor'))];
          if (i === 0) continue;
          times.push(mine);
          floor.push(least);
        }
      groups[name] = figure(times, floor);
    }
    await closeDb();
    return groups;
  } finally {
    stopServer();
    await cluster.stop().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  }
}

export const table = (groups: Groups): string =>
  [
    '| what | median ms | p95 ms | floor median | floor p95 | ratio median | ratio p95 |',
    '| --- | ---: | ---: | ---: | ---: | ---: | ---: |',
    ...Object.entries(groups).map(
      ([name, g]) =>
        `| ${name} | ${g.median} | ${g.p95} | ${g.floorMedian} | ${g.floorP95} | ${g.ratioMedian} | ${g.ratioP95} |`,
    ),
  ].join('\n');
