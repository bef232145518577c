import { transaction } from '#store/base/db.ts';
import { hostname } from 'node:os';
import { v7 as uuidv7 } from 'uuid';
import { beforeAll, describe, expect, test } from 'vitest';
import { shippedModel } from '#core/controls/index.ts';
import { doOnce, sweepActs } from '#work/people/idempotency.ts';
import { cardView } from '#work/shelf/view.ts';
import { publishCard } from '#work/shelf/publish.ts';
import { catalogueOf } from '#work/vinyls/catalogue.ts';
import { confirmCard } from '#work/shelf/confirm.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { settleAfterCrash } from '#work/cuts/line.ts';
import { sweepImports, seeFile } from '#work/answer/imports.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { sweepAttempts } from '#work/people/limits.ts';
import { becomeGuest, sweepGuests } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { quotas } from '#work/base/quotas.ts';
import { judgeBatch, orderOf, reportBatch } from '#work/shelf/social.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { addMat } from '#work/workshop/mats.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { publishModel } from '#work/workshop/models.ts';
import { crafter, fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// What strangers write is seen by strangers no more; what nobody comes back to goes; a run is its process's own.
const house = ownHouse();
let ada: Person;
let vinyl = '';
const starling = { brand: 'Quillow', type: 'smooth', colour: 'one', hex: '#cfc4ea' };
const withCutter = async () => {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'Mine', blade: 'first', angle: '45', used: '0' }));
  return person;
};
beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  vinyl = await addVinyl(ada, { ...starling, name: 'Drift' }, 'public');
});

describe('batches', () => {
  const labels = async (person: Person | undefined) =>
    (await catalogueOf(person, vinyl)).batches.map((b) => b.label).sort();
  const cut = async (person: Person, batch: string) =>
    makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '3', batch }));

  test('what a guest names is seen by the guest alone; what an account names by everybody; the same name is one for each', async () => {
    const guest = await withCutter();
    await cut(guest, 'Cheap vinyl at evil.example');
    await cut(ada, 'B-17');
    expect(await labels(guest)).toEqual(['B-17', 'Cheap vinyl at evil.example']);
    expect(await labels(ada)).toEqual(['B-17']);
    expect(await labels(undefined)).toEqual(['B-17']);
    await cut(await withCutter(), 'b-17');
    expect(await rows(house.url, `select 1 from batch where lower(label) = 'b-17'`)).toHaveLength(1);
  });
  test('one that is reported is taken away by a steward, with the reason for all to read', async () => {
    const ben = await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
    await cut(ben, 'Rude');
    const batch = (await catalogueOf(ada, vinyl)).batches.find((b) => b.label === 'Rude')!;
    expect(
      await fieldsOf(reportBatch((await becomeGuest()).person, vinyl, form({ batch: batch.id, why: 'x' }), 'x')),
    ).toHaveProperty('form');
    await reportBatch(ada, vinyl, form({ batch: batch.id, why: 'An insult.' }), 'x');
    process.env.VERSIPEL_STEWARDS = 'ada@example.org';
    const steward = { ...ada, steward: true };
    const [report] = (await orderOf(steward)).batches;
    expect(report).toMatchObject({ label: 'Rude', why: 'An insult.' });
    expect((await orderOf(ben)).batches).toEqual([]);
    await expect(judgeBatch(ben, form({ report: String(report!.id), hide: 'yes', why: 'x' }))).rejects.toThrow(
      'No such report',
    );
    await judgeBatch(steward, form({ report: String(report!.id), hide: 'yes', why: 'It insults.' }));
    expect(await labels(ada)).not.toContain('Rude');
    expect(await labels(ben)).toContain('Rude');
    const order = await orderOf(undefined);
    expect(order.acts[0]).toMatchObject({ act: 'hide batch', why: 'It insults.' });
    delete process.env.VERSIPEL_STEWARDS;
  });
});

describe('what nobody comes back to', () => {
  test('empty guests go after two days; those who made something, or came back, stay', async () => {
    const empty = (await becomeGuest()).person;
    const back = (await becomeGuest()).person;
    const busy = await withCutter();
    const fresh = (await becomeGuest()).person;
    await rows(house.url, `update person set created_at = now() - interval '3 days' where id = any($1)`, [
      [empty.id, back.id, busy.id],
    ]);
    await rows(house.url, `update session set seen_at = now() - interval '3 days' where person_id = any($1)`, [
      [empty.id, busy.id],
    ]);
    expect(await sweepGuests()).toBe(1);
    const left = (
      await rows<{ id: string }>(house.url, 'select id from person where id = any($1)', [
        [empty.id, back.id, busy.id, fresh.id],
      ])
    ).map((r) => r.id);
    expect(left.sort()).toEqual([back.id, busy.id, fresh.id].sort());
  });
  test('tables that were only looked at, what was in those brought in, old tries and acts', async () => {
    const guest = (await becomeGuest()).person;
    const id = await seeFile(guest, {
      name: 't.csv',
      bytes: new TextEncoder().encode('brand,name,type\nTansy,Loft,puff\n'),
    });
    await doOnce({ path: 'r', form: form({ once: 'a key of a form' }), person: guest, zone: undefined }, () =>
      Promise.resolve('/'),
    );
    await rows(house.url, `update import set at = now() - interval '3 days'`);
    await rows(house.url, `update act set at = now() - interval '3 days'`);
    await rows(house.url, `insert into attempt (kind, key, at) values ('sign-in', 'x', now() - interval '3 days')`);
    await sweepImports();
    await sweepActs();
    await sweepAttempts();
    expect(await rows(house.url, 'select 1 from import where id = $1', [id])).toHaveLength(0);
    expect(await rows(house.url, `select 1 from act where at < now() - interval '2 days'`)).toHaveLength(0);
    expect(await rows(house.url, `select 1 from attempt where at < now() - interval '2 days'`)).toHaveLength(0);
  });
  test('as much as one may have, and it says so', async () => {
    const guest = await withCutter();
    const mat = () => addMat(guest, form({ name: 'M', grip: 'light', width: '305', length: '305', loads: '' }));
    for (let i = 0; i < quotas.rows.guest.mats; i++) await mat();
    expect(await fieldsOf(mat())).toEqual({
      form: `You have ${quotas.rows.guest.mats} mats here; ${quotas.rows.guest.mats} is the most for a guest: an account has room for more.`,
    });
  });
  test('as much as one may have, and no more where all are asked for at one moment', async () => {
    const guest = await withCutter();
    const { cutters } = quotas.rows.guest;
    const one = () =>
      transaction(() =>
        addCutter(guest, form({ model: 'marlow-24', name: 'One more', blade: 'b', angle: '45', used: '0' })),
      ).then(
        () => true,
        () => false,
      );
    const made = await Promise.all(Array.from({ length: cutters + 2 }, one));
    // One is there already.
    expect(made.filter(Boolean)).toHaveLength(cutters - 1);
  });
});

describe('a run belongs to one process', () => {
  test.each([
    ['of a process that is alive on this machine', `${hostname()}:${process.ppid}`, 0, 0],
    ['of a process that is gone from this machine', `${hostname()}:4194300`, 0, 1],
    ['of another machine, that spoke just now', 'elsewhere:17', 0, 0],
    ['of nobody', null, 0, 1],
  ])('%s', async (_, driver, silent, settled) => {
    const coupon = await makeCoupon(ada, (await benchOf(ada))!, vinyl, form({ cells: '3' }));
    const run = uuidv7();
    await rows(
      house.url,
      `insert into device_run (id, cut_id, person_id, device, driver, beat_at) values ($1, $2, $3, 'x', $4, now() - make_interval(secs => $5))`,
      [run, coupon, ada.id, driver, silent],
    );
    expect(await settleAfterCrash()).toBe(settled);
    await rows(house.url, 'update device_run set ended_at = now() where id = $1', [run]);
  });
});

test('two passes are two, whatever the axis is called: a card that is cut twice is confirmed as cut twice', async () => {
  // The shipped model with its axis of passes under another key.
  const model = structuredClone(shippedModel('marlow-24', 1)!) as {
    key: string;
    name: string;
    hpgl?: unknown;
    axes: { key: string; role: string }[];
  };
  Object.assign(model, { key: 'rounds', name: 'Rounds' });
  delete model.hpgl;
  model.axes.find((a) => a.role === 'passes')!.key = 'rounds';
  const author = await crafter('Rounds Author', 'marlow-24', 'rounds@example.org');
  const other = await crafter('Rounds Other', 'marlow-24', 'rounder@example.org');
  await publishModel(author, JSON.stringify(model));
  await rows(house.url, `delete from model_owner where key = 'rounds'`);
  for (const person of [author, other])
    await addCutter(person, form({ model: 'rounds', name: 'R', blade: 'b', angle: '45', used: '0' }));
  const own = await addVinyl(author, { ...starling, name: 'Twice over' }, 'public');
  const bench = (await benchOf(author))!;
  const coupon = await makeCoupon(author, bench, own, form({ cells: '4', 'c.rounds': '2' }));
  await takeAll(
    author,
    (await couponOf(author, coupon)).cells.map((c, i) => grade(c.id, ['hangs', 'clean', 'clean', 'scored'][i]!, 2, i)),
  );
  await keepSetting(author, form({ vinyl: own, cutter: bench.cutter.id, strength: '130', 'c.rounds': '2' }));
  const card = await publishCard(
    author,
    bench,
    form({ vinyl: own, wanted: 'clean', visibility: 'public', licence: 'cc0' }),
    'x',
  );
  await confirmCard(
    other,
    (await benchOf(other))!,
    card,
    form({ cut: nextCutId(), outcome: 'worked', strength: '130' }),
    'x',
  );
  const found = await rows<{ passes: number }>(
    house.url,
    `select e.passes from confirmation n join cell on cell.cut_id = n.cut_id join grade_event e on e.cell_id = cell.id where n.card_id = $1`,
    [card],
  );
  expect(found).toEqual([{ passes: 2 }]);
  expect((await cardView(other, await benchOf(other), card)).found).toHaveLength(1);
});
