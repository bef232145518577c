import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, Key, until } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { closeDb } from '#store/base/db.ts';
import { addColour } from '#work/vinyls/catalogue.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { claimAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { violations, wrongInAnyLook } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Vinyl in hand, cutter in front: what do I set? Found by keys and by touch; colours, stock, labels, blanks, two entries of one vinyl,
// a table in and out, a scale, controls of one's own.
const database = ownHouse();
let server: ServerProcess;
let b: Browser;
const scratch = mkdtempSync(join(tmpdir(), 'versipel-story-'));
const ids: Record<string, string> = {};
const password = 'lantern river seven';

beforeAll(async () => {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'Marlow', blade: 'first', angle: '45', used: '0' }));
  const vinyl = (name: string, type: string, brand = 'Quillow') =>
    addVinyl(person, { brand, name, type, colour: 'ember red', hex: '#b0203a' });
  for (const [i, type] of vinylTypeKeys.entries()) await vinyl(`Film ${i}`, type);
  ids.drift = await vinyl('Drift', 'holographic');
  ids.starling = await vinyl('Starling', 'glitter', 'Ferrule & Sons');
  ids.gold = await addColour(person, ids.starling, form({ colour: 'gold', hex: '#c99a2c' }));
  const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
  const coupon = await makeCoupon(person, (await benchOf(person))!, ids.starling, form({ cells: '6' }));
  await takeAll(
    person,
    (await couponOf(person, coupon)).cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  ids.piece = await addPiece(person, ids.starling, form({ kind: 'roll', width: '305', length: '1 m', batch: 'B-7' }));
  await claimAccount(person, form({ email: 'ada@example.org', password, name: 'Ada' }));
  await closeDb();
  server = await serverProcess(database.url);
  b = await openBrowser(() => server.base);
  await signInAs(b, 'ada@example.org', password);
});
afterAll(async () => {
  rmSync(scratch, { recursive: true, force: true });
  await b?.close();
  await server?.kill();
});

/** A click that waits until the thing is there and in sight. */
const click = async (selector: string) => {
  const thing = await b.css(selector);
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', thing);
  await thing.click();
};
const press = async (text: string) => {
  const thing = await b.button(text);
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', thing);
  await thing.click();
};
/** What stands there at this moment; looked up and read in one go, since a row may be drawn anew in between. */
const textOf = (selector: string) =>
  b.driver.executeScript<string>('return document.querySelector(arguments[0])?.innerText ?? ""', selector);
const unfold = async (text: string) => {
  const thing = await b.driver.wait(
    until.elementLocated(By.xpath(`//summary[contains(normalize-space(.), ${JSON.stringify(text)})]`)),
    15_000,
    `nothing to unfold: ${text}`,
  );
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', thing);
  await thing.click();
};

describe('what do I set?', () => {
  test('from a cold page by keys alone: slash, a few letters, Enter', async () => {
    await b.go('/');
    await b.driver.actions().sendKeys('/').perform();
    for (const letter of 'sta') await b.driver.actions().sendKeys(letter).perform();
    // One key after the letters; six would be allowed.
    await b.driver.actions().sendKeys(Key.ENTER).perform();
    await b.at(new RegExp(`/vinyls/${ids.starling}`));
    expect(await (await b.css('[data-testid=to-set]')).getText()).toMatch(/^\d+$/);
    for (const said of ['Carrier down, vinyl up.', 'mirror', '163 °C', '325 °F', 'lift a corner']) await b.says(said);
  });
  test('a misspelt name finds it, the rows show its strip, arrows choose', async () => {
    await b.go('/');
    const field = await b.css('.find input');
    await field.sendKeys('drfit qilow');
    await b.css('.finds [role=option] .strip');
    await field.sendKeys(Key.ENTER);
    await b.at(new RegExp(`/vinyls/${ids.drift}`));
  });
  test('by touch on a phone', async () => {
    await b.size(390, 844);
    await b.go('/');
    await click('.find input');
    await b.driver.actions().sendKeys('starl').perform();
    await click('.finds [role=option]');
    await b.at(new RegExp(`/vinyls/${ids.starling}`));
    await b.css('[data-testid=to-set]');
    await b.size(1280, 800);
  });
  test('the other school is one tap away; which one is followed is kept', async () => {
    await b.go(`/vinyls/${ids.drift}`);
    await click('[data-testid=schools-press] summary');
    expect(await violations(b)).toEqual([]);
    const way = await b.css('[data-testid=schools-press] section:nth-of-type(2) button');
    await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', way);
    await way.click();
    // The way that is followed is the large one now.
    await b.driver.wait(
      async () => (await textOf('.press-number')).startsWith('166 °C'),
      15_000,
      'the followed way is not shown',
    );
  });
  test('a number is kept for one colour alone', async () => {
    await b.go(`/vinyls/${ids.starling}?colour=${ids.gold}`);
    expect(await b.driver.getTitle()).toContain('gold');
    await unfold('Another number, or a note');
    await b.fill('strength', '146');
    await click('[name=only]');
    await press('Keep this');
    const why = async () => {
      await b.driver.executeScript(`document.querySelector('[data-testid=why]').open = true`);
      return (await b.text()).includes('kept for gold');
    };
    await b.driver.wait(why, 15_000, 'it never says that it is kept for gold');
    // The number to set; or, where one's own cells say otherwise, named beside it.
    if ((await (await b.css('[data-testid=to-set]')).getText()) !== '146') await b.says('You kept 146.');
    await b.go(`/vinyls/${ids.starling}`);
    await b.driver.wait(why, 15_000, 'it never says that it is kept for gold');
    await press('Pin it');
    await b.button('Unpin it');
    await b.go('/vinyls');
    expect(await (await b.css('.row-name')).getText()).toBe('Ferrule & Sons Starling');
  });
});

describe('stock and labels', () => {
  test('a coupon takes from a roll; its label opens the bench card in its colour; an offcut bears its name', async () => {
    await b.go(`/coupons/new?vinyl=${ids.starling}`);
    await unfold('From which roll, which batch');
    await (await b.css(`[name=piece] option[value="${ids.piece}"]`)).click();
    await press('Make this coupon');
    await b.at(/\/coupons\/[0-9a-f-]{36}$/);
    await b.css('[data-testid=taken]');
    await press('Put it back in stock');
    await b.driver.wait(async () => (await b.driver.findElements(By.css('[data-testid=taken]'))).length === 0, 15_000);
    await b.go(`/stock/${ids.piece}`);
    expect(await (await b.css('[data-testid=left]')).getText()).toContain('305 × 1000 mm');
    const [piece] = await rows<{ code: string; colour_id: string }>(
      database.url,
      'select code, colour_id from stock where id = $1',
      [ids.piece],
    );
    await b.fill('width', '1,500');
    await b.fill('length', '200');
    await press('Keep the offcut');
    await b.says('is a length from');
    expect(await (await b.css('#offcut-width')).getAttribute('value')).toBe('1,500');
    await b.fill('width', '100');
    await press('Keep the offcut');
    await b.driver.wait(async () => !(await b.driver.getCurrentUrl()).includes(ids.piece!), 15_000);
    await b.says(`from ${piece!.code}`);
    await b.driver.get(`${server.base}/s/${piece!.code}`);
    await b.at(new RegExp(`/vinyls/${ids.starling}\\?colour=${piece!.colour_id}`));
    // Nobody else’s code opens anything.
    const stranger = await fetch(`${server.base}/s/${piece!.code}`, { redirect: 'manual' });
    expect(stranger.status).toBe(404);
    await b.go('/stock');
    for (const box of await b.driver.findElements(By.css('[name=piece]'))) await box.click();
    const cookie = (await b.driver.manage().getCookies()).map((c) => `${c.name}=${c.value}`).join('; ');
    const pdf = await fetch(`${server.base}/stock/labels?piece=${ids.piece}&paper=single`, { headers: { cookie } });
    expect([pdf.status, pdf.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    const chart = await fetch(`${server.base}/chart/a4.pdf`, { headers: { cookie } });
    expect([chart.status, chart.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect((await fetch(`${server.base}/stock/labels?piece=${ids.piece}`)).status).toBe(404);
    expect((await fetch(`${server.base}/chart/a5.pdf`)).status).toBe(404);
  });
});

describe('the catalogue', () => {
  test('one vinyl is not named twice unawares; named twice all the same it is merged, and parted again', async () => {
    await b.go('/vinyls/new');
    await b.fill('brand', 'Ferule and sons');
    await b.fill('name', 'Starlng');
    await b.css('[data-testid=alike] a');
    await click('[name=type][value=glitter]');
    await b.fill('colour', 'ember red');
    await press('Save and plan a coupon');
    await b.at(/coupons\/new/);
    await b.go(`/vinyls/${ids.starling}/about`);
    await press('Merge Ferule and sons Starlng into this one');
    await b.says('Ferule and sons Starlng is the same vinyl.');
    await b.go('/vinyls?q=starlng');
    expect(await (await b.css('.row-name')).getText()).toBe('Ferrule & Sons Starling');
    await b.go(`/vinyls/${ids.starling}/about`);
    await press('Part them again');
    await b.button('Merge Ferule and sons Starlng into this one');
  });
  test('what is said of a vinyl shows on its bench card; what is wrong is said at its field and stays', async () => {
    await b.go(`/vinyls/${ids.drift}/about`);
    await b.fill('film_um', '12 kg');
    await b.fill('note', 'from the market');
    await press('Save');
    await b.says('which is no length');
    expect(await (await b.css('[name=film_um]')).getAttribute('value')).toBe('12 kg');
    expect(await (await b.css('[name=note]')).getAttribute('value')).toBe('from the market');
    await b.fill('film_um', '');
    await b.fill('least_line_mm', '4');
    await press('Save');
    await b.css('[data-testid=saved]');
    await press('To the bench card');
    await b.says('lines of 4 mm');
  });
  test('a table comes in: looked at first, then added, then taken back', async () => {
    const file = join(scratch, 'mine.csv');
    writeFileSync(
      file,
      'brand,name,type,film_um\nPagewell,River,smooth,80\nPagewell,Brook,velvetine,80\nPagewell,Sea,puff,12 kg\n',
    );
    await b.go('/vinyls/import');
    await (await b.css('[name=file]')).sendKeys(file);
    await press('Look at it');
    await b.at(/import\/[0-9a-f-]{36}/);
    const refused = await (await b.css('[data-testid=refused]')).getText();
    for (const said of ['Line 3', 'velvetine', 'Line 4', 'kg']) expect(refused).toContain(said);
    expect(await violations(b)).toEqual([]);
    await press('Add 1 vinyl');
    await b.css('[data-testid=report]');
    expect(await b.text()).toContain('Added 1 vinyl. 0 were there already. 2 could not be taken.');
    await press('Take it back');
    await b.says('Took 1 vinyl out again.');
    await b.go('/vinyls/import');
    await press('Look at it');
    await b.says('Choose a file');
  });
  test('the wide table keeps its search in the address and sorts on the server', async () => {
    await b.go('/vinyls/table?q=film');
    await b.css('[data-testid=grid] [role=row][data-id]');
    await b.driver.wait(async () => (await b.text()).includes('18 rows'), 15_000);
    const first = () => textOf('[data-testid=grid] [data-rowindex="0"] [data-field=name]');
    await b.driver.wait(async () => (await first()) === 'Film 0', 15_000, 'not sorted by name');
    await click('[data-testid=grid] [role=columnheader][data-field=name] .MuiDataGrid-columnHeaderTitle');
    await b.at(/down=yes/);
    await b.driver.wait(async () => (await first()) === 'Film 9', 15_000, 'not sorted');
    expect(await b.driver.getCurrentUrl()).toContain('q=film');
  });
});

describe('the workshop', () => {
  test('three readings of a scale make a curve', async () => {
    await b.go('/workshop');
    await press('Weigh its force');
    await b.at(/scale$/);
    for (const [i, [force, grams]] of (
      [
        ['40', '41'],
        ['130', '128'],
        ['300', '290'],
      ] as const
    ).entries()) {
      await b.fill('strength', force);
      await b.fill('grams', grams);
      await press('Note it');
      await b.driver.wait(
        async () => (await b.driver.findElements(By.css('table tbody tr'))).length === i + 1,
        15_000,
        `reading ${i + 1} is not there`,
      );
    }
    await b.css('.scale-chart svg');
    await b.says('of the curve');
  });
  test('a new blade makes the number less sure and asks for a check of three cells', async () => {
    await b.go(`/vinyls/${ids.starling}`);
    expect(await b.driver.findElements(By.css('[data-testid=retune]'))).toEqual([]);
    await b.go('/workshop');
    await press('Mount a new blade');
    await b.fill('name', 'second');
    await press('Mount it');
    await b.at(/\/blade$/);
    await b.says('second on');
    await b.go(`/vinyls/${ids.starling}`);
    await click('[data-testid=retune] a');
    await b.at(/mode=retune/);
    await b.css('.sheet-drawing');
    expect(await b.driver.findElements(By.css('.sheet-drawing [data-cell]'))).toHaveLength(3);
    await b.css('[data-testid=expected]');
    await b.says('What you know was found otherwise.');
  });
  test('a mat and a press; controls of one’s own cutter make a cutter', async () => {
    await b.go('/workshop');
    await press('Add a mat');
    await b.fill('name', 'green');
    await press('Add a mat');
    await b.says('about 99 % of its grip left');
    await b.go('/workshop/models/new');
    await b.fill('name', 'Attic Thing');
    await b.fill('axis-0-word', 'push');
    await b.fill('axis-0-min', '1');
    await press('Publish these controls');
    await b.says('This is a number.');
    expect(await (await b.css('[name=axis-0-word]')).getAttribute('value')).toBe('push');
    await b.fill('axis-0-max', '20');
    await press('Publish these controls');
    await b.at(/cutters\/new\?model=attic-thing/);
    await press('Put it on the bench');
    await b.at(/\/$/);
    expect(await (await b.css('.bench-chip')).getText()).toContain('Attic Thing');
  });
});

test('no page has what axe-core finds wrong, light and dark, on a desk and on a phone; none is wider than its screen', async () => {
  const pages = [
    `/vinyls/${ids.starling}`,
    `/vinyls/${ids.starling}/about`,
    '/vinyls',
    '/vinyls/table',
    '/vinyls/import',
    '/vinyls/new',
    '/types/new',
    '/blanks?on=long-fur',
    '/chart',
    '/stock',
    `/stock?vinyl=${ids.starling}`,
    `/stock/${ids.piece}`,
    '/workshop',
    '/workshop/models/new',
    '/workshop/cutters/new',
  ];
  for (const page of pages) {
    await b.go(page);
    if (page === '/vinyls/table') await b.css('[data-testid=grid] [role=row][data-id]');
    expect({ page, wrong: await wrongInAnyLook(b) }).toEqual({ page, wrong: [] });
  }
  // A 400 to what was refused above is meant.
  expect((await b.complaints()).filter((c) => !/status of 400|status of 404/.test(c))).toEqual([]);
});
