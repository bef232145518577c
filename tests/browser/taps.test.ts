import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { closeDb } from '#store/base/db.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, form, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Hands in a hurry: double taps, two tabs, a form sent again. What was meant is done, once, to the cell that was on screen.
const database = ownHouse();
let server: ServerProcess;
let b: Browser;
let [coupon, second, vinyl] = ['', '', ''];

beforeAll(async () => {
  const ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  vinyl = await addVinyl(ada, { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' });
  coupon = await makeCoupon(ada, (await benchOf(ada))!, vinyl, form({ cells: '6' }));
  second = await makeCoupon(ada, (await benchOf(ada))!, vinyl, form({ cells: '6' }));
  await closeDb();
  server = await serverProcess(database.url);
  b = await openBrowser(() => server.base);
  await signInAs(b, 'ada@example.org', password);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

const graded = async (cut: string) =>
  (
    await rows<{ number: number; grade: string }>(
      database.url,
      `select cell.number, e.grade from grade_event e join cell on cell.id = e.cell_id where cell.cut_id = $1 and e.kind = 'grade' order by e.id`,
      [cut],
    )
  ).map((r) => `${r.number} ${r.grade}`);
const question = async () => (await b.css('[data-testid=question]')).getText();
const asks = (n: number) =>
  b.driver.wait(async () => (await question()).includes(`Cell ${n},`), 10_000, `not asked for cell ${n}`);
/** A finger that comes down twice within 60 ms, however late the page gets round to the second time. */
const twice = (selector: string, handled = 60) =>
  b.driver.executeScript(
    `const first = performance.now();
     const tap = (after) => {
       const event = new MouseEvent('click', { bubbles: true, cancelable: true });
       Object.defineProperty(event, 'timeStamp', { value: first + after });
       document.querySelector(${JSON.stringify(selector)})?.dispatchEvent(event);
     };
     tap(0);
     setTimeout(tap, arguments[0], 60);`,
    handled,
  );

test('"It is cut. Next cell", tapped twice: one cell goes on, and the second tap is told', async () => {
  await b.go(`/coupons/${coupon}/run`);
  await b.says('Cell 1 of 6');
  await twice('main button.MuiButton-contained');
  await b.says('Cell 2 of 6');
  await b.says('that tap was not taken');
  await b.driver.sleep(1_500);
  expect(await b.text()).toContain('Cell 2 of 6');
  const cut = await rows<{ n: number }>(
    database.url,
    `select count(*)::int as n from cell_cut_event e join cell on cell.id = e.cell_id where cell.cut_id = $1`,
    [coupon],
  );
  expect(cut[0]!.n).toBe(1);
});

test('a tap on a page that is not alive yet is kept, and taken once', async () => {
  const slow = (rate: number) =>
    (b.driver as unknown as { sendDevToolsCommand: (name: string, args: object) => Promise<void> }).sendDevToolsCommand(
      'Emulation.setCPUThrottlingRate',
      { rate },
    );
  const ready = `document.querySelector('main button.MuiButton-contained') && document.documentElement.dataset.alive !== ''`;
  await slow(6);
  try {
    for (const [n, taps] of [
      [3, 1],
      [4, 2],
    ] as const) {
      // Tapped as soon as the button is drawn, long before the application has begun.
      await b.driver.executeScript(`sessionStorage.removeItem('early')`);
      const script = await (
        b.driver as unknown as {
          sendAndGetDevToolsCommand: (name: string, args: object) => Promise<{ identifier: string }>;
        }
      ).sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
        source: `const seen = new MutationObserver(() => { if (!(${ready})) return; seen.disconnect(); for (let i = 0; i < ${taps}; i++) document.querySelector('main button.MuiButton-contained').click(); sessionStorage.setItem('early', '1'); }); seen.observe(document, { childList: true, subtree: true });`,
      });
      try {
        await b.go(`/coupons/${coupon}/run`);
        expect(await b.driver.executeScript(`return sessionStorage.getItem('early')`)).toBe('1');
        await b.says(`Cell ${n} of 6`);
        await b.driver.sleep(1_500);
        expect(await b.text()).toContain(`Cell ${n} of 6`);
      } finally {
        await (
          b.driver as unknown as { sendDevToolsCommand: (name: string, args: object) => Promise<void> }
        ).sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', { identifier: script.identifier });
      }
    }
  } finally {
    await slow(1);
  }
});

test('the second tap of a double one is not taken, even where the page gets round to it a second later', async () => {
  await b.go(`/coupons/${second}/run`);
  await b.says('Cell 1 of 6');
  await twice('main button.MuiButton-contained', 1_000);
  await b.says('that tap was not taken');
  expect(await b.text()).toContain('Cell 2 of 6');
});

test('a grade tapped twice is one grade, of the cell that was asked about', async () => {
  await b.go(`/coupons/${coupon}/grade`);
  await asks(1);
  await b.driver.sleep(700);
  await twice('.answers button');
  await asks(2);
  await b.driver.sleep(1_500);
  expect(await graded(coupon)).toEqual(['1 uncut']);
});

test('two tabs: what is tapped while a page shows a cell is said of that cell, whatever the other tab did meanwhile', async () => {
  await b.go(`/coupons/${second}/grade`);
  await asks(1);
  const [first] = await b.driver.getAllWindowHandles();
  await b.driver.switchTo().newWindow('tab');
  await b.go(`/coupons/${second}/grade`);
  await asks(1);
  await b.driver.sleep(900);
  await b.driver.actions().sendKeys('1').perform();
  await asks(2);
  await b.driver.sleep(500);
  await b.driver.actions().sendKeys('1').perform();
  await asks(3);
  await b.driver.sleep(1_000);
  await b.driver.switchTo().window(first!);
  // The first tab still asks about cell 1, also after it has looked again; it says what was said of it there.
  await b.driver.sleep(9_000);
  expect(await question()).toContain('Cell 1,');
  await b.driver.actions().sendKeys('3').perform();
  await b.driver.sleep(1_500);
  expect((await graded(second)).at(-1)).toBe('1 clean');
  expect(await graded(second)).toEqual(['1 uncut', '2 uncut', '1 clean']);
});

test('a form sent three times at once makes one thing', async () => {
  await b.go('/vinyls/new');
  await b.fill('name', 'Thrice');
  await b.fill('brand', 'Tansy');
  await b.fill('colour', 'one');
  await b.driver.executeScript(`document.querySelector('[name=type][value=glitter]').click()`);
  const made = await b.driver.executeAsyncScript<string[]>(`
    const done = arguments[0];
    const form = [...document.querySelectorAll('form[method=post]')].find((f) => f.querySelector('[name=name]'));
    const body = new URLSearchParams(new FormData(form)).toString();
    Promise.all([1, 2, 3].map(() => fetch('/vinyls/new', { method: 'POST', headers: { 'Content-Type': 'application/x-www-form-urlencoded' }, body }).then((r) => r.url))).then(done)`);
  expect(new Set(made).size).toBe(1);
  expect(await rows(database.url, `select 1 from vinyl where name = 'Thrice'`)).toHaveLength(1);
  expect((await b.driver.findElements(By.css('[name=once]'))).length).toBeGreaterThan(0);
});
