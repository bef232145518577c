import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { closeDb } from '#store/base/db.ts';
import { crafter, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { learn } from '../sharing.ts';
import { rows } from '../testDatabase.ts';
import { violations } from './axe.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// A cut that did not come out: run again on the mat, another number next time, kept with one tap and said everywhere. A new blade: the
// numbers it moved, in one list.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let ada: Person;
let vinyl = '';
beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  vinyl = await addVinyl(
    ada,
    { brand: 'Quillow', name: 'Drift', type: 'glitter', colour: 'one', hex: '#cfc4ea' },
    'public',
  );
  await learn(ada, vinyl, 0.3, 3);
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

describe('next time', () => {
  let before = '';
  test('a kept number is cut, and it hung: run it again on the mat, set more next time, keep that', async () => {
    await b.go(`/vinyls/${vinyl}`);
    before = await number();
    expect(await b.text()).not.toContain('Not through');
    await (await b.button('I cut this')).click();
    await b.at(/\/cuts\//);
    await b.says('Did you cut the test mark');
    await (await b.css('[data-answer=hangs]')).click();
    await b.says('It hung at the corners.');
    await b.says('Still on the mat?');
    expect(Number(await (await b.css('[data-testid=next-time]')).getText())).toBeGreaterThan(Number(before));
    expect(await violations(b)).toEqual([]);
    await (await b.button('I ran it again')).click();
    await (await b.css('[data-answer=clean]')).click();
    await b.says('Clean.');
    // What the first pass left stands beside it, and what to set next time goes by that.
    await b.driver.sleep(3_000);
    const next = await (await b.css('[data-testid=next-time]')).getText();
    expect(Number(next)).toBeGreaterThan(Number(before));
    await (await b.button(`Keep ${next}`)).click();
    await b.says(`You keep ${next} now.`);
    await b.driver.wait(
      async () =>
        (
          await rows<{ grade: string }>(
            house.url,
            `select e.grade, e.passes from grade_event e join cell on cell.id = e.cell_id join cut on cut.id = cell.cut_id
               join ordinary_cut o on o.cut_id = cut.id where cell.number = 1 order by e.passes desc, e.id desc limit 1`,
          )
        )[0]?.grade === 'clean',
      20_000,
      'the second grade never arrives',
    );
    await b.go(`/vinyls/${vinyl}`);
    expect(await number()).toBe(next);
    await b.go('/vinyls');
    expect(await (await b.css('.row-vinyl text')).getText()).toBe(next);
  });
  test('a new blade: the numbers it moved in one list, and every screen says them', async () => {
    // The one on it is all but worn out.
    await rows(house.url, `update blade set cut_before_um = 58000000`);
    await b.go(`/vinyls/${vinyl}`);
    const worn = await number();
    await b.go('/workshop');
    await (await b.button('Mount a new blade')).click();
    await b.fill('name', 'second');
    await (await b.button('Mount it')).click();
    await b.at(/\/blade$/);
    await b.says('Start lower');
    expect(await violations(b)).toEqual([]);
    const moved = await b.driver.findElement(By.css('.moved-numbers')).getText();
    const [from, to] = moved.split('→').map((s) => s.trim());
    expect(from).toBe(worn);
    expect(Number(to)).toBeLessThan(Number(from));
    await (await b.css('.row-moved')).click();
    await b.at(/\/vinyls\//);
    expect(await number()).toBe(to);
    await b.says('This blade has not cut it. Three cells would settle it.');
    await b.go('/vinyls');
    expect(await (await b.css('.row-vinyl text')).getText()).toBe(to);
    // Being unsure is not called "no clean window".
    expect(await b.text()).not.toContain('No clean window');
  });
});
