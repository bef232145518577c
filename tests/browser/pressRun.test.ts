import { afterAll, beforeAll, expect, test } from 'vitest';
import { recipesOn } from '#work/vinyls/recipes.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { shirts, upToThePress } from '../shirts.ts';
import { rows } from '../testDatabase.ts';
import { atThePress, type Hands } from './atThePress.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Four shirts of two layers go through the queue at the press, on a clock that the test sets ahead: the lower film is peeled cool, so pieces
// cool while others are pressed. The page is loaded again in the middle, one piece comes up with its carrier, one loses its film and is cut again.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let person: Person;
let hands: Hands;
let job = '';
let vinyls: string[] = [];

beforeAll(async () => {
  server = await serverProcess(house.url);
  b = await openBrowser(() => server.base);
  hands = await atThePress(b);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

test('four shirts, cut and weeded', async () => {
  const email = 'rower@press.example';
  person = await crafter('Rower', 'marlow-24', email);
  ({ job, vinyls } = await shirts(person, 4));
  await upToThePress(person, job, Date.now() - 5 * 3_600_000);
  const ready = await jobOf(person, job);
  expect(ready.press.map((p) => [p.does, p.purpose, p.wait])).toEqual([
    ['before', 'dry', 0],
    ['layer', 'tack', 45],
    ['layer', 'tack', 45],
    ['last', 'full', 0],
  ]);
  await signInAs(b, email, password);
}, 120_000);

const others = async () => (await b.driver.findElements({ css: '[data-testid=run-others] li' })).length;
const idle = () => b.css('[data-testid=press-run]');

test('the display is asked for once; the first shirt is warmed, laid, pressed, and cools while the second is in the press', async () => {
  await b.go(`/jobs/${job}?run`);
  expect(await hands.turn()).toBe('heat');
  expect(await violations(b)).toEqual([]);
  await hands.big();
  const said: string[] = [];
  for (let i = 0; i < 8; i++) {
    said.push(`${await hands.turn()}: ${await hands.title()}`);
    // Before the last of them: what is set for the sound card from here on is written down.
    if (i === 7)
      await b.driver.executeScript(`
        window.heard = [];
        const start = OscillatorNode.prototype.start;
        OscillatorNode.prototype.start = function (at) {
          window.heard.push(performance.now() + (at - this.context.currentTime) * 1000);
          return start.call(this, at);
        };`);
    await hands.take();
  }
  expect(said).toEqual([
    'load: Warm shirt 1, bare.',
    expect.stringMatching(/^open: /),
    'load: Lay navy on shirt 1.',
    expect.stringMatching(/^open: /),
    'load: Warm shirt 2, bare.',
    expect.stringMatching(/^open: /),
    'load: Lay navy on shirt 2.',
    expect.stringMatching(/^open: /),
  ]);
  expect(await others()).toBe(2);
  // A tone for each that cools, set for the moment its clock says; three strokes each.
  await b.driver.sleep(300);
  const { heard, clocks, now } = await b.driver.executeScript<{ heard: number[]; clocks: string[]; now: number }>(
    `return { heard: window.heard.slice(-6), clocks: [...document.querySelectorAll('.run-clock')].map((x) => x.textContent), now: performance.now() }`,
  );
  expect(heard).toHaveLength(6);
  clocks.forEach((clock, i) => {
    const [m, s] = clock.split(':').map(Number);
    expect(Math.abs((heard[3 * i]! - now) / 1000 - ((m ?? 0) * 60 + (s ?? 0)))).toBeLessThan(1.2);
  });
  expect(await violations(b)).toEqual([]);
}, 120_000);

test('loaded again in the middle: the same turn, the same clocks', async () => {
  const clocks = async () =>
    (
      await b.driver.executeScript<string[]>(
        `return [...document.querySelectorAll('.run-clock')].map((x) => x.textContent)`,
      )
    ).map((c) => {
      const [m, s] = c.split(':').map(Number);
      return (m ?? 0) * 60 + (s ?? 0);
    });
  const before = { turn: await hands.turn(), title: await hands.title(), clocks: await clocks() };
  await b.go(`/jobs/${job}?run`);
  await idle();
  expect({ turn: await hands.turn(), title: await hands.title() }).toEqual({ turn: before.turn, title: before.title });
  const after = await clocks();
  expect(after).toHaveLength(before.clocks.length);
  // A page takes a moment to load; the clocks went on meanwhile.
  after.forEach((c, i) => expect(before.clocks[i]! - c).toBeLessThan(15));
}, 60_000);

test('one comes up with its carrier: it cools anew, and the others go on', async () => {
  for (let i = 0; i < 30 && !((await hands.turn()) === 'peel' && /shirt 2/i.test(await hands.title())); i++)
    await hands.take();
  const wait = await hands.left();
  if (wait > 0) await hands.ahead(Math.ceil(wait) + 0.2);
  await (await b.button('It came up')).click();
  await (await b.css('[data-testid=wrong]')).getText();
  await (await b.css('[data-remedy="wait and peel"], details summary')).click();
  const remedy = await b.driver.findElements({ css: '[data-remedy="wait and peel"]' });
  if ((await b.driver.findElements({ css: '[data-testid=wrong]' })).length > 0) await remedy[0]!.click();
  await b.css('[data-testid=run-big]');
  const [wrong] = await rowsSoon<{ n: number }>(
    `select count(*)::int as n from job_event where kind = 'wrong' and body ->> 'seen' = 'came up'`,
    (r) => r[0]!.n === 1,
  );
  expect(wrong!.n).toBe(1);
  // It is not done: its own clock runs again.
  expect((await hands.turn()) === 'peel' ? await hands.left() : await others()).toBeGreaterThan(0);
}, 120_000);

test('one loses its film: it grows on the sheet, the other three are pressed to the end', async () => {
  for (let i = 0; i < 60 && !((await hands.turn()) === 'load' && /red on shirt 3/.test(await hands.title())); i++)
    await hands.take();
  await (await b.button('Something else')).click();
  await (await b.css('[data-symptom=lost]')).click();
  await (await b.css('[data-remedy="cut for piece"]')).click();
  for (let i = 0; i < 80 && (await hands.turn()) !== 'elsewhere'; i++) await hands.take();
  expect(await hands.title()).toBe('Nothing to press yet.');
  // What was said last is on its way for a moment.
  let now = await jobOf(person, job);
  const stands = () => now.sheet.steps.filter((s) => s.state === 'open' && s.kind !== 'wash');
  for (let i = 0; i < 40 && stands().length > 7; i++) {
    await b.driver.sleep(250);
    now = await jobOf(person, job);
  }
  const open = stands();
  expect(open.map((s) => s.kind)).toEqual(['trim', 'mat', 'cut', 'lift', 'weed', 'press', 'press']);
  // Film for one shirt, not for four.
  expect(now.parts).toHaveLength(1);
  expect(now.parts[0]!.film!.copies).toHaveLength(1);
  await b.go(`/jobs/${job}`);
  await b.says('once more for what was lost');
}, 240_000);

test('it is cut again and pressed: sheet, clocks and evidence are right', async () => {
  await upToThePress(person, job, Date.now() - 3_600_000);
  const cuts = await rows<{ mm2: number }>(
    house.url,
    'select (width_um / 1000) * (height_um / 1000) as mm2 from job_cut order by mm2',
  );
  expect(cuts).toHaveLength(3);
  expect(cuts[0]!.mm2).toBeLessThan(cuts[1]!.mm2 / 2);
  await b.go(`/jobs/${job}?run`);
  for (let i = 0; i < 20 && (await hands.turn()) !== 'done'; i++) await hands.take();
  expect(await hands.title()).toBe('All pressed.');
  await rowsSoon<{ n: number }>(
    `select count(*)::int as n from press_outcome where word = 'bonded'`,
    (r) => r[0]!.n === 8,
  );
  let now = await jobOf(person, job);
  const pressed = () => now.sheet.steps.filter((s) => s.kind === 'press');
  for (let i = 0; i < 40 && pressed().some((s) => s.state === 'open'); i++) {
    await b.driver.sleep(250);
    now = await jobOf(person, job);
  }
  const { press } = now;
  const presses = pressed();
  expect(presses).toHaveLength(16);
  for (const s of presses) {
    const plan = press[s.press!]!;
    expect(s.state).toBe('done');
    const closed = (Date.parse(s.opened!) - Date.parse(s.closed!)) / 1000;
    expect(closed).toBeGreaterThanOrEqual(plan.seconds! - 0.05);
    expect(closed).toBeLessThan(plan.seconds! + 20);
    expect((Date.parse(s.at!) - Date.parse(s.opened!)) / 1000).toBeGreaterThanOrEqual(plan.wait - 0.05);
  }
  // One in the press at a time.
  const stays = presses.map((s) => [Date.parse(s.closed!), Date.parse(s.opened!)] as const).sort((x, y) => x[0] - y[0]);
  for (let i = 1; i < stays.length; i++) expect(stays[i]![0]).toBeGreaterThanOrEqual(stays[i - 1]![1]);
  // Each film of each shirt is evidence for the way it was pressed.
  for (const id of vinyls) {
    const found = (await recipesOn(person, await vinylOf(person, id), 'plain-cloth')).recipes;
    expect(found.some((r) => r.standing === 'tried' && r.held === 4 && r.pieces === 4)).toBe(true);
  }
}, 240_000);

/** Rows once they are as they should be: the outbox sends a moment later. */
async function rowsSoon<R>(sql: string, good: (r: R[]) => boolean): Promise<R[]> {
  for (let i = 0; i < 60; i++) {
    const found = await rows<R & Record<string, unknown>>(house.url, sql);
    if (good(found)) return found;
    await b.driver.sleep(250);
  }
  return rows<R & Record<string, unknown>>(house.url, sql);
}
