import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Browser } from '../../bin/lib/browser.ts';

const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * What axe-core finds wrong with the page as it stands: WCAG 2.2 A and AA and its best practices, a line each. Whatever moves is brought to
 * its end first: a colour on its way to another is neither.
 * @param only one rule of axe-core instead of all
 */
export async function violations(b: Browser, only?: string): Promise<string[]> {
  if (!(await b.driver.executeScript<boolean>('return typeof axe === "object"'))) await b.driver.executeScript(source);
  return b.driver.executeAsyncScript<string[]>(
    `
    const [only, done] = arguments;
    const still = new CSSStyleSheet();
    still.replaceSync('*, *::before, *::after { transition: none !important; animation: none !important; }');
    const sheets = document.adoptedStyleSheets;
    document.adoptedStyleSheets = [...sheets, still];
    axe.run(document, { resultTypes: ['violations'], ...(only ? { runOnly: [only] } : {}) }).then(
      (r) => r.violations.map((v) => v.id + ': ' + v.help + ' — ' + v.nodes.map((n) => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).join('; ')),
      (e) => ['axe failed: ' + e],
    ).then((said) => {
      document.adoptedStyleSheets = sheets;
      done(said);
    });
  `,
    only ?? null,
  );
}

const phone = [390, 844] as const;
const desk = [1280, 800] as const;
/** 1280 × 800 looked at at twice the size. */
export const twice = [640, 400] as const;

/**
 * The page as it stands, looked at at the desk, on a phone and at further sizes, in both themes: what axe-core finds wrong, and what is
 * wider than its screen. The page is resized and recoloured where it stands, as a turned phone and a changed setting do; the theme changes
 * colours alone, so in the dark only contrast is looked at again. Leaves it light, at the desk.
 */
export async function wrongInAnyLook(b: Browser, ...more: (readonly [number, number])[]): Promise<string[]> {
  const wrong: string[] = [];
  const wear = (scheme: string) =>
    b.driver.executeScript('document.documentElement.dataset.scheme = arguments[0]', scheme);
  for (const [width, height] of [phone, ...more, desk]) {
    await b.size(width, height);
    // React draws again what depends on the width.
    const wide = await b.driver.executeAsyncScript<number>(
      'const done = arguments[0]; requestAnimationFrame(() => setTimeout(() => done(document.documentElement.scrollWidth), 60))',
    );
    if (wide > width) wrong.push(`${width}: ${wide} px wide`);
    wrong.push(...(await violations(b)).map((v) => `${width} light: ${v}`));
    await wear('dark');
    wrong.push(...(await violations(b, 'color-contrast')).map((v) => `${width} dark: ${v}`));
    await wear('light');
  }
  return wrong;
}
