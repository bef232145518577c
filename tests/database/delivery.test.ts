import pg from 'pg';
import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { quotas } from '#work/base/quotas.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { beginJob } from '#work/jobs/jobs.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { device, form, grade, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// The one door of what hands said: many at once, some that cannot be kept among them, repeats, and what it costs the database.
const house = ownHouse();
let person: Person;
let job: string;
let cells: string[];

beforeAll(async () => {
  ({ person } = await becomeGuest());
  await addCutter(person, form({ model: 'marlow-24', name: 'Mine', blade: 'first', angle: '45', used: '0' }));
  const vinyl = await addVinyl(
    person,
    form({ brand: 'Tansy', name: 'Loft', type: 'glitter', colour: 'maize', hex: '#e0ac33' }),
  );
  const coupon = await makeCoupon(person, (await benchOf(person))!, vinyl, form({ cells: '4' }));
  cells = (await couponOf(person, coupon)).cells.map((c) => c.id);
  job = await beginJob(person, shirtForm({ name: 'One shirt' }));
});

const step = `weed/${uuidv4()}`;
const tap = (i: number, more: object = {}) => ({
  id: uuidv7(),
  job,
  step,
  attempt: 1,
  rev: 1,
  device,
  deviceAt: new Date(Date.now() - 60_000 + i).toISOString(),
  kind: i % 2 ? 'pause' : 'start',
  ...more,
});
const words = ['hangs', 'clean', 'scored'];
const outcomes = async (events: readonly unknown[]) => (await takeAll(person, events)).map((o) => o.outcome);
const count = async (table: string) =>
  (await rows<{ n: number }>(house.url, `select count(*)::int as n from ${table}`))[0]!.n;

describe('a delivery', () => {
  test('of 200 costs a handful of statements, and the same again changes nothing', async () => {
    const events = [
      ...Array.from({ length: 100 }, (_, i) => tap(i)),
      ...Array.from({ length: 100 }, (_, i) => grade(cells[i % cells.length]!, words[i % 3]!)),
    ];
    const asked = vi.spyOn(pg.Client.prototype, 'query');
    const first = await outcomes(events);
    // What follows from grades is read again for each vinyl and cutter, however many grades there are.
    const storing = asked.mock.calls
      .map(([q]) => (typeof q === 'string' ? q : ((q as { text?: string }).text ?? '')))
      .filter((q) => /(job|grade|weed|cell_cut)_event|lock|from job\b/.test(q));
    asked.mockRestore();
    expect(first).toEqual(events.map(() => 'stored'));
    expect(storing.length).toBeGreaterThanOrEqual(3);
    expect(storing.length).toBeLessThanOrEqual(20);
    const before = [await count('job_event'), await count('grade_event')];
    expect(before).toEqual([100, 100]);
    expect(await outcomes(events)).toEqual(events.map(() => 'already'));
    expect([await count('job_event'), await count('grade_event')]).toEqual(before);
  });

  test('with one that cannot be kept keeps the others, in their order', async () => {
    const bad = tap(3, { kind: 'agreed', to: 'a\u0000b' });
    const events = [tap(1), tap(2), bad, tap(4), { id: 'x' }, tap(5, { rev: 7 }), tap(6, { job: uuidv4() }), tap(7)];
    const told = await takeAll(person, events);
    expect(told.map((o) => o.outcome)).toEqual([
      'stored',
      'stored',
      'refused',
      'stored',
      'refused',
      'later',
      'later',
      'stored',
    ]);
    expect(told.map((o) => o.id)).toEqual(events.map((e) => e.id));
    expect(told[2]!.why).toContain('cannot be kept');
    expect(await outcomes([events[0], bad])).toEqual(['already', 'refused']);
  });

  test('that repeats itself, or takes back what it brings, is taken once', async () => {
    const once = tap(1);
    expect(await outcomes([once, once, { ...tap(2), kind: 'undo', event: once.id }])).toEqual([
      'stored',
      'already',
      'stored',
    ]);
    const seen = grade(cells[0]!, 'clean');
    const back = { id: uuidv7(), kind: 'retract', cell: cells[0]!, retracts: seen.id, device, deviceAt: seen.deviceAt };
    expect(await outcomes([seen, seen, back, back])).toEqual(['stored', 'already', 'stored', 'already']);
  });

  test('what is there already is there, where no more may be said', async () => {
    const cell = cells[1]!;
    const said = (
      await rows<{ n: number }>(house.url, `select count(*)::int as n from grade_event where cell_id = '${cell}'`)
    )[0]!.n;
    const many = Array.from({ length: quotas.events.perCell - said + 1 }, () => grade(cell, 'clean'));
    const told = await outcomes(many.slice(0, 200));
    expect(told.filter((o) => o === 'refused').length).toBe(Math.max(0, many.length - (quotas.events.perCell - said)));
    expect(await outcomes([many[0]])).toEqual(['already']);
  });

  test('of another’s cells and jobs says nothing about them', async () => {
    const other = (await becomeGuest()).person;
    const events = [tap(1), grade(cells[0]!, 'clean')];
    expect((await takeAll(other, events)).map((o) => o.outcome)).toEqual(['later', 'later']);
  });

  test('two at one moment store one event once', async () => {
    const [at, seen] = [tap(9), grade(cells[2]!, 'clean')];
    const told = (await Promise.all([outcomes([at, seen]), outcomes([at, seen])])).flat();
    expect(told.filter((o) => o === 'stored')).toHaveLength(2);
    expect(told.filter((o) => o === 'already')).toHaveLength(2);
  });
});
