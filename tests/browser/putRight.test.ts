import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { closeDb } from '#store/base/db.ts';
import type { Person } from '#work/people/person.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { learn } from '../sharing.ts';
import { rows } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Nothing a hand does is final: a grade of yesterday, a cutter that went, old settings from a spreadsheet with a slip in them, a form that
// was half filled when the page was loaded again.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let ada: Person;
let vinyl = '';
beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  vinyl = await addVinyl(ada, { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' });
  await learn(ada, vinyl, 0.3, 1);
  await closeDb();
  server = await serverProcess(house.url);
  b = await openBrowser(() => server.base);
  await signInAs(b, 'ada@example.org', password);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
});
const number = async () => (await b.css('[data-testid=to-set]')).getText();

describe('put right', () => {
  test('a grade of yesterday: from the coupon to its cell, another grade, and the number follows', async () => {
    await b.go(`/vinyls/${vinyl}`);
    const before = await number();
    await b.go('/coupons');
    await (await b.css('a.row-coupon')).click();
    await b.css('.grade-list');
    expect(await violations(b)).toEqual([]);
    // The very cell that the number rests on held fast after all, and the one above it hung.
    const cells = await b.driver.executeScript<[string, string][]>(
      `return [...document.querySelectorAll('.grade-list a')].map((a) => [a.getAttribute('href'), a.textContent])`,
    );
    const at = cells.findIndex(([, text]) => text.includes(`force ${before} `));
    expect(at).toBeGreaterThan(0);
    for (const [[to], grade] of [
      [cells[at]!, 'uncut'],
      [cells[at + 1]!, 'hangs'],
    ] as const) {
      await b.go(to);
      const cell = to.split('=').at(-1)!;
      expect(await (await b.css('[data-testid=question]')).getText()).toContain(`Cell ${cell},`);
      await b.driver.sleep(700);
      await (await b.css(`[data-answer=${grade}]`)).click();
      await b.driver.wait(
        async () =>
          (
            await rows<{ n: number }>(
              house.url,
              `select count(*)::int as n from grade_event e join cell c on c.id = e.cell_id join cut on cut.id = c.cut_id
                where cut.vinyl_id = $1 and c.number = $2 and e.grade = $3`,
              [vinyl, Number(cell), grade],
            )
          )[0]!.n > 0,
        20_000,
        'the grade never arrives',
      );
    }
    await b.driver.wait(
      async () => {
        await b.go(`/vinyls/${vinyl}`);
        return Number(await number()) > Number(before);
      },
      20_000,
      'the number never follows',
    );
  });

  test('a cutter is renamed, put away with what rests on it, and taken up again with its numbers', async () => {
    await b.go('/workshop');
    await (await b.css('.row-cutter .put-right')).click();
    await b.at(/put-right\/cutter/);
    expect(await violations(b)).toEqual([]);
    await b.says(/1 cut and 1 kept number rest on it/);
    await b.fill('name', 'By the window');
    await (await b.button('Save')).click();
    await b.at(/workshop$/);
    await b.says('By the window');
    await (await b.css('.row-cutter .put-right')).click();
    await (await b.button('Put it away')).click();
    await b.says('come back with it');
    await b.go(`/vinyls/${vinyl}`);
    expect(await b.text()).not.toContain('I cut this');
    await b.go('/workshop');
    await (await b.css('[data-testid=away] summary')).click();
    await (await b.css('[data-testid=away] a')).click();
    await (await b.button('Take it up again')).click();
    await b.at(/workshop$/);
    await b.go(`/vinyls/${vinyl}`);
    expect(Number(await number())).toBeGreaterThan(0);
  });

  test('a vinyl named by mistake goes for good; one that was cut is only put away', async () => {
    const slip = await addVinyl(ada, { brand: '', name: 'Slip', type: 'smooth', colour: 'red', hex: '#b0203a' });
    await closeDb();
    await b.go(`/vinyls/${slip}`);
    await (await b.css('.head .put-right')).click();
    await (await b.css('.put-away summary')).click();
    await (await b.button('Yes, delete it')).click();
    await b.at(/vinyls$/);
    expect(await b.text()).not.toContain('Slip');
    await b.go(`/put-right/vinyl/${vinyl}`);
    await b.says(/rest on it, so it does not go for good/);
    expect(await b.text()).not.toContain('Delete it for good');
    await (await b.button('Put it away')).click();
    await b.css('[data-testid=is-away]');
    await b.go('/vinyls');
    await (await b.css('[data-testid=away] summary')).click();
    await (await b.css('[data-testid=away] a')).click();
    await (await b.button('Take it up again')).click();
    await b.at(/about$/);
  });

  test('what was typed stays over a reload, and over making a type of one’s own; once taken, the form is empty', async () => {
    await b.go('/vinyls/new');
    await b.fill('name', 'Half a name');
    await b.fill('brand', 'Tansy');
    await b.fill('colour', 'moss');
    await b.driver.navigate().refresh();
    await b.driver.wait(
      async () => (await (await b.css('[name=name]')).getAttribute('value')) === 'Half a name',
      10_000,
      'the name is gone',
    );
    expect(await (await b.css('[name=brand]')).getAttribute('value')).toBe('Tansy');
    await b.go('/types/new');
    await b.fill('word', 'frosted');
    await (await b.button('Make this type')).click();
    await b.at(/vinyls\/new\?type=own/);
    await b.driver.wait(
      async () => (await (await b.css('[name=colour]')).getAttribute('value')) === 'moss',
      10_000,
      'the colour is gone',
    );
    expect(await b.driver.executeScript<string>(`return document.querySelector('[name=type]:checked').value`)).toMatch(
      /^own:/,
    );
    await (await b.button('Save and plan')).click();
    await b.at(/coupons\/new/);
    await b.go('/vinyls/new');
    await b.driver.sleep(500);
    expect(await (await b.css('[name=name]')).getAttribute('value')).toBe('');
  });

  test('old settings from a spreadsheet: looked at, a slip mended on the page, kept as drafts', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'versipel-')), 'old.csv');
    writeFileSync(
      file,
      'Maker,Product,HTV,Color,Force,Speed,Passes\nQuillow,Heron,HTV,navy,92,6,1\nQuillow,Heron,HTV,ruby,92,6,1\nQuillow,Loft,3D puff,white,1300,4,1\n',
    );
    await b.go('/vinyls/import');
    await (await b.css('input[type=file]')).sendKeys(file);
    await (await b.button('Look at it')).click();
    await b.at(/import\/[0-9a-f-]{36}$/);
    await b.says('1 number for By the window would be kept as drafts');
    await b.says('10 to 400');
    expect(await violations(b)).toEqual([]);
    const cell = await b.css('.mend-cells input');
    expect(await cell.getAttribute('value')).toBe('1300');
    await cell.clear();
    await cell.sendKeys('130');
    await (await b.button('Look at these rows again')).click();
    await b.says('2 numbers for By the window would be kept as drafts');
    await (await b.button('Add 2 vinyls')).click();
    await b.says('2 numbers kept as drafts.');
    const person = (await rows<{ id: string }>(house.url, `select id from person where email = 'ada@example.org'`))[0]!;
    const list = await listVinyls({ ...ada, id: person.id }, await benchOf(ada), 'loft');
    await closeDb();
    expect(list[0]).toMatchObject({ standing: 'draft', answer: { position: 130 } });
    await b.go(`/vinyls/${list[0]!.id}`);
    expect(await number()).toBe('130');
    await b.go('/vinyls/table?q=heron');
    await b.says('draft');
  });
});
