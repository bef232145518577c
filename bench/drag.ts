import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import { blobs } from './artwork.ts';
import type { Browser } from '../bin/lib/browser.ts';
import { inApp } from './inApp.ts';

/**
 * Long tasks of the page while the size of a drawing is dragged, in the built application after two seconds of quiet: as it is, and with a
 * worker that answers at once and with nothing.
 */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-drag-cases/1'),
  segments: z.int().min(100).max(50_000),
  repeats: z.int().min(1).max(20),
});
type Cases = z.infer<typeof casesSchema>;
export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-drag-cases/1',
  segments: 5_000,
  repeats: each,
});

/** Tasks longer than 50 ms (W3C Long Tasks API) of one drag: how many, and the longest, ms. */
type Drag = { long: number; longest: number };
export type Groups = { asItIs: Drag[]; emptyAnswer: Drag[] };

/** Moves the size in a hundred steps, one a frame, and answers with the long tasks from its beginning to a second after. */
const DRAG = `
  const done = arguments[0], range = document.querySelector('.size-drag input');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  const found = [];
  const seen = new PerformanceObserver((list) => found.push(...list.getEntries().map((e) => e.duration)));
  seen.observe({ entryTypes: ['longtask'] });
  let n = 0;
  const step = () => {
    set.call(range, 120000 + 2000 * n);
    range.dispatchEvent(new Event('input', { bubbles: true }));
    if (++n < 100) requestAnimationFrame(step);
    else setTimeout(() => { seen.disconnect(); done({ long: found.length, longest: Math.round(Math.max(0, ...found)) }); }, 1000);
  };
  requestAnimationFrame(step);
`;
/** From here on a worker that is asked answers at once, with nothing. */
const EMPTY = `Worker.prototype.postMessage = function () { queueMicrotask(() => this.onmessage?.({ data: { done: {} } })); };`;

const QUIET = 2_000;

export async function run({ segments, repeats }: Cases): Promise<Groups> {
  const folder = mkdtempSync(join(tmpdir(), 'versipel-drag-'));
  const file = join(folder, 'blobs.svg');
  writeFileSync(file, blobs(segments, 7));
  try {
    return await inApp('drag', 4982, [], async (b) => {
      const groups: Groups = { asItIs: [], emptyAnswer: [] };
      for (let i = 0; i < repeats; i++) {
        groups.asItIs.push(await drag(b, file, ''));
        groups.emptyAnswer.push(await drag(b, file, EMPTY));
      }
      return groups;
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function drag(b: Browser, file: string, before: string): Promise<Drag> {
  await b.go('/check');
  // What was looked at before comes back by itself.
  const again = await b.driver.findElements({ css: '[data-testid=check-answer]' });
  if (again.length > 0) await (await b.button('Check another drawing')).click();
  await (await b.css('input[type=file]')).sendKeys(file);
  await b.css('[data-testid=mend-outline]');
  if (before) await b.driver.executeScript(before);
  await b.driver.sleep(QUIET);
  return b.driver.executeAsyncScript<Drag>(DRAG);
}

const middle = (list: readonly number[]) => [...list].sort((x, y) => x - y)[Math.floor(list.length / 2)] ?? NaN;
export const table = ({ asItIs, emptyAnswer }: Groups): string =>
  [
    '| worker | long tasks, median | the longest, median ms | at worst |',
    '| --- | ---: | ---: | ---: |',
    ...[['as it is', asItIs] as const, ['answers with nothing', emptyAnswer] as const].map(
      ([name, list]) =>
        `| ${name} | ${middle(list.map((d) => d.long))} | ${middle(list.map((d) => d.longest))} | ${Math.max(...list.map((d) => d.longest))} |`,
    ),
  ].join('\n');
