import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Browser } from './driver.ts';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe-core finds wrong with the page as it stands: WCAG 2.2 A and AA and its best practices, a line each. */
export async function violations(b: Browser): Promise<string[]> {
  await b.driver.executeScript(source);
  return b.driver.executeAsyncScript<string[]>(`
    const done = arguments[arguments.length - 1];
    axe.run(document, { resultTypes: ['violations'] }).then(
      (r) => done(r.violations.map((v) => v.id + ': ' + v.help + ' — ' + v.nodes.map((n) => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).join('; '))),
      (e) => done(['axe failed: ' + e]),
    );
  `);
}
