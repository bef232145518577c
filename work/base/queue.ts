import PgBoss from 'pg-boss';
import { afterCommit } from '#store/base/db.ts';
import { log } from './log.ts';

/**
 * Background tasks wait in the database: they outlive the process, and of several servers one takes them. The launcher starts the queue and
 * the built application asks it, each with this module of its own: what they share hangs on the process.
 */
const shared = globalThis as { versipelQueue?: PgBoss | undefined };

/** What a task is, and how it is run. Of a stately one, one waits and one runs: whatever else asks meanwhile is served by the one that waits. */
type Kind = {
  /** Seconds after which a crash in the middle is given up on. */
  seconds: number;
  retries: number;
  stately: boolean;
  /** Seconds between two looks for work. */
  look: number;
  /** When it is asked for by itself, as cron says it: once among all servers. */
  every?: string;
};
const kinds = {
  translate: { seconds: 300, retries: 2, stately: true, look: 0.5 },
  import: { seconds: 3600, retries: 1, stately: false, look: 0.5 },
  readings: { seconds: 300, retries: 1, stately: true, look: 0.5 },
  follow: { seconds: 3600, retries: 0, stately: true, look: 1, every: '* * * * *' },
  fade: { seconds: 900, retries: 0, stately: true, look: 30, every: '*/20 * * * *' },
  tidy: { seconds: 300, retries: 0, stately: true, look: 1, every: '* * * * *' },
  sweep: { seconds: 900, retries: 0, stately: true, look: 5, every: '*/10 * * * *' },
} as const satisfies Record<string, Kind>;
export type TaskName = keyof typeof kinds;

/** What is done when a task's turn comes. */
export type Tasks = { [K in TaskName]: (subject: string) => Promise<unknown> };

/** Makes the tables of the queue and the queues: for the owner of the database, before anybody serves from it. */
export async function prepareQueue(owner: string): Promise<void> {
  const boss = new PgBoss({
    connectionString: owner,
    max: 1,
    application_name: 'versipel-prepare',
    supervise: false,
    schedule: false,
  });
  boss.on('error', (error: Error) => log.warn({ event: 'task' }, error.message));
  await boss.start();
  for (const [name, kind] of Object.entries(kinds) as [TaskName, Kind][])
    await boss.createQueue(name, {
      name,
      ...(kind.stately ? { policy: 'stately' as const } : {}),
      retryLimit: kind.retries,
      expireInSeconds: kind.seconds,
    });
  await boss.stop({ graceful: false });
}

/** Starts to work off what waits. */
export async function startQueue(url: string, tasks: Tasks): Promise<void> {
  const boss = (shared.versipelQueue = new PgBoss({
    connectionString: url,
    max: 3,
    application_name: 'versipel-tasks',
    migrate: false,
  }));
  // The database was away, most likely: it is asked again.
  boss.on('error', (error: Error) => log.warn({ event: 'task' }, error.message));
  await boss.start();
  for (const [name, kind] of Object.entries(kinds) as [TaskName, Kind][]) {
    await boss.work<{ subject?: string }>(name, { pollingIntervalSeconds: kind.look }, async ([task]) => {
      if (task) await tasks[name](task.data?.subject ?? '');
    });
    if (kind.every) await boss.schedule(name, kind.every);
  }
  for (const name of ['translate', 'tidy'] as const) await ask(name);
}

/**
 * Asks for a task, soon: once what is being changed is committed, since a task sees nothing else.
 * @returns false where there is no queue, as in tests
 */
export async function ask(name: TaskName, subject = ''): Promise<boolean> {
  if (!shared.versipelQueue) return false;
  await afterCommit(() =>
    shared.versipelQueue
      ?.send(name, { subject })
      .catch((error: Error) => log.warn({ event: 'task', task: name }, error.message)),
  );
  return true;
}

export async function stopQueue(): Promise<void> {
  await shared.versipelQueue?.stop({ graceful: true, timeout: 5_000 });
  shared.versipelQueue = undefined;
}
