import { By, Key, until } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import { startStandIn, type StandIn } from '../../bin/lib/standIn.ts';
import { root, rows, testDatabase } from '../testDatabase.ts';
import { twice, violations, wrongInAnyLook } from './axe.ts';
import { cutterOnBench, newVinyl, openBrowser, signInAs, signUpAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Plan, send to the simulated cutter, a line that breaks under cell 3, grade from the pictures, the number, and one ordinary cut
// as proof. Then what the bench does to a page: two devices, no connection, another pass, full screen.
let database: Awaited<ReturnType<typeof testDatabase>>;
let standIn: StandIn;
let server: ServerProcess;
let b: Browser;
let coupon = '';

beforeAll(async () => {
  database = await testDatabase();
  standIn = await startStandIn(root, ['--ms', '250', '--seed', '3', '--film', '84', '--truth']);
  server = await serverProcess(database.url, { VERSIPEL_CUTTERS: standIn.listFile });
  b = await openBrowser(() => server.base);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
  standIn?.stop();
  await database?.drop();
});

const sending = async (who: Browser, state: string) =>
  who.driver.wait(until.elementLocated(By.css(`[data-testid=sending][data-state=${state}]`)), 40_000, `never ${state}`);
/** Asked, and on screen long enough for an answer to be meant. */
const asksFor = async (who: Browser, cell: number) => {
  await who.driver.wait(
    async () => (await (await who.css('[data-testid=question]')).getText()).startsWith(`Cell ${cell},`),
    10_000,
    `cell ${cell} is not asked for`,
  );
  await who.driver.sleep(400);
};
const gradesOnSheet = (who: Browser) =>
  who.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('[data-cell]')].sort((a, b) => a.dataset.cell - b.dataset.cell).map((c) => c.dataset.grade)`,
  );
const cellIds = async () =>
  (await rows<{ id: string }>(database.url, 'select id from cell where cut_id = $1 order by number', [coupon])).map(
    (r) => r.id,
  );
const truth = async (cell: string) =>
  (await (await fetch(`${standIn.camera}/cells/${cell}.json`)).json()) as { grade: Grade; passes: number };

/** Looks at a picture as a person would: is the waste still there, does some of it hold, is the carrier cut, did it fall out? */
function gradeFromPicture(svg: string): Grade {
  const all = (name: string) => [...svg.matchAll(new RegExp(`class="${name}" d="([^"]*)"`, 'g'))].map((m) => m[1]!);
  const length = (d: string) => {
    const points = [...d.matchAll(/(-?\d+) (-?\d+)/g)].map((m) => [Number(m[1]), Number(m[2])] as const);
    return points.slice(1).reduce((s, p, i) => s + Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1]), 0);
  };
  if (all('gap').length > 0) return 'through';
  if (all('piece').length === 0) return 'uncut';
  if (all('holds').length > 0) return 'hangs';
  const groove = all('groove').reduce((s, d) => s + length(d), 0);
  const outline = [...all('carrier'), ...all('piece'), ...all('hole')].reduce((s, d) => s + length(d), 0);
  return groove > 0.28 * outline ? 'scored' : 'clean';
}

describe('on the bench', () => {
  test('a coupon is planned with its own controls, a wrong one is said at its field', async () => {
    await cutterOnBench(b, 'Marlow by the window');
    await newVinyl(b, { brand: 'Larkfield', name: 'Crumb', colour: 'frost', type: 'glitter' });
    const plan = new URL(await b.driver.getCurrentUrl());
    await b.go(`${plan.pathname}${plan.search}&c.depth=99`);
    expect(await (await b.css('main')).getText()).toContain('blade depth 99 is outside this cutter: 1 to 10.');
    expect(await violations(b)).toEqual([]);
    await b.go(`${plan.pathname}${plan.search}&c.speed=6`);
    await b.says('6');
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    coupon = new URL(await b.driver.getCurrentUrl()).pathname.split('/').at(-1)!;
    expect(await violations(b)).toEqual([]);
    const [cell] = await rows<{ speed: number }>(
      database.url,
      `select (setting -> 'steps' ->> 'speed')::int as speed from cell where cut_id = $1 limit 1`,
      [coupon],
    );
    expect(cell!.speed).toBe(6);
  });

  test('sent to the cutter; the line breaks under cell 3; a person looks, the rest is cut, nothing twice', async () => {
    await fetch(`${standIn.camera}/fault`, {
      method: 'POST',
      body: JSON.stringify({ kind: 'drop', after: 2, cuts: true }),
    });
    await b.go(`/coupons/${coupon}/run`);
    expect(await b.text()).toContain('simulated: nothing real is cut');
    expect(await violations(b)).toEqual([]);
    await (await b.button('Send all 6 cells')).click();
    await b.css('[data-testid=line][data-running=true]');
    await b.says('The line to the cutter broke.');
    await b.says('Cell 3: was it cut?');
    expect(await violations(b)).toEqual([]);
    await (await b.button('It is cut whole')).click();
    await (await b.button('Send all 3 cells')).click();
    await b.says('Before you unload, lift a corner');
    expect(await violations(b)).toEqual([]);
    for (const cell of await cellIds()) expect((await truth(cell)).passes).toBe(1);
    expect(await rows(database.url, 'select 1 from cell_cut_event')).toHaveLength(6);
  });

  test('graded from the pictures, as they really are', async () => {
    await (await b.button('It lifts: unload and grade')).click();
    await b.at(/\/grade$/);
    const ids = await cellIds();
    const seen: Grade[] = [];
    for (let n = 1; n <= 6; n++) {
      await asksFor(b, n);
      const image = await b.css('.picture img');
      const svg = await b.driver.executeAsyncScript<string>(
        `const done = arguments[1]; fetch(arguments[0]).then((r) => r.text()).then(done)`,
        await image.getAttribute('src'),
      );
      const grade = gradeFromPicture(svg);
      expect(grade).toBe((await truth(ids[n - 1]!)).grade);
      seen.push(grade);
      if (n === 1) expect(await violations(b)).toEqual([]);
      await b.driver
        .actions()
        .sendKeys(String(gradeWords.indexOf(grade) + 1))
        .perform();
    }
    expect(new Set(seen).size).toBeGreaterThan(2);
    await sending(b, 'sent');
    expect(await gradesOnSheet(b)).toEqual(seen);
  });

  test('the number is kept, cut, and proven with two taps', async () => {
    await b.go(`/coupons/${coupon}/result`);
    const number = Number((await (await b.css('[data-testid=recommended]')).getText()).replace('~', ''));
    const ids = await cellIds();
    const forces = (
      await rows<{ force: number }>(
        database.url,
        `select (setting -> 'steps' ->> 'force')::int as force from cell where cut_id = $1 order by number`,
        [coupon],
      )
    ).map((r) => r.force);
    const grades = await Promise.all(ids.map(async (id) => (await truth(id)).grade));
    // Between the last cell that was not through and the first that was scored or worse.
    const below = forces[grades.findLastIndex((g) => g === 'uncut' || g === 'hangs')]!;
    const above = forces[grades.findIndex((g) => g === 'scored' || g === 'through')]!;
    expect(number).toBeGreaterThan(below);
    expect(number).toBeLessThan(above);
    await (await b.css('main details summary')).click();
    await b.fill('strength', String(number));
    await (await b.button('Keep this')).click();
    await b.css('[data-testid=kept]');
    const [vinyl] = await rows<{ id: string }>(database.url, 'select id from vinyl');
    await b.go(`/vinyls/${vinyl!.id}`);
    expect(await violations(b)).toEqual([]);
    // First tap.
    await (await b.button('I cut this')).click();
    await b.at(/\/cuts\//);
    expect(await violations(b)).toEqual([]);
    // Not answered now: the bench asks at the next visit.
    await b.go('/');
    expect(await b.text()).toContain('How did the last cut go?');
    expect(await violations(b)).toEqual([]);
    // Second tap.
    await (await b.css('[data-answer=clean]')).click();
    await b.css('[data-testid=cut-kept]');
    await b.driver.wait(
      async () =>
        (
          await rows(
            database.url,
            `select 1 from grade_event e join cell on cell.id = e.cell_id join ordinary_cut on ordinary_cut.cut_id = cell.cut_id where e.grade = 'clean'`,
          )
        ).length === 1,
      10_000,
      'the proof never arrived',
    );
    await b.go('/');
    expect(await b.text()).not.toContain('How did the last cut go?');
    await b.go(`/vinyls/${vinyl!.id}`);
    await b.says('7 cells in 2 cuts');
    // Every number opens to what it rests on.
    await (await b.css('[data-testid=evidence] summary')).click();
    expect(await b.driver.findElements(By.css('[data-testid=evidence] tbody tr'))).toHaveLength(7);
    expect(await violations(b)).toEqual([]);
    // Asked once: the page of the cut shows what was said.
    const [cut] = await rows<{ id: string }>(database.url, 'select cut_id as id from ordinary_cut');
    await b.go(`/cuts/${cut!.id}`);
    expect(await (await b.css('[data-testid=cut-kept]')).getText()).toContain('Clean.');
    await b.go(`/vinyls/${vinyl!.id}`);
    // Cut through is a question of its own.
    await (await b.button('Cut through')).click();
    await b.at(/wanted=through/);
    expect(await violations(b)).toEqual([]);
  });

  test('run again before unloading: one tap, a grade of its own, and it never falls', async () => {
    await b.go(`/coupons/${coupon}/grade`);
    const first = await gradesOnSheet(b);
    const low = first.findIndex((g) => g === 'uncut' || g === 'hangs') + 1;
    await (await b.css(`[data-cell="${low}"]`)).click();
    await asksFor(b, low);
    await (await b.button('Run it again: pass 2')).click();
    await b.says('after 2 passes');
    if (first[low - 1] === 'hangs')
      expect(await (await b.css('[data-answer=uncut]')).getAttribute('disabled')).not.toBeNull();
    expect(await violations(b)).toEqual([]);
    await b.driver.actions().sendKeys('3').perform();
    await sending(b, 'sent');
    const ids = await cellIds();
    expect(
      await rows(
        database.url,
        `select passes, grade from grade_event where cell_id = $1 and kind = 'grade' order by passes`,
        [ids[low - 1]],
      ),
    ).toEqual([
      { passes: 1, grade: first[low - 1] },
      { passes: 2, grade: 'clean' },
    ]);
  });

  test('two devices on one coupon: merged by cell and time, both shown; offline in between', async () => {
    await signUpAs(b, server, { name: 'Ottoline', email: 'ottoline@example.org', password: 'lantern river seven' });
    const other = await openBrowser(() => server.base);
    try {
      await signInAs(other, 'ottoline@example.org', 'lantern river seven');
      await other.go(`/coupons/${coupon}/grade`);
      await b.go(`/coupons/${coupon}/grade`);
      const before = await gradesOnSheet(b);
      const cell = before.findIndex((g) => g === 'clean') + 1;
      // This device loses its connection, grades all the same, and the other one grades the same cell a moment later.
      const devtools = b.driver as unknown as { sendDevToolsCommand: (name: string, args: object) => Promise<void> };
      const net = (offline: boolean) =>
        devtools.sendDevToolsCommand('Network.emulateNetworkConditions', {
          offline,
          latency: 0,
          downloadThroughput: -1,
          uploadThroughput: -1,
        });
      await devtools.sendDevToolsCommand('Network.enable', {});
      await net(true);
      await (await b.css(`[data-cell="${cell}"]`)).click();
      await b.driver.actions().sendKeys('2').perform();
      await sending(b, 'waiting');
      expect((await gradesOnSheet(b))[cell - 1]).toBe('hangs');
      await b.driver.sleep(400);
      await (await other.css(`[data-cell="${cell}"]`)).click();
      await other.driver.actions().sendKeys('4').perform();
      await sending(other, 'sent');
      // A look round while there is no connection does not take the page away.
      await b.driver.sleep(9_000);
      expect((await gradesOnSheet(b))[cell - 1]).toBe('hangs');
      await net(false);
      await sending(b, 'sent');
      for (const who of [b, other]) {
        const note = await who.driver.wait(
          until.elementLocated(By.css('[data-testid=differing]')),
          25_000,
          'the other device is not shown',
        );
        // The note may stand there already for what this device said before: it is waited for until it tells of both.
        await who.driver.wait(
          async () => (await note.getText().catch(() => '')).includes(`Cell ${cell}: hangs`),
          25_000,
          'what the other device said is not shown',
        );
        expect(await note.getText()).toContain('The later one counts.');
        expect((await gradesOnSheet(who))[cell - 1]).toBe('scored');
      }
      expect(await violations(b)).toEqual([]);
    } finally {
      await other.close();
    }
  });

  test('full screen: the page alone, huge, awake where the browser can; Escape or the button leaves', async () => {
    const [vinyl] = await rows<{ id: string }>(database.url, 'select id from vinyl');
    await b.go(`/vinyls/${vinyl!.id}`);
    await b.driver.executeScript(`
      window.locks = [];
      Object.defineProperty(navigator, 'wakeLock', { value: { request: async (kind) => {
        const lock = { kind, released: false, release: async () => { lock.released = true; } };
        window.locks.push(lock); return lock; } } });`);
    const size = () =>
      b.driver.executeScript<number>(`return parseFloat(getComputedStyle(document.querySelector('.big')).fontSize)`);
    const before = await size();
    await (await b.button('Full screen')).click();
    await b.css('html[data-bench]');
    expect(await size()).toBeGreaterThan(before * 1.3);
    expect(await (await b.css('.top')).isDisplayed()).toBe(false);
    expect(await b.driver.executeScript('return window.locks.map((l) => [l.kind, l.released])')).toEqual([
      ['screen', false],
    ]);
    expect(await violations(b)).toEqual([]);
    await (await b.button('Leave full screen')).click();
    await b.driver.wait(
      async () => (await b.driver.findElements(By.css('html[data-bench]'))).length === 0,
      10_000,
      'it does not end',
    );
    expect(await b.driver.executeScript('return window.locks[0].released')).toBe(true);
  });

  test('every screen in both themes, at the desk, on a phone, and at twice the size: nothing wrong, nothing cut off', async () => {
    const [vinyl] = await rows<{ id: string }>(database.url, 'select id from vinyl');
    const [cut] = await rows<{ id: string }>(database.url, 'select cut_id as id from ordinary_cut');
    const pages = [
      '/',
      '/vinyls',
      '/vinyls/new',
      `/vinyls/${vinyl!.id}`,
      `/vinyls/${vinyl!.id}?wanted=through`,
      '/coupons',
      `/coupons/new?vinyl=${vinyl!.id}`,
      `/coupons/${coupon}`,
      `/coupons/${coupon}/run`,
      `/coupons/${coupon}/grade`,
      `/coupons/${coupon}/result`,
      `/cuts/${cut!.id}`,
      '/workshop',
      '/workshop/cutters/new',
      '/account',
      '/sign-in',
      '/nowhere',
    ];
    for (const page of pages) {
      await b.go(page);
      expect({ page, wrong: await wrongInAnyLook(b, twice) }).toEqual({ page, wrong: [] });
    }
    // Chosen once, dark is there from the first picture on.
    await b.driver.executeScript(`localStorage.setItem('mui-mode', 'dark')`);
    await b.go('/');
    expect(await b.driver.executeScript('return document.documentElement.dataset.scheme')).toBe('dark');
    expect(await violations(b)).toEqual([]);
    await b.driver.executeScript(`localStorage.setItem('mui-mode', 'light')`);
  });

  test('with less motion asked for, nothing moves', async () => {
    const devtools = b.driver as unknown as { sendDevToolsCommand: (name: string, args: object) => Promise<void> };
    await devtools.sendDevToolsCommand('Emulation.setEmulatedMedia', {
      features: [{ name: 'prefers-reduced-motion', value: 'reduce' }],
    });
    await b.go('/');
    await b.driver.actions().sendKeys('?').perform();
    await b.css('[role=dialog]');
    const moving = await b.driver.executeScript<number>(
      `return [...document.querySelectorAll('*')].filter((e) => { const s = getComputedStyle(e); return parseFloat(s.transitionDuration) > 0 || parseFloat(s.animationDuration) > 0; }).length`,
    );
    expect(moving).toBe(0);
    await b.driver.actions().sendKeys(Key.ESCAPE).perform();
  });
});
