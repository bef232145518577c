import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { shippedModels } from '#core/controls/index.ts';

/** A simulated cutter as a process of its own, and the list that names it to the server. */
export type StandIn = { port: number; camera: string; listFile: string; stop: () => void };

/** Starts stand-ins/cutter on free loopback ports. It ends with whoever started it. @throws when it does not come up */
export async function startStandIn(root: string, args: string[] = []): Promise<StandIn> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'stand-ins/cutter/main.ts', ...args], {
    cwd: root,
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const first = await new Promise<string>((done, failed) => {
    let said = '';
    child.stdout.on('data', (d: Buffer) => {
      said += d.toString();
      if (said.includes('\n')) done(said.split('\n')[0]!);
    });
    child.once('error', failed);
    child.once('exit', (code) => failed(new Error(`the simulated cutter ended with ${code}`)));
  });
  const { port, camera } = JSON.parse(first) as { port: number; camera: number };
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
      child.kill('SIGTERM');
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
