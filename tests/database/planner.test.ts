import { v7 as uuidv7 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { checkFilms } from '#work/jobs/check.ts';
import { learntLeasts } from '#work/coupons/learnt.ts';
import { takeAll } from '#work/deliver.ts';
import { evennessOf, evennessOfCutter } from '#work/coupons/evenness.ts';
import { cutOf, markFile, nextCutId, reportCut } from '#work/cuts/cuts.ts';
import { becomeGuest } from '#work/people/people.ts';
import { baseFor, weedingOf } from '#work/coupons/evidence.ts';
import { driftOf, readingFor } from '#work/coupons/readings.ts';
import { addPiece, stockOfVinyl } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { device, fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

const house = ownHouse();

async function atWork() {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'Marlow', blade: 'first', angle: '45', used: '0' }));
  const vinyl = await addVinyl(
    person,
    form({ brand: 'Ferrule & Sons', name: 'Starling', type: 'glitter', colour: 'ember red', hex: '#B0203A' }),
  );
  return { person, vinyl, bench: (await benchOf(person))! };
}
const gradeBy = async (
  person: Awaited<ReturnType<typeof atWork>>['person'],
  coupon: string,
  word: (force: number, i: number) => string,
) => {
  const { cells } = await couponOf(person, coupon);
  await takeAll(
    person,
    cells.map((c, i) => grade(c.id, word(c.position, i), 1, i)),
  );
  return cells;
};
const ordinary = (force: number) =>
  force < 100 ? 'uncut' : force < 112 ? 'hangs' : force < 165 ? 'clean' : force < 200 ? 'scored' : 'through';

describe('the material in hand', () => {
  test('a coupon has as many cells as the piece has room for; one that is too small is refused at its field', async () => {
    const { person, vinyl, bench } = await atWork();
    const piece = (width: string, length: string) =>
      addPiece(person, vinyl, form({ kind: 'offcut', width, length, price: '' }));
    await piece('38 mm', '45 mm');
    await piece('20 mm', '20 mm');
    const pieces = await stockOfVinyl(person, vinyl);
    const [large, small] = [pieces.find((p) => p.widthUm === 38_000)!, pieces.find((p) => p.widthUm === 20_000)!];
    const coupon = await makeCoupon(person, bench, vinyl, form({ cells: '6', piece: large.id }));
    const view = await couponOf(person, coupon);
    expect(view.cells).toHaveLength(4);
    expect(view.plan.asked).toBe(6);
    expect(view.sheet.width).toBeLessThanOrEqual(38_000);
    expect(await fieldsOf(makeCoupon(person, bench, vinyl, form({ cells: '6', piece: small.id })))).toEqual({
      piece: `What is left of ${small.code} is too small even for 3 cells. Choose another piece.`,
    });
  });
});

describe('the age of the blade', () => {
  test('is written with every cut; a number moves with it, and says so', async () => {
    const { person, vinyl, bench } = await atWork();
    const coupon = await makeCoupon(person, bench, vinyl, form({ cells: '6' }));
    await gradeBy(person, coupon, ordinary);
    expect(await rows(house.url, 'select wear from cut where id = $1', [coupon])).toEqual([{ wear: 0 }]);
    const before = await readingFor(person.id, vinyl, bench.cutter.id, 'clean', undefined);
    expect(await driftOf(before.evidence, before.events, before.result)).toBeUndefined();
    // Fifty metres of plain film later.
    const [blade] = await rows<{ id: string }>(house.url, 'select id from blade where person_id = $1', [person.id]);
    await rows(house.url, `insert into blade_run (blade_id, type, run_um) values ($1, 'smooth', 50000000)`, [
      blade!.id,
    ]);
    const now = await readingFor(person.id, vinyl, bench.cutter.id, 'clean', undefined);
    const drift = (await driftOf(now.evidence, now.events, now.result))!;
    expect(drift.share).toBeGreaterThan(0.8);
    expect(drift.now).toBeGreaterThan(drift.then);
    expect(now.result.summary.best.chance).toBeLessThan(before.result.summary.best.chance);
  });
});

describe('weeding', () => {
  test('arrives by the same door as grades, once; the latest word counts; only clean cells speak', async () => {
    const { person, vinyl, bench } = await atWork();
    const coupon = await makeCoupon(person, bench, vinyl, form({ cells: '8' }));
    const cells = await gradeBy(person, coupon, (_, i) => (i < 2 ? 'uncut' : i < 5 ? 'clean' : 'scored'));
    const weed = (cell: string, ease: number, lost: string[], seconds: number) => ({
      id: uuidv7(),
      kind: 'weed',
      cell,
      device,
      deviceAt: new Date(1_790_000_100_000 + seconds * 1000).toISOString(),
      ease,
      lost,
      torn: false,
    });
    const first = weed(cells[3]!.id, 2, ['bar'], 1);
    const outcomes = await takeAll(person, [
      first,
      first,
      weed(cells[3]!.id, 4, [], 2),
      weed(cells[4]!.id, 2, ['bar', 'hole'], 3),
      weed(cells[6]!.id, 1, ['corner'], 4),
      { ...weed(cells[3]!.id, 9, [], 5) },
    ]);
    expect(outcomes.map((o) => o.outcome)).toEqual(['stored', 'already', 'stored', 'stored', 'stored', 'refused']);
    const { evidence, events } = await readingFor(person.id, vinyl, bench.cutter.id, 'clean', undefined);
    expect(await weedingOf(evidence, events)).toMatchObject({ n: 2, ease: 3, leastLineUm: 1_200, leastGapUm: 500 });
    const { person: other } = await atWork();
    expect((await takeAll(other, [weed(cells[3]!.id, 5, [], 6)]))[0]!.outcome).toBe('later');
    await expect(rows(house.url, 'update weed_event set ease = 1')).rejects.toThrow();
    // What was lost is what a drawing is judged by, for this person and nobody else.
    const needs = async (who: typeof person) =>
      (await checkFilms(who)).find((f) => f.key === vinyl) ?? (await checkFilms(who)).find((f) => f.key === 'smooth');
    expect(await needs(person)).toMatchObject({ needs: { line: 1_200 }, learntFrom: 2 });
    expect((await learntLeasts((await atWork()).person, [vinyl])).size).toBe(0);
    // A coupon with the finest gap of a drawing: three cells that kept it say that it holds; a width no figure can show is left alone.
    const fine = await makeCoupon(person, bench, vinyl, form({ cells: '6', bar: '900', gap: '400' }));
    expect((await couponOf(person, fine)).sheet.finest).toEqual({ bar: 900, gap: 400 });
    const fineCells = await gradeBy(person, fine, () => 'clean');
    await takeAll(
      person,
      fineCells.slice(0, 3).map((c, i) => weed(c.id, 5, [], 10 + i)),
    );
    expect((await learntLeasts(person, [vinyl])).get(vinyl)).toEqual({ line: 900, gap: 400, cells: 5 });
    const odd = await makeCoupon(person, bench, vinyl, form({ cells: '6', bar: '5', gap: '400' }));
    expect((await couponOf(person, odd)).sheet.finest).toBeUndefined();
  });
});

describe('a test mark', () => {
  test('is three cells beside the job’s own, graded like any other; its file is that of the setting', async () => {
    const { person, vinyl, bench } = await atWork();
    const coupon = await makeCoupon(person, bench, vinyl, form({ cells: '6' }));
    const cells = await gradeBy(person, coupon, ordinary);
    const setting = (await couponOf(person, coupon)).sheet.cells[3]!.setting;
    const cut = nextCutId();
    const tell = () =>
      reportCut(
        person,
        bench,
        form({
          cut,
          vinyl,
          cutter: bench.cutter.id,
          wanted: 'clean',
          setting: JSON.stringify(setting),
          witness: 'yes',
        }),
      );
    expect([await tell(), await tell()]).toEqual([cut, cut]);
    const { marks, events } = await cutOf(person, cut);
    expect(marks.map((m) => m.number)).toEqual([2, 3, 4]);
    expect(events).toEqual([]);
    await takeAll(person, [grade(marks[0]!.cell, 'hangs'), grade(marks[1]!.cell, 'clean', 1, 1)]);
    const { result } = await readingFor(person.id, vinyl, bench.cutter.id, 'clean', undefined);
    expect(result.evidence.cells).toBe(cells.length + 2);
    // What was wanted next starts from the job, not from its marks.
    expect((await baseFor(person.id, vinyl, bench.cutter, 'clean')).steps.force).toBe(setting.steps.force);
    const file = await markFile(person, bench, vinyl, JSON.stringify(setting), 'svg');
    expect(file.name).toBe('test-mark.svg');
    expect(file.body.match(/data-cell=/g)).toHaveLength(3);
    await expect(markFile(person, bench, vinyl, '{"model":"x"}', 'svg')).rejects.toThrow('no setting');
    await expect(markFile(person, bench, vinyl, JSON.stringify(setting), 'exe')).rejects.toThrow('No such file');
  });
});

describe('cells that try passes beside the strength', () => {
  test('the coupon is read for the controls it was planned with, and so is the next', async () => {
    const { person, vinyl, bench } = await atWork();
    const wish = form({ cells: '9', 'c.passes': '1' });
    wish.append('also', 'passes');
    const coupon = await makeCoupon(person, bench, vinyl, wish);
    const view = await couponOf(person, coupon);
    expect(new Set(view.cells.map((c) => c.planned)).size).toBeGreaterThan(1);
    expect(view.evidence.base.steps.passes).toBe(1);
    expect((await baseFor(person.id, vinyl, bench.cutter, 'clean')).steps.passes).toBe(1);
    // Every cell is graded after its own passes.
    await takeAll(
      person,
      view.cells.map((c, i) => grade(c.id, i < 3 ? 'hangs' : i < 7 ? 'clean' : 'scored', c.planned, i)),
    );
    expect((await couponOf(person, coupon)).result.evidence.cells).toBe(9);
  });
});

describe('one cell all over the mat', () => {
  test('a side that cuts light is found and named, for the coupon and for the cutter; other coupons say nothing', async () => {
    const { person, vinyl, bench } = await atWork();
    const before = await makeCoupon(person, bench, vinyl, form({ cells: '8' }));
    await gradeBy(person, before, ordinary);
    expect(await evennessOf(person, before)).toBeUndefined();
    const even = await makeCoupon(person, bench, vinyl, form({ mode: 'even', cells: '12' }));
    const { sheet } = await couponOf(person, even);
    const middle = sheet.width / 2;
    await gradeBy(person, even, (_, i) => (sheet.cells[i]!.x < middle ? 'uncut' : 'clean'));
    const found = (await evennessOf(person, even))!;
    expect(found.graded).toBe(12);
    expect(found.range).toBeGreaterThan(0.04);
    expect(found.places.filter((p) => p.x < middle).every((p) => p.offset < 0)).toBe(true);
    expect(await evennessOfCutter(person, bench.cutter.id)).toEqual(found);
    const { person: other } = await atWork();
    await expect(evennessOf(other, even)).rejects.toThrow();
  });
});
