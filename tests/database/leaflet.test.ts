import { beforeAll, expect, test } from 'vitest';
import { addLeaflet, sayPeel } from '#work/vinyls/leaflet.ts';
import { leafletOf } from '#work/answer/leaflet.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import { addVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { crafter, fieldsOf, form } from '../bench.ts';
import { confirm, learn, publish } from '../sharing.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

const database = ownHouse();
const people: Person[] = [];
let vinyl = '';
const view = async (who?: Person) => leafletOf(who, await vinylOf(who, vinyl));

beforeAll(async () => {
  for (let i = 0; i < 12; i++) people.push(await crafter(`Crafter ${i}`, 'marlow-24', `c${i}@example.org`));
  vinyl = await addVinyl(
    people[0]!,
    { brand: 'Quillow', name: 'Drift', type: 'holographic', colour: 'one', hex: '#cfc4ea' },
    'public',
  );
});

test('bad input is refused at its field; a leaflet that says nothing is none; a guest copies none', async () => {
  const [ada] = people as [Person];
  expect(await fieldsOf(addLeaflet(ada, vinyl, form({ heat: 'warm' })))).toHaveProperty('heat');
  expect(await fieldsOf(addLeaflet(ada, vinyl, form({ heat: '90', heatUnit: 'C' })))).toHaveProperty('heat');
  expect(await fieldsOf(addLeaflet(ada, vinyl, form({ from: '20', to: '10' })))).toHaveProperty('from');
  expect(await fieldsOf(addLeaflet(ada, vinyl, form({ peel: 'sideways' })))).toHaveProperty('peel');
  expect(await fieldsOf(addLeaflet(ada, vinyl, form({ source: 'leaflet' })))).toHaveProperty('heat');
  const { person } = await becomeGuest();
  expect(await fieldsOf(addLeaflet(person, vinyl, form({ peel: 'hot' })))).toHaveProperty('form');
  expect((await view()).leaflet).toBeUndefined();
});

test('hot by the leaflet; eleven of twelve here let it cool; neither changes the other', async () => {
  const [ada] = people as [Person];
  await addLeaflet(
    ada,
    vinyl,
    form({ heat: '311', heatUnit: 'F', from: '15', to: '', peel: 'hot', source: 'in the roll' }),
  );
  for (const [i, p] of people.entries())
    await sayPeel(p, vinyl, form({ peel: i === 4 ? 'hot' : i % 2 ? 'cold' : 'cool' }));
  const { leaflet, peel } = await view(people[1]);
  expect(peel).toBe('cold');
  expect(leaflet!.leaflet).toEqual({ source: 'in the roll', heat: 155_000, seconds: [15, 15], peel: 'hot' });
  expect(leaflet!.who).toBe('Crafter 0');
  expect(leaflet!.beside.peel).toEqual({
    leaflet: 'hot',
    voices: 12,
    alike: 1,
    most: { value: 'cool', n: 11 },
    contradicts: true,
  });
  // Whoever peels it otherwise is not asked which way of pressing they follow, and the other way round.
  await followSchool(people[2]!, vinyl, form({ topic: 'press', way: '320 15-20' }));
  expect((await view()).leaflet!.beside.heat!.voices).toBe(1);
  await sayPeel(people[1]!, vinyl, form({ peel: '' }));
  expect((await view(people[1])).peel).toBeUndefined();
});

test('a newer copy is shown; the one before stays, and no row is ever changed', async () => {
  await addLeaflet(people[3]!, vinyl, form({ peel: 'warm' }));
  expect((await view()).leaflet!.leaflet).toEqual({ source: 'in the roll', peel: 'warm' });
  expect(await rows(database.url, 'select count(*)::int as n from leaflet')).toEqual([{ n: 2 }]);
  await expect(rows(database.url, `update leaflet set content = '{}'`)).rejects.toThrow(/only ever added to/);
});

test('what it says of the blade and of passes stands beside what was shared, and beside nothing that is private', async () => {
  expect(await fieldsOf(addLeaflet(people[0]!, vinyl, form({ blade: '90' })))).toHaveProperty('blade');
  expect(await fieldsOf(addLeaflet(people[0]!, vinyl, form({ passes: 'many' })))).toHaveProperty('passes');
  await addLeaflet(people[0]!, vinyl, form({ blade: '60', passes: '1' }));
  await learn(people[0]!, vinyl, 0);
  expect((await view()).leaflet!.beside.blade).toMatchObject({ voices: 0 });
  const card = await publish(people[0]!, vinyl);
  for (const i of [1, 2, 3]) await confirm(people[i]!, card, 'worked');
  // Who says it twice is still one voice.
  await confirm(people[3]!, card, 'worked');
  expect((await view()).leaflet!.beside).toMatchObject({
    blade: { leaflet: 60, voices: 4, alike: 0, most: { value: 45, n: 4 }, contradicts: true },
    passes: { voices: 4, alike: 4, contradicts: false },
  });
});
