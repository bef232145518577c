import { spawn, type ChildProcess } from 'node:child_process';

/** Starts the built application of a checkout, as bin/start does after set-up. @param port where it listens */
export const startServer = (
  root: string,
  port: number,
  env: Record<string, string>,
  { args = [], errors = 'ignore' }: { args?: string[]; errors?: 'ignore' | 'inherit' } = {},
): ChildProcess =>
  spawn(process.execPath, ['--import', 'tsx', 'bin/lib/serve.ts', ...args], {
    cwd: root,
    stdio: ['ignore', 'ignore', errors],
    env: { ...process.env, NODE_ENV: 'production', PORT: String(port), ...env },
  });
