import { describe, expect, test } from 'vitest';
import { awayColours, awayThings, correct, remove, setAway, thingOf } from '#work/answer/editable.ts';
import { listVinyls } from '#work/answer/list.ts';
import { NotFound } from '#work/base/errors.ts';
import { couponOf, listCoupons, setCouponAside } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { readingFor } from '#work/coupons/readings.ts';
import { nextCutId, openCuts, reportCut } from '#work/cuts/cuts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { takeAll } from '#work/deliver.ts';
import { saveCatalogue } from '#work/shelf/evidence.ts';
import { addColour, catalogueOf, coloursOf } from '#work/vinyls/catalogue.ts';
import { addPiece, pieceOf, stockOf, takeByHand } from '#work/vinyls/stock.ts';
import { addOwnType, ownTypesOf } from '#work/vinyls/types.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { addBlade, mountBlade } from '#work/workshop/blades.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { addMat } from '#work/workshop/mats.ts';
import { addPress } from '#work/workshop/presses.ts';
import { lifeSoFar, workshopOf } from '#work/workshop/workshop.ts';
import { fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { placeToSet } from '#core/window/index.ts';

// Nothing a hand does is final: put right, put away, taken up again, and gone for good only where nothing rests on it.
const house = ownHouse();

const heron = { brand: 'Quillow', name: 'Heron', type: 'glitter', colour: 'slate', hex: '#55606b' };
async function crafter(): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'mine', blade: 'first', angle: '45', used: '0' }));
  return person;
}
const words = ['uncut', 'hangs', 'clean', 'clean', 'scored', 'through'];
async function cutAndGrade(person: Person, vinyl: string): Promise<string> {
  const coupon = await makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '6' }));
  const { cells } = await couponOf(person, coupon);
  await takeAll(
    person,
    cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  return coupon;
}
const numberOf = async (person: Person, vinyl: string) => {
  const bench = (await benchOf(person))!;
  const { result } = await readingFor(person.id, vinyl, bench.cutter.id, 'clean', undefined);
  return { cells: result.evidence.cells, at: placeToSet(result.summary).position };
};

describe('cutters and blades', () => {
  test('a cutter is renamed, retired with what rests on it, and comes back with its numbers', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    await cutAndGrade(person, vinyl);
    const before = await numberOf(person, vinyl);
    const { id } = (await benchOf(person))!.cutter;
    await correct(person, 'cutter', id, form({ name: 'By the window' }));
    expect((await benchOf(person))!.cutter.name).toBe('By the window');
    expect(await fieldsOf(correct(person, 'cutter', id, form({ name: ' ' })))).toHaveProperty('name');

    const thing = await thingOf(person, 'cutter', id);
    expect(thing).toMatchObject({ away: false, mayGo: false, rests: [{ what: 'cuts', n: 1 }] });
    expect(await fieldsOf(remove(person, 'cutter', id))).toHaveProperty('form');
    await setAway(person, 'cutter', id, true);
    expect(await benchOf(person)).toBeUndefined();
    expect((await workshopOf(person)).cutters).toEqual([]);
    // Its blade can go on another cutter meanwhile.
    expect((await workshopOf(person)).blades.map((b) => b.cutter)).toEqual([undefined]);
    expect(await awayThings(person, ['cutter'])).toEqual([{ kind: 'cutter', id, name: 'By the window' }]);

    await setAway(person, 'cutter', id, false);
    expect((await benchOf(person))!.cutter.id).toBe(id);
    expect(await numberOf(person, vinyl)).toEqual(before);
    expect(await awayThings(person, ['cutter'])).toEqual([]);
  });
  test('the other cutter comes onto the bench; one on which nothing rests goes for good, its blade stays', async () => {
    const person = await crafter();
    const first = (await benchOf(person))!.cutter.id;
    await addCutter(person, form({ model: 'oxbow-dial', name: 'small', blade: 'second', angle: '60', used: '0' }));
    const second = (await benchOf(person))!.cutter.id;
    await setAway(person, 'cutter', second, true);
    expect((await benchOf(person))!.cutter.id).toBe(first);
    expect(await thingOf(person, 'cutter', second)).toMatchObject({ mayGo: true, rests: [] });
    await remove(person, 'cutter', second);
    await expect(thingOf(person, 'cutter', second)).rejects.toThrow(NotFound);
    expect((await workshopOf(person)).blades.map((b) => b.name)).toEqual(['first', 'second']);
  });
  test('a blade is said right, and its wear with it; put away it comes off, what it cut still counts', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    await cutAndGrade(person, vinyl);
    const { blade, cutter } = (await benchOf(person))!;
    const fields = { name: 'Short tip', angle: '60', offset: '0.3', life: '80', used: '41' };
    await correct(person, 'blade', blade!.id, form(fields));
    expect((await benchOf(person))!.blade).toMatchObject({ name: 'Short tip', angle: 60, lifeUm: 80_000_000 });
    expect((await benchOf(person))!.blade!.wear.share).toBeGreaterThan(0.5);
    expect(await fieldsOf(correct(person, 'blade', blade!.id, form({ ...fields, angle: '200' })))).toHaveProperty(
      'angle',
    );
    await setAway(person, 'blade', blade!.id, true);
    expect((await benchOf(person))!.blade).toBeUndefined();
    expect((await workshopOf(person)).blades).toEqual([]);
    await addBlade(person, form({ cutter: cutter.id, name: 'next', angle: '45', used: '0' }));
    expect((await numberOf(person, vinyl)).cells).toBe(6);
    await setAway(person, 'blade', blade!.id, false);
    await mountBlade(person, cutter.id, blade!.id);
    expect((await benchOf(person))!.blade!.name).toBe('Short tip');
  });
});

test('how long a blade lasts is learnt from those that came off', async () => {
  const person = await crafter();
  const { cutter } = (await benchOf(person))!;
  const mount = (name: string, used: string, life = '') =>
    addBlade(person, form({ cutter: cutter.id, name, angle: '45', used, life }));
  expect(await lifeSoFar(person)).toBeUndefined();
  await mount('a', '41');
  expect((await benchOf(person))!.blade!.lifeUm, 'a guess, as long as nobody knows').toBe(60_000_000);
  await mount('b', '55');
  await mount('c', '0');
  // The first was changed before it cut anything: that says nothing.
  expect(await lifeSoFar(person)).toEqual({ lifeUm: 48_000_000, blades: 2 });
  expect((await benchOf(person))!.blade!.lifeUm).toBe(48_000_000);
  await mount('d', '0', '70');
  expect((await benchOf(person))!.blade!.lifeUm, 'what is said counts').toBe(70_000_000);
});

describe('cuts and grades', () => {
  test('a grade of yesterday is put right, and the number is read again', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const coupon = await cutAndGrade(person, vinyl);
    const before = await numberOf(person, vinyl);
    const { cells } = await couponOf(person, coupon);
    // The two that were called clean held fast: the number moves up.
    await takeAll(person, [grade(cells[2]!.id, 'uncut', 1, 20), grade(cells[3]!.id, 'hangs', 1, 21)]);
    const after = await numberOf(person, vinyl);
    expect(after.cells).toBe(6);
    expect(after.at).toBeGreaterThan(before.at);
    const [kept] = await rows<{ n: number }>(
      house.url,
      'select count(*)::int as n from grade_event e join cell c on c.id = e.cell_id where c.cut_id = $1',
      [coupon],
    );
    expect(kept!.n, 'what was said first stays on record').toBe(8);
  });
  test('a coupon that was cut on the wrong vinyl counts for nothing, and counts again', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const coupon = await cutAndGrade(person, vinyl);
    const before = await numberOf(person, vinyl);
    await setAway(person, 'coupon', coupon, true);
    expect((await numberOf(person, vinyl)).cells).toBe(0);
    expect(await couponOf(person, coupon)).toMatchObject({ leftOut: true, result: { evidence: { cells: 6 } } });
    expect((await listCoupons(person))[0]!.left_out_at).not.toBeNull();
    await setAway(person, 'coupon', coupon, false);
    expect(await numberOf(person, vinyl)).toEqual(before);
  });
  test('which colour was cut is put right', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const coupon = await cutAndGrade(person, vinyl);
    const moss = await addColour(person, vinyl, form({ colour: 'moss', hex: '#5c6b3a' }));
    await correct(person, 'coupon', coupon, form({ colour: moss }));
    expect((await couponOf(person, coupon)).vinyl.colour!.name).toBe('moss');
    expect(await fieldsOf(correct(person, 'coupon', coupon, form({ colour: nextCutId() })))).toHaveProperty('colour');
    expect((await numberOf(person, vinyl)).cells).toBe(6);
  });
  test('which vinyl was cut is put right: its grades speak for that one, its metres for that type', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const other = await addVinyl(person, { ...heron, name: 'Egret', type: 'smooth' });
    const coupon = await cutAndGrade(person, vinyl);
    const runs = () =>
      rows<{ type: string; um: number }>(
        house.url,
        'select r.type, r.run_um as um from blade_run r join blade b on b.id = r.blade_id where b.person_id = $1 and r.run_um > 0',
        [person.id],
      );
    const [before] = await runs();
    await correct(person, 'coupon', coupon, form({ vinyl: other, colour: '' }));
    expect((await couponOf(person, coupon)).vinyl.name).toBe('Egret');
    expect([(await numberOf(person, vinyl)).cells, (await numberOf(person, other)).cells]).toEqual([0, 6]);
    if (before) expect(await runs()).toEqual([{ type: 'smooth', um: before.um }]);
    const stranger = await crafter();
    const theirs = await addVinyl(stranger, { ...heron, name: 'Bittern' });
    await expect(correct(person, 'coupon', coupon, form({ vinyl: theirs }))).rejects.toThrow(NotFound);
  });
  test('a batch is renamed, is used up, and comes back; one that is called so already is refused', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const roll = { kind: 'roll', width: '305', length: '1000', price: '', currency: '', pieces: '1' };
    const piece = await addPiece(person, vinyl, form({ ...roll, batch: 'LOT 7' }));
    await addPiece(person, vinyl, form({ ...roll, batch: 'LOT 8' }));
    const batches = async () => (await catalogueOf(person, vinyl)).batches.map((b) => b.label);
    const id = (await pieceOf(person, piece)).batchId!;
    await correct(person, 'batch', id, form({ name: 'LOT 1' }));
    expect([(await pieceOf(person, piece)).batch, await batches()]).toEqual(['LOT 1', ['LOT 1', 'LOT 8']]);
    expect(await fieldsOf(correct(person, 'batch', id, form({ name: 'lot 8' })))).toHaveProperty('name');
    await setAway(person, 'batch', id, true);
    expect(await batches()).toEqual(['LOT 8']);
    expect(await thingOf(person, 'batch', id)).toMatchObject({
      away: true,
      mayGo: false,
      rests: [{ what: 'pieces', n: 1 }],
    });
    await setAway(person, 'batch', id, false);
    expect(await batches()).toEqual(['LOT 1', 'LOT 8']);
  });
  test('a coupon nobody cut goes for good and its strip is back; one that was cut stays', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const piece = await addPiece(
      person,
      vinyl,
      form({ kind: 'roll', width: '305', length: '1000', price: '', currency: '', pieces: '1' }),
    );
    const coupon = await makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '4', piece }));
    expect((await pieceOf(person, piece)).leftUm).toBeLessThan(1_000_000);
    await setCouponAside(person, coupon, true);
    expect((await couponOf(person, coupon)).setAside).toBe(true);
    await setCouponAside(person, coupon, false);
    expect((await couponOf(person, coupon)).setAside).toBe(false);
    await remove(person, 'coupon', coupon);
    await expect(couponOf(person, coupon)).rejects.toThrow(NotFound);
    expect((await pieceOf(person, piece)).leftUm).toBe(1_000_000);
    const cut = await cutAndGrade(person, vinyl);
    expect(await thingOf(person, 'coupon', cut)).toMatchObject({ mayGo: false, rests: [{ what: 'cells', n: 6 }] });
    expect(await fieldsOf(remove(person, 'coupon', cut))).toHaveProperty('form');
  });
  test('an ordinary cut that was none is asked about no more, and can be counted again', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    await cutAndGrade(person, vinyl);
    const bench = (await benchOf(person))!;
    const [own] = await rows<{ setting: object }>(
      house.url,
      'select cell.setting from cell join cut on cut.id = cell.cut_id where cut.person_id = $1 limit 1',
      [person.id],
    );
    const cut = nextCutId();
    const fields = { cut, vinyl, cutter: bench.cutter.id, wanted: 'clean', setting: JSON.stringify(own!.setting) };
    await reportCut(person, bench, form(fields));
    expect(await openCuts(person)).toHaveLength(1);
    await setAway(person, 'cut', cut, true);
    expect(await openCuts(person)).toEqual([]);
    expect(await thingOf(person, 'cut', cut)).toMatchObject({ away: true, mayGo: false });
    await setAway(person, 'cut', cut, false);
    expect(await openCuts(person)).toHaveLength(1);
  });
});

describe('vinyls, colours, types, stock, mats, presses', () => {
  test('a vinyl leaves the lists and comes back by hand or by being cut; without anything on it, it goes for good', async () => {
    const person = await crafter();
    const [used, slip] = [await addVinyl(person, heron), await addVinyl(person, { ...heron, name: 'Slip' })];
    await cutAndGrade(person, used);
    const listed = async () => (await listVinyls(person, undefined, '')).map((v) => v.id);
    await setAway(person, 'vinyl', used, true);
    expect(await listed()).not.toContain(used);
    expect((await listVinyls(person, undefined, 'heron'))[0]!.id, 'find still finds it').toBe(used);
    await setAway(person, 'vinyl', used, false);
    expect(await listed()).toContain(used);
    await setAway(person, 'vinyl', used, true);
    await cutAndGrade(person, used);
    expect(await listed(), 'cut again, it is in hand again').toContain(used);
    expect(await thingOf(person, 'vinyl', used)).toMatchObject({ mayGo: false, rests: [{ what: 'cuts', n: 2 }] });
    expect(await fieldsOf(remove(person, 'vinyl', used))).toHaveProperty('form');
    await remove(person, 'vinyl', slip);
    expect(await listed()).not.toContain(slip);
    await expect(catalogueOf(person, slip)).rejects.toThrow(NotFound);
    expect(await listVinyls(person, undefined, 'slip')).toEqual([]);
  });
  test('a vinyl of somebody else’s is put away for oneself alone, and not changed', async () => {
    const [owner, person] = [await crafter(), await crafter()];
    const open = await addVinyl(owner, { ...heron, name: 'Open' }, 'public');
    await setAway(person, 'vinyl', open, true);
    expect((await listVinyls(person, undefined, '')).map((v) => v.id)).not.toContain(open);
    expect((await listVinyls(owner, undefined, '')).map((v) => v.id)).toContain(open);
    expect(await thingOf(person, 'vinyl', open)).toMatchObject({ own: false, mayGo: false });
    expect(await fieldsOf(remove(person, 'vinyl', open))).toHaveProperty('form');
  });
  test('a colour is renamed, put away and taken up; the only one stays', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const [slate] = await coloursOf(vinyl);
    expect(await fieldsOf(setAway(person, 'colour', slate!.id, true))).toHaveProperty('form');
    const moss = await addColour(person, vinyl, form({ colour: 'moss', hex: '#5c6b3a' }));
    await correct(person, 'colour', slate!.id, form({ colour: 'pale slate', hex: '#778899' }));
    expect(await fieldsOf(correct(person, 'colour', moss, form({ colour: 'Pale Slate', hex: '#778899' })))).toEqual({
      colour: 'pale slate is there already.',
    });
    await setAway(person, 'colour', slate!.id, true);
    expect((await coloursOf(vinyl)).map((c) => c.name)).toEqual(['moss']);
    expect((await listVinyls(person, undefined, 'heron'))[0]!.colour!.name).toBe('moss');
    expect((await awayColours(vinyl)).map((c) => c.name)).toEqual(['pale slate']);
    // Added again under its name, it is the same colour.
    expect(await addColour(person, vinyl, form({ colour: 'pale slate', hex: '#778899' }))).toBe(slate!.id);
    await remove(person, 'colour', moss);
    expect((await coloursOf(vinyl)).map((c) => c.name)).toEqual(['pale slate']);
    expect(await fieldsOf(remove(person, 'colour', slate!.id))).toHaveProperty('form');
  });
  test('a type of one’s own is said right; put away, its vinyls keep it', async () => {
    const person = await crafter();
    const id = await addOwnType(person, form({ word: 'frosted', parent: 'smooth', film_um: '90' }));
    const vinyl = await addVinyl(person, { ...heron, type: `own:${id}` });
    const thing = await thingOf(person, 'type', id);
    expect(thing.kind === 'type' && thing.type.fields.find((f) => f.key === 'film_um')).toMatchObject({ said: '90' });
    await correct(person, 'type', id, form({ word: 'frosty', film_um: '100' }));
    expect((await ownTypesOf(person))[0]).toMatchObject({ word: 'frosty', behaviour: { filmUm: 100 }, away: false });
    expect(await fieldsOf(correct(person, 'type', id, form({ word: 'glitter' })))).toHaveProperty('word');
    await setAway(person, 'type', id, true);
    await saveCatalogue(person, vinyl, form({ ...heron, name: 'Heron two', type: `own:${id}` }));
    expect((await catalogueOf(person, vinyl)).typeChoice).toBe(`own:${id}`);
    expect(await thingOf(person, 'type', id)).toMatchObject({ away: true, mayGo: false });
  });
  test('a roll is said right, no shorter than what was taken; a mat and a press likewise', async () => {
    const person = await crafter();
    const vinyl = await addVinyl(person, heron);
    const roll = { kind: 'roll', width: '305', length: '1000', price: '9.90', currency: 'EUR', pieces: '1', note: '' };
    const piece = await addPiece(person, vinyl, form(roll));
    await takeByHand(person, piece, form({ take: '400' }));
    expect(await fieldsOf(correct(person, 'piece', piece, form({ ...roll, length: '300' })))).toEqual({
      length: '400 mm of it were taken off already.',
    });
    await correct(person, 'piece', piece, form({ ...roll, length: '1500', note: 'top shelf' }));
    expect(await pieceOf(person, piece)).toMatchObject({ leftUm: 1_100_000, note: 'top shelf' });
    await setAway(person, 'piece', piece, true);
    expect(await stockOf(person)).toEqual([]);
    await setAway(person, 'piece', piece, false);
    expect(await stockOf(person)).toHaveLength(1);

    const mat = { name: 'Long', grip: 'ordinary', width: '305', length: '600', loads: '3' };
    await addMat(person, form(mat));
    const mats = async () => (await workshopOf(person)).mats;
    const [first] = await mats();
    await correct(person, 'mat', first!.id, form({ ...mat, name: 'Longer', grip: 'light', loads: '9' }));
    expect((await mats())[0]).toMatchObject({ name: 'Longer', grip: 'light', loads: 9 });
    await setAway(person, 'mat', first!.id, true);
    expect(await mats()).toEqual([]);
    await setAway(person, 'mat', first!.id, false);
    expect((await mats())[0]).toMatchObject({ loads: 9 });
    await remove(person, 'mat', first!.id);
    expect(await mats()).toEqual([]);

    const press = { name: 'Plate', kind: 'plate', width: '380', length: '380', shows: 'F', hottest: '400', off: '-9' };
    await addPress(person, form(press));
    const [plate] = (await workshopOf(person)).presses;
    await correct(person, 'press', plate!.id, form({ ...press, shows: 'C', hottest: '210', off: '2' }));
    expect((await workshopOf(person)).presses[0]).toMatchObject({ hottest: 210_000, shows: 'C', off: 2000 });
    await remove(person, 'press', plate!.id);
    expect((await workshopOf(person)).presses).toEqual([]);
  });
});

test('nobody touches what is another’s, and what is no thing is not there', async () => {
  const [person, stranger] = [await crafter(), await crafter()];
  const vinyl = await addVinyl(person, heron);
  const coupon = await cutAndGrade(person, vinyl);
  const bench = (await benchOf(person))!;
  const [colour] = await coloursOf(vinyl);
  for (const [kind, id] of [
    ['vinyl', vinyl],
    ['colour', colour!.id],
    ['cutter', bench.cutter.id],
    ['blade', bench.blade!.id],
    ['coupon', coupon],
    ['cutter', 'not-an-id'],
    ['toaster', vinyl],
  ] as const) {
    await expect(thingOf(stranger, kind, id), kind).rejects.toThrow(NotFound);
    await expect(thingOf(undefined, kind, id), kind).rejects.toThrow(NotFound);
    await expect(setAway(stranger, kind, id, true), kind).rejects.toThrow(NotFound);
    await expect(correct(stranger, kind, id, form({ name: 'taken' })), kind).rejects.toThrow(NotFound);
    await expect(remove(stranger, kind, id), kind).rejects.toThrow(NotFound);
  }
  expect((await numberOf(person, vinyl)).cells).toBe(6);
});
