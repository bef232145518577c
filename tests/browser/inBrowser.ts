import { afterAll, beforeAll } from 'vitest';
import { openBrowser, type Browser } from '../../bin/lib/browser.ts';
import { testDatabase } from '../testDatabase.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

/** What the tests of a file that looks at the product in a browser have for themselves. */
export type Own = { database: Awaited<ReturnType<typeof testDatabase>>; server: ServerProcess; b: Browser };

/** An empty database, the product on it and a browser before it, for the tests of one file; gone after them. */
export function inBrowser(take: (own: Own) => unknown): void {
  const own: Partial<Own> = {};
  beforeAll(async () => {
    own.database = await testDatabase();
    const server = (own.server = await serverProcess(own.database.url));
    own.b = await openBrowser(() => server.base);
    take(own as Own);
  });
  afterAll(async () => {
    await own.b?.close();
    await own.server?.kill();
    await own.database?.drop();
  });
}
