import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import type { JobEvent } from '#core/job/index.ts';
import { closeDb, db, transaction } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { migrate } from '#store/base/migrate.ts';
import { takeAll } from '#work/deliver.ts';
import { beginJob } from '#work/jobs/jobs.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { becomeGuest } from '#work/people/people.ts';
import { figure, timed, type Figure } from './figure.ts';
import { clusterFolder, ensureDatabase, startCluster } from '../bin/lib/postgres.ts';

/** What a tap of a job costs, against a transaction that does nothing but insert the same row. */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-taps-cases/1'),
  /** Taps that are measured, and events that the job has before. */
  taps: z.int().min(10).max(900),
  before: z.int().min(0).max(1_000),
});
type Cases = z.infer<typeof casesSchema>;
export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-taps-cases/1',
  taps: Math.min(900, 100 * each),
  before: 800,
});
const shirt = (): FormData => {
  const form = new FormData();
  const measures = { width: '500', height: '660', edge: '25', top: '25', bottom: '50' };
  const says = { shape: 'shirt', surface: 'plain-cloth', side: 'front', hex: '#223344', count: '1' };
  for (const [key, value] of Object.entries({ ...measures, ...says })) form.set(key, value);
  return form;
};
export async function run({ taps, before }: Cases): Promise<Figure> {
  const root = join(fileURLToPath(import.meta.url), '../..');
  const folder = clusterFolder(root, `bench-${process.pid}`);
  const cluster = await startCluster(folder, (line) => console.error(`  ${line}`));
  try {
    const { owner } = await ensureDatabase(cluster, 'taps', false);
    process.env.DATABASE_URL = cluster.url('taps');
    await migrate(owner, join(root, 'store/migrations'));
    await publishShippedModels();
    const { person } = await becomeGuest();
    const job = await beginJob(person, shirt());
    const bare = await beginJob(person, shirt());
    const device = uuidv4();
    const step = `weed/${uuidv4()}`;
    const event = (of: string, i: number): JobEvent => ({
      id: uuidv7(),
      job: of,
      step: step as JobEvent['step'],
      attempt: 1,
      rev: 1,
      device,
      deviceAt: new Date(Date.now() - 1_000 + i).toISOString(),
      kind: i % 2 ? 'pause' : 'start',
    });
    const insert = (e: JobEvent) => transaction((q) => store.insertEvents(q, person.id, [e]));
    for (let i = 0; i < before; i++) {
      await insert(event(job, i));
      await insert(event(bare, i));
    }
    const [mine, floor]: number[][] = [[], []];
    for (let i = 0; i < taps + 20; i++) {
      const least = await timed(() => insert(event(bare, i)));
      const tap = event(job, i);
      const cost = await timed(async () => {
        const [told] = await takeAll(person, [tap]);
        if (told?.outcome !== 'stored') throw new Error(`a tap was ${told?.outcome}`);
      });
      if (i < 20) continue;
      mine!.push(cost);
      floor!.push(least);
    }
    const rows = (await db().query<{ n: number }>('select count(*)::int as n from job_event group by job_id')).rows;
    if (rows.some((r) => r.n !== before + taps + 20)) throw new Error('rows are missing');
    await closeDb();
    return figure(mine!, floor!);
  } finally {
    await cluster.stop().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  }
}

export const table = (f: Figure): string =>
  [
    '| | median ms | p95 ms |',
    '| --- | ---: | ---: |',
    `| a tap of a job | ${f.median} | ${f.p95} |`,
    `| BEGIN, the same insert, COMMIT | ${f.floorMedian} | ${f.floorP95} |`,
    `| ratio | ${f.ratioMedian} | ${f.ratioP95} |`,
  ].join('\n');
