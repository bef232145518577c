import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { clusterFolder, startCluster } from './postgres.ts';

// What bin/test runs after set-up: the checks of the house, then each kind of test; counts them and says so in the last line.
const root = join(fileURLToPath(import.meta.url), '../../..');
// --faults: only the kills, fifty of them in a row. In the ordinary run there are a few.
const manyKills = process.argv.includes('--faults');
const asked = manyKills ? ['faults'] : process.argv.slice(2);
const kinds = ['house', 'unit', 'published', 'database', 'faults', 'attack', 'browser'] as const;
// A kind may be followed by what of it is run: "unit core/window", "browser taps".
const isKind = (word: string) => (kinds as readonly string[]).includes(word);
const parts = new Map<string, string[]>();
for (const word of asked) {
  const kind = [...parts.keys()].at(-1);
  if (isKind(word)) parts.set(word, []);
  else if (kind !== undefined && kind !== 'house') parts.get(kind)!.push(word);
  else {
    console.error(`test: there is no kind called "${word}"; the kinds are ${kinds.join(', ')}`);
    process.exit(2);
  }
}
const wanted = (kind: (typeof kinds)[number]) => asked.length === 0 || parts.has(kind);
const tool = (name: string) => join(root, 'node_modules/.bin', name);

const total = { passed: 0, failed: 0, skipped: 0 };
const failures: string[] = [];

type Check = [name: string, command: string, args: string[]];

async function house([name, command, args]: Check): Promise<void> {
  const started = Date.now();
  const said: string[] = [];
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  for (const stream of [child.stdout, child.stderr])
    stream.setEncoding('utf8').on('data', (text: string) => said.push(text));
  const ok = await new Promise<boolean>((resolve) => {
    child.on('error', (error) => {
      said.push(error.message);
      resolve(false);
    });
    child.on('close', (status) => resolve(status === 0));
  });
  console.log(`${ok ? '✓' : '✗'} ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
  if (ok) total.passed++;
  else {
    total.failed++;
    failures.push(name);
    console.log(said.join(''));
  }
}

/** The checks of the house, two side by side. */
async function houseChecks(): Promise<void> {
  const script = (name: string, ...more: string[]) => ['--import', 'tsx', `bin/lib/${name}.ts`, ...more];
  const rooms = ['core', 'store', 'work', 'app', 'workers', 'stand-ins', 'demo', 'bench', 'bin', 'tests'];
  const checks: Check[] = [
    ['types', 'sh', ['-c', `${tool('react-router')} typegen && ${tool('tsc')}`]],
    ['format', tool('prettier'), ['--check', '--log-level', 'warn', '.']],
    ['lint', tool('eslint'), ['.', '--max-warnings', '0']],
    ['arrows', tool('depcruise'), ['--config', '.dependency-cruiser.cjs', ...rooms]],
    ['unused', tool('knip'), []],
    ['lengths', process.execPath, script('lengths')],
    // Among the unit tests, where those run as well.
    ...(wanted('unit')
      ? []
      : [['access', tool('vitest'), ['run', '--project', 'unit', 'work/people/permissions.test.ts']] satisfies Check]),
    ['page weights', process.execPath, script('pageWeights')],
    ['schemas', process.execPath, script('schemas', '--check')],
  ];
  // They read and write nothing of each other's: two run side by side, the longest first.
  const next = async (): Promise<void> => {
    for (let check = checks.shift(); check; check = checks.shift()) await house(check);
  };
  await Promise.all([next(), next()]);
}

const scratch = mkdtempSync(join(tmpdir(), 'versipel-test-'));
/** Runs one project of Vitest and adds its counts. A run that ends without a report counts as one failure. */
async function vitest(project: string, env: Record<string, string> = {}, ...more: string[]): Promise<void> {
  const report = join(scratch, `${project}.json`);
  const child = spawn(
    tool('vitest'),
    [
      'run',
      '--project',
      project,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`,
      ...more,
      ...(parts.get(project) ?? []),
    ],
    { cwd: root, stdio: 'inherit', env: { ...process.env, ...env, NODE_ENV: 'test' } },
  );
  const [status] = (await once(child, 'close')) as [number | null];
  try {
    const result = JSON.parse(readFileSync(report, 'utf8')) as {
      numPassedTests: number;
      numFailedTests: number;
      numPendingTests: number;
      testResults: { status: string; name: string; assertionResults: { status: string; fullName: string }[] }[];
    };
    total.passed += result.numPassedTests;
    total.failed += result.numFailedTests;
    total.skipped += result.numPendingTests;
    for (const file of result.testResults) {
      for (const a of file.assertionResults) if (a.status === 'failed') failures.push(`${project}: ${a.fullName}`);
      // A file that cannot be loaded has no failed test of its own.
      if (file.status === 'failed' && !file.assertionResults.some((a) => a.status === 'failed')) {
        total.failed++;
        failures.push(`${project}: ${file.name}`);
      }
    }
    if (result.numPassedTests + result.numFailedTests === 0) throw new Error('no test ran');
  } catch (error) {
    total.failed++;
    failures.push(`${project}: ${(error as Error).message}`);
    return;
  }
  if (status !== 0 && total.failed === 0) {
    total.failed++;
    failures.push(`${project}: ended with ${status}`);
  }
}

// Files have databases or whole houses of their own: two run side by side.
const two = ['--fileParallelism', '--maxWorkers=2'];
const folder = clusterFolder(root, `test-${process.pid}`);
// Several houses are up at once, each with a pool for its server and one for the test that looks in.
const CONNECTIONS = 200;
const cluster =
  wanted('database') || wanted('browser')
    ? await startCluster(folder, (line) => console.log(`  ${line}`), CONNECTIONS)
    : undefined;
const env: Record<string, string> = cluster
  ? { VERSIPEL_TEST_CLUSTER: folder, VERSIPEL_TEST_ADMIN: cluster.url('postgres') }
  : {};
process.on('SIGINT', () => undefined);
try {
  // What computes beside what waits for a database most of its time.
  await Promise.all([
    (async () => {
      if (wanted('house')) await houseChecks();
      if (wanted('unit')) await vitest('unit');
      if (wanted('published')) await vitest('published');
    })(),
    (async () => {
      if (wanted('database')) await vitest('database', { ...env, VERSIPEL_BUILT: '1' }, ...two);
      if (wanted('faults'))
        await vitest('faults', { VERSIPEL_KILLS: process.env.VERSIPEL_KILLS ?? (manyKills ? '50' : '6') });
    })(),
  ]);
  if (wanted('attack')) await vitest('attack', { VERSIPEL_BUILT: '1' }, ...two);
  if (wanted('browser')) await vitest('browser', env, ...two);
} finally {
  await cluster?.stop().catch(() => undefined);
  rmSync(folder, { recursive: true, force: true });
}
rmSync(scratch, { recursive: true, force: true });

for (const f of failures) console.log(`failed: ${f}`);
console.log(`${total.passed} passed, ${total.failed} failed${total.skipped > 0 ? `, ${total.skipped} skipped` : ''}`);
process.exit(total.failed === 0 ? 0 : 1);
