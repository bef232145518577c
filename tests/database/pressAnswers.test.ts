import { v7 as uuidv7 } from 'uuid';
import { beforeAll, describe, expect, test } from 'vitest';
import type { PressAnswer } from '#core/press/index.ts';
import { fahrenheitToMilliCelsius as f } from '#core/units/index.ts';
import type { BlankKey } from '#core/vinyls/index.ts';
import { chartOf } from '#work/answer/chart.ts';
import { listVinyls } from '#work/answer/list.ts';
import { pressForCard } from '#work/answer/shelf.ts';
import { tablePage, tableQuery } from '#work/answer/table.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addLeaflet } from '#work/vinyls/leaflet.ts';
import { pressAnswers } from '#work/vinyls/pressAnswers.ts';
import { addRecipe, recipesOn } from '#work/vinyls/recipes.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import { beginSwatch, gradeSwatch, readUnreadSwatches, setSwatchAway, swatchesOn } from '#work/vinyls/swatches.ts';
import { addVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { leanPress, sayPress } from '../../app/ui/vinyls/sayPress.ts';
import { crafter, form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { job } from '../pressed.ts';

const one = '<svg viewBox="0 0 100 100"><rect width="100" height="100" fill="#c0c4cc"/></svg>';

// One answer to "how do I press this", from every source in turn, the same on every screen.
const house = ownHouse();
let [ada, bee]: Person[] = [];
let vinyl = '';
const silver = { brand: 'Quillow', type: 'holographic', colour: 'silver', hex: '#c0c4cc' };
beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@answers.example');
  bee = await crafter('Bee Marsh', 'marlow-24', 'bee@answers.example');
  vinyl = await addVinyl(ada, { ...silver, name: 'Shoal' }, 'public');
});

const answer = async (person: Person | undefined = ada, surface: BlankKey = 'plain-cloth'): Promise<PressAnswer> =>
  (await pressAnswers(person, [await vinylOf(person, vinyl)], surface)).get(vinyl)!;
const says = async (person?: Person, surface?: BlankKey) => {
  const { said } = await answer(person, surface);
  return [said?.source, said?.way.heat, said?.way.seconds?.[1]];
};
/** Pieces of a person's that came out of the press as a way says. */
async function pressed(person: Person, heat: number, seconds: number, word: string, days: readonly number[]) {
  for (const day of days)
    await rows(
      house.url,
      `insert into press_outcome (event_id, vinyl_id, person_id, job_id, piece_id, surface, way, word, kind, at)
       values ($1, $2, $3, null, $4, 'plain-cloth', $5, $6, 'swatch', now() - make_interval(days => $7))`,
      [uuidv7(), vinyl, person.id, uuidv7(), { heat, seconds: [seconds, seconds], peel: 'by the leaflet' }, word, day],
    );
}

/** What every screen says of the vinyl to Ada: lists, table, chart, card, label, bench card, job, recipes. */
async function everywhere(): Promise<string[]> {
  const line = (a: PressAnswer | undefined) => {
    const said = a && sayPress(leanPress(a), 'C');
    return said ? `${said.figures}: ${said.source}` : '';
  };
  const mine = <T extends { id: string }>(list: readonly T[]) => list.find((r) => r.id === vinyl)!;
  const { press, pressPlan } = await jobOf(ada, await job(ada!, [vinyl], { svg: one }));
  const layer = press.find((s) => s.does === 'layer')!;
  const told = (await answer()).said!;
  expect([layer.heat, layer.by]).toEqual([told.way.heat, told.source]);
  // Of a range a job takes what its lines want.
  expect(layer.seconds).toBeGreaterThanOrEqual(told.way.seconds![0]);
  expect(layer.seconds).toBeLessThanOrEqual(told.way.seconds![1]);
  expect(pressPlan.said[0]).toMatchObject({ source: told.source });
  return [
    line(await answer()),
    line(mine(await listVinyls(ada, undefined, 'shoal')).press),
    line(mine((await tablePage(ada, undefined, tableQuery.parse({ q: 'shoal', mine: 'no' }))).rows).press),
    line(mine((await chartOf(ada, 'shoal', [])).rows).press),
    line(await pressForCard(ada, vinyl)),
    line((await recipesOn(ada, await vinylOf(ada, vinyl), 'plain-cloth')).answer),
  ];
}
const same = (list: readonly string[]) => expect(new Set(list).size, list.join(' | ')).toBe(1);

describe('each source in its turn', () => {
  test('its type; proven by others; its leaflet; the way one chose; one’s own written, tried, proven, doubted', async () => {
    const seen: (string | undefined)[] = [];
    const look = async (source: string, heat: number, seconds: number | undefined) => {
      expect(await says()).toEqual([source, heat, seconds]);
      same(await everywhere());
      seen.push((await everywhere())[0]);
    };
    await look('type', f(320), 20);
    const theirs = {
      heat: '318',
      unit: 'F',
      from: '16',
      to: '16',
      peel: 'cold',
      surface: 'plain-cloth',
      shared: 'yes',
    };
    await addRecipe(bee!, vinyl, form(theirs));
    // What others only wrote stands beside it.
    await look('type', f(320), 20);
    await pressed(bee!, f(318), 16, 'bonded', [40, 33, 26, 20, 15, 10, 6, 3, 1]);
    await look('proven by others', f(318), 16);
    await addLeaflet(ada!, vinyl, form({ heat: '160', heatUnit: 'C', from: '12', to: '15', peel: 'hot' }));
    await look('leaflet', 160_000, 15);
    await followSchool(ada!, vinyl, form({ topic: 'press', way: '330 30' }));
    await look('chosen', f(330), 30);
    await addRecipe(
      ada!,
      vinyl,
      form({ heat: '305', unit: 'F', from: '18', to: '18', peel: 'cool', surface: 'plain-cloth' }),
    );
    await look('own written', f(305), 18);
    await pressed(ada!, f(305), 18, 'bonded', [40, 33]);
    await look('own tried', f(305), 18);
    await pressed(ada!, f(305), 18, 'bonded', [26, 20, 15, 10, 6, 3, 2]);
    await look('own proven', f(305), 18);
    expect(new Set(seen).size).toBe(7);
    // Doubted it stands beside, and what comes next answers.
    for (let i = 0; i < 4; i++) await pressed(ada!, f(305), 18, 'not bonded', [1]);
    await look('chosen', f(330), 30);
    expect((await answer()).beside.map((s) => s.source)).toContain('own doubted');
    // Others are told what they know.
    expect((await says(bee))[0]).toBe('own proven');
    const nobody = (await pressAnswers(undefined, [await vinylOf(undefined, vinyl)])).get(vinyl)!;
    expect(nobody.said!.source).toBe('leaflet');
  }, 120_000);

  test('a heat over what the surface takes is said at the number; on glass there is no number', async () => {
    expect((await answer(ada, 'long-fur')).overSurface).toMatch(/^Long pile takes/);
    expect(await answer(ada, 'glass')).toMatchObject({ pressed: false, said: undefined });
  });
});

describe('squares', () => {
  test('what they found answers the next job, before anybody keeps it; put away, it is gone', async () => {
    const id = await addVinyl(ada!, { ...silver, name: 'Eddy' });
    const asked = async () =>
      (await pressAnswers(ada, [await vinylOf(ada, id)])).get(id)!.said as {
        source: string;
        by?: string;
        way: { heat: number };
      };
    let found = (await swatchesOn(ada!, await vinylOf(ada, id), 'plain-cloth')).result;
    for (let i = 0; i < 6 && !found.recipe; i++) {
      await beginSwatch(ada!, id, 'plain-cloth');
      const card = (await swatchesOn(ada!, await vinylOf(ada, id), 'plain-cloth')).cards.at(-1)!;
      const said = card.cells.flatMap((c, k) => [
        [`bond-${k}`, c.heat >= 156_000 ? 'bonded' : 'not bonded'],
        [`harm-${k}`, 'fine'],
      ]);
      await gradeSwatch(ada!, id, card.id, form(Object.fromEntries(said) as Record<string, string>));
      found = (await swatchesOn(ada!, await vinylOf(ada, id), 'plain-cloth')).result;
    }
    expect(found.recipe).toBeDefined();
    const before = await asked();
    expect(before).toMatchObject({ source: 'own tried', by: 'squares', way: { heat: found.recipe!.celsius * 1000 } });
    const { press } = await jobOf(ada, await job(ada!, [id], { svg: one }));
    expect(press.find((s) => s.does === 'layer')!.heat).toBe(before.way.heat);
    // What a crash lost, or an older version never kept, is read again.
    await rows(house.url, 'delete from swatch_found');
    expect((await asked()).source).toBe('type');
    expect(await readUnreadSwatches()).toBe(1);
    expect(await asked()).toEqual(before);
    expect(await readUnreadSwatches()).toBe(0);
    for (const card of (await swatchesOn(ada!, await vinylOf(ada, id), 'plain-cloth')).cards)
      await setSwatchAway(ada!, card.id);
    expect((await asked()).source).toBe('type');
  }, 120_000);
});
