import { v4 as uuidv4 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { pressId } from '#core/job/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { takeAll } from '#work/deliver.ts';
import { setPress } from '#work/jobs/jobs.ts';
import { jobsOf } from '#work/jobs/list.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addRecipe, recipesOn } from '#work/vinyls/recipes.ts';
import { wellKnown } from '#work/vinyls/swatchPress.ts';
import { beginSwatch, gradeSwatch, keepSwatchRecipe, setSwatchAway, swatchesOn } from '#work/vinyls/swatches.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { addPress, measuredPress, measurePress } from '#work/workshop/presses.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { job, said, someone, two, vinyl } from '../pressed.ts';
import { rows } from '../testDatabase.ts';

// Swatches on a press that is set by words: what a word has is found, jobs take it, recipes belong to their press.
const house = ownHouse();
const little = {
  name: 'Little',
  kind: 'small press',
  width: '130',
  length: '90',
  hottest: '360',
  shows: 'F',
  off: '0',
};
const plate = { name: 'Big plate', kind: 'plate', width: '380', length: '380', hottest: '430', shows: 'F', off: '0' };
/** What the words of this one truly have, °C: medium is hot. */
const truly: Record<string, number> = { low: 136, medium: 163, high: 184 };
const one = two.replace('#b3202c', '#1f3a5f');

async function withPress(...of: Record<string, string>[]) {
  const person = await someone();
  for (const p of of) await addPress(person, form(p));
  return { person, presses: (await workshopOf(person)).presses };
}
/** How squares of a film come out that bonds from a dose of −0.5 on and suffers from 0.8 on. */
function grades(cells: readonly { heat: number; seconds: number; word?: string }[]) {
  return form(
    Object.fromEntries(
      cells.flatMap((c, i) => {
        const heat = c.word ? truly[c.word]! : c.heat / 1000;
        const [b, h] = [0.35, 0.55].map((beta) => Math.log(c.seconds / 15) + (beta * (heat - 150)) / 10);
        return [
          [`bond-${i}`, b! > -0.5 ? 'bonded' : b! > -0.85 ? 'edges lift' : 'not bonded'],
          [`harm-${i}`, h! < 0.8 ? 'fine' : h! < 1.1 ? 'shine mark' : 'scorched'],
        ];
      }),
    ),
  );
}
/** Cards of a vinyl on a press until there is enough, or so many. */
async function cards(person: Person, vinylId: string, press: string, most = 3) {
  for (let k = 0; k < most; k++) {
    const before = await swatchesOn(person, await vinylOf(person, vinylId), 'plain-cloth', press);
    if (before.next.length === 0) return before;
    await beginSwatch(person, vinylId, 'plain-cloth', press);
    const open = (await swatchesOn(person, await vinylOf(person, vinylId), 'plain-cloth', press)).cards.at(-1)!;
    await gradeSwatch(person, vinylId, open.id, grades(open.cells));
  }
  return swatchesOn(person, await vinylOf(person, vinylId), 'plain-cloth', press);
}
const level = async (person: Person, press: string, word: string) =>
  (await measuredPress(person, press)).source.levels.find((l) => l.word === word)!;

describe('swatches on a press that is set by words', () => {
  test('cards are said in words; what a word has is found by several vinyls, and open jobs take it', async () => {
    const { person, presses } = await withPress(plate, little);
    const [big, small] = presses;
    const ids = [await vinyl(person, 'navy'), await vinyl(person, 'red'), await vinyl(person, 'moss')];
    const open = await job(person, [ids[0]!, ids[0]!], { svg: one });
    await setPress(person, open, form({ press: small!.id }));
    const before = (await jobOf(person, open)).press.find((s) => s.does === 'layer')!;
    expect(before.toSet).toBe('medium');
    // Known where heat is known: the plate shows degrees.
    for (const id of ids) await cards(person, id, big!.id);
    expect((await wellKnown(person)).map((v) => v.id).sort()).toEqual([...ids].sort());
    for (const id of ids) {
      const read = await cards(person, id, small!.id);
      expect(read.press).toMatchObject({ id: small!.id, words: true });
      const own = read.cards.filter((c) => c.press === 'Little').flatMap((c) => c.cells);
      expect(own.every((c) => c.set === `“${c.word}”`)).toBe(true);
    }
    const view = await swatchesOn(person, await vinylOf(person, ids[0]!), 'plain-cloth', small!.id);
    const found = view.result.dial!.filter((w) => w.known === 'found');
    expect(found.length).toBeGreaterThan(0);
    for (const w of found) {
      expect(Math.abs(w.celsius - truly[w.word]!)).toBeLessThanOrEqual(8);
      expect(await level(person, small!.id, w.word)).toMatchObject({ how: 'swatch' });
    }
    // The job is set by what was found.
    const after = (await jobOf(person, open)).press.find((s) => s.does === 'layer')!;
    const taken = await level(person, small!.id, after.toSet!);
    expect(after.heat).toBe(taken.heat);
    // A square counts as evidence at the heat that was found, on the press it was pressed with.
    const kept = await rows<{ word: string; heat: number }>(
      house.url,
      `select word, (way->>'heat')::int as heat from press_outcome where person_id = $1 and press_id = $2 and undone_at is null`,
      [person.id, small!.id],
    );
    expect(kept.length).toBeGreaterThan(0);
    expect(kept.every((k) => k.heat > 100_000)).toBe(true);
  }, 120_000);

  test('a thermometer says it for good: swatches move it no more, and it moves what they say', async () => {
    const { person, presses } = await withPress(little);
    const [small] = presses;
    const id = await vinyl(person, 'navy');
    await measurePress(person, small!.id, form({ 'level-1': '325' }));
    const read = await cards(person, id, small!.id, 1);
    expect(read.result.dial!.find((w) => w.word === 'medium')).toMatchObject({ fahrenheit: 325, doubt: 0 });
    expect(await level(person, small!.id, 'medium')).toMatchObject({ how: 'thermometer', heat: 162_778 });
    // What swatches found stays while the form is empty, and goes where a thermometer speaks.
    await measurePress(person, small!.id, form({ 'level-1': '' }));
    expect((await level(person, small!.id, 'medium')).how).not.toBe('thermometer');
  }, 60_000);

  test('words that a thermometer finds alike still make a dial', async () => {
    const { person, presses } = await withPress(little);
    await measurePress(person, presses[0]!.id, form({ 'level-0': '300', 'level-2': '300' }));
    const id = await vinyl(person, 'navy');
    const read = await swatchesOn(person, await vinylOf(person, id), 'plain-cloth');
    expect(read.press!.id).toBe(presses[0]!.id);
    expect(read.next.length).toBeGreaterThan(0);
  });

  test('a card that was not pressed is put away, and what it said goes with it; anybody else’s is not there', async () => {
    const { person, presses } = await withPress(plate);
    const id = await vinyl(person, 'navy');
    await cards(person, id, presses[0]!.id, 1);
    const count = async () =>
      Number(
        (
          await rows<{ n: string }>(
            house.url,
            'select count(*) as n from press_outcome where person_id = $1 and undone_at is null',
            [person.id],
          )
        )[0]!.n,
      );
    const [card] = (await swatchesOn(person, await vinylOf(person, id), 'plain-cloth')).cards;
    expect(await count()).toBe(card!.cells.length);
    await expect(setSwatchAway(await someone(), card!.id)).rejects.toThrow(NotFound);
    await setSwatchAway(person, card!.id);
    expect(await count()).toBe(0);
    expect((await swatchesOn(person, await vinylOf(person, id), 'plain-cloth')).cards).toEqual([]);
    await beginSwatch(person, id, 'plain-cloth');
    await expect(setSwatchAway(person, uuidv4())).rejects.toThrow(NotFound);
  });
});

describe('a recipe belongs to its press', () => {
  const wrote = { unit: 'F', from: '12', to: '12', peel: 'warm', surface: 'plain-cloth' };
  test('it is taken with that press alone, speaks for it, and only what was pressed with it proves it', async () => {
    const { person, presses } = await withPress(plate, { ...plate, name: 'Old plate', width: '400', off: '6' });
    const [big, old] = presses;
    const id = await vinyl(person, 'navy');
    const made = await job(person, [id, id], { svg: one });
    expect((await jobOf(person, made)).pressPlan.source!.id).toBe(big!.id);
    await addRecipe(person, id, form({ ...wrote, heat: '290', press: old!.id }));
    // What one has a recipe for comes first, and says so.
    const now = await jobOf(person, made);
    expect(now.pressPlan.source).toMatchObject({ id: old!.id, because: expect.stringMatching(/^You have a recipe/) });
    expect(now.press.find((s) => s.does === 'layer')).toMatchObject({ seconds: 12, heat: 143_333 });
    await setPress(person, made, form({ press: big!.id }));
    const other = await jobOf(person, made);
    expect(other.press.find((s) => s.does === 'layer')!.heat).not.toBe(143_333);
    // The same figures on any press are another recipe: what was pressed here proves that one, not the one of the old plate.
    await addRecipe(person, id, form({ ...wrote, heat: '290' }));
    const { plan, press, rev } = await jobOf(person, made);
    const step = `press/${pressId(plan.pieces[0]!.id, press.at(-1)!.what)}`;
    await takeAll(person, [
      { ...said(made, step, { kind: 'outcome', pieces: [plan.pieces[0]!.id], word: 'bonded', recipe: '' }), rev },
    ]);
    const mine = (await recipesOn(person, await vinylOf(person, id), 'plain-cloth')).recipes.filter(
      (r) => r.from === 'you',
    );
    // What was tried comes before what nobody has pressed yet.
    expect(mine.map((r) => [r.press, r.pieces])).toEqual([
      [undefined, 1],
      [old!.id, 0],
    ]);
    // Nobody writes a recipe for a press that is not theirs.
    await expect(addRecipe(await someone(), id, form({ ...wrote, heat: '290', press: old!.id }))).rejects.toThrow(
      NotFound,
    );
  });

  test('a recipe that swatches found by a word is for that press; by degrees it is for any', async () => {
    const { person, presses } = await withPress(plate, little);
    const id = await vinyl(person, 'navy');
    for (const [i, press] of presses.entries()) {
      const read = await cards(person, id, press.id);
      expect(read.result.verdict).toBe('enough');
      await keepSwatchRecipe(person, id, 'plain-cloth', press.id);
      const [kept] = await rows<{ press_id: string | null }>(
        house.url,
        'select press_id from recipe where person_id = $1 order by made_at desc limit 1',
        [person.id],
      );
      expect(kept!.press_id).toBe(i === 0 ? null : press.id);
    }
  }, 60_000);
});

describe('thin lines', () => {
  test('how thin a layer is stands in the plan: run, list and evidence take the same seconds', async () => {
    const person = await someone();
    const thin =
      '<svg viewBox="0 0 100 100"><rect y="20" width="100" height="0.6" fill="#1f3a5f"/><rect width="100" height="8" fill="#1f3a5f"/></svg>';
    const id = await vinyl(person, 'navy');
    await addRecipe(person, id, form({ heat: '305', unit: 'F', from: '10', to: '20', peel: 'warm', surface: '' }));
    const made = await job(person, [id], { svg: thin });
    const { plan, press, rev, sheet } = await jobOf(person, made);
    // 0.6 of 100 on 8 in.
    expect(Math.abs(plan.layers[0]!.thinUm! - 1219)).toBeLessThan(25);
    const layer = press.find((s) => s.does === 'layer')!;
    expect(layer.seconds).toBe(20);
    await takeAll(person, [
      {
        ...said(made, `press/${pressId(plan.pieces[0]!.id, layer.what)}`, {
          kind: 'outcome',
          pieces: [plan.pieces[0]!.id],
          word: 'bonded',
          recipe: '',
        }),
        rev,
      },
    ]);
    const [kept] = await rows<{ seconds: number[] }>(
      house.url,
      `select way->'seconds' as seconds from press_outcome where job_id = $1`,
      [made],
    );
    expect(kept!.seconds).toEqual([20, 20]);
    expect((await jobsOf(person)).find((j) => j.id === made)!.of).toBe(sheet.steps.length);
    const broad = await job(person, [id, id], { svg: one });
    expect((await jobOf(person, broad)).press.find((s) => s.does === 'layer')!.seconds).toBe(10);
  });
});
