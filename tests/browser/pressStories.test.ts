import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { beginJob, chooseVinyl, setDrawing, setPress, setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addPress } from '#work/workshop/presses.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, form, password, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { upToThePress } from '../shirts.ts';
import { rows } from '../testDatabase.ts';
import { atThePress, sent, type Hands } from './atThePress.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Three pieces as people press them: puff over a reflective base on a sweatshirt, a name on a stocking by iron, and a press that is opened early,
// with and without parts, by two devices.
const house = ownHouse();
let server: ServerProcess;
let person: Person;
const devices: { b: Browser; hands: Hands }[] = [];
const email = 'dorrit@press.example';

beforeAll(async () => {
  server = await serverProcess(house.url);
  person = await crafter('Dorrit', 'marlow-24', email);
  for (const [width, height] of [
    [1280, 800],
    [390, 844],
  ] as const) {
    const b = await openBrowser(() => server.base);
    await b.size(width, height);
    const hands = await atThePress(b);
    await signInAs(b, email, password);
    devices.push({ b, hands });
  }
}, 120_000);
afterAll(async () => {
  for (const { b } of devices) await b.close();
  await server?.kill();
});

const square = (hex: string) => `<rect width="100" height="60" fill="${hex}"/>`;
const over = (low: string, high: string) =>
  `<svg viewBox="0 0 100 60">${square(low)}<path d="M30 15h40v30h-40z" fill="${high}"/></svg>`;
type Film = { name: string; type: string; hex: string };
/** A job of these films, the lowest first, cut and weeded. */
async function ready(films: readonly Film[], svg: string, blank: Record<string, string> = {}, width = '6 in') {
  const job = await beginJob(person, shirtForm(blank));
  await setDrawing(person, job, form({ svg }));
  const { layers } = await jobOf(person, job);
  for (const [i, f] of films.entries()) {
    const vinyl = await addVinyl(person, { brand: 'Tansy', name: f.name, type: f.type, colour: f.name, hex: f.hex });
    await chooseVinyl(person, job, form({ layer: layers[i]!.id, vinyl }));
  }
  await setSize(person, job, form({ width, from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' }));
  await upToThePress(person, job, Date.now() - 5 * 3_600_000);
  return job;
}
const outcomes = (job: string) =>
  rows<{ type: string; way: { seconds: number[]; heat: number }; presses: { heat: number }[] | null; word: string }>(
    house.url,
    `select v.type, o.way, o.presses, o.word from press_outcome o join vinyl v on v.id = o.vinyl_id where o.job_id = $1 and o.undone_at is null`,
    [job],
  );

test('puff over a reflective base on a sweatshirt, whole', async () => {
  const { b, hands } = devices[0]!;
  const job = await ready(
    [
      { name: 'silver', type: 'reflective', hex: '#c0c4cc' },
      { name: 'gold', type: 'metallic-puff', hex: '#caa24a' },
    ],
    over('#c0c4cc', '#caa24a'),
  );
  await b.go(`/jobs/${job}?run`);
  expect(await hands.title()).toMatch(/^Set the press to 300.°F|^Set the press to 149.°C/);
  await hands.big();
  const said: string[] = [];
  for (let i = 0; i < 20 && (await hands.turn()) !== 'done'; i++) {
    const turn = await hands.turn();
    said.push(`${turn}: ${await hands.title()}`);
    if (said.length === 1) expect(await hands.text()).toContain('hard, smooth board');
    await hands.take();
  }
  expect(said).toEqual([
    'load: Warm the shirt, bare.',
    expect.stringMatching(/^open: .*warms and dries/),
    'load: Lay silver on the shirt.',
    expect.stringMatching(/^open: Pressing silver/i),
    expect.stringMatching(/^peel: /),
    'load: Lay gold on the shirt.',
    expect.stringMatching(/^open: Pressing gold/i),
    expect.stringMatching(/^peel: /),
    'load: Raise gold on the shirt.',
    expect.stringMatching(/^open: Gold is rising/),
    expect.stringMatching(/^peel: The shirt: how did it come out/),
  ]);
  await sent(b);
  const found = await outcomes(job);
  expect(found.map((o) => [o.type, o.word]).sort()).toEqual([
    ['metallic-puff', 'bonded'],
    ['reflective', 'bonded'],
  ]);
  // Of the puff both presses are known, as they were shown: 300 °F, 10 s each.
  const puff = found.find((o) => o.type === 'metallic-puff')!;
  expect(puff.presses!.map((p) => Math.round(p.heat / 1000))).toEqual([149, 149]);
  // The sheet: every press done, the wash is offered a day later.
  await b.go(`/jobs/${job}`);
  await b.says(/Wash/);
  expect(await violations(b)).toEqual([]);
}, 240_000);

test('a name on a stocking by iron: a word of its dial, firm and without steam, each press whose it is', async () => {
  await addPress(
    person,
    form({ name: 'Old iron', kind: 'iron', width: '110', length: '220', hottest: '220', shows: 'C', off: '0' }),
  );
  const { b, hands } = devices[1]!;
  const name = `<svg viewBox="0 0 100 60"><path d="M0 0h12v24l24-24h14v60h-12v-40l-26 26h-12z" fill="#7a1f2b"/></svg>`;
  const job = await ready([{ name: 'berry', type: 'glitter', hex: '#7a1f2b' }], name, { shape: 'stocking' }, '4 in');
  const { press, pressPlan } = await jobOf(person, job);
  expect(pressPlan.source).toMatchObject({ kind: 'iron', words: true });
  // About half a minute, twice, at the word that crafters say.
  expect(press.filter((s) => s.does === 'layer').map((s) => [s.toSet, s.seconds, s.by])).toEqual([
    ['wool, blend', 30, 'type'],
    ['wool, blend', 30, 'type'],
  ]);
  await b.go(`/jobs/${job}?run`);
  expect(await hands.title()).toBe('Set Old iron to “wool, blend”.');
  await hands.big();
  const said: string[] = [];
  let lines = '';
  for (let i = 0; i < 20 && (await hands.turn()) !== 'done'; i++) {
    said.push(await hands.turn());
    lines += await hands.text();
    await hands.take();
  }
  expect(lines).toContain('no steam');
  expect(said.filter((t) => t === 'open').length).toBe(press.length);
  await sent(b);
  expect((await outcomes(job)).map((o) => [o.type, o.way.seconds[1], o.presses!.length])).toEqual([['glitter', 30, 2]]);
  expect(await violations(b)).toEqual([]);
}, 240_000);

describe('opened early, on two devices', () => {
  let clock = 3_600;
  /** Two clocks, one time: the later one. */
  const together = async () => {
    const [first] = devices;
    const ahead = Number(await first!.b.driver.executeScript(`return localStorage.getItem('ahead')`));
    for (const { hands } of devices) await hands.clock(ahead);
  };
  /** The turn of both, once the second has heard. */
  const heard = async (what: RegExp) => {
    for (const { b, hands } of devices) {
      await b.driver.wait(async () => what.test(await hands.title()), 20_000, `never: ${what}`);
    }
  };
  /** The first device presses until a title stands there, and opens so many seconds later: both are told to close it again. */
  const openEarly = async (job: string, closed: RegExp, seconds: number) => {
    const [{ b, hands }] = devices as [(typeof devices)[0]];
    for (const device of devices) {
      await device.hands.clock(clock);
      await device.b.go(`/jobs/${job}?run`);
    }
    clock += 900;
    await hands.big();
    for (let i = 0; i < 12 && !closed.test(await hands.title()); i++) await hands.take();
    await together();
    for (const device of devices) await device.hands.ahead(seconds);
    await hands.big();
    await sent(b);
    await heard(/^Close it again for \d+ s\.$/);
  };
  test('without parts: both show the rest; closed by the other for it, it is done in full', async () => {
    const [one, two] = devices as [(typeof devices)[0], (typeof devices)[0]];
    await addPress(
      person,
      form({ name: 'Big plate', kind: 'plate', width: '380', length: '380', hottest: '220', shows: 'C', off: '0' }),
    );
    const job = await ready(
      [{ name: 'navy', type: 'smooth', hex: '#1f3a5f' }],
      `<svg viewBox="0 0 100 60">${square('#1f3a5f')}</svg>`,
    );
    const { press } = await jobOf(person, job);
    expect(press.find((s) => s.does === 'layer')!.seconds).toBeGreaterThanOrEqual(10);
    await openEarly(job, /^Pressing/, 4);
    const rest = Number(/(\d+) s/.exec(await one.hands.title())![1]);
    expect(await two.hands.title()).toBe(await one.hands.title());
    expect(rest).toBeLessThan(press.find((s) => s.does === 'layer')!.seconds!);
    // The other device closes it again; the ring of both counts that rest.
    await two.hands.big();
    await sent(two.b);
    await heard(/^Pressing/);
    expect(await one.hands.left()).toBeLessThanOrEqual(rest);
    for (let i = 0; i < 6 && (await two.hands.turn()) !== 'done'; i++) await two.hands.take();
    await sent(two.b);
    expect((await outcomes(job)).map((o) => o.word)).toEqual(['bonded']);
  }, 240_000);

  test('in parts: the rest is that of the part it stands at; the next part has its whole time', async () => {
    const [one, two] = devices as [(typeof devices)[0], (typeof devices)[0]];
    const job = await ready(
      [{ name: 'moss', type: 'smooth', hex: '#4a6741' }],
      `<svg viewBox="0 0 100 60">${square('#4a6741')}</svg>`,
      {},
      '8 in',
    );
    const iron = (await workshopOf(person)).presses.find((p) => p.name === 'Old iron')!;
    await setPress(person, job, form({ press: iron.id }));
    const { press } = await jobOf(person, job);
    const at = press.findIndex((s) => s.does === 'layer');
    expect(press[at]).toMatchObject({ parts: 2, seconds: 15, toSet: 'cotton' });
    await openEarly(job, /^Moss, part 1 of 2/, 5);
    const rest = Number(/(\d+) s/.exec(await two.hands.title())![1]);
    expect(rest).toBeLessThan(12);
    await two.hands.big();
    await sent(two.b);
    // The same part, for its rest; then the other one, for all of it.
    await heard(/^Moss, part 1 of 2/);
    await two.hands.ahead(rest + 1);
    await one.hands.ahead(rest + 1);
    await heard(/^Move on to part 2 of 2/);
    await two.hands.big();
    expect(await two.hands.left()).toBeGreaterThan(rest);
    await sent(two.b);
    await heard(/^Pressing moss/i);
    for (let i = 0; i < 8 && (await two.hands.turn()) !== 'done'; i++) await two.hands.take();
    await sent(two.b);
    expect((await outcomes(job)).map((o) => o.word)).toEqual(['bonded']);
    for (const { b } of devices) expect(await violations(b)).toEqual([]);
  }, 240_000);
});
