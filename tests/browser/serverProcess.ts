import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { root } from '../testDatabase.ts';

/** The product as a process of its own, on a given database. */
export type ServerProcess = {
  base: string;
  /** SIGKILL: no farewell. */
  kill: () => Promise<void>;
  /** @param other what is said otherwise this time */
  start: (other?: Record<string, string>) => Promise<void>;
  /** Tells it to stop, and waits until it has: its exit code. */
  stop: () => Promise<number | null>;
  pid: () => number;
  alive: () => boolean;
  /** All that it said so far. */
  said: () => string;
};

export const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

export async function serverProcess(databaseUrl: string, env: Record<string, string> = {}): Promise<ServerProcess> {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  let child: ChildProcess | undefined;
  let said = '';
  const awake = () =>
    fetch(`${base}/health`).then(
      (r) => r.ok,
      () => false,
    );
  const start = async (other: Record<string, string> = {}) => {
    said = '';
    // Whoever measures what the process keeps has what nobody holds collected first.
    const flags = env.VERSIPEL_BENCH === '1' ? ['--expose-gc'] : [];
    child = spawn(process.execPath, [...flags, 'build/lib/serve.mjs'], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), NODE_ENV: 'production', ...env, ...other },
    });
    child.stdout!.on('data', (d: Buffer) => (said += d.toString()));
    child.stderr!.on('data', (d: Buffer) => (said += d.toString()));
    for (let i = 0; i < 1800; i++) {
      if (await awake()) return;
      if (child.exitCode !== null) break;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error(`the server did not come up:\n${said}`);
  };
  const end = async (signal: NodeJS.Signals): Promise<number | null> => {
    if (child!.exitCode !== null) return child!.exitCode;
    const gone = new Promise<number | null>((r) => child!.once('exit', r));
    child!.kill(signal);
    return gone;
  };
  await start();
  return {
    base,
    start,
    kill: async () => void (await end('SIGKILL')),
    stop: () => end('SIGTERM'),
    pid: () => child!.pid!,
    alive: () => child!.exitCode === null && child!.signalCode === null,
    said: () => said,
  };
}
