import { resumeImports, runImport } from './packIn.ts';
import { refreshFaded } from './proof.ts';
import { startQueue } from './queue.ts';
import { followDue } from './subscriptions.ts';
import { refreshTranslations } from './translate.ts';

/** Starts the queue with what its jobs do. */
export async function startBackground(url: string): Promise<void> {
  await startQueue(url, {
    translate: refreshTranslations,
    fade: refreshFaded,
    bringIn: runImport,
    follow: followDue,
  });
  await resumeImports();
}
