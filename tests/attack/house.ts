import { rmSync } from 'node:fs';
import { afterAll, beforeAll } from 'vitest';
import { closeDb } from '#store/base/db.ts';
import { stopComputing } from '#work/base/compute.ts';
import { startMailer, type Mailer } from '../../bin/lib/standIn.ts';
import { clusterFolder, ensureDatabase, startCluster, type Cluster } from '../../bin/lib/postgres.ts';
import { serverProcess, type ServerProcess } from '../browser/serverProcess.ts';
import { root } from '../testDatabase.ts';

type Letter = { to: string[]; subject: string; text: string };

/** A whole house for strangers to try: database server, mail server, the product, all its own. */
export type House = {
  cluster: Cluster;
  server: ServerProcess;
  /** The database as its owner sees it. */
  owner: string;
  /** The database as the product does. */
  app: string;
  /** The links that were sent to an address, latest first. */
  links: (to: string) => Promise<string[]>;
  letters: () => Promise<Letter[]>;
};

let n = 0;
export function wholeHouse(env: Record<string, string> = {}): House {
  const folder = clusterFolder(root, `attack-${process.pid}-${n++}`);
  const house = {} as House;
  let mailer: Mailer;
  beforeAll(async () => {
    house.cluster = await startCluster(folder);
    Object.assign(house, await ensureDatabase(house.cluster, 'attack'));
    mailer = await startMailer(root, ['--quiet']);
    house.server = await serverProcess(house.app, {
      DATABASE_OWNER_URL: house.owner,
      VERSIPEL_SMTP: mailer.url,
      VERSIPEL_SIMULATED_MAIL: '1',
      VERSIPEL_TRUST_PROXY: '1',
      VERSIPEL_LOG: 'info',
      ...env,
    });
    process.env.DATABASE_URL = house.app;
    house.letters = async () => (await (await fetch(mailer.letters)).json()) as Letter[];
    house.links = async (to) =>
      (await house.letters()).flatMap((l) => (l.to.includes(to) ? (/https?:\S+\/link\/\S+/.exec(l.text) ?? []) : []));
  });
  afterAll(async () => {
    await stopComputing();
    await closeDb();
    await house.server?.kill();
    mailer?.stop();
    await house.cluster?.stop().catch(() => undefined);
    rmSync(folder, { recursive: true, force: true });
  });
  return house;
}

/** Waits until something is there. */
export async function until<T>(what: () => Promise<T | undefined | false>, seconds = 90): Promise<T> {
  for (let i = 0; i < seconds * 20; i++) {
    const found = await what();
    if (found) return found;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error('it did not come');
}
