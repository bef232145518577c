import { describe, expect, test } from 'vitest';
import { strengthAxis } from '#core/controls/index.ts';
import { blanks } from '#core/vinyls/index.ts';
import { vinylsFor } from '#work/answer/blanks.ts';
import { publishCard } from '#work/shelf/publish.ts';
import { sharedReadingOf } from '#work/shelf/shared.ts';
import { addColour, catalogueOf, coloursOf } from '#work/vinyls/catalogue.ts';
import { mergeVinyls, unmergeVinyls } from '#work/shelf/mergedVinyls.ts';
import { saveCatalogue } from '#work/shelf/evidence.ts';
import { addOwnType, ownTypesOf } from '#work/vinyls/types.ts';
import { alikeVinyls } from '#work/vinyls/alike.ts';
import { followSchool, schoolsOf } from '#work/vinyls/schools.ts';
import { couponOf, listCoupons } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { NotFound } from '#work/base/errors.ts';
import { claimAccount, signIn } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { colourNumbers, readingFor, refreshReading, settingOf } from '#work/coupons/readings.ts';
import {
  addPiece,
  leaveOffcut,
  pieceOf,
  pieceOfCode,
  putBack,
  stockOf,
  takeByHand,
  takeFromPiece,
  takeOfCut,
  takesOf,
} from '#work/vinyls/stock.ts';
import { addVinyl, pinVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addBlade } from '#work/workshop/blades.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { setAway } from '#work/answer/editable.ts';
import { addMat, layMat, washMat } from '#work/workshop/mats.ts';
import { addPress } from '#work/workshop/presses.ts';
import { addScaleReading, dropScaleReading, scaleOf } from '#work/workshop/scale.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { cutterModels, modelFile, publishModel } from '#work/workshop/models.ts';
import { modelFromForm } from '#work/workshop/modelForm.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import { placeToSet } from '#core/window/index.ts';

const house = ownHouse();

const starling = { brand: 'Ferrule & Sons', name: 'Starling', type: 'glitter', colour: 'ember red', hex: '#b0203a' };
async function crafter(model = 'marlow-24'): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model, name: 'mine', blade: 'first', angle: '45', used: '0' }));
  return person;
}
/** The mat that cuts are laid on. */
const matInUse = async (person: Person) => (await workshopOf(person)).mats.find((m) => m.inUse);
const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
/** A coupon, graded the same way each time: a clean cell among too little and too much. */
async function cutAndGrade(person: Person, vinyl: string, fields: Record<string, string> = {}, shift = 0) {
  const coupon = await makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '6', ...fields }));
  const { cells } = await couponOf(person, coupon);
  await takeAll(
    person,
    cells.map((c, i) => grade(c.id, words[Math.max(0, Math.min(5, i - shift))]!, 1, i)),
  );
  return coupon;
}

describe('what is said of a vinyl', () => {
  test('counts on the bench card and leaves what it does not say to the type', async () => {
    const person = await crafter();
    const id = await addVinyl(person, starling);
    await saveCatalogue(
      person,
      id,
      form({
        ...starling,
        nicknames: 'birdie; sparkle',
        codes: '0123',
        mat: 'high grip',
        film_um: '270',
        mirror: 'no',
        press_seconds: '20',
        press_heat: '330 °F',
        sizes: 'roll 12 in x 5 ft 9.90 USD',
      }),
    );
    const { behaviour } = await vinylOf(person, id);
    expect(behaviour).toMatchObject({ mat: 'high grip', filmUm: 270, cutFrom: 'face', wear: 2.5 });
    expect(behaviour.press[0]).toMatchObject({ seconds: [20, 20], heat: 165_556 });
    const [row] = await rows<{ behaviour: object }>(house.url, 'select behaviour from vinyl where id = $1', [id]);
    expect(Object.keys(row!.behaviour).sort()).toEqual(['cutFrom', 'filmUm', 'mat', 'press']);
    for (const q of ['birdie', 'sparkle', '0123']) expect((await listVinyls(person, undefined, q))[0]?.id).toBe(id);
    // A sheet of it is drawn the right way round.
    const coupon = await makeCoupon(person, (await benchOf(person))!, id, form({ cells: '4' }));
    expect((await couponOf(person, coupon)).sheet.mirrored).toBe(false);
    // Emptied again, it follows the type.
    await saveCatalogue(person, id, form(starling));
    expect((await vinylOf(person, id)).behaviour).toMatchObject({ mat: 'ordinary', filmUm: 250, cutFrom: 'back' });
  });
  test('wrong values are named at their field, nothing is saved; another’s vinyl is not changed', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    const id = await addVinyl(person, starling);
    expect(
      await fieldsOf(
        saveCatalogue(person, id, form({ ...starling, film_um: '12 kg', heat_range: '160', name: 'Starling' })),
      ),
    ).toEqual({
      film_um: expect.stringContaining('no length') as string,
      heat_range: expect.stringContaining('not a range') as string,
    });
    expect((await vinylOf(person, id)).behaviour.filmUm).toBe(250);
    await expect(saveCatalogue(stranger, id, form(starling))).rejects.toThrow(NotFound);
    await expect(catalogueOf(stranger, id)).rejects.toThrow(NotFound);
  });
  test('a type of one’s own inherits, and is only one’s own', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    expect(await fieldsOf(addOwnType(person, form({ word: 'Glitter', parent: 'glitter' })))).toEqual({
      word: 'There is a type of that name already.',
    });
    const type = await addOwnType(
      person,
      form({ word: 'chunky glitter', parent: 'glitter', film_um: '400', mat: 'high grip' }),
    );
    expect(await fieldsOf(addOwnType(person, form({ word: 'Chunky Glitter', parent: 'flock' })))).toEqual({
      word: 'You have a type of that name already.',
    });
    const id = await addVinyl(person, { ...starling, type: `own:${type}` });
    const vinyl = await vinylOf(person, id);
    expect(vinyl).toMatchObject({ type: 'glitter', typeWord: 'chunky glitter' });
    expect(vinyl.behaviour).toMatchObject({ filmUm: 400, mat: 'high grip', wear: 2.5 });
    expect(await ownTypesOf(stranger)).toEqual([]);
    expect(await fieldsOf(addVinyl(stranger, { ...starling, type: `own:${type}` }))).toEqual({
      type: 'Choose what type it is.',
    });
  });
  test('pinned first, then what was used last; a stranger’s pin is the stranger’s', async () => {
    const person = await crafter();
    const ids = [];
    for (const name of ['One', 'Two', 'Three']) ids.push(await addVinyl(person, { ...starling, name }));
    const mine = async (who: Person) => (await listVinyls(who, undefined, '')).map((v) => v.name);
    expect(await mine(person)).toEqual(['Three', 'Two', 'One']);
    await cutAndGrade(person, ids[1]!);
    await pinVinyl(person, ids[0]!, true);
    expect(await mine(person)).toEqual(['One', 'Two', 'Three']);
    await pinVinyl(person, ids[0]!, false);
    expect(await mine(person)).toEqual(['Two', 'Three', 'One']);
  });
});

describe('colours and batches', () => {
  test('one colour wants more than another: read, told and kept apart', async () => {
    const person = await crafter();
    const id = await addVinyl(person, starling);
    const gold = await addColour(person, id, form({ colour: 'gold', hex: '#c99a2c' }));
    expect(await fieldsOf(addColour(person, id, form({ colour: 'Gold', hex: '#c99a2c' })))).toEqual({
      colour: 'gold is there already.',
    });
    const [red] = await coloursOf(id);
    for (let i = 0; i < 2; i++) {
      await cutAndGrade(person, id, { colour: red!.id });
      await cutAndGrade(person, id, { colour: gold, batch: 'G-22' }, 1);
    }
    const bench = (await benchOf(person))!;
    const { evidence, events, result } = await readingFor(person.id, id, bench.cutter.id, 'clean', undefined);
    const numbers = await colourNumbers(evidence, events);
    const at = (colour: string) => numbers.find((n) => n.colour === colour)!.position;
    expect(at(gold)).toBeGreaterThan(at(red!.id));
    expect(at(red!.id)).toBe(placeToSet(result.summary).position);
    const forGold = (await readingFor(person.id, id, bench.cutter.id, 'clean', gold)).result;
    expect(placeToSet(forGold.summary).position).toBe(at(gold));
    expect((await catalogueOf(person, id)).batches.map((b) => [b.label, b.colour])).toEqual([['G-22', 'gold']]);
    // A number for one colour stands beside the one for all of them.
    const keep = (strength: number, colour?: string) =>
      keepSetting(
        person,
        form({ vinyl: id, cutter: bench.cutter.id, strength: String(strength), ...(colour ? { colour } : {}) }),
      );
    await keep(at(red!.id));
    await keep(at(gold), gold);
    const kept = async (colour: string) => (await settingOf(person.id, id, bench.cutter, 'clean', colour))!;
    expect((await kept(gold)).controls.steps.force).toBe(at(gold));
    expect((await kept(red!.id)).controls.steps.force).toBe(at(red!.id));
    await keep(at(red!.id) + 1);
    expect((await kept(gold)).controls.steps.force).toBe(at(gold));
    const other = await addVinyl(person, { ...starling, name: 'Other' });
    await expect(keep(120, (await coloursOf(other))[0]!.id)).rejects.toThrow(NotFound);
  });
});

describe('the same vinyl twice', () => {
  test('is suggested while it is named; merged, the evidence of both is one; parted, each has its own', async () => {
    const person = await crafter();
    const first = await addVinyl(person, starling);
    const second = await addVinyl(person, { ...starling, brand: 'Ferule and Sons', name: 'Starlng' });
    expect((await alikeVinyls(person, 'ferrule sons starling')).map((v) => v.id)).toContain(first);
    expect((await catalogueOf(person, first)).alike.map((a) => a.id)).toEqual([second]);
    await cutAndGrade(person, first);
    await cutAndGrade(person, second);
    const bench = (await benchOf(person))!;
    const read = async (id: string) => (await refreshReading(person.id, id, bench.cutter.id, 'clean')).result;
    const alone = await read(first);
    expect(alone.evidence).toMatchObject({ cells: 6, coupons: 1 });
    await keepSetting(person, form({ vinyl: second, cutter: bench.cutter.id, strength: '131' }));

    expect(await mergeVinyls(person, second, first)).toBe(first);
    expect((await vinylOf(person, second)).id).toBe(first);
    expect((await read(first)).evidence).toMatchObject({ cells: 12, coupons: 2 });
    expect((await settingOf(person.id, first, bench.cutter, 'clean'))!.controls.steps.force).toBe(131);
    expect(await listCoupons(person, 100, first)).toHaveLength(2);
    // One row in lists, found by either spelling; colours of one name are one.
    for (const q of ['starling', 'starlng ferule'])
      expect((await listVinyls(person, bench, q)).map((v) => v.id)).toEqual([first]);
    expect((await listVinyls(person, bench, ''))[0]).toMatchObject({
      id: first,
      answer: { position: 131, from: 'kept' },
    });
    expect((await coloursOf(first)).map((c) => c.name)).toEqual(['ember red']);
    expect(await fieldsOf(mergeVinyls(person, first, second))).toEqual({ form: 'These two are one vinyl already.' });

    await unmergeVinyls(person, second);
    expect(await read(first)).toEqual(alone);
    expect((await read(second)).evidence).toMatchObject({ cells: 6, coupons: 1 });
    expect((await settingOf(person.id, second, bench.cutter, 'clean'))!.controls.steps.force).toBe(131);
    expect(await settingOf(person.id, first, bench.cutter, 'clean')).toBeUndefined();
    expect((await listVinyls(person, bench, 'star')).map((v) => v.id).sort()).toEqual([first, second].sort());
  });
  test('chains end at one, circles cannot be made, another’s entries stay theirs', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    const [x, y, z] = [
      await addVinyl(person, { ...starling, name: 'Film 0' }),
      await addVinyl(person, { ...starling, name: 'Film 1' }),
      await addVinyl(person, { ...starling, name: 'Film 2' }),
    ];
    await mergeVinyls(person, x, y);
    await mergeVinyls(person, y, z);
    expect((await vinylOf(person, x)).id).toBe(z);
    expect((await catalogueOf(person, x)).aliases.map((s) => s.id).sort()).toEqual([x, y].sort());
    await expect(unmergeVinyls(stranger, x)).rejects.toThrow(NotFound);
    const theirs = await addVinyl(stranger, starling, 'public');
    await expect(mergeVinyls(person, theirs, z)).rejects.toThrow(NotFound);
    // One’s own may be merged into what everybody sees; the stranger sees no more for it.
    await mergeVinyls(person, z, theirs);
    expect((await vinylOf(person, x)).id).toBe(theirs);
    expect((await listVinyls(stranger, undefined, 'film 2')).length).toBe(0);
    await unmergeVinyls(person, z);
    expect((await vinylOf(person, x)).id).toBe(z);
  });
  test('cards of both entries speak together to others, and apart again', async () => {
    const known = await crafter();
    const email = `m${Date.now()}@example.org`;
    await claimAccount(known, form({ email, password: 'lantern river seven', name: 'Ada' }));
    const person = { ...known, email, name: 'Ada' };
    const ids = [await addVinyl(person, starling), await addVinyl(person, { ...starling, name: 'Starlng' })];
    const bench = (await benchOf(person))!;
    for (const id of ids) {
      await cutAndGrade(person, id);
      await keepSetting(person, form({ vinyl: id, cutter: bench.cutter.id, strength: '130' }));
      await publishCard(person, bench, form({ vinyl: id, wanted: 'clean', visibility: 'public', licence: 'cc0' }), 'x');
    }
    const cells = async (id: string) => (await sharedReadingOf(id, bench.cutter.model, 'clean'))?.result.evidence.cells;
    expect(await cells(ids[0]!)).toBe(6);
    await mergeVinyls(person, ids[1]!, ids[0]!);
    expect(await cells(ids[0]!)).toBe(12);
    await unmergeVinyls(person, ids[1]!);
    expect([await cells(ids[0]!), await cells(ids[1]!)]).toEqual([6, 6]);
  });
});

describe('two schools', () => {
  test('stand with who follows them; one follows one way at a time', async () => {
    const person = await crafter();
    const second = await crafter();
    await claimAccount(second, form({ email: 'second@example.org', password: 'lantern river seven', name: 'Second' }));
    const other = { ...second, email: 'second@example.org' };
    const id = await addVinyl(person, { ...starling, type: 'holographic' }, 'public');
    const follow = (who: Person, topic: string, way: string) => followSchool(who, id, form({ topic, way }));
    await follow(person, 'press', '330 30');
    await follow(other, 'press', '330 30');
    await follow(other, 'cut', 'light-card');
    // Guests come and go as they like: forty of them outvote nobody.
    for (let i = 0; i < 3; i++) await follow((await becomeGuest()).person, 'press', '320 15-20');
    expect((await schoolsOf(person, id)).press).toEqual([
      { way: '330 30', followers: 2, mine: true, names: [], cuts: 0, good: 0 },
    ]);
    expect((await schoolsOf(person, id)).cut[0]).toMatchObject({ way: 'light-card', mine: false });
    await follow(person, 'press', '320 15-20');
    expect((await schoolsOf(person, id)).press.map((s) => [s.way, s.followers, s.mine])).toEqual([
      ['320 15-20', 1, true],
      ['330 30', 1, false],
    ]);
    await follow(person, 'press', '');
    expect((await schoolsOf(person, id)).press.some((s) => s.mine)).toBe(false);
    expect(await fieldsOf(follow(person, 'press', '9'))).toEqual({ form: 'There is no such way for this vinyl.' });
  });
});

describe('what can be put on this', () => {
  test('one’s own first within each verdict, by what is said of the vinyl itself', async () => {
    const person = await crafter();
    await addVinyl(person, { ...starling, name: 'Flocky', type: 'flock' });
    await addVinyl(person, { ...starling, name: 'Plain', type: 'smooth' });
    const fur = await addVinyl(person, { ...starling, name: 'Brave', type: 'smooth' });
    await saveCatalogue(
      person,
      fur,
      form({ ...starling, name: 'Brave', type: 'smooth', not_on: 'nylon', heat_range: '140 °C – 160 °C' }),
    );
    const on = await vinylsFor(person, undefined, blanks['long-fur']);
    const verdict = (name: string) => on.find((v) => v.vinyl.name === name)?.suits.verdict;
    expect([verdict('Flocky'), verdict('Plain'), verdict('Brave')]).toEqual(['suits', 'not', 'care']);
  });
});

describe('stock', () => {
  test('a roll is opened, cuts take from it, what is left is told, offcuts bear its name and their share of the price', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    const id = await addVinyl(person, starling);
    const piece = await addPiece(
      person,
      id,
      form({ kind: 'roll', width: '305', length: '1 m', batch: 'B-7', price: '6,10', currency: 'eur' }),
    );
    let roll = await pieceOf(person, piece);
    expect(roll).toMatchObject({ leftUm: 1_000_000, batch: 'B-7', price: { minor: 610, currency: 'EUR' } });
    // 6.10 for 0.305 m²: 0.2 cents a square centimetre.
    expect(roll.perCm2).toBeCloseTo(0.2, 10);
    const coupon = await makeCoupon(person, (await benchOf(person))!, id, form({ cells: '6', piece }));
    const { sheet } = await couponOf(person, coupon);
    const take = (await takeOfCut(coupon))!;
    expect(take.lengthUm).toBe(sheet.height + 6000);
    roll = await pieceOf(person, piece);
    expect(roll.leftUm).toBe(1_000_000 - take.lengthUm);
    const [cut] = await rows<{ batch: string }>(
      house.url,
      'select b.label as batch from cut join batch b on b.id = cut.batch_id where cut.id = $1',
      [coupon],
    );
    expect(cut!.batch).toBe('B-7');
    await putBack(person, take.id);
    expect((await pieceOf(person, piece)).leftUm).toBe(1_000_000);
    await takeByHand(person, piece, form({ take: '950' }));
    expect(await fieldsOf(takeByHand(person, piece, form({ take: '60' })))).toEqual({
      take: expect.stringContaining('has 50 mm left; this takes 60 mm') as string,
    });
    expect(await fieldsOf(takeByHand(person, piece, form({ take: 'much' })))).toEqual({
      take: expect.stringContaining('is a length') as string,
    });
    const offcut = await pieceOf(person, await leaveOffcut(person, piece, form({ width: '100', length: '200' })));
    expect(offcut).toMatchObject({
      kind: 'offcut',
      batch: 'B-7',
      from: roll.code,
      price: { minor: 40, currency: 'EUR' },
    });
    expect(offcut.vinyl.colour!.name).toBe('ember red');
    await setAway(person, 'piece', piece, true);
    expect((await stockOf(person)).map((p) => p.code)).toEqual([offcut.code]);
    expect(await fieldsOf(takeByHand(person, piece, form({ take: '10' })))).toEqual({
      take: `${roll.code} is used up.`,
    });
    expect(await takesOf(person, piece)).toHaveLength(1);
    expect((await pieceOfCode(person, offcut.code)).id).toBe(offcut.id);
    for (const work of [
      () => pieceOf(stranger, piece),
      () => pieceOfCode(stranger, offcut.code),
      () => takeByHand(stranger, piece, form({ take: '10' })),
      () => putBack(stranger, take.id),
      () => pieceOfCode(person, 'nope'),
    ])
      await expect(work()).rejects.toThrow(NotFound);
  });
  test('two strips at one moment cannot take more than there is', async () => {
    const person = await crafter();
    const piece = await addPiece(
      person,
      await addVinyl(person, starling),
      form({ kind: 'sheet', width: '305', length: '100' }),
    );
    const tries = await Promise.allSettled(
      Array.from({ length: 4 }, () => takeFromPiece(person, piece, { lengthUm: 40_000 })),
    );
    expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(2);
    expect((await pieceOf(person, piece)).leftUm).toBe(20_000);
  });
  test('bad values are told at their field', async () => {
    const person = await crafter();
    const id = await addVinyl(person, starling);
    expect(
      await fieldsOf(
        addPiece(person, id, form({ kind: 'brick', width: '0', length: '1,500', price: 'cheap', pieces: '0' })),
      ),
    ).toEqual({
      kind: 'Choose what it is.',
      width: expect.stringContaining('5 mm to 5000 mm') as string,
      length: expect.stringContaining('is a length') as string,
      price: expect.stringContaining('A price is a number') as string,
      pieces: expect.any(String) as string,
    });
    expect(
      await fieldsOf(addPiece(person, id, form({ kind: 'roll', width: '305', length: '5 m', price: '3' }))),
    ).toEqual({
      currency: 'Say in which currency, as EUR or USD.',
    });
  });
});

describe('the workshop', () => {
  test('a blade’s metres count by what was cut, and it says when it is due', async () => {
    const person = await crafter();
    await addBlade(
      person,
      form({
        cutter: (await benchOf(person))!.cutter.id,
        name: 'short',
        angle: '60',
        used: '0',
        life: '1',
        offset: '0,5',
      }),
    );
    const id = await addVinyl(person, starling);
    const coupon = await makeCoupon(person, (await benchOf(person))!, id, form({ cells: '6' }));
    const { cells } = await couponOf(person, coupon);
    const event = (cell: string, passes: number, i: number) => {
      const { id, device, deviceAt } = grade(cell, 'clean', passes, i);
      return { id, kind: 'cut', cell, passes, device, deviceAt };
    };
    await takeAll(
      person,
      cells.map((c, i) => event(c.id, 1, i)),
    );
    const once = (await benchOf(person))!.blade!;
    expect(once).toMatchObject({ offsetUm: 500, lifeUm: 1_000_000 });
    const [length] = await rows<{ um: number }>(
      house.url,
      'select sum(length_um)::int as um from cell where cut_id = $1',
      [coupon],
    );
    expect(once.cutUm).toBe(length!.um);
    expect(once.wear.wornUm).toBeCloseTo(2.5 * length!.um, 0);
    // A second pass over one cell counts that cell once more; a repeat of the first counts nothing.
    await takeAll(person, [event(cells[0]!.id, 2, 10), event(cells[1]!.id, 1, 11)]);
    const [one] = await rows<{ um: number }>(house.url, 'select length_um::int as um from cell where id = $1', [
      cells[0]!.id,
    ]);
    expect((await benchOf(person))!.blade!.cutUm).toBe(length!.um + one!.um);
    expect((await benchOf(person))!.blade!.wear.state).toBe('over');
    const { blades } = await workshopOf(person);
    expect(blades.find((b) => b.name === 'short')!.left[0]).toEqual(['smooth', 0]);
  });
  test('mats count their loads, are washed and go; presses say what they are really at', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    await addMat(person, form({ name: 'wide', grip: 'ordinary', width: '305', length: '12 in', loads: '28' }));
    const id = await addVinyl(person, starling);
    await makeCoupon(person, (await benchOf(person))!, id, form({ cells: '4' }));
    let mat = (await matInUse(person))!;
    expect(mat).toMatchObject({ name: 'wide', lengthUm: 304_800, loads: 29, left: { advice: 'wash' } });
    await expect(washMat(stranger, mat.id)).rejects.toThrow(NotFound);
    await washMat(person, mat.id);
    mat = (await matInUse(person))!;
    expect(mat).toMatchObject({ loads: 0, washes: 1, left: { advice: 'good' } });
    await layMat(person, '');
    expect(await matInUse(person)).toBeUndefined();
    await expect(layMat(stranger, mat.id)).rejects.toThrow(NotFound);
    await setAway(person, 'mat', mat.id, true);
    expect((await workshopOf(person)).mats).toEqual([]);
    await addPress(
      person,
      form({ name: 'plate', kind: 'plate', width: '380', length: '380', shows: 'F', hottest: '400', off: '-9' }),
    );
    const [press] = (await workshopOf(person)).presses;
    expect(press).toMatchObject({ hottest: 204_444, off: -5000, shows: 'F' });
    await expect(setAway(stranger, 'press', press!.id, true)).rejects.toThrow(NotFound);
    expect((await workshopOf(person)).presses).toHaveLength(1);
    expect(
      await fieldsOf(
        addPress(
          person,
          form({ name: '', kind: 'x', width: '1', length: '380', shows: 'C', hottest: '900', off: 'no' }),
        ),
      ),
    ).toEqual({
      name: expect.any(String) as string,
      kind: 'Choose what it is.',
      width: expect.any(String) as string,
      hottest: 'The hottest lies between 100 and 260 °C.',
      off: expect.any(String) as string,
    });
  });
  test('a scale under the tip: three places make a curve, a wrong one is marked, others’ cutters are not there', async () => {
    const [person, stranger] = [await crafter('oxbow-dial'), await crafter()];
    const { cutter } = (await benchOf(person))!;
    const note = (strength: string, grams: string) => addScaleReading(person, cutter.id, form({ strength, grams }));
    expect((await scaleOf(person, cutter.id)).why).toContain('3 places or more');
    for (const [s, g] of [
      ['1', '40'],
      ['3', '80'],
      ['4½', '120'],
      ['6', '30'],
      ['7', '185'],
      ['9', '240'],
    ] as const)
      await note(s, g);
    const { fit } = await scaleOf(person, cutter.id);
    expect(fit!.readings.filter((r) => r.wild).map((r) => r.grams)).toEqual([30]);
    await note('6', '160');
    const after = await scaleOf(person, cutter.id);
    expect(after.readings).toHaveLength(6);
    expect(after.fit!.readings.some((r) => r.wild)).toBe(false);
    await dropScaleReading(person, cutter.id, after.readings[0]!.id);
    expect((await scaleOf(person, cutter.id)).readings).toHaveLength(5);
    expect(await fieldsOf(note('12', 'x'))).toEqual({ grams: expect.any(String) as string });
    expect(await fieldsOf(note('12', '50'))).toEqual({
      strength: expect.stringContaining('outside this cutter') as string,
    });
    await expect(scaleOf(stranger, cutter.id)).rejects.toThrow(NotFound);
  });
  test('controls of one’s own: from a form, out as JSON, in again; published ones never change', async () => {
    const [person, stranger] = [await crafter(), await crafter()];
    const fields = {
      axes: '2',
      name: 'Attic Thing',
      about: '',
      'axis-0-word': 'push',
      'axis-0-role': 'strength',
      'axis-0-kind': 'number',
      'axis-0-min': '0,5',
      'axis-0-max': '10',
      'axis-0-step': '0,5',
      'axis-0-start': '4,5',
      'axis-1-word': 'film',
      'axis-1-role': 'depth',
      'axis-1-kind': 'dial',
      'axis-1-stops': 'low, middle, high',
      'axis-1-start': 'middle',
    };
    const key = await publishModel(person, JSON.stringify(modelFromForm(form(fields))));
    const model = (await cutterModels(person)).find((m) => m.key === key)!;
    expect(strengthAxis(model)).toMatchObject({ min: 1, max: 20, step: 0.5, start: 9 });
    expect((await cutterModels(stranger)).some((m) => m.key === key)).toBe(false);
    await addCutter(person, form({ model: key, name: 'attic', blade: 'b', angle: '45', used: '0' }));
    expect((await benchOf(person))!.cutter.model.name).toBe('Attic Thing');
    const { body } = await modelFile(person, key);
    // The same again is the same; a stranger gets it under a key of their own; a change needs a higher version.
    expect(await publishModel(person, body)).toBe(key);
    const copy = await publishModel(stranger, body.replace('Attic Thing', 'Loft Thing'));
    expect(copy).not.toBe(key);
    expect(await fieldsOf(publishModel(person, body.replace('Attic Thing', 'Attic Thing 2')))).toEqual({
      model: expect.stringContaining('stays as it is') as string,
    });
    await publishModel(person, body.replace('"version": 1', '"version": 2').replace('Attic Thing', 'Attic Thing 2'));
    expect((await cutterModels(person)).find((m) => m.key === key)!.version).toBe(2);
    // A shipped key cannot be taken over.
    const shipped = (await modelFile(person, 'oxbow-dial')).body;
    expect(await publishModel(person, shipped)).toBe('oxbow-dial');
    expect(await publishModel(person, shipped.replace('Oxbow', 'Fake'))).not.toBe('oxbow-dial');
  });
  test('wrong controls are told where they are wrong', async () => {
    const person = await crafter();
    const wrong = (fields: Record<string, string>) => fieldsOf((async () => modelFromForm(form(fields)))());
    expect(
      await wrong({
        axes: '1',
        name: '',
        'axis-0-word': '',
        'axis-0-role': 'strength',
        'axis-0-kind': 'number',
        'axis-0-min': 'x',
        'axis-0-max': '',
      }),
    ).toEqual({
      name: 'Give the model a name.',
      'axis-0-word': 'Say what the cutter calls it.',
      'axis-0-min': 'This is a number.',
      'axis-0-max': 'This is a number.',
    });
    expect(
      await wrong({
        axes: '1',
        name: 'A',
        'axis-0-word': 'dial',
        'axis-0-role': 'strength',
        'axis-0-kind': 'dial',
        'axis-0-stops': 'one',
        'axis-0-start': '',
      }),
    ).toEqual({ 'axis-0-stops': 'Name at least 2, separated by commas.' });
    expect(
      await wrong({
        axes: '1',
        name: 'A',
        'axis-0-word': 'f',
        'axis-0-role': 'strength',
        'axis-0-kind': 'number',
        'axis-0-min': '1',
        'axis-0-max': '9',
        'axis-0-start': '40',
      }),
    ).toEqual({ 'axis-0-start': expect.stringContaining('outside this cutter') as string });
    expect(await fieldsOf(publishModel(person, '{'))).toEqual({ model: expect.stringContaining('not JSON') as string });
    expect(await fieldsOf(publishModel(person, '{"key":"a","version":1,"name":"A","axes":[]}'))).toEqual({
      model: expect.any(String) as string,
    });
  });
});

test('a guest who signs in brings stock, mats, types, pins and own models along', async () => {
  const known = await crafter();
  const email = `g${Date.now()}@example.org`;
  await claimAccount(known, form({ email, password: 'lantern river seven', name: 'Ben' }));
  const guest = await crafter();
  const type = await addOwnType(guest, form({ word: 'lumpy', parent: 'puff' }));
  const id = await addVinyl(guest, { ...starling, type: `own:${type}` });
  await addPiece(guest, id, form({ kind: 'roll', width: '305', length: '1 m' }));
  await addMat(guest, form({ name: 'm', grip: 'light', width: '305', length: '305', loads: '' }));
  await pinVinyl(guest, id, true);
  await signIn(form({ email, password: 'lantern river seven' }), email, guest);
  const person = { ...known, email };
  expect((await listVinyls(person, undefined, ''))[0]).toMatchObject({ id, pinned: true, typeWord: 'lumpy' });
  expect(await stockOf(person)).toHaveLength(1);
  expect((await workshopOf(person)).mats).toHaveLength(1);
  expect(await ownTypesOf(person)).toHaveLength(1);
});
