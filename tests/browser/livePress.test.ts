import { afterAll, beforeAll, expect, test } from 'vitest';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { startPress, type PressStandIn } from '../../bin/lib/standIn.ts';
import { crafter, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { shirts, upToThePress } from '../shirts.ts';
import { root } from '../testDatabase.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// The simulated press stands beside the run: a plate that has not come back to its heat delays the next piece.
const house = ownHouse();
let press: PressStandIn;
let server: ServerProcess;
let b: Browser;
beforeAll(async () => {
  // Cold, and so quick that a minute takes two seconds.
  press = await startPress(root, ['--speed', '30', '--warm', '60']);
  server = await serverProcess(house.url, { VERSIPEL_PRESSES: press.listFile });
  b = await openBrowser(() => server.base);
});
afterAll(async () => {
  await b?.close();
  await server?.kill();
  press?.stop();
});

test('the plate warms up before the first piece goes in; what it has is said, and that it is simulated', async () => {
  const person = await crafter('Rower', 'marlow-24', 'live@press.example');
  const { job } = await shirts(person, 1);
  await upToThePress(person, job, Date.now() - 3_600_000);
  await signInAs(b, 'live@press.example', password);
  await b.go(`/jobs/${job}?run`);
  expect(await (await b.css('[data-testid=run-live]')).getText()).toMatch(/The plate is at \d+ °C now\. Simulated\./);
  await (await b.css('[data-testid=run-big]')).click();
  // It is told to heat up; until it is there no key and no pedal closes it.
  await b.css('[data-testid=run-anyway]');
  const title = await (await b.css('[data-testid=run-title]')).getText();
  expect(title).toMatch(/^Wait: the plate is at \d+/);
  await b.driver.executeScript(`window.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }))`);
  expect(await (await b.css('[data-testid=press-run]')).getAttribute('data-turn')).toBe('load');
  // It comes to its heat by itself: then the piece goes in.
  await b.driver.wait(async () => (await b.driver.findElements({ css: '[data-testid=run-big]' })).length === 1, 40_000);
  expect(await (await b.css('[data-testid=run-title]')).getText()).toBe('Warm the shirt, bare.');
}, 120_000);
