import { readFileSync, statSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { z } from 'zod';
import * as artwork from '#bench/artwork.ts';
import * as attack from '#bench/attack.ts';
import * as calibration from '#bench/calibration.ts';
import * as countdown from '#bench/countdown.ts';
import * as drag from '#bench/drag.ts';
import * as rates from '#bench/rates.ts';
import * as inference from '#bench/inference.ts';
import * as packs from '#bench/packs.ts';
import * as planner from '#bench/planner.ts';
import * as press from '#bench/press.ts';
import * as speed from '#bench/speed.ts';
import * as taps from '#bench/taps.ts';
import * as transfer from '#bench/transfer.ts';
import { firstProblem } from './verbs.ts';

function fail(message: string): never {
  process.stderr.write(`bench: ${message}\n`);
  process.exit(2);
}

/** A benchmark: it makes its own cases or takes a file of them, runs them, and tells the result as JSON and as a table. */
type Bench = {
  about: string;
  each: number;
  make: (seed: number, each: number) => unknown;
  schema: z.ZodType;
  /** Cases of a folder of files, where it takes one. */
  folder?: ((folder: string) => unknown) | undefined;
  run: (cases: unknown, seed: number) => Promise<{ told: object; table: string }>;
};
const bench = <C, G>(
  about: string,
  each: number,
  b: {
    casesSchema: z.ZodType<C>;
    casesOfFolder?: (folder: string) => C;
    makeCases: (seed: number, each: number) => C;
    run: (cases: C, seed: number) => G | Promise<G>;
    table: (groups: G) => string;
    /** What is measured beside the cases, in the same run. */
    speed?: () => unknown;
    /** Groups with a measure of their own. */
    also?: (seed: number) => object;
  },
): Bench => ({
  about,
  each,
  make: b.makeCases,
  schema: b.casesSchema,
  folder: b.casesOfFolder,
  run: async (cases, seed) => {
    const groups = await b.run(cases as C, seed);
    const speed = b.speed?.();
    const also = b.also?.(seed);
    const lines = [speed, also].flatMap((x) => (x === undefined ? [] : [`\n${JSON.stringify(x)}`])).join('');
    return { told: { groups, ...also, ...(speed === undefined ? {} : { speed }) }, table: b.table(groups) + lines };
  },
});
const benches: Record<string, Bench> = {
  artwork: bench('checking a drawing, against bare work of the offsetting library', 5, artwork),
  attack: bench('what each dear request costs, and what a bystander waits meanwhile', 8, attack),
  countdown: bench('how far off its moment the tone of a press is, minutes in the background', 10, countdown),
  rates: bench('what one count of a limit costs while many others are counted', 1, rates),
  drag: bench('long tasks of the page while the size of a drawing is dragged', 5, drag),
  inference: bench('ways to read a coupon, against a long reference run', 4, inference),
  planner: bench('how few cells the planner needs, against what people do by hand', 60, planner),
  press: bench('how many swatches a recipe takes and how often it is right, against a grid and the leaflet', 60, press),
  packs: bench('reading packs and hostile files, against parsing alone', 3, packs),
  speed: bench('finding and the bench card on a full database, against a floor', 6, speed),
  taps: bench('what a tap of a job costs, against a transaction that only inserts its row', 4, taps),
  transfer: bench('translating between cutters, against lme4 and against what people do without', 8, transfer),
  calibration: bench('is the stated chance true, do the intervals hold', 200, calibration),
};

const [name, ...rest] = process.argv.slice(2);
const chosen = name !== undefined && Object.hasOwn(benches, name) ? benches[name] : undefined;
if (!chosen)
  fail(
    `usage: bin/bench NAME [--cases FILE] [--seed N] [--make N]; the benchmarks are ${Object.entries(benches)
      .map(([k, b]) => `${k} (${b.about})`)
      .join(', ')}`,
  );
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
  // Not ended by hand: a pipe takes the text in parts, and what is left of it would be lost.
  process.stdout.write(`${JSON.stringify(chosen.make(seed, each))}\n`);
} else {
  let cases = chosen.make(seed, chosen.each);
  if (options.cases !== undefined) {
    let raw: unknown;
    try {
      raw =
        chosen.folder && statSync(options.cases).isDirectory()
          ? chosen.folder(options.cases)
          : JSON.parse(readFileSync(options.cases, 'utf8'));
    } catch (error) {
      fail(`${options.cases}: ${(error as Error).message}`);
    }
    const parsed = chosen.schema.safeParse(raw);
    if (!parsed.success) fail(`${options.cases}: ${firstProblem(parsed.error)}`);
    cases = parsed.data;
  }
  const { told, table } = await chosen.run(cases, seed);
  process.stderr.write(`${table}\n`);
  process.stdout.write(`${JSON.stringify({ seed, ...told }, null, 1)}\n`);
}
