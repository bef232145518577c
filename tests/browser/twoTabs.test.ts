import { afterAll, beforeAll, expect, test } from 'vitest';
import { addMat } from '#work/workshop/mats.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, form, password } from '../bench.ts';
import { rows } from '../testDatabase.ts';
import { ownHouse } from '../house.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Two tabs on one mat: the second sees what the first wrote, beside what was typed, and chooses.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let page: string;

beforeAll(async () => {
  server = await serverProcess(house.url);
  const who = await crafter('Wenna', 'marlow-24', 'wenna@two.example');
  await addMat(who, form({ name: 'Old mat', grip: 'ordinary', width: '12 in', length: '24 in' }));
  page = `/put-right/mat/${(await rows<{ id: string }>(house.url, 'select id from mat'))[0]!.id}`;
  b = await openBrowser(() => server.base);
  await b.size(390, 844);
  await signInAs(b, 'wenna@two.example', password);
}, 120_000);
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

const press = async (css: string) => {
  const element = await b.css(css);
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
  await element.click();
};
const submit = () => press('form:has([value=save]) button[type=submit]');
const save = async (name: string) => {
  await b.fill('name', name);
  await submit();
};
const named = async () => (await rows<{ name: string }>(house.url, 'select name from mat'))[0]!.name;
const shows = (name: string) =>
  b.driver.wait(async () => (await (await b.css('[name=name]')).getAttribute('value')) === name, 20_000, name);

test('the second to save is told, sees what is saved, and either takes that or means its own', async () => {
  await b.go(page);
  const first = await b.driver.getWindowHandle();
  await b.driver.switchTo().newWindow('tab');
  const second = await b.driver.getWindowHandle();
  await b.go(page);
  await save('From the other tab');
  await b.at(/\/workshop$/);
  await b.driver.switchTo().window(first);
  await save('From this tab');
  await b.says('changed in another tab');
  await b.says('Saved now: From the other tab');
  expect(await (await b.css('[name=name]')).getAttribute('value')).toBe('From this tab');
  expect(await named()).toBe('From the other tab');
  expect(await violations(b)).toEqual([]);
  // What is saved is wanted after all: nothing of the draft comes back.
  await press('main [role=alert] a');
  await shows('From the other tab');
  // Typed here, left, saved there, and come back to: the draft is there, and does not undo unseen what was saved.
  await b.fill('name', 'Typed before');
  await b.go('/workshop');
  await b.driver.switchTo().window(second);
  await b.go(page);
  await save('Saved meanwhile');
  await b.at(/\/workshop$/);
  await b.driver.switchTo().window(first);
  await b.go(page);
  await shows('Typed before');
  await submit();
  await b.says('Saved now: Saved meanwhile');
  expect(await named()).toBe('Saved meanwhile');
  await submit();
  await b.at(/\/workshop$/);
  expect(await named()).toBe('Typed before');
});
