import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';
import type { Browser } from '../../bin/lib/browser.ts';
import { rows, testDatabase } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { inBrowser } from './inBrowser.ts';

// A file is checked by itself: dropped, judged, sized, mended, taken away, brought in again; nothing of it leaves the browser.
let database: Awaited<ReturnType<typeof testDatabase>>;
let b: Browser;
const folder = mkdtempSync(join(tmpdir(), 'versipel-check-'));
inBrowser((own) => ({ database, b } = own));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

// Two plates on one joint of 1.2 % of the width, and a disc beside them.
const drawing =
  '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="40mm" viewBox="0 0 100 40"><path fill="#1f3a5f" d="M0 0h30v19.4h10v-19.4h30v40h-30v-19.4h-10v19.4h-30z"/><circle fill="#1f3a5f" cx="86" cy="20" r="14"/></svg>';
const bring = async (name: string, svg: string) => {
  const file = join(folder, name);
  writeFileSync(file, svg);
  await (await b.css('input[type=file]')).sendKeys(file);
  await b.css('[data-testid=check-answer]');
};
const answer = async () => (await b.css('[data-testid=check-answer]')).getText();
const sums = async () => (await b.css('.checked')).getText();
const drag = (um: number) =>
  b.driver.executeScript(
    `const r = document.querySelector('.size-drag input');
     Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(r, arguments[0]);
     r.dispatchEvent(new Event('input', { bubbles: true }));`,
    um,
  );

test('dropped, judged, dragged to a size where all is good', async () => {
  await b.go('/check');
  expect(await violations(b)).toEqual([]);
  await bring('plates.svg', drawing);
  // The file says how large it is: its joint of 1.2 mm is wide enough at 100 mm, too thin at 50.
  expect(await (await b.css('[data-testid=check-width]')).getText()).toBe('100 mm');
  expect(await answer()).toBe('All good');
  await drag(50_000);
  await b.driver.wait(async () => (await answer()) === '1 place is too narrow');
  const marks = await b.driver.findElements({ css: '.stage-mark' });
  expect(marks).toHaveLength(1);
  expect(await violations(b)).toEqual([]);
  // The mark that is tapped comes to the middle.
  await (await b.css('.mark-line')).click();
  const off = await b.driver.executeScript<[number, number]>(`
    const place = document.querySelector('.stage-mark .place').getBoundingClientRect();
    const stage = document.querySelector('.stage-art').getBoundingClientRect();
    return [place.x + place.width / 2 - stage.x - stage.width / 2, place.y + place.height / 2 - stage.y - stage.height / 2]`);
  expect(Math.hypot(...off)).toBeLessThan(12);
  await (await b.css('[data-testid=check-cure]')).click();
  await b.driver.wait(async () => (await answer()) === 'All good');
});

test('mended, gone back, mended again; saved and brought in again it is the same', async () => {
  await drag(100_000);
  const before = await sums();
  // The gap between plates and disc is 2 mm, but an outline is 0.1 in at least.
  await b.says(
    /The thinnest outline that holds it all in one piece is 1(\.\d)? mm\. Crafters go no thinner than 2\.5 mm\./,
  );
  await (await b.css('[data-testid=mend-outline]')).click();
  await b.says('An outline was laid below everything.');
  expect((await b.driver.findElements({ css: '.checked li' })).length).toBe(2);
  await (await b.css('[data-testid=undo]')).click();
  await b.driver.wait(async () => (await sums()) === before);
  await (await b.button('Do it again')).click();
  await b.says('An outline was laid below everything.');
  const [mended, wide] = [await sums(), await (await b.css('[data-testid=check-width]')).getText()];
  expect(mended).toContain('1 piece');
  const href = (await (await b.css('[data-testid=export]')).getAttribute('href'))!;
  const saved = decodeURIComponent(href.slice(href.indexOf(',') + 1));
  expect(saved).toMatch(/^<svg [^>]*width="10\d/);
  await (await b.button('Check another drawing')).click();
  await bring('again.svg', saved);
  expect(await sums()).toBe(mended);
  expect(await (await b.css('[data-testid=check-width]')).getText()).toBe(wide);
  // A reload keeps the drawing that was looked at.
  await b.go('/check');
  await b.css('[data-testid=check-answer]');
  expect(await sums()).toBe(mended);
  expect(await violations(b)).toEqual([]);
});

// A plate of 200 mm with a hole, and a badge upon it that reaches to 1 mm of its edge.
const stacked =
  '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="160mm" viewBox="0 0 200 160"><path fill="#1f3a5f" fill-rule="evenodd" d="M0 0h200v160h-200zM150 100h30v30h-30z"/><path fill="#b3202c" d="M1 20h100v80h-100z"/></svg>';
const film = (n: number, key: string) =>
  b.driver.executeScript(
    `const s = document.querySelectorAll('.checked select')[arguments[0]];
     Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, arguments[1]);
     s.dispatchEvent(new Event('change', { bubbles: true }));`,
    n,
    key,
  );
/** What the pairs say now, read at once: the list is drawn anew while it is computed. */
const pairs = async () => {
  await b.css('[data-testid=pairs]');
  return b.driver.executeScript<string>(
    `return document.querySelector('[data-testid=pairs]')?.innerText ?? 'drawn anew'`,
  );
};

/** Takes the last mend back, and waits until the drawing is as wide as it was brought in. */
const undone = async () => {
  await (await b.css('[data-testid=undo]')).click();
  await b.driver.wait(
    async () => (await (await b.css('[data-testid=check-width]')).getText()) === '200 mm',
    20_000,
    'what was mended is not taken back',
  );
};

test('layers pair by pair: laid on, cut out, its rim widened; a film that shifts is a range', async () => {
  await (await b.button('Check another drawing')).click();
  await bring('stacked.svg', stacked);
  await b.driver.wait(async () => (await pairs()).includes('26 % of the lower layer is covered. Lay it on top.'));
  // A rim of 1 mm is seen; below puff that grows it is not.
  expect(await pairs()).toContain('A rim of 1 mm stays.');
  await film(1, 'puff');
  await b.driver.wait(async () => /Its rim is only 0(\.\d)? mm/.test(await pairs()));
  await (await b.css('[data-testid=widen-rim]')).click();
  await b.driver.wait(async () => !/Its rim is only|drawn anew/.test(await pairs()));
  await undone();
  await film(1, 'holographic');
  await b.driver.wait(async () => (await pairs()).includes('Put them side by side.'));
  await b.css('[data-testid=ranges]');
  expect(await b.driver.findElements({ css: '.stage-art linearGradient stop' })).toHaveLength(5);
  await (await b.css('[data-testid=knock-out]')).click();
  await b.says('Its shape was cut out of the layer below.');
  await b.driver.wait(async () => (await pairs()).includes('They lie side by side.'));
  expect(await violations(b)).toEqual([]);
  await undone();
});

test('the hole that is tapped is filled; waste is shown in strips; a design is split for a cap', async () => {
  await film(1, 'smooth');
  await (await b.css('[data-testid=tap-hole]')).click();
  const art = await (await b.css('.stage-art')).getRect();
  const place = await b.driver.executeScript<[number, number]>(
    `scrollTo(0, 0); const m = document.querySelector('.stage-art').getScreenCTM(); const w = document.querySelector('.stage-art').getBoundingClientRect();
     return [0.825 * 1e6 * m.a + m.e - w.x - w.width / 2, 0.575 * 1e6 * m.d + m.f - w.y - w.height / 2]`,
  );
  expect(Math.abs(place[0])).toBeLessThan(art.width / 2);
  await b.driver
    .actions()
    .move({ origin: await b.css('.stage-art'), x: Math.round(place[0]), y: Math.round(place[1]) })
    .click()
    .perform();
  await b.says('That hole was filled.');
  // What was just worked out moves what lies below it: the buttons are pressed wherever they are by now.
  const press = (css: string) => b.driver.executeScript('document.querySelector(arguments[0]).click()', css);
  await press('[data-testid=strips]');
  await b.css('.stage-art .waste-lines');
  expect(await (await b.css('[data-testid=strips-said]')).getText()).toMatch(/^\d+ lines? more/);
  await press('[data-testid=split] summary');
  await b.css('[data-testid=split] button');
  await press('[data-testid=split] button');
  await b.says('It is in two halves now.');
  expect(await (await b.css('[data-testid=check-width]')).getText()).toBe('206 mm');
});

test('what is no drawing is said in one line; nothing was sent anywhere', async () => {
  await (await b.button('Check another drawing')).click();
  const file = join(folder, 'photo.svg');
  writeFileSync(file, '<svg xmlns="http://www.w3.org/2000/svg"><image width="9" height="9"/></svg>');
  await (await b.css('input[type=file]')).sendKeys(file);
  await b.says('There are only pixels in this drawing');
  expect(await rows(database.url, 'select 1 from artwork')).toEqual([]);
  expect(await rows(database.url, 'select 1 from person')).toEqual([]);
});

test('on a phone nothing is wider than the screen', async () => {
  await b.size(390, 844);
  await b.go('/check');
  await (await b.button('Drum star')).click();
  await b.css('[data-testid=check-answer]');
  expect(await b.driver.executeScript('return document.documentElement.scrollWidth')).toBeLessThanOrEqual(390);
  expect(await violations(b)).toEqual([]);
});
