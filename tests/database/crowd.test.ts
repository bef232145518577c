import { beforeAll, describe, expect, test, vi } from 'vitest';
import { db, dbLimits, dbState, transaction } from '#store/base/db.ts';
import { askedBy, type Asking } from '#work/base/asking.ts';
import { Busy } from '#work/base/errors.ts';
import { isAwake } from '#work/base/health.ts';
import { log } from '#work/base/log.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import type { Person } from '#work/people/person.ts';
import { takeAll } from '#work/deliver.ts';
import { alikeVinyls } from '#work/vinyls/alike.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// Many at once: what stays free for others, and what is said when something gives way.
const house = ownHouse();
let ada: Person;
let vinyl = '';
beforeAll(async () => {
  ada = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
  vinyl = await addVinyl(ada, { brand: 'Quillow', name: 'Starling', type: 'smooth', colour: 'one', hex: '#cfc4ea' });
});

/** Holds every connection that pages have until it is told to let go. */
async function holdAll(): Promise<() => Promise<unknown>> {
  let go = () => {};
  const released = new Promise<void>((done) => (go = done));
  let held = 0;
  const holders = Array.from({ length: dbLimits.connections }, () =>
    transaction(async (q) => {
      await q.query('select 1');
      held++;
      await released;
    }),
  );
  while (held < dbLimits.connections) await new Promise((done) => setTimeout(done, 10));
  return async () => {
    go();
    await Promise.all(holders);
  };
}

describe('a database whose connections are all in use', () => {
  test('/health is answered on a connection of its own, while a page waits for one', async () => {
    await isAwake();
    const release = await holdAll();
    try {
      let paged = false;
      const page = db()
        .query('select 1')
        .then(() => (paged = true));
      await isAwake();
      expect(dbState().waiting).toBe(1);
      expect(paged).toBe(false);
      await release();
      await page;
    } finally {
      await release();
    }
  });
});

describe('comparing names', () => {
  const asking = (address: string): Asking => ({ address });
  const look = (address: string) => askedBy(asking(address), () => alikeVinyls(ada, 'Quillow Starlnig'));

  test('finds what is alike', async () => {
    expect((await look('198.51.100.1')).map((v) => v.id)).toEqual([vinyl]);
  });
  test('one asker has one turn and four that wait; whoever asks more is told, and another is answered', async () => {
    const release = await holdAll();
    const all = Array.from({ length: 9 }, () =>
      look('198.51.100.2').then(
        () => 'answered',
        (error: unknown) => (error instanceof Busy ? 'busy' : error),
      ),
    );
    const other = look('198.51.100.3');
    await release();
    expect((await other).map((v) => v.id)).toEqual([vinyl]);
    const became = await Promise.all(all);
    expect(became.filter((r) => r === 'answered')).toHaveLength(5);
    expect(became.filter((r) => r === 'busy')).toHaveLength(4);
  });
});

test('what follows from evidence and fails is logged; what was said is kept, and read again later', async () => {
  const coupon = await makeCoupon(ada, (await benchOf(ada))!, vinyl, form({ cells: '3' }));
  const [cell] = await rows<{ id: string }>(house.url, `select id from cell where cut_id = $1 order by number`, [
    coupon,
  ]);
  await rows(house.url, `alter table reading rename to reading_away`);
  const warned = vi.spyOn(log, 'warn').mockImplementation(() => undefined);
  try {
    expect(await takeAll(ada, [grade(cell!.id, 'clean')])).toEqual([expect.objectContaining({ outcome: 'stored' })]);
    expect(warned.mock.calls.map(([what]) => what)).toContainEqual(
      expect.objectContaining({ event: 'left for later', what: 'readings' }),
    );
  } finally {
    warned.mockRestore();
    await rows(house.url, `alter table reading_away rename to reading`);
  }
});
