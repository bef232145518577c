import { afterAll, beforeAll, expect, test } from 'vitest';
import { beginJob, chooseVinyl, setDrawing } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addPress } from '#work/workshop/presses.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, form, password, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { atThePress, sent, type Hands } from './atThePress.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// Three things as they are made, from the vinyl to the last word: a name on a stocking with an iron, a mug and a flat glass coaster in cheap
// stick-on film (cut out, and as a stencil), a printable on a cap. No step without its next one, no figure missing, each tip at its moment.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let hands: Hands;
let person: Person;

beforeAll(async () => {
  server = await serverProcess(house.url);
  person = await crafter('Wenna', 'marlow-24', 'wenna@whole.example');
  b = await openBrowser(() => server.base);
  await b.size(390, 844);
  hands = await atThePress(b);
  await signInAs(b, 'wenna@whole.example', password);
}, 120_000);
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

const letter = (hex: string) =>
  `<svg viewBox="0 0 100 60"><path d="M0 0h14v22l22-22h18v60h-14v-36l-24 24h-16z" fill="${hex}"/></svg>`;
/** A job on a blank, with its drawing. */
async function begin(blank: Record<string, string>, hex: string): Promise<string> {
  const job = await beginJob(person, shirtForm({ size: '', ...blank }));
  await setDrawing(person, job, form({ svg: letter(hex) }));
  return job;
}
async function choose(job: string, type: string, colour: string, hex: string) {
  const vinyl = await addVinyl(person, { brand: 'Tansy', name: `${colour} ${type}`, type, colour, hex });
  await chooseVinyl(person, job, form({ layer: (await jobOf(person, job)).layers[0]!.id, vinyl }));
}
const press = async (found: PromiseLike<{ click: () => Promise<void> }>) => {
  const element = await found;
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
  await element.click();
};
type Seen = { step: string; title: string; text: string };
/** The step in hand: its kind and what its page says; undefined once all is done. */
async function here(): Promise<Seen | undefined> {
  const [panel] = await b.driver.findElements({ css: '.step-panel[data-step]' });
  if (!panel) return undefined;
  return {
    step: (await panel.getAttribute('data-step'))!,
    title: await (await b.css('#step')).getText(),
    text: await panel.getText(),
  };
}
/** Takes one step by its main button, as hands do. */
async function take(kind: string) {
  if (kind === 'trim') await press(b.button('Trimmed'));
  if (kind === 'mat') await press(b.css('[data-testid=laid]'));
  // A number nobody has tried here is a guess: it is cut by a deliberate tap, never by the main button.
  if (kind === 'cut') await press(b.css('[data-testid=mark-and-look], [data-testid=cut-anyway], [data-testid=cut]'));
  if (kind === 'lift') await press(b.css('[data-answer=clean]'));
  if (kind === 'weed') await press(b.button('Weeded'));
  if (kind === 'apply') await press(b.css('.step-panel .actions .MuiButton-contained'));
}
/** Goes through a job to its end, or to its wash; what is pressed is pressed at the run. Every step seen. */
async function walk(job: string): Promise<Seen[]> {
  const seen: Seen[] = [];
  await b.go(`/jobs/${job}`);
  for (let i = 0; i < 40; i++) {
    const now = await here();
    if (!now) break;
    seen.push(now);
    // No figure missing, nothing that leads nowhere.
    expect(now.text, now.title).not.toMatch(/not said|Nobody knows|undefined|NaN/);
    const kind = now.step.split('/')[0]!;
    if (kind === 'wash') break;
    if (kind === 'press') {
      await sent(b);
      await b.go(`/jobs/${job}?run`);
      for (let k = 0; k < 30 && (await hands.turn()) !== 'done'; k++) {
        seen.push({ step: `run/${await hands.turn()}`, title: await hands.title(), text: await hands.text() });
        if ((await hands.turn()) === 'elsewhere') break;
        await hands.take();
      }
      await sent(b);
      await b.go(`/jobs/${job}`);
      continue;
    }
    await take(kind);
    await b.driver.wait(
      async () => (await here().catch(() => now))?.step !== now.step,
      20_000,
      `${now.title}: it stays`,
    );
  }
  await sent(b);
  return seen;
}
const kinds = (seen: readonly Seen[]) => seen.map((s) => s.step.split('/')[0]).filter((k, i, all) => k !== all[i - 1]);
const at = (seen: readonly Seen[], kind: string) =>
  seen
    .filter((s) => s.step.startsWith(kind))
    .map((s) => s.text)
    .join('\n');

test('a name on a stocking with an iron: a vinyl nobody knows is named in the job, its number said, and it is pressed by a word', async () => {
  await addPress(
    person,
    form({ name: 'Old iron', kind: 'iron', width: '110', length: '220', hottest: '220', shows: 'C', off: '0' }),
  );
  const job = await begin(
    { shape: 'stocking', width: '8 in', height: '4 in', edge: '0.5 in', top: '0.5 in', bottom: '0.5 in' },
    '#7a1f2b',
  );
  await b.go(`/jobs/${job}/vinyls?q=Rimefrost`);
  await b.says(/No match for/);
  await press(b.css('[data-testid=name-it]'));
  await b.at(/vinyls\/new/);
  expect(await (await b.css('[name=name]')).getAttribute('value')).toBe('Rimefrost');
  await b.fill('brand', 'Tansy');
  await press(b.css('input[name=type][value=glitter]'));
  await b.fill('colour', 'berry');
  await press(b.button('Save and use in the job'));
  await b.at(new RegExp(`/jobs/${job}/vinyls`));
  await b.css('[data-testid=named]');
  expect(await violations(b)).toEqual([]);
  await press(b.button('Next: will it cut and weed?'));
  await b.at(/\/size$/);
  await b.says('Keep in mind');
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  // A number one knows is said where it is cut, and cut with from then on; a note comes again the next time.
  const cut = (await jobOf(person, job)).sheet.steps.find((s) => s.kind === 'cut')!;
  await b.go(`/jobs/${job}?step=${cut.id}`);
  await press(b.css('[data-testid=own-number] summary'));
  await b.fill('strength', '143');
  await press(b.button('Use this from now on'));
  await b.driver.wait(async () => (await (await b.css('[data-testid=job-to-set]')).getText()).includes('143'), 20_000);
  await press(b.css('[data-testid=note-open]'));
  await (await b.css('.note-line input')).sendKeys('Slow on the curls.');
  await press(b.button('Save the note'));
  const seen = await walk(job);
  expect(kinds(seen)).toEqual(['trim', 'mat', 'cut', 'lift', 'weed', 'press', 'run', 'wash']);
  expect(at(seen, 'mat')).toMatch(/Carrier down, vinyl up\./);
  expect(at(seen, 'weed')).toMatch(/roll the mat off the vinyl[\s\S]*weeds hard/);
  const run = at(seen, 'run');
  expect(run).toMatch(/wool, blend/);
  expect(run).toMatch(/no steam/);
  expect(run).toMatch(/seam or a zip/);
  expect(at(seen, 'wash')).toMatch(/Inside out, cold and gentle\. No bleach/);
  const [kept] = await rows<{ says: string }>(house.url, 'select says from bench_note where person_id = $1', [
    person.id,
  ]);
  expect(kept!.says).toBe('Slow on the curls.');
  expect(await violations(b)).toEqual([]);
}, 300_000);

test('a mug and a flat glass coaster in cheap stick-on film: slits on the round one alone; cut out, and as a stencil', async () => {
  const mug = await begin(
    {
      shape: 'cup',
      surface: 'glass',
      width: '4 in',
      height: '3.5 in',
      edge: '0.5 in',
      top: '0.5 in',
      bottom: '0.5 in',
    },
    '#20242b',
  );
  await choose(mug, 'budget-adhesive', 'black', '#20242b');
  await b.go(`/jobs/${mug}/size`);
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  const round = await walk(mug);
  expect(kinds(round)).toEqual(['trim', 'mat', 'cut', 'lift', 'weed', 'apply']);
  expect(at(round, 'mat')).toMatch(/Backing down, film up\.[\s\S]*Not mirrored/);
  expect(at(round, 'apply')).toMatch(/It is round: slit the tape/);
  expect(at(round, 'apply')).toMatch(/Ordinary transfer tape/);
  // Nobody asks how a mug washed, and nobody wears it.
  expect(await b.text()).toMatch(/All done\. Use it/);
  const flat = await begin(
    {
      shape: 'coaster',
      surface: 'glass',
      width: '4 in',
      height: '4 in',
      edge: '0.25 in',
      top: '0.25 in',
      bottom: '0.25 in',
    },
    '#20242b',
  );
  await choose(flat, 'budget-adhesive', 'grey', '#8a8d91');
  await b.go(`/jobs/${flat}/size`);
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  await press(b.css('input[name=stencil]'));
  await b.driver.wait(async () => (await jobOf(person, flat)).plan.layers[0]!.stencil === true, 20_000);
  const stencil = await walk(flat);
  const laid = at(stencil, 'apply');
  expect(laid).not.toMatch(/slit/);
  expect(stencil.filter((s) => s.step.startsWith('apply')).map((s) => s.title.split(',')[0])).toHaveLength(5);
  expect(laid).toMatch(/thin coats/);
  expect(laid).toMatch(/Pull the stencil off/);
  expect(at(stencil, 'weed')).toMatch(/the design comes out, the film round it stays/);
  expect(await violations(b)).toEqual([]);
}, 300_000);

test('a printable on a cap, from its backing to its cover: in place on the mat, off its backing, pressed from outside, the cover lifted', async () => {
  await addPress(
    person,
    form({ name: 'Cap press', kind: 'cap press', width: '150', length: '90', hottest: '210', shows: 'C', off: '0' }),
  );
  const job = await begin(
    { shape: 'cap', surface: 'cap', width: '5 in', height: '3.5 in', edge: '0.75 in', top: '0.5 in', bottom: '0.5 in' },
    '#2f5d50',
  );
  await choose(job, 'printable', 'print', '#ffffff');
  await b.go(`/jobs/${job}/size`);
  await b.says(/At most 3 in/);
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  const seen = await walk(job);
  expect(at(seen, 'mat')).toMatch(/where the screen shows it/);
  expect(at(seen, 'weed')).toMatch(/ink scratches/);
  expect(at(seen, 'apply')).toMatch(/off its backing before you press/);
  const run = at(seen, 'run');
  expect(run).toMatch(/stiffener/);
  expect(run).toMatch(/cover/);
  // Over what a cap is said to take, said at the number.
  expect(run).toMatch(/374|190/);
  // A cap is not pressed bare, and not washed.
  expect(seen.map((s) => s.title).join('\n')).not.toMatch(/bare|Wash/);
  expect(await b.text()).toMatch(/All done\. Wear it; it is not washed\./);
  expect(await violations(b)).toEqual([]);
}, 300_000);
