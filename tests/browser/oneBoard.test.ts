import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { beginJob, chooseVinyl, setDrawing } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { openBrowser, signInAs, type Browser } from '../../bin/lib/browser.ts';
import { crafter, form, password, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { atThePress, sent } from './atThePress.ts';
import { violations } from './axe.ts';
import { serverProcess, type ServerProcess } from './serverProcess.ts';

// On a phone: a puff that closes is never "good" before it is mended, whichever page one looks at; a batch of four that lost one star.
const house = ownHouse();
let server: ServerProcess;
let b: Browser;
let person: Person;

beforeAll(async () => {
  server = await serverProcess(house.url);
  person = await crafter('Wenna', 'marlow-24', 'wenna@board.example');
  b = await openBrowser(() => server.base);
  await b.size(390, 844);
  await signInAs(b, 'wenna@board.example', password);
}, 120_000);
afterAll(async () => {
  await b?.close();
  await server?.kill();
});

/** A sheet with a counter of 1.5 % of its width, and three small squares beside it. */
const drawn = `<svg viewBox="0 0 100 60"><path fill="#b3202c" fill-rule="evenodd" d="M0 0h60v60h-60zM30 30v1.5h1.5v-1.5zM70 0h4v4h-4zM70 30h4v4h-4zM96 56h4v4h-4z"/></svg>`;
async function begin(type: string, more: Record<string, string> = {}): Promise<string> {
  const job = await beginJob(person, shirtForm(more));
  await setDrawing(person, job, form({ svg: drawn }));
  const vinyl = await addVinyl(person, { brand: 'Tansy', name: `My ${type}`, type, colour: 'red', hex: '#b3202c' });
  await chooseVinyl(person, job, form({ layer: (await jobOf(person, job)).layers[0]!.id, vinyl }));
  return job;
}
const press = async (found: PromiseLike<{ click: () => Promise<void> }>) => {
  const element = await found;
  await b.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
  await element.click();
};
const step = (kind: string) => b.css(`.step-panel[data-step^="${kind}/"]`);

test('a puff that closes: never good before it is mended, on the board or in the check; size and film go along', async () => {
  const job = await begin('puff');
  await b.go(`/jobs/${job}/size`);
  const width = await b.css('[name=width]');
  await width.clear();
  await width.sendKeys('120');
  await b.css('[data-testid=verdict]:not([data-faults="0"])');
  await b.says(/too fine for puff/);
  await b.says(/It swells in the press/);
  const faults = await (await b.css('[data-testid=verdict]')).getAttribute('data-faults');
  expect(await violations(b)).toEqual([]);
  // Calm, with its reason: nothing leads on but a fix, or a deliberate tap.
  expect(await b.driver.findElements({ css: '[data-testid=next]' })).toHaveLength(0);
  await press(b.css('[data-testid=closer]'));
  await b.at(/\/check\?job=/);
  const answer = await b.css('[data-testid=check-answer]');
  expect(await answer.getText()).toBe(`${faults} ${faults === '1' ? 'place is' : 'places are'} too narrow`);
  expect(await (await b.css('[data-testid=check-width]')).getText()).toMatch(/120 mm|4\.72/);
  await b.driver.navigate().back();
  await b.at(/\/size/);
  expect(Number(await (await b.css('[name=width]')).getAttribute('value'))).toBeCloseTo(120, 0);
  await press(b.css('[data-testid=mend]'));
  await b.css('[data-testid=mended]');
  await b.css('[data-testid=verdict][data-faults="0"]');
  await b.says(/Good at/);
  expect(await violations(b)).toEqual([]);
  await press(b.css('[data-testid=next]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  await step('trim');
});

test('a batch of four: a guess is offered a test cut, which leads back here; one lost square is cut again by itself', async () => {
  const job = await begin('glitter', { count: '4' });
  await b.go(`/jobs/${job}/size`);
  await press(b.css('[data-testid=next], [data-testid=anyway]'));
  await b.at(/jobs\/[0-9a-f-]{36}$/);
  await press(b.button('Trimmed'));
  await step('mat');
  await press(b.css('[data-testid=laid]'));
  await step('cut');
  await b.css('[data-testid=guess]');
  await b.says(/[Nn]ot clean in about \d+ of \d+ cuts/);
  expect(await violations(b)).toEqual([]);
  // The one button that stands out makes a test cut.
  expect(await (await b.css('.guess-ways .MuiButton-contained')).getAttribute('data-testid')).toBe('test-first');
  await press(b.css('[data-testid=test-first]'));
  await b.at(/coupons\/new\?.*job=/);
  await press(b.css('main form button[type=submit].MuiButton-contained'));
  await b.at(/coupons\/[0-9a-f-]{36}/);
  await press(b.css('[data-testid=back-to-job]'));
  await step('cut');
  await press(b.css('[data-testid=mark-and-look], [data-testid=cut-anyway]'));
  await step('lift');
  await press(b.css('[data-answer=clean]'));
  await step('weed');
  await press(b.button('Something went wrong'));
  await press(b.css('[data-symptom=lost]'));
  await press(b.css('.lost-pieces [role=group] button'));
  const shapes = await b.driver.findElements({ css: '[data-shape]' });
  expect(shapes).toHaveLength(4);
  const sizes = await Promise.all(shapes.map(async (s) => (await s.getRect()).width));
  const small = shapes[sizes.indexOf(Math.min(...sizes))]!;
  await press(Promise.resolve(small));
  await b.css('[data-testid=tap-lost] .gone');
  expect(await violations(b)).toEqual([]);
  await press(b.css('[data-testid=cut-these]'));
  await sent(b);
  await b.driver.wait(async () => (await jobOf(person, job)).parts.length === 1, 20_000, 'nothing is cut again');
  const [recut] = (await jobOf(person, job)).parts;
  expect([recut!.pieces, recut!.shown.length]).toEqual([1, 1]);
  // An offcut for one square, and no question yet whether it helped.
  expect(Math.max(recut!.film!.width, recut!.film!.height)).toBeLessThan(50_000);
  expect(await b.driver.findElements({ css: '[data-testid=helped]' })).toHaveLength(0);
  expect(await violations(b)).toEqual([]);
});

test('forms that are refused stay open, say which field, and keep what was typed: a press, a new blade', async () => {
  await b.go('/workshop');
  await press(b.button('Add a press'));
  await b.fill('hottest', '215');
  await press(b.css('form:has(input[value=press]) button[type=submit]'));
  await b.css('#press-name-helper-text');
  expect(await (await b.css('[name=hottest]')).getAttribute('value')).toBe('215');
  expect(await violations(b)).toEqual([]);
  await b.fill('name', 'Big plate');
  await press(b.css('form:has(input[value=press]) button[type=submit]'));
  await b.says('Big plate');
  // With one more it is put away.
  await b.driver.wait(async () => (await b.driver.findElements({ css: '#press-name' })).length === 0, 20_000);
  await press(b.button('Mount a new blade'));
  await b.fill('angle', 'steep');
  await press(b.button('Mount it'));
  await b.css('form:has(input[value=blade]) .Mui-error');
  expect(await (await b.css('[name=angle]')).getAttribute('value')).toBe('steep');
});

test('a shirt of two colours on a phone, from the list of jobs to its wash: 28 taps at most', async () => {
  const [navy, red] = await Promise.all(
    ['navy', 'red'].map((name, i) =>
      addVinyl(person, { brand: 'Larkfield', name, type: 'smooth', colour: name, hex: i ? '#b3202c' : '#1f3a5f' }),
    ),
  );
  await addPiece(person, navy!, form({ kind: 'roll', width: '305 mm', length: '3 m' }));
  const phone = await openBrowser(() => server.base);
  try {
    await phone.size(390, 844);
    const hands = await atThePress(phone);
    await signInAs(phone, 'wenna@board.example', password);
    await phone.go('/jobs');
    let taps = 0;
    const tap = async (css: string) => {
      const element = await phone.css(css);
      await phone.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
      await element.click();
      taps++;
    };
    const at = async () =>
      phone.driver.executeScript<string>(
        `return document.querySelector('.press-run') ? 'run' : (document.querySelector('.step-panel')?.dataset.step ?? '')`,
      );
    await tap('main a[href="/jobs/new"]');
    await phone.at(/jobs\/new/);
    await tap('.blank-form button[type=submit]');
    await phone.at(/jobs\/art/);
    const file = join(mkdtempSync(join(tmpdir(), 'versipel-art-')), 'two.svg');
    writeFileSync(
      file,
      `<svg viewBox="0 0 100 60"><path fill="#1f3a5f" d="M0 0h100v60h-100z"/><path fill="#b3202c" d="M30 15h40v30h-40z"/></svg>`,
    );
    await (await phone.css('input[type=file]')).sendKeys(file);
    taps++;
    await phone.at(/\/(vinyls|size)$/);
    if (/vinyls$/.test(await phone.driver.getCurrentUrl())) await tap(`.offers form:has([value="${red}"]) button`);
    await phone.at(/\/size$/);
    await tap('[data-testid=next], [data-testid=anyway]');
    await phone.at(/jobs\/[0-9a-f-]{36}$/);
    const job = new URL(await phone.driver.getCurrentUrl()).pathname.split('/').at(-1)!;
    let first = 0;
    let step = '';
    for (let i = 0; i < 80; i++) {
      await phone.driver.wait(
        async () => (await at()) !== step || (await at()) === 'run',
        20_000,
        `still at ${step} after ${taps} taps`,
      );
      step = await at();
      if (step.startsWith('wash')) break;
      if (step === 'run') {
        if ((await hands.turn()) === 'done') {
          await phone.driver.navigate().back();
          await phone.driver.wait(async () => (await at()) !== 'run', 10_000);
          continue;
        }
        await hands.take();
        taps++;
        continue;
      }
      const kind = step.slice(0, step.indexOf('/'));
      if (kind === 'trim') await tap('.step-panel .actions .MuiButton-contained');
      else if (kind === 'mat') await tap('[data-testid=laid]');
      else if (kind === 'cut') {
        await tap('[data-testid=mark-and-look], [data-testid=cut-anyway], .step-panel .actions .MuiButton-contained');
        first ||= taps;
      } else if (kind === 'lift') await tap('[data-answer=clean]');
      else if (kind === 'weed') await tap('.step-panel .actions .MuiButton-contained');
      else await tap('.run-open');
    }
    await sent(phone);
    // What the washing of it says is one more.
    expect((await jobOf(person, job)).sheet.next).toMatch(/^wash/);
    console.info(`taps to the first load: ${first}, to the wash: ${taps}`);
    expect(first).toBeLessThanOrEqual(12);
    expect(taps).toBeLessThanOrEqual(28);
  } finally {
    await phone.close();
  }
});
