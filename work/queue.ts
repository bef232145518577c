import PgBoss from 'pg-boss';
import { refreshFaded } from './proof.ts';
import { refreshTranslations } from './translate.ts';

/**
 * Jobs wait in the database: they outlive the process, and of two servers one takes them. The launcher starts the queue and the built
 * application asks it, each with this module of its own: what they share hangs on the process.
 */
const shared = globalThis as { versipelQueue?: PgBoss | undefined };

const TRANSLATE = 'translate';
const FADE = 'fade';

/** Starts to work off what waits, and fits the shelf where it is behind. */
export async function startQueue(url: string): Promise<void> {
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
  await boss.work(TRANSLATE, { pollingIntervalSeconds: 0.5 }, async () => void (await refreshTranslations()));
  await boss.work(FADE, { pollingIntervalSeconds: 30 }, async () => void (await refreshFaded()));
  await boss.schedule(FADE, '*/20 * * * *');
  await askForTranslations();
}

/** Something was shared, found or taken back: the shelf is to be fitted again, soon. Without a queue nothing happens. */
export async function askForTranslations(): Promise<void> {
  await shared.versipelQueue?.send(TRANSLATE, {}).catch((error: Error) => console.error(`jobs: ${error.message}`));
}

export async function stopQueue(): Promise<void> {
  await shared.versipelQueue?.stop({ graceful: true, timeout: 5_000 });
  shared.versipelQueue = undefined;
}
