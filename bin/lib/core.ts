import { readFileSync } from 'node:fs';
import { firstProblem, verbs } from './verbs.ts';

function fail(message: string): never {
  process.stderr.write(`core: ${message.replace(/\s*\n\s*/g, ' ')}\n`);
  process.exit(2);
}

const [name, ...rest] = process.argv.slice(2);
const known = Object.entries(verbs)
  .map(([key, v]) => `${key} (${v.about})`)
  .join(', ');
const verb = name !== undefined && Object.hasOwn(verbs, name) ? verbs[name] : undefined;
if (!verb || rest.length > 0) fail(`usage: bin/core VERB < in.json > out.json; the verbs are ${known}`);

const bytes = readFileSync(0);
let parsed: unknown;
try {
  parsed = verb.read ? verb.read(bytes) : JSON.parse(bytes.toString('utf8'));
} catch (error) {
  fail(verb.read ? (error as Error).message : `the input is not JSON: ${(error as Error).message}`);
}
const input = verb.input.safeParse(parsed);
if (!input.success) fail(firstProblem(input.error));
try {
  process.stdout.write(`${JSON.stringify(verb.run(input.data), null, 1)}\n`);
} catch (error) {
  // Input that is well formed but does not hang together, such as a cell outside its axis.
  fail((error as Error).message);
}
