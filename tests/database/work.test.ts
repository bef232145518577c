import { join } from 'node:path';
import { v7 as uuidv7 } from 'uuid';
import { beforeAll, describe, expect, test } from 'vitest';
import type { GradeEvent } from '#core/grades/index.ts';
import { shownFit } from '#core/window/index.ts';
import { closeDb } from '#store/base/db.ts';
import { migrate } from '#store/base/migrate.ts';
import { couponFile, couponOf, listCoupons, setCouponAside } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { Busy, Invalid, NotFound, TooMany } from '#work/base/errors.ts';
import { becomeGuest, choosePreferences, formerSelves, personOfToken, signOut } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { claimAccount, signIn } from '#work/people/accounts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { refreshOverdue, settingOf } from '#work/coupons/readings.ts';
import { addVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addBlade, mountBlade } from '#work/workshop/blades.ts';
import { addCutter, putOnBench } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { device, fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { root, rows, testDatabase } from '../testDatabase.ts';

const house = ownHouse();

const marlow = { model: 'marlow-24', name: 'Marlow 24', blade: 'first', angle: '45', used: '2,5' };
const starling = { brand: 'Ferrule & Sons', name: 'Starling', type: 'glitter', colour: 'ember red', hex: '#B0203A' };

async function atWork() {
  const { person, token } = await becomeGuest();
  await addCutter(person, form(marlow));
  const vinyl = await addVinyl(person, form(starling));
  const coupon = await makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '6' }));
  return { person, token, vinyl, coupon, bench: (await benchOf(person))! };
}
const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];

describe('migrations', () => {
  test('run once, and a file that changed afterwards is an error', async () => {
    expect(await migrate(house.url, join(root, 'store/migrations'))).toEqual([]);
    await rows(house.url, `update migration set hash = 'other' where name = '0001_house.sql'`);
    await expect(migrate(house.url, join(root, 'store/migrations'))).rejects.toThrow(
      '0001_house.sql was changed after it ran',
    );
    const { createHash } = await import('node:crypto');
    const { readFileSync } = await import('node:fs');
    const hash = createHash('sha256')
      .update(readFileSync(join(root, 'store/migrations/0001_house.sql')))
      .digest('hex');
    await rows(house.url, 'update migration set hash = $1', [hash]);
  });
  test('two at once do not trip over each other', async () => {
    const fresh = await testDatabase();
    expect(await Promise.all([1, 2, 3].map(() => migrate(fresh.url, join(root, 'store/migrations'))))).toEqual([
      [],
      [],
      [],
    ]);
    await fresh.drop();
  });
});

describe('a coupon from plan to reading', () => {
  test('is planned on the cutter’s own steps, drawn and listed', async () => {
    const { person, coupon } = await atWork();
    const view = await couponOf(person, coupon);
    expect(view.cells.map((c) => c.number)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(view.cells.every((c, i, all) => i === 0 || c.position > all[i - 1]!.position)).toBe(true);
    expect(view.sheet.mirrored).toBe(true);
    expect(view.result.verdict.kind).toBe('prior');
    expect((await listCoupons(person))[0]).toMatchObject({ cells: 6, graded: 0, cut: 0, vinyl: 'Starling' });
    const file = await couponFile(person, coupon, 'svg', 3);
    expect(file.body).toContain('id="cell-3"');
    await expect(couponFile(person, coupon, 'svg', 7)).rejects.toThrow(NotFound);
  });

  test('grades become a reading, the reading a setting', async () => {
    const { person, coupon, vinyl, bench } = await atWork();
    const { cells } = await couponOf(person, coupon);
    const outcomes = await takeAll(
      person,
      cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
    );
    expect(outcomes.map((o) => o.outcome)).toEqual(Array(6).fill('stored'));
    const { result } = await couponOf(person, coupon);
    expect(result.evidence).toMatchObject({ cells: 6, coupons: 1 });
    const listed = (await listVinyls(person, bench, 'starling')).find((v) => v.id === vinyl)!;
    expect(listed.result).toEqual(shownFit(result));
    const number = String(result.summary.recommended!.position);
    await keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength: number, note: 'for the sashes' }));
    await keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength: '131' }));
    const kept = await settingOf(person.id, vinyl, bench.cutter, 'clean');
    expect(kept).toMatchObject({
      standing: 'tried',
      controls: { model: 'marlow-24', version: 2, steps: { force: 131 } },
    });
    expect(kept!.result).toEqual(result);
    const all = await rows(house.url, 'select replaced_at, note from setting where vinyl_id = $1 order by kept_at', [
      vinyl,
    ]);
    expect(all.map((s) => s.replaced_at === null)).toEqual([false, true]);
    expect(all[0]!.note).toBe('for the sashes');
  });

  test('delivered again, in pieces, out of order: nothing doubled, the same reading', async () => {
    const { person, coupon } = await atWork();
    const { cells } = await couponOf(person, coupon);
    const events = cells.map((c, i) => grade(c.id, words[i]!, 1, i));
    await takeAll(person, events.slice(3).reverse());
    await takeAll(person, events);
    const again = await Promise.all([takeAll(person, events), takeAll(person, [...events].reverse())]);
    expect(again.flat().every((o) => o.outcome === 'already')).toBe(true);
    const stored = await rows(
      house.url,
      'select e.id from grade_event e join cell on cell.id = e.cell_id where cell.cut_id = $1',
      [coupon],
    );
    expect(stored.map((r) => r.id as string).sort()).toEqual(events.map((e) => e.id).sort());
    expect((await couponOf(person, coupon)).result.evidence.cells).toBe(6);
  });

  test('what is taken back no longer counts, and stays on record', async () => {
    const { person, coupon } = await atWork();
    const { cells } = await couponOf(person, coupon);
    const wrong = grade(cells[0]!.id, 'through');
    await takeAll(person, [wrong]);
    await takeAll(person, [
      {
        id: uuidv7(),
        kind: 'retract',
        cell: cells[0]!.id,
        retracts: wrong.id,
        device,
        deviceAt: new Date().toISOString(),
      },
    ]);
    const view = await couponOf(person, coupon);
    expect(view.result.evidence.cells).toBe(0);
    expect(view.events).toHaveLength(2);
    expect((await listCoupons(person))[0]).toMatchObject({ graded: 0 });
  });

  test('passes run are counted for the blade, once each', async () => {
    const { person, coupon, bench } = await atWork();
    expect(bench.blade!.cutUm).toBe(2_500_000);
    const { cells, sheet } = await couponOf(person, coupon);
    const cut = {
      id: uuidv7(),
      kind: 'cut',
      cell: cells[0]!.id,
      passes: 1,
      device,
      deviceAt: new Date().toISOString(),
    };
    await takeAll(person, [cut, cut, { ...cut, id: uuidv7(), passes: 2 }]);
    expect((await benchOf(person))!.blade!.cutUm).toBe(2_500_000 + 2 * sheet.cells[0]!.length);
    expect((await couponOf(person, coupon)).cells[0]!.passesRun).toBe(2);
  });

  test('a crash between grade and reading is made up for', async () => {
    const { person, coupon, vinyl } = await atWork();
    const { cells } = await couponOf(person, coupon);
    const e = grade(cells[3]!.id, 'clean') as Extract<GradeEvent, { kind: 'grade' }>;
    await rows(
      house.url,
      `insert into grade_event (id, cell_id, kind, figure, passes, grade, person_id, device_id, device_at) values ($1,$2,'grade',1,1,'clean',$3,$4,$5)`,
      [e.id, e.cell, person.id, device, e.deviceAt],
    );
    expect(await refreshOverdue()).toBeGreaterThanOrEqual(1);
    const [reading] = await rows(
      house.url,
      'select p.result from reading r join posterior p using (input_hash) where r.vinyl_id = $1',
      [vinyl],
    );
    expect((reading!.result as { evidence: { cells: number } }).evidence.cells).toBe(1);
    expect(await refreshOverdue()).toBe(0);
  });

  test('a second coupon of the same vinyl adds to the first', async () => {
    const { person, coupon, vinyl, bench } = await atWork();
    const first = await couponOf(person, coupon);
    await takeAll(
      person,
      first.cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
    );
    const next = await couponOf(person, await makeCoupon(person, bench, vinyl, form({ cells: '4' })));
    expect(next.plan.reason).toBe('narrowed');
    expect(next.cells).toHaveLength(4);
    await takeAll(
      person,
      next.cells.map((c) => grade(c.id, 'clean')),
    );
    expect((await couponOf(person, coupon)).result.evidence).toMatchObject({ cells: 10, coupons: 2 });
  });
});

describe('what cannot be', () => {
  let mine: Awaited<ReturnType<typeof atWork>>;
  let stranger: Person;
  beforeAll(async () => {
    mine = await atWork();
    stranger = (await atWork()).person;
  });

  test('another person’s coupon, vinyl, cutter, blade: not found, nothing changed', async () => {
    await expect(couponOf(stranger, mine.coupon)).rejects.toThrow(NotFound);
    await expect(couponOf(undefined, mine.coupon)).rejects.toThrow(NotFound);
    await expect(couponFile(stranger, mine.coupon, 'svg', undefined)).rejects.toThrow(NotFound);
    await expect(setCouponAside(stranger, mine.coupon, true)).rejects.toThrow(NotFound);
    await expect(vinylOf(stranger, mine.vinyl)).rejects.toThrow(NotFound);
    await expect(putOnBench(stranger, mine.bench.cutter.id)).rejects.toThrow(NotFound);
    await expect(mountBlade(stranger, (await benchOf(stranger))!.cutter.id, mine.bench.blade!.id)).rejects.toThrow(
      NotFound,
    );
    await expect(
      keepSetting(stranger, form({ vinyl: mine.vinyl, cutter: mine.bench.cutter.id, strength: '100' })),
    ).rejects.toThrow(NotFound);
    expect((await listVinyls(stranger, undefined, '')).some((v) => v.id === mine.vinyl)).toBe(false);
    for (const id of ['', 'x', '../..', mine.coupon.slice(0, -1), uuidv7()])
      await expect(couponOf(mine.person, id)).rejects.toThrow(NotFound);
  });

  test('a grade for a cell that is not there, or not yours, waits a week and is refused then, with the reason', async () => {
    const { cells } = await couponOf(mine.person, mine.coupon);
    const [foreign] = await takeAll(stranger, [grade(cells[0]!.id, 'clean')]);
    const [nowhere] = await takeAll(mine.person, [grade(uuidv7(), 'clean')]);
    expect(foreign).toMatchObject({ outcome: 'later' });
    expect({ ...nowhere, id: '' }).toEqual({ ...foreign, id: '' });
    const old = { ...grade(cells[0]!.id, 'clean'), id: uuidv7({ msecs: Date.now() - 8 * 86_400_000 }) };
    expect((await takeAll(stranger, [old]))[0]).toMatchObject({
      outcome: 'refused',
      why: 'There is no such cell among your coupons.',
    });
    const odd = await takeAll(mine.person, [
      null,
      5,
      {},
      { ...grade(cells[0]!.id, 'splendid') },
      { ...grade(cells[0]!.id, 'clean'), passes: 0 },
    ]);
    expect(odd.every((o) => o.outcome === 'refused' && o.why)).toBe(true);
    // One that can never be kept does not keep the others back: a zone no clock has, a year before all, a grade that takes back nothing.
    const good = grade(cells[0]!.id, 'uncut', 1, 90);
    const mixed = await takeAll(mine.person, [
      { ...grade(cells[0]!.id, 'clean'), deviceAt: '0000-01-01T00:00:00Z' },
      { ...grade(cells[0]!.id, 'clean'), deviceAt: '2026-01-01T25:00:00Z' },
      {
        id: uuidv7(),
        kind: 'retract',
        cell: cells[0]!.id,
        retracts: uuidv7(),
        device,
        deviceAt: new Date().toISOString(),
      },
      good,
    ]);
    expect(mixed.map((o) => o.outcome)).toEqual(['refused', 'refused', 'stored', 'stored']);
    await rows(
      house.url,
      'alter table grade_event disable trigger all; delete from grade_event; alter table grade_event enable trigger all',
    );
    const count = await rows(
      house.url,
      'select 1 from grade_event e join cell on cell.id = e.cell_id where cell.cut_id = $1',
      [mine.coupon],
    );
    expect(count).toHaveLength(0);
  });

  test('fields say what and where', async () => {
    const { person, vinyl, bench } = mine;
    const keep = (strength: string) =>
      fieldsOf(keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength })));
    expect(await keep('500')).toEqual({ strength: 'force 500 is outside this cutter: 10 to 400.' });
    expect(await keep('\u0000')).toHaveProperty('strength');
    await keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength: '120', note: 'a\u0000b\u202e <b>' }));
    expect((await settingOf(person.id, vinyl, bench.cutter, 'clean'))!.note).toBe('ab\u202e <b>');
    expect(await listVinyls(person, bench, 'star\u0000ling')).toHaveLength(1);
    expect(await listVinyls(person, bench, 'star ember nobody')).toEqual([]);
    expect(await keep('lots')).toEqual({ strength: 'force "lots" is outside this cutter: 10 to 400.' });
    const long = 'y'.repeat(10_000);
    expect(await fieldsOf(addVinyl(person, form({ ...starling, name: long, brand: long, colour: long })))).toEqual({
      name: 'The vinyl’s name can have 120 characters; this has 10000.',
      brand: 'The brand can have 80 characters; this has 10000.',
      colour: 'A colour can have 80 characters; this has 10000.',
    });
    expect(
      await fieldsOf(addVinyl(person, form({ brand: '', name: ' \u0000 ', type: 'velvet', colour: 'x', hex: 'red' }))),
    ).toMatchObject({
      name: 'Give the vinyl’s name.',
      type: 'Choose what type it is.',
      hex: 'Choose a colour.',
    });
    expect(
      await fieldsOf(addCutter(person, form({ ...marlow, angle: '200', used: 'much', model: 'nobody-9' }))),
    ).toEqual({
      angle: 'The tip angle is a whole number from 15 to 75 degrees.',
      used: 'What the blade has cut is a number of metres, for example 18 or 2,5.',
    });
    expect(await fieldsOf(addCutter(person, form({ ...marlow, model: 'nobody-9' })))).toEqual({
      model: 'Choose a cutter model from the list.',
    });
  });

  test('a coupon without a blade says what to do', async () => {
    const { person, bench, vinyl } = await atWork();
    await rows(house.url, 'update mounting set removed_at = now() where cutter_id = $1', [bench.cutter.id]);
    expect(await fieldsOf(makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '6' })))).toEqual({
      form: 'Put a blade on Marlow 24 first.',
    });
  });

  test('the database itself refuses what must never be', async () => {
    const { cells } = await couponOf(mine.person, mine.coupon);
    await takeAll(mine.person, [grade(cells[0]!.id, 'clean')]);
    for (const sql of [
      `update grade_event set grade = 'hangs'`,
      'delete from grade_event',
      `update cell set setting = '{}'`,
      `update cutter_model set name = 'other'`,
      'delete from cutter_model',
    ])
      await expect(rows(house.url, sql)).rejects.toThrow('only ever added to');
    await expect(rows(house.url, `update vinyl set name = repeat('x', 500)`)).rejects.toThrow('check constraint');
    await expect(
      rows(
        house.url,
        `insert into mounting (id, cutter_id, blade_id) select gen_random_uuid(), cutter_id, blade_id from mounting limit 1`,
      ),
    ).rejects.toThrow('unique');
  });
});

describe('workshop', () => {
  test('a new blade takes the old one’s place; the old can come back with its age', async () => {
    const { person, bench, coupon } = await atWork();
    const { cells } = await couponOf(person, coupon);
    await takeAll(person, [
      { id: uuidv7(), kind: 'cut', cell: cells[0]!.id, passes: 1, device, deviceAt: new Date().toISOString() },
    ]);
    const worn = (await benchOf(person))!.blade!.cutUm;
    await addBlade(person, form({ cutter: bench.cutter.id, name: 'second', angle: '60', used: '' }));
    expect((await benchOf(person))!.blade).toMatchObject({ name: 'second', angle: 60, cutUm: 0 });
    const spare = (await workshopOf(person)).blades.find((b) => b.cutter === undefined)!;
    await mountBlade(person, bench.cutter.id, spare.id);
    expect((await benchOf(person))!.blade).toMatchObject({ name: 'first', cutUm: worn });
  });
});

describe('people', () => {
  const account = { name: 'Ottoline', email: 'ottoline@example.org', password: 'a long enough one' };
  test('a guest’s work becomes the account’s, and is there at the next sign-in', async () => {
    const { person, token, coupon } = await atWork();
    const claimed = await claimAccount(person, form(account));
    // A new session at the change of standing: what somebody knew of the guest's is worth nothing.
    expect(await personOfToken(token)).toBeUndefined();
    expect(await personOfToken(claimed.token)).toMatchObject({
      id: person.id,
      email: account.email,
      name: 'Ottoline',
      proven: true,
    });
    const { token: again } = await signIn(
      form({ email: 'OTTOLINE@example.org', password: account.password }),
      '1.1.1.1',
    );
    const back = await personOfToken(again);
    expect((await couponOf(back, coupon)).id).toBe(coupon);
    await signOut(again);
    expect(await personOfToken(again)).toBeUndefined();
    const [row] = await rows(house.url, 'select password_hash from person where id = $1', [person.id]);
    expect(row!.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });
  test('a guest who signs in to an account they have brings their work along', async () => {
    const { person: member } = await becomeGuest();
    await claimAccount(member, form({ ...account, email: 'member@example.org' }));
    const { person: guest, coupon, bench, token } = await atWork();
    const { cells } = await couponOf(guest, coupon);
    await takeAll(guest, [grade(cells[0]!.id, 'uncut')]);
    const { token: session } = await signIn(
      form({ email: 'member@example.org', password: account.password }),
      '1.1.1.3',
      guest,
    );
    const back = (await personOfToken(session))!;
    expect(back.id).toBe(member.id);
    expect((await couponOf(back, coupon)).events).toHaveLength(1);
    expect((await benchOf(back))!.cutter.id).toBe(bench.cutter.id);
    expect(await formerSelves(back)).toEqual([guest.id]);
    expect(await personOfToken(token)).toBeUndefined();
    // What the guest had not sent yet is taken from the account.
    expect((await takeAll(back, [grade(cells[1]!.id, 'clean')]))[0]!.outcome).toBe('stored');
    expect((await couponOf(back, coupon)).result.evidence.cells).toBe(2);
  });
  test('a taken e-mail, a short password and a strange address are told apart', async () => {
    const { person } = await becomeGuest();
    expect(await fieldsOf(claimAccount(person, form(account)))).toHaveProperty('email');
    expect(await fieldsOf(claimAccount(person, form({ name: '', email: 'nowhere', password: 'short' })))).toEqual({
      name: 'Give a name.',
      email: 'That does not look like an e-mail address.',
      password: 'Use at least 10 characters.',
    });
  });
  test('wrong e-mail and wrong password get one answer; too many tries are slowed, also after a restart, and the right one comes in', async () => {
    const wrong = (email: string, address = '2.2.2.2') =>
      signIn(form({ email, password: 'not this one' }), address).catch((e: unknown) => e);
    expect((await wrong('ottoline@example.org')) as Invalid).toMatchObject({
      fields: { form: 'E-mail and password do not match.' },
    });
    expect((await wrong('nobody@example.org')) as Invalid).toMatchObject({
      fields: { form: 'E-mail and password do not match.' },
    });
    for (let i = 0; i < 8; i++) await wrong('ottoline@example.org');
    // The count lies in the database: a new pool stands for a new process.
    await closeDb();
    const from = performance.now();
    expect(await wrong('ottoline@example.org', '8.8.8.8')).toBeInstanceOf(TooMany);
    const before = performance.now() - from;
    expect(before).toBeGreaterThan(1_000);
    const right = await signIn(form({ email: account.email, password: account.password }), '9.9.9.9');
    expect(right.token).toBeDefined();
    expect(await wrong('somebody@example.org', '9.9.9.9')).toBeInstanceOf(Invalid);
  });
  test('many tries at once do not slip through', async () => {
    const answers = await Promise.all(
      Array.from({ length: 20 }, () =>
        signIn(form({ email: 'crowd@example.org', password: 'x' }), '3.3.3.3').catch((e: unknown) => e),
      ),
    );
    // Those beyond the free ones are looked at one by one, or told that many wait already: none is answered like a free one.
    expect(answers.filter((a) => a instanceof Invalid)).toHaveLength(8);
    expect(answers.filter((a) => a instanceof TooMany || a instanceof Busy)).toHaveLength(12);
  });
  test('units are the person’s own', async () => {
    const { person, token } = await becomeGuest('Europe/Lisbon');
    await choosePreferences(person, form({ length: 'in' }));
    expect(await personOfToken(token)).toMatchObject({ length_unit: 'in', zone: 'Europe/Lisbon' });
    expect(await fieldsOf(choosePreferences(person, form({ length: 'ell' })))).toHaveProperty('length');
    expect((await becomeGuest('Nowhere/At All')).person.zone).toBe('UTC');
  });
  test('a cookie that was made up is nobody', async () => {
    expect(await personOfToken('made-up')).toBeUndefined();
    expect(await personOfToken('x'.repeat(5_000))).toBeUndefined();
    const stolen = await rows(house.url, 'select token_hash from session limit 1');
    expect(await personOfToken((stolen[0]!.token_hash as Buffer).toString('base64url'))).toBeUndefined();
  });
});
