import type { WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { testDatabase } from '../testDatabase.ts';
import { openBrowser, signUpAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// How many taps it takes: from a cutter of one's own to the first number, the next day to the same number, from keeping it to sharing it.
let database: Awaited<ReturnType<typeof testDatabase>>;
let server: ServerProcess;
let b: Browser;
let taps = 0;
beforeAll(async () => {
  database = await testDatabase();
  server = await serverProcess(database.url);
  b = await openBrowser(() => server.base);
  await b.size(390, 844);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
  await database?.drop();
});
const tap = async (element: WebElement | Promise<WebElement>) => {
  taps++;
  const target = await element;
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', target);
  await target.click();
};
/** Taps into a field and types; one that has the focus already is typed in. */
const type = async (name: string, text: string) => {
  const field = await b.css(`[name=${name}]`);
  if (!(await b.driver.executeScript<boolean>('return document.activeElement === arguments[0]', field)))
    await tap(field);
  await field.sendKeys(text);
};

describe('taps', () => {
  let number = '';
  test('from a cutter of one’s own to the first number: 22 at most', async () => {
    await b.go('/');
    taps = 0;
    await tap(b.css('main a[href^="/workshop/cutters/new"]'));
    await b.css('[name=angle]');
    await tap(b.css('label:has([name=model][value=marlow-24])'));
    await tap(b.button('Put it on the bench'));
    await b.at(/\/$/);
    await tap(b.css('main a[href="/vinyls/new"]'));
    await b.css('[name=name]');
    await type('name', 'Starling');
    await tap(b.css('label:has([name=type][value=glitter])'));
    await type('colour', 'ember red');
    await tap(b.button('Save and plan'));
    await b.at(/coupons\/new/);
    await b.css('.sheet-drawing');
    await tap(b.css('main form[method=post] button[type=submit]'));
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    await tap(b.css('main a.MuiButton-contained'));
    await b.at(/run$/);
    await b.says('All cells at once?');
    await tap(b.button('Download the sheet'));
    await tap(b.button('All 6 are cut'));
    await tap(b.button('It lifts: unload and grade'));
    await b.at(/grade$/);
    for (const [i, word] of ['uncut', 'hangs', 'clean', 'clean', 'scored', 'through'].entries()) {
      await b.driver.wait(
        async () => (await (await b.css('[data-testid=question]')).getText()).startsWith(`Cell ${i + 1},`),
        10_000,
      );
      await b.driver.sleep(500);
      await tap(b.css(`[data-answer=${word}]`));
    }
    await b.driver.wait(
      async () => /\d/.test(await (await b.css('[data-testid=recommendation]')).getText()),
      10_000,
      'no number',
    );
    expect(taps, 'taps to the first number').toBeLessThanOrEqual(22);
    console.info(`taps to the first number: ${taps}`);
    await b.driver.sleep(1_500);
  });

  test('kept, and shared: 5 at most', async () => {
    await signUpAs(b, server, { name: 'Ada Fenn', email: 'ada@example.org', password: 'four unlikely words here' });
    await b.go('/coupons');
    await (await b.css('a.row-coupon')).click();
    await b.at(/result$/);
    number = (await (await b.css('[data-testid=recommended]')).getText()).replace('~', '');
    expect(number).toMatch(/^\d+$/);
    await tap(b.css('[data-testid=keep-line] button'));
    await b.css('[data-testid=kept]');
    taps = 0;
    await tap(b.css('[data-testid=kept] a'));
    await b.at(/cards\/new/);
    await tap(b.button('Put it on the shelf'));
    await b.at(/cards\/[0-9a-f-]{36}$/);
    await tap(b.button('Copy its link'));
    expect(taps, 'taps to share').toBeLessThanOrEqual(5);
    console.info(`taps to share: ${taps}`);
  });

  test('the next day: the number is there with one tap, or none', async () => {
    taps = 0;
    await b.go('/');
    const seen = async () => (await b.text()).includes(number);
    if (!(await seen())) await tap(b.css('main a[href^="/vinyls/"]'));
    await b.driver.wait(seen, 10_000, 'the number is not there');
    expect(taps, 'taps to the number').toBeLessThanOrEqual(1);
    console.info(`taps the next day: ${taps}`);
  });
});
