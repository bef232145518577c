import { By, Key, until } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { closeDb } from '#store/base/db.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, form, grade, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { twice, violations, wrongInAnyLook } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// One crafter's proof in another's hands: publish, find by a misspelt name, adopt, confirm, correct, the author sees it; another
// model is not comparable; private stays private. Then text that tries to be more than text.
const database = ownHouse();
let server: ServerProcess;
let ada: Browser;
let ben: Browser;
let vinyl = '';
let card = '';

beforeAll(async () => {
  const author = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
  await crafter('Cleo Marsh', 'oxbow-dial', 'cleo@example.org');
  vinyl = await addVinyl(author, {
    brand: 'Quillow',
    name: 'Drift',
    type: 'holographic',
    colour: 'clear shimmer',
    hex: '#cfc4ea',
  });
  const bench = (await benchOf(author))!;
  const coupon = await makeCoupon(author, bench, vinyl, form({ cells: '6' }));
  const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
  await takeAll(
    author,
    (await couponOf(author, coupon)).cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  await keepSetting(author, form({ vinyl, cutter: bench.cutter.id, strength: '130' }));
  await closeDb();
  server = await serverProcess(database.url);
  ada = await openBrowser(() => server.base);
  ben = await openBrowser(() => server.base);
  await signInAs(ada, 'ada@example.org', password);
  await signInAs(ben, 'ben@example.org', password);
});
afterAll(async () => {
  await ada?.close();
  await ben?.close();
  await server?.kill();
});

describe('the first share', () => {
  test('the author publishes a kept number; anybody reads it without an account', async () => {
    await ada.go(`/vinyls/${vinyl}`);
    await (await ada.button('Share it as a card')).click();
    await ada.at(/cards\/new/);
    expect(await violations(ada)).toEqual([]);
    await (await ada.css('[name=conditions]')).sendKeys('A damp room.');
    await (await ada.button('Put it on the shelf')).click();
    await ada.at(/cards\/[0-9a-f-]{36}$/);
    card = new URL(await ada.driver.getCurrentUrl()).pathname.split('/').at(-1)!;
    expect(await violations(ada)).toEqual([]);
    const page = await fetch(`${server.base}/cards/${card}`);
    expect(page.status).toBe(200);
    const html = await page.text();
    for (const text of ['Quillow Drift', 'Ada Fenn', 'A damp room.', 'CC BY 4.0', 'through'])
      expect(html).toContain(text);
    for (const secret of ['Ada Fenn’s machine', 'ada@example.org']) expect(html).not.toContain(secret);
  });

  test('another finds it by a misspelt name, adopts it, cuts with it, says what was seen', async () => {
    await (await ben.css('.find input')).sendKeys('drfit qillow\n');
    await ben.at(new RegExp(`/vinyls/${vinyl}`));
    await ben.says('from 1 crafter');
    await ben.go('/shelf?q=shimer+drfit');
    await (await ben.css('a.row')).click();
    await ben.at(new RegExp(`cards/${card}`));
    await ben.css('[data-testid=same-model]');
    expect(await ben.text()).toContain('Found on other machines of this model');
    expect(await violations(ben)).toEqual([]);
    await (await ben.button('Take over')).click();
    await ben.css('[data-testid=adopted]');
    await (await ben.button('I cut this')).click();
    await ben.at(/\/cuts\//);
    await (await ben.css('[data-answer=hangs]')).click();
    await ben.css('[data-testid=cut-kept]');
    await ben.driver.wait(
      async () =>
        (
          await rows(
            database.url,
            `select 1 from grade_event where grade = 'hangs' and person_id <> (select person_id from vinyl limit 1)`,
          )
        ).length === 1,
      15_000,
      'the grade never arrives',
    );
    await (await ben.css('[name=said]')).sendKeys('The small hole held on. 136 did it here.');
    await (await ben.button('Tell Ada Fenn')).click();
    await ben.css('[data-testid=told]');
    expect(await violations(ben)).toEqual([]);
    // And once more, clean this time: a confirmation.
    await ben.go(`/cards/${card}`);
    await (await ben.button('I cut this')).click();
    await ben.at(/\/cuts\//);
    await (await ben.css('[data-answer=clean]')).click();
    await ben.css('[data-testid=cut-kept]');
    await ben.driver.wait(
      async () =>
        (
          await rows(
            database.url,
            'select 1 from confirmation n join cell on cell.cut_id = n.cut_id join grade_event e on e.cell_id = cell.id',
          )
        ).length === 2,
      15_000,
      'the confirmation never arrives',
    );
  });

  test('the author sees both, and publishes a version that says why', async () => {
    await ada.go('/');
    expect(await (await ada.css('.count')).getText()).toContain('2');
    await ada.go('/inbox');
    const text = await ada.text();
    expect(text).toContain('The small hole held on. 136 did it here.');
    expect(text).toContain('Ben Rook');
    expect(text).toContain('agrees with your card');
    expect(text).toContain('differs from your card');
    expect(await violations(ada)).toEqual([]);
    await ada.go(`/cards/${card}`);
    expect(await ada.text()).toContain('1 of 2 cuts by others agree');
    await (await ada.button('Publish a new version')).click();
    await ada.at(/cards\/new/);
    await (await ada.button('Publish version 2')).click();
    await ada.says('Say what changed and why');
    await (await ada.css('[name=change]')).sendKeys('Others needed a little more.');
    await (await ada.button('Publish version 2')).click();
    await ada.at(/cards\/[0-9a-f-]{36}$/);
    await ada.says('version 2');
    await ben.go(`/cards/${card}?version=1`);
    expect(await ben.text()).toContain('This is an older version; the newest is 2.');
  });

  test('on another model it is not comparable, and a three-cell check is one tap away', async () => {
    const cleo = await openBrowser(() => server.base);
    try {
      await signInAs(cleo, 'cleo@example.org', password);
      await cleo.go(`/cards/${card}`);
      expect(await (await cleo.css('[data-testid=not-comparable]')).getText()).toContain('Not comparable yet.');
      expect(await violations(cleo)).toEqual([]);
      await (await cleo.button('Plan a three-cell check')).click();
      await cleo.at(/coupons\/new/);
      await cleo.css('.sheet-drawing');
      expect(await cleo.driver.findElements(By.css('.sheet-drawing [data-cell]'))).toHaveLength(3);
    } finally {
      await cleo.close();
    }
  });

  test('private stays private: by page, by search, by the data behind the page, by an old link, by guessing', async () => {
    const visible = async (choice: string) => {
      await ada.go(`/cards/${card}`);
      await (await ada.css(`[name=visibility][value=${choice}]`)).click();
      await (await ada.button('Save who may see it')).click();
      await ada.says({ private: 'only you', link: 'who has the link', public: 'everybody' }[choice]!);
      await ada.driver.sleep(300);
    };
    await visible('link');
    await ada.go(`/cards/${card}`);
    const link = new URL(await (await ada.css('[data-testid=address]')).getText()).pathname;
    expect(link).not.toContain(card);
    expect((await fetch(`${server.base}${link}`)).status).toBe(200);
    await visible('private');
    const session = (await ben.driver.manage().getCookie('versipel_session')).value;
    for (const headers of [{}, { Cookie: `versipel_session=${session}` }] as Record<string, string>[]) {
      for (const page of [
        `/cards/${card}`,
        `/cards/${card}.data`,
        `/cards/${card}?version=1`,
        `/cards/${card}?version=2`,
        link,
        `${link}.data`,
        `/cards/${card.slice(0, -1)}${card.endsWith('0') ? '1' : '0'}`,
        '/cards/1',
      ]) {
        const answer = await fetch(server.base + page, { headers });
        expect([page, answer.status]).toEqual([page, 404]);
        expect(await answer.text()).not.toContain('A damp room.');
      }
      for (const page of ['/shelf?q=drift', '/shelf?q=ada', '/shelf', '/shelf.data?q=drift']) {
        const text = await (await fetch(server.base + page, { headers })).text();
        expect([page, text.includes(card), text.includes('A damp room.')]).toEqual([page, false, false]);
      }
    }
    // Who cut with it keeps their own work; the card behind it is gone for them.
    await ben.go(`/vinyls/${vinyl}`);
    expect(await ben.text()).toContain('130');
    await visible('public');
    expect((await fetch(`${server.base}/cards/${card}`)).status).toBe(200);
  });
});

describe('vinyl in hand', () => {
  const card = async (b: Browser) => {
    await b.at(new RegExp(`/vinyls/${vinyl}`));
    await b.css('[data-testid=to-set]');
  };
  test('from a cold page to the bench card by keyboard: a slash, three letters, Enter', async () => {
    await ben.go('/');
    const keys = (text: string) => ben.driver.actions().sendKeys(text).perform();
    await keys('/');
    await keys('dri');
    await keys(Key.ENTER);
    await card(ben);
    for (const step of ['Cut', 'Check', 'Press']) expect(await ben.text()).toContain(step);
    // Both heats, the side, the mirror and the mat: what is asked with vinyl in hand.
    for (const text of ['160 °C', '320 °F', '15 to 20 s', 'cold', 'Carrier down, vinyl up.', 'mirror', 'ordinary'])
      expect([text, (await ben.text()).includes(text)]).toEqual([text, true]);
    expect(await violations(ben)).toEqual([]);
  });
  test('the list shows what fits best with its strip; arrows choose, Escape leaves, nonsense is said', async () => {
    await ben.go('/');
    const field = await ben.css('.find input');
    await field.sendKeys('/drift qilow');
    const options = () => ben.driver.findElements(By.css('.finds [role=option]'));
    await ben.driver.wait(async () => (await options()).length === 1, 10_000, 'no option');
    expect(await (await options())[0]!.getText()).toContain('Quillow Drift');
    expect(await ben.driver.findElements(By.css('.finds .strip'))).toHaveLength(1);
    expect(await violations(ben)).toEqual([]);
    await field.sendKeys(Key.ARROW_DOWN, Key.ESCAPE);
    await ben.driver.wait(async () => (await options()).length === 0, 5_000, 'it stays open');
    await field.sendKeys(' xyzzy');
    await ben.driver.wait(until.elementLocated(By.css('.finds .none')), 10_000, 'it does not say so');
    await field.sendKeys(Key.ENTER);
    await ben.at(/vinyls\?q=/);
  });
  test('and by touch on a phone', async () => {
    await ben.size(390, 844);
    await ben.go('/');
    await (await ben.css('.find input')).sendKeys('shimmer');
    await (await ben.css('.finds [role=option]')).click();
    await card(ben);
    await ben.size(1280, 800);
  });
});

test('the shelf and its pages in both themes and on a phone: nothing wrong, nothing cut off', async () => {
  const pages = ['/shelf', '/shelf?q=nothing+like+it', `/cards/${card}`, `/cards/new?vinyl=${vinyl}`, '/inbox'];
  for (const page of pages) {
    await ada.go(page);
    await ada.driver.executeScript(`document.querySelectorAll('details').forEach((d) => { d.open = true; })`);
    expect({ page, wrong: await wrongInAnyLook(ada, twice) }).toEqual({ page, wrong: [] });
  }
});

describe('text is text', () => {
  const nasty = `<script>window.hurt = 1</script><img src=x onerror="window.hurt = 1">\u202eesrever \u05d0\u05d1\u05d2 👩‍🎨🧵`;
  const filled = (n: number) => [...`${nasty}${'W'.repeat(10_000)}`].slice(0, n - 20).join('');
  /** What the form of a page does, where it does one thing. */
  const whatOf = (url: string) =>
    url === '/cards/new' ? 'publish' : /^\/vinyls\/[0-9a-f-]{36}$/.test(url) ? 'keep' : 'add';
  const post = async (b: Browser, url: string, fields: Record<string, string>) =>
    b.driver.executeAsyncScript<{ status: number; url: string; text: string }>(
      `const done = arguments[2];
       fetch(arguments[0], { method: 'POST', body: new URLSearchParams(arguments[1]) })
         .then(async (r) => done({ status: r.status, url: r.url, text: await r.text() }))`,
      url,
      { what: whatOf(url), ...fields },
    );
  const cutterOf = async (email: string) =>
    (
      await rows<{ id: string }>(
        database.url,
        'select k.id from cutter k join person p on p.id = k.person_id where p.email = $1 order by k.created_at desc limit 1',
        [email],
      )
    )[0]!.id;

  test('ten thousand characters are refused in every field, and said where', async () => {
    await ada.go('/');
    await ben.go('/');
    const long = 'y'.repeat(10_000);
    const cutter = await cutterOf('ada@example.org');
    const [cut] = await rows<{ cut_id: string }>(database.url, 'select cut_id from confirmation limit 1');
    for (const [who, url, fields, says] of [
      [
        ada,
        '/vinyls/new',
        { brand: long, name: 'x', type: 'smooth', colour: 'x', hex: '#000000' },
        'The brand can have 80',
      ],
      [ada, '/vinyls/new', { brand: '', name: long, type: 'smooth', colour: 'x', hex: '#000000' }, 'name can have 120'],
      [
        ada,
        '/vinyls/new',
        { brand: '', name: 'x', type: 'smooth', colour: long, hex: '#000000' },
        'A colour can have 80',
      ],
      [
        ada,
        '/workshop/cutters/new',
        { model: 'marlow-24', name: long, blade: 'x', angle: '45', used: '0' },
        'can have 80',
      ],
      [
        ada,
        '/workshop/cutters/new',
        { model: 'marlow-24', name: 'x', blade: long, angle: '45', used: '0' },
        'can have 80',
      ],
      [ada, `/vinyls/${vinyl}`, { vinyl, cutter, strength: '120', note: long }, 'A note can have 2000'],
      [
        ada,
        '/cards/new',
        { vinyl, visibility: 'public', licence: 'cc0', change: 'x', conditions: long },
        'What was special can have 1000',
      ],
      [
        ada,
        '/cards/new',
        { vinyl, visibility: 'public', licence: 'cc0', change: long, conditions: '' },
        'What changed can have 2000',
      ],
      [ben, `/cuts/${cut!.cut_id}`, { what: 'tell', said: long }, 'What you saw can have 2000'],
      [ben, `/cards/${card}`, { what: 'report', why: long }, 'Why can have 2000'],
    ] as [Browser, string, Record<string, string>, string][]) {
      const answer = await post(who, url, fields);
      expect([url, Object.keys(fields).join(), answer.status]).toEqual([url, Object.keys(fields).join(), 400]);
      expect(answer.text).toContain(says);
    }
  });

  test('markup, right-to-left marks, emoji and long words are shown as text, and the layout holds', async () => {
    await ada.go('/');
    const name = filled(120);
    const made = await post(ada, '/vinyls/new', {
      brand: filled(80),
      name,
      type: 'glitter',
      colour: filled(80),
      hex: '#b0203a',
    });
    expect(made.status).toBe(200);
    const [own] = await rows<{ id: string }>(database.url, 'select id from vinyl where name = $1', [
      name.normalize('NFC').trim(),
    ]);
    expect(
      (
        await post(ada, '/workshop/cutters/new', {
          model: 'marlow-24',
          name: filled(80),
          blade: filled(80),
          angle: '45',
          used: '0',
        })
      ).status,
    ).toBe(200);
    const cutter = await cutterOf('ada@example.org');
    expect(
      (await post(ada, `/vinyls/${own!.id}`, { vinyl: own!.id, cutter, strength: '120', note: filled(2000) })).status,
    ).toBe(200);
    const published = await post(ada, '/cards/new', {
      vinyl: own!.id,
      visibility: 'public',
      licence: 'cc0',
      conditions: filled(1000),
      change: '',
    });
    expect(published.status).toBe(200);
    const shared = new URL(published.url).pathname;
    expect(
      (
        await post(ada, '/cards/new', {
          vinyl: own!.id,
          visibility: 'public',
          licence: 'cc0',
          conditions: filled(1000),
          change: filled(2000),
        })
      ).status,
    ).toBe(200);
    const [cut] = await rows<{ cut_id: string }>(database.url, 'select cut_id from confirmation limit 1');
    expect((await post(ben, `/cuts/${cut!.cut_id}`, { what: 'tell', said: filled(2000) })).status).toBe(200);
    expect((await post(ben, shared, { what: 'report', why: filled(2000) })).status).toBe(200);
    await rows(database.url, `update person set name = $1 where email = 'ada@example.org'`, [filled(80)]);
    const pages = [
      '/',
      '/vinyls',
      `/vinyls/${own!.id}`,
      `/coupons/new?vinyl=${own!.id}`,
      '/coupons',
      '/shelf',
      `/shelf?q=${encodeURIComponent(nasty)}`,
      `/vinyls?q=${encodeURIComponent(filled(180))}`,
      shared,
      `/cards/new?vinyl=${own!.id}`,
      `/cards/${card}`,
      '/inbox',
      '/workshop',
      '/account',
      `/cuts/${cut!.cut_id}`,
    ];
    for (const page of pages) {
      const who = page.startsWith('/cuts/') ? ben : ada;
      await who.go(page);
      for (const [width, height] of [
        [390, 844],
        [1280, 800],
      ] as const) {
        await who.size(width, height);
        const state = await who.driver.executeScript<{ wide: boolean; hurt: unknown; scripts: number }>(
          `return { wide: document.documentElement.scrollWidth > arguments[0], hurt: window.hurt ?? null, scripts: document.querySelectorAll('main script, main img[src=x]').length }`,
          width,
        );
        expect({ page, width, ...state }).toEqual({ page, width, wide: false, hurt: null, scripts: 0 });
      }
    }
    await ada.go(shared);
    // Shown as it was typed, tags and all; what it says about direction ends with it.
    expect(await ada.text()).toContain('<script>window.hurt = 1</script>');
    expect(
      await ada.driver.executeScript(`return document.querySelector('h1').textContent.startsWith('\\u2068')`),
    ).toBe(true);
    expect(await violations(ada)).toEqual([]);
  });
});
