import { afterAll, beforeAll, expect, test } from 'vitest';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, password } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { shirts, upToThePress } from '../shirts.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Three shirts: film of two of them tears while it is weeded and is cut again for those alone; steps of one's own come after the press.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let person: Person;
let job = '';

beforeAll(async () => {
  server = await serverProcess(house.url);
  b = await openBrowser(() => server.base);
  person = await crafter('Tove', 'marlow-24', 'tove@own.example');
  ({ job } = await shirts(person, 3));
  await upToThePress(person, job, Date.now() - 3_600_000, ['weed', 'press', 'wash']);
  await signInAs(b, 'tove@own.example', password);
}, 120_000);
afterAll(async () => {
  await b?.close();
  await server?.kill();
});
/** The job once it says something, as words of a page are on their way for a moment. */
async function once<T>(of: () => Promise<T>, holds: (t: T) => boolean): Promise<T> {
  let now = await of();
  for (let i = 0; i < 60 && !holds(now); i++) {
    await b.driver.sleep(250);
    now = await of();
  }
  return now;
}

test('film that tears while it is weeded is cut again for the shirts that lost it', async () => {
  const weed = (await jobOf(person, job)).sheet.steps.find((s) => s.kind === 'weed')!;
  await b.go(`/jobs/${job}?step=${weed.id}`);
  await (await b.button('Something went wrong')).click();
  await (await b.css('[data-symptom=lost]')).click();
  const again = await b.css('[data-remedy="cut for piece"]');
  // Which of them has to be said first.
  expect(await again.isEnabled()).toBe(false);
  await (await b.button('shirt 1')).click();
  await (await b.button('shirt 3')).click();
  expect(await violations(b)).toEqual([]);
  await (await b.button('The whole layer again, for 2 pieces')).click();
  const now = await once(
    () => jobOf(person, job),
    (j) => j.parts.length === 1,
  );
  expect(now.parts[0]!.film!.copies).toHaveLength(2);
  const parts = now.sheet.steps.filter((s) => s.kind === 'cut' && s.layer === now.parts[0]!.id);
  expect(parts).toHaveLength(2);
  // Weeded, the one in the middle goes to the press; the other two wait for theirs.
  await upToThePress(person, job, Date.now() - 1_800_000, ['trim', 'press', 'wash']);
  const lost = new Set(now.plan.pieces.filter((_, i) => i !== 1).map((p) => p.id));
  const lower = now.plan.layers[0]!.id;
  const waits = (await jobOf(person, job)).sheet.steps.filter(
    (s) => s.kind === 'press' && s.layer === lower && s.needs.some((n) => n === `weed/${now.parts[0]!.part}`),
  );
  expect(waits).toHaveLength(lost.size);
}, 120_000);

test('a step of one’s own is added, is the last of each shirt, and is taken out again', async () => {
  await b.go(`/jobs/${job}`);
  const before = (await b.driver.findElements({ css: '.sheet-list ol li' })).length;
  await (await b.css('[data-testid=own-steps] summary')).click();
  await (await b.css('[data-testid=own-steps] [name=says]')).sendKeys('Fold it and tie the ribbon');
  await (await b.css('[data-testid=own-steps] [name=rest]')).sendKeys('an hour');
  await (await b.button('Add it')).click();
  // What was typed stays, and what is wrong is said beside it.
  await b.says('0 to 1440 minutes');
  expect(await (await b.css('[data-testid=own-steps] [name=says]')).getAttribute('value')).toMatch(/ribbon/);
  const rest = await b.css('[data-testid=own-steps] [name=rest]');
  await rest.clear();
  await rest.sendKeys('60');
  await (await b.button('Add it')).click();
  await b.says('Fold it and tie the ribbon');
  const steps = await once(
    async () => (await b.driver.findElements({ css: '.sheet-list ol li' })).length,
    (n) => n === before + 3,
  );
  expect(steps).toBe(before + 3);
  const { plan, sheet } = await jobOf(person, job);
  expect(plan.finish).toMatchObject([{ says: 'Fold it and tie the ribbon', rest: 3_600 }]);
  await b.go(`/jobs/${job}?step=${sheet.steps.find((s) => s.kind === 'apply')!.id}`);
  await b.says('Let it rest 60 min');
  // It says nothing of how a film holds.
  expect(await (await b.css('.press-step')).getText()).not.toMatch(/How does it hold/);
  // It rests on a clock of its own, whichever step is in hand.
  await (await b.button('Let it rest 60 min')).click();
  expect(await (await b.css('[data-testid=countdown]')).getText()).toMatch(/^(1:00:00|59:\d\d)/);
  await (await b.css('.sheet-list ol li a')).click();
  expect(await (await b.css('[data-testid=rests]')).getText()).toMatch(/tie the ribbon.*\n?.*(1:00:00|59:\d\d) left/);
  await b.go(`/jobs/${job}`);
  expect(await (await b.css('[data-testid=rests]')).getText()).toMatch(/(1:00:00|59:\d\d) left/);
  expect(await violations(b)).toEqual([]);
  await (await b.css('[data-testid=own-steps] summary')).click();
  await (await b.button('Take it out')).click();
  expect(
    (
      await once(
        () => jobOf(person, job),
        (j) => j.plan.finish.length === 0,
      )
    ).plan.finish,
  ).toEqual([]);
}, 120_000);
