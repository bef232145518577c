import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Key, type WebElement } from 'selenium-webdriver';
import { afterAll, expect, test } from 'vitest';
import { cutterOnBench, newVinyl, type Browser } from '../../bin/lib/browser.ts';
import { rows, testDatabase } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { inBrowser } from './inBrowser.ts';
import type { ServerProcess } from './serverProcess.ts';

// A list of eight names on one job: lettered, judged one by one, each a piece of its own; cut as one film, the waste in strips; weeded on a
// phone, the inner pieces counted off, at true size.
let database: Awaited<ReturnType<typeof testDatabase>>;
let server: ServerProcess;
let b: Browser;
let job = '';
const folder = mkdtempSync(join(tmpdir(), 'versipel-names-'));
inBrowser((own) => ({ database, server, b } = own));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const names = ['Ida', 'Noor', 'Mo', 'Lena', 'Zoë', 'Hanneke', 'Bartholomew', 'Ada'];
const answer = async () => (await b.css('[data-testid=names-answer]')).getText();
const shown = () =>
  b.driver.executeScript<string[]>(`return [...document.querySelectorAll('.name-list li')].map((l) => l.innerText)`);
const press = async (element: WebElement | Promise<WebElement>) => {
  const target = await element;
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', target);
  await target.click();
};
const plan = async () =>
  (
    await rows<{
      plan: {
        pieces: { name?: { says: string } }[];
        layers: { lines?: boolean }[];
        loads: { parts: { id: string }[] }[];
      };
    }>(database.url, 'select plan from job_plan order by rev desc limit 1')
  )[0]!.plan;

test('eight names out of a table, each judged: too fine where it is, with the width that does', async () => {
  await cutterOnBench(b, 'Marlow by the window');
  await newVinyl(b, { brand: 'Larkfield', name: 'Plain', colour: 'navy', type: 'smooth' });
  await b.go('/jobs/new');
  // Eight of them, wide enough for their names.
  await b.fill('count', '8');
  await press(b.button('Next: the drawing'));
  await b.at(/jobs\/art/);
  job = /job=([0-9a-f-]{36})/.exec(await b.driver.getCurrentUrl())![1]!;
  await press(b.css('a[href^="/jobs/names?job="]'));
  await b.at(/jobs\/names/);
  expect(await answer()).toBe('Which names?');
  const table = join(folder, 'class.csv');
  writeFileSync(table, `\uFEFFName;Size\n${names.map((n) => `"${n}";M`).join('\r\n')}\n`);
  await (await b.css('.names-wanted input[accept^=".csv"]')).sendKeys(table);
  await b.driver.wait(async () => (await shown()).length === 8);
  expect(await answer()).toBe('1 of 8 will not do yet');
  expect((await shown()).filter((s) => s.includes('too fine'))).toEqual([
    expect.stringMatching(/^Bartholomew too fine at [\d.]+ (mm|in): from [\d.]+ (mm|in) on it weeds$/),
  ]);
  expect(await violations(b)).toEqual([]);
});

test('a letter the face has not got, a list that cannot be read, a file that is no font: said, and nothing is lost', async () => {
  const field = await b.css('#names');
  await field.sendKeys('\n☃');
  await b.driver.wait(async () => (await shown()).some((s) => s.includes('these letters have none of it')));
  await field.sendKeys(Key.BACK_SPACE, Key.BACK_SPACE);
  await b.driver.wait(async () => (await shown()).length === 8);
  const font = join(folder, 'photo.ttf');
  writeFileSync(font, Buffer.alloc(3_000, 7));
  await (await b.css('[data-testid=own-font]')).sendKeys(font);
  await b.says('This is no font that can be read');
  await press(b.css('input[name=face][value=round]'));
  await b.driver.wait(async () => (await answer()) === 'All 8 names cut and weed');
  // Pushed together every name is one piece, but for what never touches: the two dots of one letter.
  await press((await b.driver.findElements({ css: '.names-wanted input[type=checkbox]' }))[1]!);
  await b.driver.wait(async () => (await shown()).filter((s) => s.endsWith('1 piece')).length === 7);
});

test('put on the job each is a piece of its own; the film holds all eight, its waste in strips', async () => {
  await press(b.css('[data-testid=put-names]'));
  await b.at(/\/vinyls$/);
  expect((await plan()).pieces.map((p) => p.name?.says)).toEqual(names);
  await press(b.css('.offers .row-offer button'));
  await b.driver.wait(async () => (await plan()).layers.length === 1);
  await b.at(/\/size$/);
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/\/jobs\/[0-9a-f-]{36}$/);
  await b.css('[data-testid=trim]');
  expect(await b.driver.findElements({ css: '.film .cut-lines' })).toHaveLength(8);
  await press(b.css('.in-waste input[name=lines]'));
  await b.css('.film .waste-lines');
  expect((await plan()).layers[0]!.lines).toBe(true);
  expect(await violations(b)).toEqual([]);
  const part = (await plan()).loads[0]!.parts[0]!.id;
  const cookie = (await b.driver.manage().getCookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  const file = await (await fetch(`${server.base}/jobs/${job}/parts/${part}.svg`, { headers: { cookie } })).text();
  // Every line of the file that is not closed cuts waste: those that are drawn, and the strokes of the test marks' numbers.
  const drawn = await b.driver.executeScript<string>(`return document.querySelector('.waste-lines').getAttribute('d')`);
  expect(drawn.split('M').length - 1).toBeGreaterThan(0);
  const open = [...file.matchAll(/M([^M"]*)/g)].filter(([line]) => !line.trim().endsWith('Z'));
  expect(open.length).toBeGreaterThanOrEqual(drawn.split('M').length - 1);
});

test('weeded on a phone: counted off, which way to pull, as large as it is', async () => {
  await b.size(390, 844);
  await b.go(`/jobs/${job}?step=weed/${(await plan()).loads[0]!.parts[0]!.id}`);
  await b.css('.step-panel[data-step^="weed/"]');
  const inner = await b.driver.findElements({ css: '[data-inner]' });
  // Ida 2, Noor 2, Mo 1, Lena 2, Zoë 2, Hanneke 3, Bartholomew 5, Ada 3; as the face draws them.
  expect(inner.length).toBeGreaterThan(12);
  await press(b.button('Fill the screen'));
  await press(b.button('One more lifted'));
  await press((await b.driver.findElements({ css: '[data-inner="3"]' }))[0]!);
  expect(await (await b.css('[data-testid=holes]')).getText()).toBe(`2 of ${inner.length} inner pieces lifted`);
  expect(await b.driver.findElements({ css: '.inner.off' })).toHaveLength(2);
  expect(await violations(b)).toEqual([]);
  // A card of 85.6 mm is as wide as 428 pixels here: five to the millimetre.
  await press(b.css('[data-testid=true-size]'));
  await b.driver.executeScript(
    `const r = document.querySelector('[data-testid=card-width]');
     Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(r, 428);
     r.dispatchEvent(new Event('input', { bubbles: true }));`,
  );
  await press(b.button('It fits'));
  const [wide, box] = await b.driver.executeScript<[number, number]>(
    `const svg = document.querySelector('.weed-map .film'); return [svg.getBoundingClientRect().width, svg.viewBox.baseVal.width]`,
  );
  expect(Math.abs(wide / 5 - box / 1000)).toBeLessThan(0.5);
  expect(await b.driver.executeScript('return document.documentElement.scrollWidth')).toBeLessThanOrEqual(390);
});
