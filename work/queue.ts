import PgBoss from 'pg-boss';

/**
 * Jobs wait in the database: they outlive the process, and of two servers one takes them. The launcher starts the queue and the built
 * application asks it, each with this module of its own: what they share hangs on the process.
 */
const shared = globalThis as { versipelQueue?: PgBoss | undefined };

const TRANSLATE = 'translate';
const FADE = 'fade';
const IMPORT = 'import';
const FOLLOW = 'follow';

/** What is done when a job's turn comes. */
export type Jobs = {
  translate: () => Promise<unknown>;
  fade: () => Promise<unknown>;
  bringIn: (pack: string) => Promise<unknown>;
  follow: () => Promise<unknown>;
};

/** Starts to work off what waits, and fits the shelf where it is behind. */
export async function startQueue(url: string, jobs: Jobs): Promise<void> {
  const boss = (shared.versipelQueue = new PgBoss({
    connectionString: url,
    max: 3,
    application_name: 'versipel-jobs',
  }));
  boss.on('error', (error: Error) => console.error(`jobs: ${error.message}`));
  await boss.start();
  // One waits, one runs: whatever else asks meanwhile is served by the one that waits. One that a crash left running is given up in time.
  await boss.createQueue(TRANSLATE, { name: TRANSLATE, policy: 'stately', retryLimit: 2, expireInSeconds: 300 });
  await boss.createQueue(FADE, { name: FADE, policy: 'stately' });
  await boss.createQueue(IMPORT, { name: IMPORT, retryLimit: 1, expireInSeconds: 3600 });
  await boss.createQueue(FOLLOW, { name: FOLLOW, policy: 'stately', retryLimit: 0, expireInSeconds: 3600 });
  await boss.work(TRANSLATE, { pollingIntervalSeconds: 0.5 }, async () => void (await jobs.translate()));
  await boss.work(FADE, { pollingIntervalSeconds: 30 }, async () => void (await jobs.fade()));
  await boss.work<{ pack: string }>(IMPORT, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
    if (job) await jobs.bringIn(job.data.pack);
  });
  await boss.work(FOLLOW, { pollingIntervalSeconds: 1 }, async () => void (await jobs.follow()));
  await boss.schedule(FADE, '*/20 * * * *');
  await boss.schedule(FOLLOW, '* * * * *');
  await askForTranslations();
}

const send = async (name: string, data: object): Promise<boolean> => {
  if (!shared.versipelQueue) return false;
  await shared.versipelQueue.send(name, data).catch((error: Error) => console.error(`jobs: ${error.message}`));
  return true;
};

/** Something was shared, found or taken back: the shelf is to be fitted again, soon. Without a queue nothing happens. */
export const askForTranslations = (): Promise<boolean> => send(TRANSLATE, {});
/** A pack waits to be brought in. @returns false where there is no queue */
export const askForImport = (pack: string): Promise<boolean> => send(IMPORT, { pack });
/** A shelf that is followed is to be asked now. @returns false where there is no queue */
export const askToFollow = (): Promise<boolean> => send(FOLLOW, {});

export async function stopQueue(): Promise<void> {
  await shared.versipelQueue?.stop({ graceful: true, timeout: 5_000 });
  shared.versipelQueue = undefined;
}
