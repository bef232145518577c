import { afterAll, beforeAll, expect, test } from 'vitest';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, form, password, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// What is tapped at the bench, on a phone and in gloves, is as high as a finger is wide: 44 CSS pixels, WCAG 2.2, success criterion 2.5.5. Links
// within a sentence are exempt there, and here. And no page of these says a figure that is none.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let pages: string[];

beforeAll(async () => {
  server = await serverProcess(house.url);
  const who = await crafter('Wenna', 'marlow-24', 'wenna@thumbs.example');
  const vinyl = await addVinyl(who, { brand: 'Tansy', name: 'Own', type: 'puff', colour: 'red', hex: '#b3202c' });
  const coupon = await makeCoupon(who, (await benchOf(who))!, vinyl, form({}));
  const job = await beginJob(who, shirtForm({ count: '2' }));
  // A bar as thin as nothing: no size mends it.
  await setDrawing(
    who,
    job,
    form({ svg: `<svg viewBox="0 0 100 60"><path fill="#b3202c" d="M0 0h60v60h-60zM70 0h30v0.001h-30z"/></svg>` }),
  );
  await chooseVinyl(who, job, form({ layer: (await jobOf(who, job)).layers[0]!.id, vinyl }));
  const size = { width: '8 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' };
  await setSize(who, job, form(size));
  pages = [
    '/',
    '/jobs',
    `/jobs/${job}`,
    `/jobs/${job}/size`,
    `/jobs/${job}/vinyls`,
    `/check?job=${job}`,
    `/coupons/${coupon}`,
    `/coupons/${coupon}/run`,
    `/coupons/${coupon}/grade`,
    `/coupons/${coupon}/result`,
    `/vinyls/${vinyl}`,
    `/vinyls/${vinyl}/swatch`,
    '/workshop',
    '/stock',
    '/shelf',
    '/chart',
    '/blanks?on=plain-cloth',
  ];
  b = await openBrowser(() => server.base);
  await b.size(390, 844);
  await signInAs(b, 'wenna@thumbs.example', password);
}, 120_000);
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

/** What can be tapped and is lower than a finger is wide, apart from links that stand in a sentence. */
const LOW = `return [...document.querySelectorAll('main a, main button, main summary, main label.check')].filter((e) => {
  const { width, height } = e.getBoundingClientRect();
  if (!width || !height || height >= 43.5) return false;
  const words = [...e.parentElement.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim().length > 2);
  return !(words && e.matches('a, .link-button'));
}).map((e) => e.textContent.trim().slice(0, 40) + ': ' + Math.round(e.getBoundingClientRect().height));`;

test('at the bench every tap is as high as a finger is wide', async () => {
  const low: Record<string, unknown> = {};
  for (const page of pages.slice(0, 11)) {
    await b.go(page);
    await b.driver.sleep(300);
    const found = await b.driver.executeScript<string[]>(LOW);
    if (found.length > 0) low[page.replaceAll(/[0-9a-f-]{36}/g, '…')] = found;
  }
  expect(low).toEqual({});
});

test('no page says a figure that is none', async () => {
  for (const page of pages) {
    await b.go(page);
    const text = await b.driver.executeScript<string>(`return document.querySelector('main').innerText`);
    expect(text, page).not.toMatch(/\bNaN\b|\bInfinity\b|\bundefined\b|\bnull\b|∞|\b0\.00 (mm|in)\b/);
  }
});

test('full screen begins with what is to be done, wherever the page was', async () => {
  await b.go(pages.find((p) => p.endsWith('/grade'))!);
  const button = await b.button('Full screen');
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" }); scrollBy(0, 300)', button);
  await b.driver.executeScript('arguments[0].click()', button);
  await b.driver.wait(async () => (await b.driver.executeScript<number>('return scrollY')) === 0, 10_000);
});

test('a blank answers at once, above the list it was chosen from', async () => {
  await b.go('/blanks?on=plain-cloth');
  const { y } = await (await b.css('.blank-answer h2')).getRect();
  expect(y).toBeLessThan(600);
});

test('who has no password any more types the e-mail once', async () => {
  const other = await openBrowser(() => server.base);
  try {
    await other.go('/sign-in');
    await other.fill('email', 'wenna@thumbs.example');
    await (await other.css('main a[href="/recover"]')).click();
    await other.at(/\/recover$/);
    expect(await (await other.css('[name=email]')).getAttribute('value')).toBe('wenna@thumbs.example');
  } finally {
    await other.close();
  }
});

test('squares of a swatch are tapped and answered, two rows of large answers each', async () => {
  await b.go(pages.find((p) => p.endsWith('/swatch'))!);
  await (await b.button('Begin this card')).click();
  await b.css('.swatch-answers');
  const cells = await b.driver.findElements({ css: '.square[role=button]' });
  expect(cells.length).toBeGreaterThanOrEqual(4);
  for (let i = 0; i < cells.length; i++) {
    await b.css(`[data-testid=square-${i}]:not([hidden])`);
    for (const row of [1, 2]) {
      const answer = await b.css(
        `[data-testid=square-${i}] .swatch-answers:nth-of-type(${row}) .swatch-answer:last-of-type`,
      );
      expect((await answer.getRect()).height).toBeGreaterThanOrEqual(60);
      await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', answer);
      await answer.click();
    }
  }
  await (await b.button('Keep the grades')).click();
  await b.says('Graded squares');
});
