import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

/** Starts the built application of a checkout, as bin/start does after set-up. @param port where it listens */
export const startServer = (
  root: string,
  port: number,
  env: Record<string, string>,
  { args = [], errors = 'ignore' }: { args?: string[]; errors?: 'ignore' | 'inherit' } = {},
): ChildProcess =>
  spawn(
    process.execPath,
    ['--import', pathToFileURL(join(root, 'build/lib/loopDelay.mjs')).href, 'build/lib/serve.mjs', ...args],
    {
      cwd: root,
      stdio: ['ignore', 'ignore', errors, 'ipc'],
      env: { ...process.env, NODE_ENV: 'production', PORT: String(port), ...env },
    },
  );

/** Waits until a server answers. */
export async function awake(port: number): Promise<void> {
  for (let tries = 0; tries < 300; tries++) {
    const ok = await fetch(`http://127.0.0.1:${port}/health`).then(
      (r) => r.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('the server did not come up');
}

export type LoopDelay = { p50: number; p99: number; max: number };

/** How late the server's event loop was since it was last asked, ms. */
export async function loopDelay(server: ChildProcess): Promise<LoopDelay> {
  const told = once(server, 'message');
  server.send('delay');
  return (await told)[0] as LoopDelay;
}
