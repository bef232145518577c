import { By, until } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import { closeDb } from '#store/base/db.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { publishCard } from '#work/shelf/publish.ts';
import type { Person } from '#work/people/person.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addBlade } from '#work/workshop/blades.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { startStandIn, type StandIn } from '../../bin/lib/standIn.ts';
import { crafter, form, grade, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { root, rows } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// The planner's story: a coupon is planned, sent to the simulated cutter and graded, a second one is laid where it teaches most, the stop rule
// says when it is enough, the number is taken. Then somebody's card is checked with three cells, another blade asks for a re-tune, weeding is
// told, a test mark rides along, and the mat is looked over.
const database = ownHouse();
let standIn: StandIn;
let server: ServerProcess;
let b: Browser;
let vinyl = '';
let shared = '';
let card = '';

beforeAll(async () => {
  const author = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  const ben = await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
  vinyl = await addVinyl(ben, { brand: 'Larkfield', name: 'Crumb', type: 'glitter', colour: 'frost', hex: '#dfe6ee' });
  shared = await addVinyl(author, { brand: 'Quillow', name: 'Drift', type: 'smooth', colour: 'ash', hex: '#8d9398' });
  const bench = (await benchOf(author))!;
  const coupon = await makeCoupon(author, bench, shared, form({ cells: '8' }));
  const seen = (force: number): Grade =>
    force < 95 ? 'uncut' : force < 108 ? 'hangs' : force < 150 ? 'clean' : force < 190 ? 'scored' : 'through';
  const view = await couponOf(author, coupon);
  await takeAll(
    author,
    view.cells.map((c, i) => grade(c.id, seen(c.position), 1, i)),
  );
  await keepSetting(author, form({ vinyl: shared, cutter: bench.cutter.id, strength: '126' }));
  card = await publishCard(
    author,
    bench,
    form({
      vinyl: shared,
      cutter: bench.cutter.id,
      wanted: 'clean',
      visibility: 'public',
      licence: 'cc-by',
      conditions: '',
    }),
    '127.0.0.1',
  );
  await closeDb();
  standIn = await startStandIn(root, ['--ms', '40', '--seed', '11', '--film', '84', '--truth']);
  server = await serverProcess(database.url, { VERSIPEL_CUTTERS: standIn.listFile });
  b = await openBrowser(() => server.base);
  await signInAs(b, 'ben@example.org', password);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
  standIn?.stop();
});

const textOf = (selector: string) =>
  b.driver.executeScript<string>(`return document.querySelector(arguments[0])?.textContent ?? ''`, selector);
const idOfPage = async () => new URL(await b.driver.getCurrentUrl()).pathname.split('/')[2]!;
const cellsOf = (coupon: string) =>
  rows<{ id: string; force: number; passes: number }>(
    database.url,
    `select id, (setting -> 'steps' ->> 'force')::int as force, (setting -> 'steps' ->> 'passes')::int as passes
       from cell where cut_id = $1 order by number`,
    [coupon],
  );

/** Sends a coupon over the line and grades every cell as it really is. Answers the grades. */
async function cutAndGrade(coupon: string): Promise<Grade[]> {
  const cells = await cellsOf(coupon);
  await b.go(`/coupons/${coupon}/run`);
  await (await b.button(`Send all ${cells.length} cells`)).click();
  await b.says('Before you unload, lift a corner');
  await (await b.button('It lifts: unload and grade')).click();
  await b.at(/\/grade$/);
  const grades: Grade[] = [];
  for (const [i, { id }] of cells.entries()) {
    await b.driver.wait(
      async () => (await textOf('[data-testid=question]')).startsWith(`Cell ${i + 1},`),
      10_000,
      `cell ${i + 1} is not asked for`,
    );
    const truth = (await (await fetch(`${standIn.camera}/cells/${id}.json`)).json()) as { grade: Grade };
    grades.push(truth.grade);
    // On screen long enough for an answer to be meant.
    await b.driver.sleep(400);
    await b.driver
      .actions()
      .sendKeys(String(gradeWords.indexOf(truth.grade) + 1))
      .perform();
  }
  await b.driver.wait(until.elementLocated(By.css('[data-testid=sending][data-state=sent]')), 40_000);
  return grades;
}

describe('fewest cells to a number', () => {
  let first = '';
  test('a first coupon says why it lies where it lies, and is cut and graded', async () => {
    await b.go(`/coupons/new?vinyl=${vinyl}`);
    await b.says('Why this coupon');
    expect(await textOf('[data-testid=why]')).toMatch(/Now: the right number may be anything from \d+ to \d+/);
    expect(await violations(b)).toEqual([]);
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    first = await idOfPage();
    const grades = await cutAndGrade(first);
    expect(new Set(grades).size).toBeGreaterThan(1);
  });

  test('a second coupon looks closer; the stop rule says when it is enough; the number lies in the true window', async () => {
    let rule = '';
    for (let round = 2; round <= 4; round++) {
      await b.go(`/coupons/${first}/result`);
      await b.driver.wait(async () => (await textOf('[data-testid=one-more]')) !== '', 30_000, 'no stop rule');
      rule = await textOf('[data-testid=one-more]');
      if (round > 2 && rule.includes('Good enough')) break;
      await (await b.button('Plan another coupon')).click();
      await b.at(/coupons\/new/);
      await (await b.button('Make this coupon')).click();
      await b.at(/coupons\/[0-9a-f-]{36}$/);
      const next = await idOfPage();
      if (round === 2) {
        const span = (list: { force: number }[]) => Math.log(list.at(-1)!.force / list[0]!.force);
        expect(span(await cellsOf(next))).toBeLessThan(span(await cellsOf(first)));
      }
      await cutAndGrade(next);
    }
    expect(rule).toMatch(
      /Good enough|One more coupon (tells|shows)|One more coupon is expected to raise a clean cut from \d+ times in 100 to \d+ times in 100/,
    );
    await b.go(`/coupons/${first}/result`);
    const number = Number((await textOf('[data-testid=recommended]')).replace('~', ''));
    expect(number).toBeGreaterThan(20);
    // One pass against two, slow against fast, one of them taken.
    await b.css('[data-testid=ways]');
    expect(await textOf('[data-testid=ways] .taken')).toMatch(/1 pass/);
    expect(await violations(b)).toEqual([]);
    const graded = await rows<{ force: number; grade: Grade }>(
      database.url,
      `select (c.setting -> 'steps' ->> 'force')::int as force, e.grade from grade_event e join cell c on c.id = e.cell_id
         join cut on cut.id = c.cut_id where cut.vinyl_id = $1 and e.kind = 'grade'`,
      [vinyl],
    );
    const near = graded.filter((g) => Math.abs(Math.log(g.force / number)) < 0.12);
    const clean = near.filter((g) => g.grade === 'clean').length;
    expect(clean).toBeGreaterThanOrEqual(near.length / 2);
  });

  test('how a cell weeded is told beside its grade, and feeds the least line of the vinyl', async () => {
    const [clean] = await rows<{ cut: string; number: number }>(
      database.url,
      `select c.cut_id as cut, c.number from grade_event e join cell c on c.id = e.cell_id join cut on cut.id = c.cut_id
        where e.grade = 'clean' and cut.vinyl_id = $1 order by e.device_at desc limit 1`,
      [vinyl],
    );
    const { cut, number } = clean!;
    await b.go(`/coupons/${cut}/grade`);
    await (await b.css(`[data-cell="${number}"]`)).click();
    await b.says(`How did cell ${number} weed?`);
    await (await b.css('.weeding [aria-label="2, rather hard"]')).click();
    await b.driver.executeScript(`document.querySelectorAll('.weeding input')[2].click()`);
    await b.driver.wait(
      async () => (await rows(database.url, `select 1 from weed_event where 'bar' = any(lost)`)).length > 0,
      20_000,
      'the lost bar never arrives',
    );
    expect(await violations(b)).toEqual([]);
    await b.go(`/vinyls/${vinyl}`);
    expect(await textOf('[data-testid=weeding]')).toMatch(
      /Weeded 1 clean cell: ease 2.0 of 5. By your cells, lines from (1.2 mm|0.047 in)/,
    );
  });
});

describe('where much is known already', () => {
  test('somebody’s card is checked with three cells round its number', async () => {
    await b.go(`/cards/${card}`);
    await (await b.css('a[href*="mode=check"]')).click();
    await b.at(/mode=check/);
    await b.says('Somebody has it at 126.');
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    const coupon = await idOfPage();
    const cells = await cellsOf(coupon);
    expect(cells.length).toBeGreaterThanOrEqual(3);
    expect(cells.length).toBeLessThanOrEqual(4);
    for (const { force } of cells) expect(Math.abs(Math.log(force / 126))).toBeLessThan(0.6);
    await cutAndGrade(coupon);
    await b.go(`/coupons/${coupon}/result`);
    // With the card as a starting point three cells say more than they would alone.
    const number = Number((await textOf('[data-testid=recommended]')).replace('~', ''));
    expect(Math.abs(Math.log(number / 126))).toBeLessThan(0.4);
  });

  test('another blade asks for a re-tune of three cells', async () => {
    const [cutter] = await rows<{ id: string }>(
      database.url,
      `select id from cutter where name = 'Ben Rook’s machine'`,
    );
    process.env.DATABASE_URL = database.url;
    const [person] = await rows<Person>(
      database.url,
      `select id, email, name from person where email = 'ben@example.org'`,
    );
    await addBlade(
      person!,
      form({ cutter: cutter!.id, name: 'second', angle: '45', used: '0', offset: '0.25', life: '60' }),
    );
    await closeDb();
    await b.go(`/vinyls/${vinyl}`);
    await b.says('This blade has not cut it');
    await (await b.css('[data-testid=retune] a')).click();
    await b.at(/mode=retune/);
    await b.says('What you know was found otherwise.');
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    expect(await cellsOf(await idOfPage())).toHaveLength(3);
  });

  test('passes beside the strength; and all over the mat: the same cell twelve times', async () => {
    await b.go(`/coupons/new?vinyl=${vinyl}&also=passes&cells=9`);
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    const tried = await cellsOf(await idOfPage());
    expect(new Set(tried.map((c) => c.passes)).size).toBeGreaterThan(1);
    await b.go(`/coupons/new?vinyl=${vinyl}&mode=even`);
    await b.says('The same cell all over the mat');
    expect(await violations(b)).toEqual([]);
    await (await b.button('Make this coupon')).click();
    await b.at(/coupons\/[0-9a-f-]{36}$/);
    const even = await idOfPage();
    const places = await cellsOf(even);
    expect(places).toHaveLength(12);
    expect(new Set(places.map((c) => c.force)).size).toBe(1);
    await cutAndGrade(even);
    await b.go(`/coupons/${even}/result`);
    await b.css('[data-testid=evenness]');
    expect(await textOf('[data-testid=evenness]')).toMatch(/Nothing stands out in 12 places|cuts \d+ % (light|heavy)/);
    expect(await violations(b)).toEqual([]);
  });

  test('a test mark rides along with an ordinary cut: three small cells, asked for, graded', async () => {
    await b.go(`/vinyls/${vinyl}`);
    const href = await b.driver.executeScript<string>(`return document.querySelector('a[href*="/mark/hpgl"]').href`);
    const file = await b.driver.executeAsyncScript<string>(
      `const done = arguments[1]; fetch(arguments[0]).then((r) => r.text()).then(done)`,
      href,
    );
    expect(file).toMatch(/PU/);
    await (await b.button('I cut this')).click();
    await b.at(/\/cuts\//);
    await (await b.button('Yes, grade it')).click();
    await b.css('[data-mark]');
    const cells = await cellsOf(await idOfPage());
    expect(cells).toHaveLength(4);
    expect(cells[1]!.force).toBeLessThan(cells[0]!.force);
    expect(cells[3]!.force).toBeGreaterThan(cells[0]!.force);
    expect(await violations(b)).toEqual([]);
    await (await b.css('[data-mark="3"] [data-answer=clean]')).click();
    await b.driver.wait(
      async () =>
        (await rows(database.url, 'select 1 from grade_event where cell_id = $1', [cells[2]!.id])).length === 1,
      20_000,
      'the grade of the mark never arrives',
    );
  });
});
