import pg from 'pg';
import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { afterEach, beforeAll, describe, expect, test } from 'vitest';
import { db, dbState, inTransaction, transaction, Unavailable } from '#store/base/db.ts';
import { askedBy } from '#work/base/asking.ts';
import { artworkOnThread, computedFirst } from '#work/base/compute.ts';
import { doOnce } from '#work/people/idempotency.ts';
import { adoptCard } from '#work/shelf/adopt.ts';
import { publishCard } from '#work/shelf/publish.ts';
import { mergeVinyls } from '#work/shelf/mergedVinyls.ts';
import { confirmCard } from '#work/shelf/confirm.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { settleCell } from '#work/cuts/line.ts';
import { Stale } from '#work/base/errors.ts';
import { doImport, seeFile } from '#work/answer/imports.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { becomeGuest, personOfToken } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { addPiece, takeByHand } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// An act is one transaction: all of it, or nothing, wherever the connection is cut off; sent again with the same key it is done once.
const house = ownHouse();
let ada: Person;
let ben: Person;
let vinyl = '';
let card = '';

const starling = { brand: 'Quillow', type: 'smooth', colour: 'one', hex: '#cfc4ea' };
const words = ['uncut', 'uncut', 'hangs', 'clean', 'scored', 'through'];
async function graded(person: Person, vinylId: string): Promise<string> {
  const coupon = await makeCoupon(person, (await benchOf(person))!, vinylId, form({ cells: '6' }));
  await takeAll(
    person,
    (await couponOf(person, coupon)).cells.map((c, i) => grade(c.id, words[i]!, 1, i)),
  );
  return coupon;
}

beforeAll(async () => {
  [ada, ben] = [
    await crafter('Ada Fenn', 'marlow-24', 'ada@example.org'),
    await crafter('Ben Rook', 'marlow-24', 'ben@example.org'),
  ];
  const bench = (await benchOf(ada))!;
  vinyl = await addVinyl(ada, { ...starling, name: 'Drift' }, 'public');
  await graded(ada, vinyl);
  await keepSetting(ada, form({ vinyl, cutter: bench.cutter.id, strength: '130' }));
  card = await publishCard(ada, bench, form({ vinyl, wanted: 'clean', visibility: 'public', licence: 'cc0' }), 'x');
});

/** Everything that acts write, counted. */
const state = async () =>
  (
    await rows<{ state: Record<string, number> }>(
      house.url,
      `select jsonb_build_object(${[
        ...[
          'person',
          'session',
          'cutter',
          'blade',
          'mounting',
          'bench',
          'vinyl',
          'colour',
          'batch',
          'vinyl_alias',
          'cut',
          'coupon',
          'cell',
          'ordinary_cut',
          'act',
        ],
        ...[
          'grade_event',
          'cell_cut_event',
          'setting',
          'card',
          'card_version',
          'confirmation',
          'stock',
          'stock_take',
          'import',
        ],
      ]
        .map((t) => `'${t}', (select count(*) from ${t})`)
        .join(
          ', ',
        )}, 'cut passes', (select count(*) from device_cell where state = 'cut'), 'imported', (select count(*) from import where state = 'done')) as state`,
    )
  )[0]!.state;

// The connection is cut off before the n-th statement, or right after a commit whose answer never arrives.
type Query = typeof pg.Client.prototype.query;
const original = pg.Client.prototype.query;
let cutBefore = Infinity;
let loseCommit = false;
let said = 0;
const isOurs = (client: pg.Client) =>
  (client as unknown as { connectionParameters: { application_name?: string } }).connectionParameters
    .application_name === 'versipel';
(pg.Client.prototype as { query: unknown }).query = function (this: pg.Client, ...args: Parameters<Query>) {
  const run = () => (original as (...a: unknown[]) => unknown).apply(this, args);
  if (!isOurs(this)) return run();
  if (++said === cutBefore) {
    const pid = (this as unknown as { processID: number }).processID;
    return rows(house.url, 'select pg_terminate_backend($1)', [pid])
      .then(() => new Promise((done) => setTimeout(done, 20)))
      .then(run);
  }
  if (loseCommit && args[0] === 'commit')
    return (run() as Promise<unknown>).then(() => {
      throw new Error('Connection terminated unexpectedly');
    });
  return run();
};
afterEach(() => {
  cutBefore = Infinity;
  loseCommit = false;
});

type Act = { fields: Record<string, string>; act: (person: Person, form: FormData) => Promise<unknown> };

const acts: Record<string, () => Promise<{ person: Person | undefined } & Act>> = {
  'a guest’s first cutter': () =>
    Promise.resolve({
      person: undefined,
      fields: { model: 'marlow-24', name: 'Mine', blade: 'first', angle: '45', used: '0' },
      act: addCutter,
    }),
  'a vinyl': () =>
    Promise.resolve({ person: ben, fields: { ...starling, name: `Loft ${uuidv4()}` }, act: (p, f) => addVinyl(p, f) }),
  'a coupon off a piece of stock': async () => {
    const piece = await addPiece(ben, vinyl, form({ kind: 'roll', width: '305', length: '2000' }));
    return {
      person: ben,
      fields: { cells: '4', piece },
      act: async (p, f) => makeCoupon(p, (await benchOf(p))!, vinyl, f),
    };
  },
  'a strip by hand': async () => {
    const piece = await addPiece(ben, vinyl, form({ kind: 'roll', width: '305', length: '2000' }));
    return { person: ben, fields: { take: '300' }, act: (p, f) => takeByHand(p, piece, f) };
  },
  'keeping a number': async () => {
    await graded(ben, vinyl);
    return {
      person: ben,
      fields: { vinyl, cutter: (await benchOf(ben))!.cutter.id, strength: '133', wanted: 'clean' },
      act: keepSetting,
    };
  },
  'publishing a card': async () => {
    const own = await addVinyl(ben, { ...starling, name: `Fold ${uuidv4()}` });
    await graded(ben, own);
    const bench = (await benchOf(ben))!;
    await keepSetting(ben, form({ vinyl: own, cutter: bench.cutter.id, strength: '130' }));
    return {
      person: ben,
      fields: { vinyl: own, wanted: 'clean', visibility: 'public', licence: 'cc0' },
      act: (p, f) => publishCard(p, bench, f, 'x'),
    };
  },
  'taking over a card': () =>
    Promise.resolve({ person: ben, fields: {}, act: async (p) => adoptCard(p, (await benchOf(p))!, card) }),
  'a card that worked': () =>
    Promise.resolve({
      person: ben,
      fields: { cut: nextCutId(), outcome: 'worked', strength: '130' },
      act: async (p, f) => confirmCard(p, (await benchOf(p))!, card, f, 'x'),
    }),
  'a card that wanted one stop more': () =>
    Promise.resolve({
      person: ben,
      fields: { cut: nextCutId(), outcome: 'more', strength: '130' },
      act: async (p, f) => confirmCard(p, (await benchOf(p))!, card, f, 'x'),
    }),
  'bringing a table in': async () => {
    const table = `brand,name,type\n${Array.from({ length: 12 }, (_, i) => `Tansy,${uuidv4().slice(0, 8)} ${i},puff`).join('\n')}\n`;
    const id = await seeFile(ben, { name: 't.csv', bytes: new TextEncoder().encode(table) });
    return { person: ben, fields: {}, act: (p) => doImport(p, id) };
  },
  'saying that two vinyls are one': async () => {
    const [a, b] = [
      await addVinyl(ben, { ...starling, name: `A ${uuidv4()}` }),
      await addVinyl(ben, { ...starling, name: `B ${uuidv4()}` }),
    ];
    return { person: ben, fields: {}, act: (p) => mergeVinyls(p, a, b) };
  },
  'what was seen of a pass that was unclear': async () => {
    const coupon = await makeCoupon(ben, (await benchOf(ben))!, vinyl, form({ cells: '4' }));
    const { cells } = await couponOf(ben, coupon);
    const run = uuidv7();
    await rows(
      house.url,
      `insert into device_run (id, cut_id, person_id, device, ended_at) values ($1, $2, $3, 'x', now())`,
      [run, coupon, ben.id],
    );
    await rows(
      house.url,
      `insert into device_cell (run_id, cell_id, pass, number, state) values ($1, $2, 1, 1, 'unclear')`,
      [run, cells[0]!.id],
    );
    return {
      person: ben,
      fields: { run, cell: cells[0]!.id, pass: '1', seen: 'cut' },
      act: (p, f) => settleCell(p, coupon, f),
    };
  },
};

describe('cut off between any two statements', () => {
  test.each(Object.keys(acts))('%s: nothing or all of it; the same form again completes it, once', async (name) => {
    const { person, fields, act } = await acts[name]!();
    const once = uuidv4();
    const send = () =>
      doOnce({ path: name, form: form({ ...fields, once }), person, zone: undefined }, async (actor) => {
        await act(actor, form(fields));
        return '/done';
      });
    const before = await state();
    let done: Awaited<ReturnType<typeof send>> | undefined;
    let n = 0;
    while (!done && n < 200) {
      n++;
      said = 0;
      cutBefore = n;
      done = await send().catch((error: unknown) => {
        expect(error).toBeInstanceOf(Unavailable);
        return undefined;
      });
      cutBefore = Infinity;
      if (!done) expect(await state()).toEqual(before);
    }
    expect(n).toBeGreaterThan(3);
    expect(done!.to).toBe('/done');
    const after = await state();
    expect(after).not.toEqual(before);
    expect(after.act).toBe(before.act! + 1);
    // Again, and six times at once: the same answer, and nothing more is there than the session of a guest who came without a cookie.
    const again = await Promise.all(Array.from({ length: 6 }, send));
    for (const a of again) expect(a.to).toBe('/done');
    const { session: _s, ...now } = await state();
    const { session: _t, ...then } = after;
    expect(now).toEqual(then);
    console.log(`${name}: cut off at ${n - 1} places`);
  });

  test('the answer to the commit itself is lost: the same form again hears it, and nothing is done twice', async () => {
    const { person, fields, act } = await acts['a card that worked']!();
    const asked = () => ({
      path: 'x',
      form: form({ ...fields, once: 'a key of a form' }),
      person,
      zone: undefined,
    });
    loseCommit = true;
    await expect(doOnce(asked(), async (p) => (await act(p, form(fields)), '/done'))).rejects.toBeInstanceOf(
      Unavailable,
    );
    loseCommit = false;
    const after = await state();
    expect(await doOnce(asked(), async (p) => (await act(p, form(fields)), '/done'))).toEqual({ to: '/done' });
    expect(await state()).toEqual(after);
    expect(await rows(house.url, 'select 1 from confirmation where cut_id = $1', [fields.cut])).toHaveLength(1);
  });
});

describe('the same form', () => {
  test('a stranger’s three taps at once are one guest, who is known afterwards', async () => {
    const fields = { ...starling, name: 'Thrice', once: uuidv4() };
    const people = Number((await state()).person);
    const taps = await Promise.all(
      Array.from({ length: 3 }, () =>
        doOnce(
          { path: 'r', form: form(fields), person: undefined, zone: 'UTC' },
          async (p) => `/vinyls/${await addVinyl(p, form(fields))}`,
        ),
      ),
    );
    expect(new Set(taps.map((t) => t.to)).size).toBe(1);
    expect((await state()).person).toBe(people + 1);
    const who = await Promise.all(taps.map((t) => personOfToken(t.token)));
    expect(new Set(who.map((p) => p!.id)).size).toBe(1);
  });
  test('other words under the same key are another act; another person’s is told, not obeyed', async () => {
    const once = uuidv4();
    const make = (person: Person, name: string) =>
      doOnce(
        { path: 'r', form: form({ ...starling, name, once }), person, zone: undefined },
        async (p) => `/vinyls/${await addVinyl(p, form({ ...starling, name }))}`,
      );
    const one = await make(ben, 'One');
    expect((await make(ben, 'Two')).to).not.toBe(one.to);
    expect((await make(ben, 'One')).to).toBe(one.to);
    await expect(make(ada, 'One')).rejects.toBeInstanceOf(Stale);
  });
  test('what is refused leaves no guest, no act and nothing else', async () => {
    const before = await state();
    await expect(
      doOnce({ path: 'r', form: form({ name: '', once: uuidv4() }), person: undefined, zone: undefined }, (p) =>
        addVinyl(p, form({ name: '' })),
      ),
    ).rejects.toHaveProperty('fields');
    expect(await state()).toEqual(before);
  });
});

describe('one connection a transaction', () => {
  test('whatever asks inside one is on its connection; outside on another', async () => {
    await transaction(async (q) => {
      expect(inTransaction()).toBe(true);
      const pid = async (on: typeof q) =>
        (await on.query<{ pid: number }>('select pg_backend_pid() as pid')).rows[0]!.pid;
      expect(await pid(db())).toBe(await pid(q));
      await transaction(async (inner) => expect(await pid(inner)).toBe(await pid(q)));
    });
    expect(inTransaction()).toBe(false);
  });
  test('a part that fails is rolled back alone; with the whole, all of it; several parts at once take turns', async () => {
    const { person } = await becomeGuest();
    const name = async () =>
      (await rows<{ name: string }>(house.url, 'select name from person where id = $1', [person.id]))[0]!.name;
    const call = (q: { query: (t: string, v: unknown[]) => Promise<unknown> }, to: string) =>
      q.query('update person set name = $2 where id = $1', [person.id, to]);
    await transaction(async (q) => {
      await call(q, 'whole');
      await transaction(async (part) => {
        await call(part, 'part');
        throw new Error('no');
      }).catch(() => undefined);
      await Promise.all(
        ['a', 'b', 'c'].map((to) =>
          transaction(async (part) => {
            await call(part, to);
            if (to === 'c') throw new Error('no');
          }).catch(() => undefined),
        ),
      );
    });
    expect(await name()).toBe('b');
    await transaction(async (q) => {
      await call(q, 'never');
      throw new Error('no');
    }).catch(() => undefined);
    expect(await name()).toBe('b');
  });
  test('more at once than there are connections are all done', async () => {
    const done = await Promise.all(
      Array.from({ length: 60 }, (_, i) =>
        transaction(async () => (await db().query<{ i: number }>('select $1::int as i', [i])).rows[0]!.i),
      ),
    );
    expect(done).toEqual(Array.from({ length: 60 }, (_, i) => i));
    expect(dbState().waiting).toBe(0);
  });
});

describe('what an act needs computed', () => {
  const drawing = (side: number) => `<svg viewBox="0 0 ${side} 9"><path d="M0 0h${side}v9z"/></svg>`;
  const asked = <T>(act: () => Promise<T>) => askedBy({ address: '203.0.113.1' }, () => computedFirst(act));
  test('is computed before its transaction: the act is begun once more with what was found', async () => {
    const inside: boolean[] = [];
    const made = await asked(() =>
      transaction(async () => {
        inside.push(true);
        const { width } = await artworkOnThread(drawing(9));
        const { height } = await artworkOnThread(drawing(18));
        return [width, height];
      }),
    );
    expect(made).toEqual([1_000_000, 500_000]);
    expect(inside).toHaveLength(3);
  });
  test('and is computed within it where it asks for something else each time', async () => {
    let begun = 0;
    await asked(() => transaction(() => artworkOnThread(drawing(9 + begun++))));
    expect(begun).toBeGreaterThan(5);
    expect(begun).toBeLessThan(40);
  });
  test('outside of one it is computed at once', async () => {
    let begun = 0;
    await asked(() => artworkOnThread(drawing(60 + begun++)));
    expect(begun).toBe(1);
  });
});
