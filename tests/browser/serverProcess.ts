import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { root } from '../testDatabase.ts';

/** The product as a process of its own, on a given database. */
export type ServerProcess = { base: string; kill: () => Promise<void>; start: () => Promise<void> };

const freePort = () =>
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
  const awake = () =>
    fetch(`${base}/health`).then(
      (r) => r.ok,
      () => false,
    );
  const start = async () => {
    let said = '';
    child = spawn(process.execPath, ['--import', 'tsx', 'bin/lib/serve.ts'], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: databaseUrl, PORT: String(port), NODE_ENV: 'production', ...env },
    });
    child.stdout!.on('data', (d: Buffer) => (said += d.toString()));
    child.stderr!.on('data', (d: Buffer) => (said += d.toString()));
    for (let i = 0; i < 300; i++) {
      if (await awake()) return;
      if (child.exitCode !== null) break;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error(`the server did not come up:\n${said}`);
  };
  await start();
  return {
    base,
    start,
    /** SIGKILL: no farewell. */
    kill: async () => {
      const gone = new Promise((r) => child!.once('exit', r));
      child!.kill('SIGKILL');
      await gone;
    },
  };
}
