import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

// How much JavaScript each page loads, packed: what it needs to come alive, and what it fetches once it is shown. Above its budget the house
// check fails.
const root = join(fileURLToPath(import.meta.url), '../../..');
const client = join(root, 'build/client');
/** kB, packed as they are sent. */
const BUDGET = { page: 290, chart: 430, table: 430 };

type Chunk = { file: string; imports?: string[]; dynamicImports?: string[] };
const manifest = JSON.parse(readFileSync(join(client, '.vite/manifest.json'), 'utf8')) as Record<string, Chunk>;

/** A chunk and all it imports, without what is fetched later. */
function withImports(key: string, seen: Set<string>): void {
  const chunk = manifest[key];
  if (!chunk || seen.has(chunk.file)) return;
  seen.add(chunk.file);
  for (const next of chunk.imports ?? []) withImports(next, seen);
}
/** What the chunks of a page fetch once it is shown, by the name of the module. */
function later(key: string, named: RegExp): string[] {
  const seen = new Set<string>();
  const found = new Set<string>();
  const walk = (k: string) => {
    const chunk = manifest[k];
    if (!chunk || seen.has(k)) return;
    seen.add(k);
    for (const d of chunk.dynamicImports ?? []) if (named.test(d)) found.add(d);
    for (const next of chunk.imports ?? []) walk(next);
  };
  walk(key);
  return [...found];
}
const sizes = new Map<string, number>();
const packed = (file: string): number => {
  if (!file.endsWith('.js')) return 0;
  const known = sizes.get(file) ?? statSync(join(client, `${file}.br`)).size;
  sizes.set(file, known);
  return known;
};

const keyOf = (source: RegExp) => Object.keys(manifest).filter((k) => source.test(k));
const always = [...keyOf(/entry\.client/), ...keyOf(/^app\/root\.tsx/)];
let worst = 0;
const rows: [string, number, number][] = [];
for (const key of keyOf(/^app\/routes\/[^/]+\/route\.tsx/)) {
  const files = new Set<string>();
  for (const k of [...always, key]) withImports(k, files);
  const chart = later(key, /echarts/);
  const table = later(key, /Grid/);
  for (const k of [...chart, ...table]) withImports(k, files);
  const kb = [...files].reduce((sum, f) => sum + packed(f), 0) / 1000;
  const budget = chart.length > 0 ? BUDGET.chart : table.length > 0 ? BUDGET.table : BUDGET.page;
  rows.push([key.replace(/^app\/routes\/|\/route\.tsx.*$/g, ''), kb, budget]);
  worst = Math.max(worst, kb / budget);
}
rows.sort((a, b) => b[1] - a[1]);
for (const [page, kb, budget] of rows.slice(0, 8)) console.log(`${kb.toFixed(0)} kB of ${budget}  ${page}`);
if (worst > 1 || rows.length < 20) {
  console.error('a page loads more than its budget, or the build holds no pages');
  process.exit(1);
}
