import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from 'vitest';
import { beginJob, setDrawing } from '#work/jobs/jobs.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addMat } from '#work/workshop/mats.ts';
import { addPress } from '#work/workshop/presses.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { jobOf } from '#work/jobs/view.ts';
import { crafter, form, password, shirtForm } from '../bench.ts';
import { root, rows } from '../testDatabase.ts';
import { until, wholeHouse } from './house.ts';
import { Stranger } from './stranger.ts';

// Two tabs on one thing: the second to save never undoes the first unseen. Every form that writes over what it was filled in from stands here.
const house = wholeHouse();

type Tabs = { path: string; what: string; first: Record<string, string>; second: Record<string, string> };
const tabs: Record<string, Tabs> = {};
let ada: Stranger;

beforeAll(async () => {
  const who = await crafter('Ada Fenn', 'marlow-24', 'ada@two.example');
  const vinyl = await addVinyl(who, { brand: 'Tansy', name: 'Own', type: 'smooth', colour: 'red', hex: '#b3202c' });
  await addPiece(who, vinyl, form({ kind: 'roll', width: '305 mm', length: '5 m' }));
  await addMat(who, form({ name: 'Long mat', grip: 'ordinary', width: '12 in', length: '24 in' }));
  await addPress(
    who,
    form({
      name: 'Big plate',
      kind: 'plate',
      width: '15 in',
      length: '15 in',
      hottest: '200',
      shows: 'C',
      off: '0',
    }),
  );
  const id = async (table: string) =>
    (await rows<{ id: string }>(house.owner, `select id from ${table} order by id desc limit 1`))[0]!.id;
  const [piece, mat, press] = [await id('stock'), await id('mat'), await id('press')];
  const bench = (await benchOf(who))!;
  const job = await beginJob(who, shirtForm());
  const svg = `<svg viewBox="0 0 100 60"><path fill="#b3202c" d="M0 0h40v60h-40z"/><path fill="#223355" d="M60 0h40v60h-40z"/></svg>`;
  await setDrawing(who, job, form({ svg }));
  const [low, high] = (await jobOf(who, job)).layers;
  const size = { from: 'below', down: '76', across: '0', anchorX: '0.5', anchorY: '0' };
  const shirt = Object.fromEntries(shirtForm()) as Record<string, string>;
  const matForm = { grip: 'ordinary', width: '305', length: '610', loads: '0' };
  const roll = { colour: '', batch: '', kind: 'roll', width: '305', length: '5000', price: '', currency: 'EUR' };
  const pressForm = { kind: 'plate', width: '380', length: '380', hottest: '200', shows: 'C', off: '0' };
  const nine = Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`place-${i}`, 'bonded']));
  const blade = { angle: '45', offset: '0.25', life: '60', used: '0' };
  const recipe = { purpose: 'full', unit: 'C', pressure: 'medium', cover: 'baking paper', peel: 'warm' };
  Object.assign(tabs, {
    cutter: put('cutter', bench.cutter.id, { name: 'First' }, { name: 'Second' }),
    blade: put('blade', bench.blade!.id, { ...blade, name: 'First' }, { ...blade, name: 'Second' }),
    mat: put('mat', mat, { ...matForm, name: 'First' }, { ...matForm, name: 'Second' }),
    press: put('press', press, { ...pressForm, name: 'First' }, { ...pressForm, name: 'Second' }),
    roll: put('piece', piece, { ...roll, note: 'first' }, { ...roll, note: 'second' }),
    vinyl: tab(
      `/vinyls/${vinyl}/about`,
      'catalogue',
      { brand: 'Tansy', name: 'First', type: 'smooth' },
      { brand: 'Tansy', name: 'Second', type: 'smooth' },
    ),
    size: tab(`/jobs/${job}/size`, 'size', { ...size, width: '100' }, { ...size, width: '120' }),
    blank: tab(`/jobs/${job}/blank`, 'blank', { ...shirt, count: '2' }, { ...shirt, count: '3' }),
    vinyls: tab(
      `/jobs/${job}/vinyls`,
      'choose',
      { layer: low!.id, vinyl, colour: '' },
      { layer: high!.id, vinyl, colour: '' },
    ),
    layers: tab(`/jobs/art?job=${job}`, 'layers', { act: 'down', layer: high!.id }, { act: 'leave', layer: low!.id }),
    recipe: tab(
      `/vinyls/${vinyl}/press?on=plain-cloth`,
      'write',
      { ...recipe, surface: 'plain-cloth', heat: '150', from: '10', to: '12' },
      { ...recipe, surface: 'plain-cloth', heat: '155', from: '12', to: '14' },
    ),
    places: tab(
      `/workshop/presses/${press}`,
      'places',
      { ...nine, heat: '150', seconds: '10' },
      { ...nine, heat: '140', seconds: '8' },
    ),
    preferences: tab('/preferences', 'preferences', { length: 'in' }, { length: 'mm', numbers: 'comma' }),
  });
  ada = new Stranger(house.server.base);
  await until(
    async () => (await ada.post('/sign-in', { what: 'sign in', email: 'ada@two.example', password })).status === 302,
  );
});
const tab = (path: string, what: string, first: object, second: object) => ({ path, what, first, second });
const put = (kind: string, id: string, first: object, second: object) =>
  tab(`/put-right/${kind}/${id}`, 'save', first, second);

/** The mark that a page's form carries. */
async function markOf(path: string): Promise<string> {
  const { body } = await ada.get(path);
  const mark = /\\?"seen\\?",\\?"([\w-]{22})/.exec(body)?.[1];
  if (!mark) throw new Error(`${path} says nothing of what its form was filled in from`);
  return mark;
}

const names = [
  'cutter',
  'blade',
  'mat',
  'press',
  'roll',
  'vinyl',
  'size',
  'blank',
  'vinyls',
  'layers',
  'recipe',
  'places',
  'preferences',
];
test.each(names)(
  '%s: the second tab is told, nothing of the first is lost, and saving again is meant',
  async (name) => {
    const { path, what, first, second } = tabs[name]!;
    const mark = await markOf(path);
    const send = (fields: Record<string, string>, seen: string) => ada.post(path, { ...fields, what, seen });
    const one = await send(first, mark);
    const wrong = [...one.body.matchAll(/Mui-error[^>]*>([^<]+)</g)].map((m) => m[1]);
    expect([one.status, one.status === 302 ? [] : wrong]).toEqual([302, []]);
    const stands = await markOf(path);
    expect(stands).not.toBe(mark);
    const two = await send(second, mark);
    expect(two.status).toBe(409);
    expect(two.body).toContain('changed in another tab');
    expect(await markOf(path)).toBe(stands);
    // Whoever has seen it and means it saves over it.
    expect((await send(second, stands)).status).toBe(302);
  },
);

test('every page with such a form fetches what stands now, to show it', () => {
  const pages = readdirSync(join(root, 'app/routes')).flatMap((folder) => {
    const file = join(root, 'app/routes', folder, 'route.tsx');
    const text = existsSync(file) ? readFileSync(file, 'utf8') : '';
    return /\b(over|needSeen)\(/.test(text) ? [[folder, text.includes('shouldRevalidate = againWhenChanged')]] : [];
  });
  expect(pages.length).toBeGreaterThan(8);
  expect(pages.filter(([, told]) => !told)).toEqual([]);
});
