import { By, Key, until } from 'selenium-webdriver';
import { describe, expect, test } from 'vitest';
import { rows, testDatabase } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { openBrowser, signInAs, signUpAs, type Browser } from '../../bin/lib/browser.ts';
import { inBrowser } from './inBrowser.ts';
import type { ServerProcess } from './serverProcess.ts';

// The whole story in one go: a guest, a cutter, a vinyl nobody has cut, a coupon, its grades with a reload and a killed server
// between them, the number to set, an account, and everything still there from another device.
let database: Awaited<ReturnType<typeof testDatabase>>;
let server: ServerProcess;
let b: Browser;
let coupon = '';

inBrowser((own) => ({ database, server, b } = own));

const path = async () => new URL(await b.driver.getCurrentUrl()).pathname;
const press = async (...keys: string[]) => {
  for (const key of keys) await b.driver.actions().sendKeys(key).perform();
};
/** Tabs until the focus is on something that matches, as a person without a mouse would. */
async function tabTo(selector: string, most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await b.driver.executeScript<boolean>('return !!document.activeElement?.matches(arguments[0])', selector))
      return;
    await press(Key.TAB);
  }
  throw new Error(`Tab does not reach ${selector}`);
}
const sending = async (state: string) =>
  b.driver.wait(until.elementLocated(By.css(`[data-testid=sending][data-state=${state}]`)), 40_000, `never ${state}`);
const question = async () => (await b.css('[data-testid=question]')).getText();
const gradesOnSheet = () =>
  b.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('[data-cell]')].sort((a, b) => a.dataset.cell - b.dataset.cell).map((c) => c.dataset.grade)`,
  );
/** Asked, and on screen long enough for an answer to be meant. */
const asksFor = async (cell: number) => {
  await b.driver.wait(
    async () => (await question()).startsWith(`Cell ${cell},`),
    10_000,
    `cell ${cell} is not asked for`,
  );
  await b.driver.sleep(400);
};
const noComplaints = async (allow = /^$/) => expect((await b.complaints()).filter((c) => !allow.test(c))).toEqual([]);

describe('the first coupon', () => {
  test('a guest is told what to do first', async () => {
    await b.go('/');
    expect(await b.text()).toContain('What do you set for this vinyl?');
    expect(await violations(b)).toEqual([]);
    for (const page of ['/vinyls', '/coupons', '/workshop', '/account', '/sign-in']) {
      await b.go(page);
      expect({ page, wrong: await violations(b) }).toEqual({ page, wrong: [] });
    }
    // Looking round makes nobody a guest.
    expect(await rows(database.url, 'select 1 from person')).toHaveLength(0);
    await noComplaints();
  });

  test('puts a cutter and a blade on the bench by keyboard, after a mistake that keeps what was typed', async () => {
    await b.go('/');
    await tabTo('main a[href="/workshop/cutters/new"]');
    await press(Key.ENTER);
    await b.at(/cutters\/new$/);
    await b.css('[name=angle]');
    expect(await violations(b)).toEqual([]);
    await tabTo('[name=name]');
    await press('s by the window');
    await tabTo('[name=angle]');
    await press(Key.BACK_SPACE, Key.BACK_SPACE, '200', Key.ENTER);
    const problem = await b.css('#field-angle-helper-text.Mui-error');
    expect(await problem.getText()).toBe('The tip angle is a whole number from 15 to 75 degrees.');
    expect(await (await b.css('[name=name]')).getAttribute('value')).toContain('by the window');
    expect(await violations(b)).toEqual([]);
    await b.fill('angle', '45');
    await b.fill('name', 'Marlow by the window');
    await press(Key.ENTER);
    await b.at(/\/$/);
    expect(await (await b.css('.bench-chip')).getText()).toContain('Marlow by the window');
    await noComplaints(/400 \(Bad Request\)/);
  });

  test('names a vinyl; ten thousand characters are refused at the field and not lost', async () => {
    await b.go('/vinyls/new');
    expect(await violations(b)).toEqual([]);
    await b.driver.executeScript(`
      const field = document.querySelector('[name=name]');
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, 'y'.repeat(10000));
      field.dispatchEvent(new Event('input', { bubbles: true }));`);
    await b.fill('colour', 'ember red');
    await b.fill('brand', 'Ferrule & Sons');
    await b.driver.executeScript(`document.querySelector('[name=type][value=glitter]').click()`);
    await (await b.button('Save and plan')).click();
    const problem = await b.css('#field-name-helper-text.Mui-error');
    expect(await problem.getText()).toBe('The vinyl’s name can have 120 characters; this has 10000.');
    expect((await (await b.css('[name=name]')).getAttribute('value'))!.length).toBe(10_000);
    expect(await (await b.css('[name=brand]')).getAttribute('value')).toBe('Ferrule & Sons');
    await b.driver.executeScript(`document.querySelector('[name=name]').select()`);
    await (await b.css('[name=name]')).sendKeys('Starling <b>');
    await (await b.button('Save and plan')).click();
    await b.at(/coupons\/new\?vinyl=/);
    await noComplaints(/400 \(Bad Request\)/);
  });

  test('gets a plan: six cells, lightest first, drawn as they lie', async () => {
    await b.css('.sheet-drawing');
    const text = await b.text();
    expect(text).toContain('Starling <b>');
    expect(text).toContain('Nobody has cut this on your cutter');
    expect(text).toContain('50 × 43 mm');
    expect(await violations(b)).toEqual([]);
    await tabTo('main form[method=post] button[type=submit]');
    await press(Key.ENTER);
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    coupon = (await path()).split('/').at(-1)!;
    expect(await violations(b)).toEqual([]);
  });

  test('is led through the cut cell by cell; the files are true size', async () => {
    const file = async (query: string) =>
      b.driver.executeAsyncScript<{ status: number; text: string; name: string }>(
        `const done = arguments[1]; fetch(arguments[0]).then(async (r) => done({ status: r.status, text: await r.text(), name: r.headers.get('content-disposition') }))`,
        `/coupons/${coupon}/files/coupon.svg${query}`,
      );
    expect((await file('')).text).toContain('width="44mm" height="37mm"');
    expect((await file('?cell=99')).status).toBe(404);
    await b.go(`/coupons/${coupon}/run`);
    expect(await violations(b)).toEqual([]);
    for (let n = 1; n <= 6; n++) {
      await b.driver.wait(async () => (await b.text()).includes(`Cell ${n} of 6`), 10_000, `cell ${n} is not shown`);
      const link = await b.button(`Download cell ${n}`);
      const single = await file(new URL((await link.getAttribute('href'))!).search);
      expect(single.name).toContain(`coupon-cell-${n}.svg`);
      expect(single.text.match(/<g id="cell-/g)).toHaveLength(1);
      await tabTo('main button.MuiButton-contained');
      // On screen long enough for the tap to be meant.
      await b.driver.sleep(400);
      await press(Key.ENTER);
    }
    await b.driver.wait(async () => (await b.text()).includes('Before you unload, lift a corner'), 10_000);
    expect(await violations(b)).toEqual([]);
    await tabTo(`main a[href$='/grade']`);
    await press(Key.ENTER);
    await b.at(/\/grade$/);
    await sending('sent');
    const events = await rows(database.url, 'select passes from cell_cut_event');
    expect(events.map((e) => e.passes)).toEqual([1, 1, 1, 1, 1, 1]);
    await noComplaints(/404 \(Not Found\)/);
  });

  test('grades by key; the number moves; a reload between two grades loses nothing', async () => {
    await asksFor(1);
    expect(await violations(b)).toEqual([]);
    const before = await (await b.css('[data-testid=recommendation]')).getText();
    await press('1');
    await asksFor(2);
    await press('1');
    await asksFor(3);
    await b.driver.navigate().refresh();
    await asksFor(3);
    expect(await gradesOnSheet()).toEqual(['uncut', 'uncut', '', '', '', '']);
    await press('3');
    await asksFor(4);
    await b.driver.wait(
      async () => (await (await b.css('[data-testid=recommendation]')).getText()) !== before,
      15_000,
      'the number did not move',
    );
    await sending('sent');
  });

  test('a wrong tap is taken back with one key, arrows go from cell to cell as they lie', async () => {
    await press('5');
    await asksFor(5);
    await press(Key.BACK_SPACE);
    await asksFor(4);
    expect((await gradesOnSheet())[3]).toBe('');
    // Mirrored on the mat: cell 5 lies to the left of cell 4.
    await press(Key.ARROW_LEFT);
    await asksFor(5);
    await press(Key.ARROW_RIGHT);
    await asksFor(4);
    await press(Key.ARROW_UP);
    await asksFor(1);
    await press(Key.ARROW_DOWN);
    await asksFor(4);
    await sending('sent');
  });

  test('the server is killed between two grades: they are kept here, said so, survive, and are sent', async () => {
    await server.kill();
    await press('4');
    await asksFor(5);
    await press('4');
    const sign = await sending('waiting');
    expect(await sign.getText()).toContain('2 grades kept here, will send');
    expect(await gradesOnSheet()).toEqual(['uncut', 'uncut', 'clean', 'scored', 'scored', '']);
    await server.start();
    // A reload before the outbox has tried again: what it holds is still there.
    await b.driver.navigate().refresh();
    await asksFor(6);
    // Graded about when the question would stand for good: it is answered, and does not come back.
    await b.driver.sleep(170);
    await press('5');
    await b.driver.wait(until.elementLocated(By.css(`main a[href$='/result']`)), 10_000, 'no way to the result');
    await b.driver.sleep(700);
    await b.driver.findElement(By.css(`main a[href$='/result']`));
    await sending('sent');
    expect(await gradesOnSheet()).toEqual(['uncut', 'uncut', 'clean', 'scored', 'scored', 'through']);
    await noComplaints(/ERR_CONNECTION_REFUSED|Failed to load resource/);
  });

  test('nothing lost, nothing doubled', async () => {
    const events = await rows(
      database.url,
      `select e.kind, e.grade, cell.number from grade_event e join cell on cell.id = e.cell_id where cell.cut_id = $1 order by e.id`,
      [coupon],
    );
    expect(events.map((e) => `${e.number} ${e.kind === 'grade' ? e.grade : 'taken back'}`)).toEqual([
      '1 uncut',
      '2 uncut',
      '3 clean',
      '4 through',
      '4 taken back',
      '4 scored',
      '5 scored',
      '6 through',
    ]);
    // Delivered once more, by hand, from the very page.
    const again = await b.driver.executeAsyncScript<{ results: { outcome: string }[] }>(
      `const done = arguments[1];
       fetch('/api/events', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ events: arguments[0] }) })
         .then((r) => r.json()).then(done)`,
      (
        await rows(
          database.url,
          `select id, cell_id as cell, kind, figure, passes, grade, device_id as device, device_at as "deviceAt" from grade_event where kind = 'grade'`,
        )
      ).map((e) => ({ ...e, deviceAt: (e.deviceAt as Date).toISOString() })),
    );
    expect(again.results.map((r) => r.outcome)).toEqual(Array(7).fill('already'));
    expect(await rows(database.url, 'select 1 from grade_event')).toHaveLength(8);
  });

  test('reads the result: a number, how sure, the curve; and keeps it', async () => {
    await tabTo(`main a[href$='/result']`);
    await press(Key.ENTER);
    await b.at(/\/result$/);
    await b.driver.wait(until.elementLocated(By.css('.chart svg path')), 15_000);
    expect(await violations(b)).toEqual([]);
    const number = Number((await (await b.css('[data-testid=recommended]')).getText()).replace('~', ''));
    const cells = await rows<{ number: number; force: number }>(
      database.url,
      `select number, (setting -> 'steps' ->> 'force')::int as force from cell where cut_id = $1 order by number`,
      [coupon],
    );
    // Cell 2 was uncut, cell 3 clean, cell 4 scored: the number lies between 2 and 4.
    expect(number).toBeGreaterThan(cells[1]!.force);
    expect(number).toBeLessThan(cells[3]!.force);
    // Whether another coupon would be worth it, looked at in a worker.
    await b.driver.wait(
      async () =>
        /^(One more coupon (is expected to raise|would hardly change)|Some cells contradict|One edge)/.test(
          await (await b.css('[data-testid=one-more]')).getText(),
        ),
      15_000,
      'it never says what another coupon would bring',
    );
    expect(await (await b.css('[data-testid=sentence]')).getText()).toMatch(/times in 100/);
    await (await b.css('main details summary')).click();
    await b.fill('strength', '500');
    await (await b.button('Keep this')).click();
    const problem = await b.css('#field-strength-helper-text.Mui-error');
    expect(await problem.getText()).toBe('force 500 is outside this cutter: 10 to 400.');
    expect(await (await b.css('[name=strength]:not([type=hidden])')).getAttribute('value')).toBe('500');
    await b.fill('strength', String(number));
    await (await b.button('Keep this')).click();
    expect(await (await b.css('[data-testid=kept]')).getText()).toContain(`force ${number}`);
    await noComplaints(/400 \(Bad Request\)/);
  });

  test('claims the work with an account, and finds it from another device', async () => {
    await signUpAs(b, server, { name: 'Ottoline', email: 'ottoline@example.org', password: 'lantern river seven' });
    expect(await violations(b)).toEqual([]);
    const other = await openBrowser(() => server.base);
    try {
      // Another person looks first: the coupon is not there for them.
      for (const page of [
        '',
        '/run',
        '/grade',
        '/result',
        '/files/coupon.svg',
        '/files/coupon.hpgl',
        '/cells/1/picture',
      ])
        expect((await fetch(`${server.base}/coupons/${coupon}${page}`)).status).toBe(404);
      await other.go(`/coupons/${coupon}/grade`);
      expect(await other.text()).toContain('That is not here');
      await signInAs(other, 'ottoline@example.org', 'lantern river seven');
      await other.go('/');
      expect(await other.text()).toContain('Ferrule & Sons Starling <b>');
      // Find by keyboard: slash, a few letters, Enter.
      await other.driver.actions().sendKeys('/').perform();
      await other.driver.actions().sendKeys('starl', Key.ENTER).perform();
      await other.driver.wait(until.urlMatches(/vinyls\/[0-9a-f-]{36}/), 10_000);
      await other.css('[data-testid=to-set]');
      expect(await other.text()).toContain('tried here: 6 cells');
      expect(await violations(other)).toEqual([]);
    } finally {
      await other.close();
    }
  });

  test('writes from another site are refused', async () => {
    const from = (headers: Record<string, string>, url = '/workshop/cutters/new') =>
      fetch(server.base + url, {
        method: 'POST',
        headers: { 'Content-Type': 'application/x-www-form-urlencoded', ...headers },
        body: 'name=x',
        redirect: 'manual',
      });
    const before = await rows(database.url, 'select 1 from person');
    // The router refuses a foreign origin with 400 before our own door answers 403; either will do.
    expect([400, 403]).toContain((await from({ Origin: 'https://elsewhere.example' })).status);
    expect((await from({ 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403);
    expect([400, 403]).toContain((await from({ Origin: 'null' }, '/api/events')).status);
    expect((await from({}, '/api/events')).status).toBe(401);
    expect(await rows(database.url, 'select 1 from person')).toHaveLength(before.length);
    const page = await fetch(server.base);
    const policy = page.headers.get('content-security-policy')!;
    expect(/script-src ([^;]*)/.exec(policy)![1]).toMatch(/^'self' 'nonce-[^']+'$/);
    // What is refused makes nobody; the first valid act makes a guest.
    const refused = await from({ Origin: server.base });
    expect(refused.status).toBe(400);
    expect(refused.headers.get('set-cookie')).toBeNull();
    const made = await fetch(`${server.base}/preferences`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded', Origin: server.base },
      body: 'what=preferences&length=in',
      redirect: 'manual',
    });
    expect(made.status).toBe(302);
    expect(made.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Lax/);
  });
});
