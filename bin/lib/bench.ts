import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import * as inference from '#bench/inference.ts';
import { firstProblem } from './verbs.ts';

function fail(message: string): never {
  process.stderr.write(`bench: ${message}\n`);
  process.exit(2);
}

const benches = { inference };
const [name, ...rest] = process.argv.slice(2);
if (!name || !Object.hasOwn(benches, name))
  fail(`usage: bin/bench NAME; the benchmarks are ${Object.keys(benches).join(', ')}`);
const bench = benches[name as keyof typeof benches];
let options: { cases?: string | undefined; seed?: string | undefined; make?: string | undefined };
try {
  options = parseArgs({
    args: rest,
    options: { cases: { type: 'string' }, seed: { type: 'string' }, make: { type: 'string' } },
  }).values;
} catch (error) {
  fail((error as Error).message);
}
const seed = Number(options.seed ?? 7);
if (!Number.isInteger(seed)) fail(`--seed is not a whole number: ${options.seed}`);
if (options.make !== undefined) {
  const each = Number(options.make);
  if (!(Number.isInteger(each) && each > 0)) fail(`--make is not a number of cases: ${options.make}`);
  process.stdout.write(`${JSON.stringify(bench.makeCases(seed, each))}\n`);
  process.exit(0);
}
let cases: ReturnType<typeof bench.makeCases>;
if (options.cases === undefined) cases = bench.makeCases(seed, 4);
else {
  let raw: unknown;
  try {
    raw = JSON.parse(readFileSync(options.cases, 'utf8'));
  } catch (error) {
    fail(`${options.cases}: ${(error as Error).message}`);
  }
  const parsed = bench.casesSchema.safeParse(raw);
  if (!parsed.success) fail(`${options.cases}: ${firstProblem(parsed.error)}`);
  cases = parsed.data;
}
const groups = bench.run(cases, seed);
process.stderr.write(`${bench.table(groups)}\n`);
process.stdout.write(`${JSON.stringify({ seed, groups }, null, 1)}\n`);
