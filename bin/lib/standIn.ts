import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { shippedModels } from '#core/controls/index.ts';

/** A small program in place of an outside device or service. */
type Running = { stop: () => void };
/** A simulated cutter as a process of its own, and the list that names it to the server. */
export type StandIn = Running & { port: number; camera: string; listFile: string };
/** A simulated mail server: where letters are sent to, and where what it got can be read. */
export type Mailer = Running & { url: string; letters: string };

/** Starts a stand-in: it ends with whoever started it. Answers what its first line says. @throws when it does not come up */
async function startProgram<T>(root: string, name: string, args: string[]): Promise<Running & { said: T }> {
  const child = spawn(process.execPath, ['--import', 'tsx', `stand-ins/${name}/main.ts`, ...args], {
    cwd: root,
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const first = await new Promise<string>((done, failed) => {
    let said = '';
    child.stdout.on('data', (d: Buffer) => {
      if (said.includes('\n')) return void process.stdout.write(d);
      said += d.toString();
      if (said.includes('\n')) done(said.split('\n')[0]!);
    });
    child.once('error', failed);
    child.once('exit', (code) => failed(new Error(`the simulated ${name} ended with ${code}`)));
  });
  return { said: JSON.parse(first) as T, stop: () => void child.kill('SIGTERM') };
}

/** Starts stand-ins/mailer on free loopback ports. */
export async function startMailer(root: string, args: string[] = []): Promise<Mailer> {
  const { said, stop } = await startProgram<{ smtp: number; http: number }>(root, 'mailer', args);
  return { url: `smtp://127.0.0.1:${said.smtp}`, letters: `http://127.0.0.1:${said.http}/letters`, stop };
}

/** Starts stand-ins/cutter on free loopback ports. */
export async function startStandIn(root: string, args: string[] = []): Promise<StandIn> {
  const { said, stop } = await startProgram<{ port: number; camera: number }>(root, 'cutter', args);
  const { port, camera } = said;
  const folder = mkdtempSync(join(tmpdir(), 'versipel-cutters-'));
  const listFile = join(folder, 'cutters.json');
  const entry = {
    key: 'stand-in',
    name: 'Stand-in cutter',
    host: '127.0.0.1',
    port,
    models: [...new Set(shippedModels.map((m) => m.key))],
    simulated: true,
    camera: `http://127.0.0.1:${camera}`,
  };
  writeFileSync(listFile, JSON.stringify([entry]));
  return {
    port,
    camera: entry.camera,
    listFile,
    stop: () => {
      stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A simulated press as a process of its own, and the list that names it to the server. */
export type PressStandIn = Running & { port: number; listFile: string };

/** Starts stand-ins/press on a free loopback port. */
export async function startPress(root: string, args: string[] = []): Promise<PressStandIn> {
  const { said, stop } = await startProgram<{ port: number }>(root, 'press', args);
  const folder = mkdtempSync(join(tmpdir(), 'versipel-presses-'));
  const listFile = join(folder, 'presses.json');
  writeFileSync(
    listFile,
    JSON.stringify([{ key: 'stand-in', name: 'Stand-in press', host: '127.0.0.1', port: said.port, simulated: true }]),
  );
  return {
    port: said.port,
    listFile,
    stop: () => {
      stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
