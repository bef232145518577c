import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { filmShapes, judge } from '#core/artwork/index.ts';
import { keptAt } from '#core/job/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { checkFilms, drawingOfJob } from '#work/jobs/check.ts';
import { takeAll } from '#work/deliver.ts';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { changeLayers } from '#work/jobs/layers.ts';
import { mendJob, takeMended, unmendJob } from '#work/jobs/mend.ts';
import { proposeVinyls } from '#work/jobs/offers.ts';
import { repeatJob } from '#work/jobs/repeat.ts';
import { weededParts } from '#work/jobs/weeded.ts';
import { jobOf, type JobView } from '#work/jobs/view.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, fieldsOf, form, saidOf, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';
import type { Person } from '#work/people/person.ts';

// What one page of a job decides, every other page says: the verdict, the films, the size, what was lost, where a test cut leads back to.
const house = ownHouse();

/** A sheet with a counter of 1.5 % and a hole of 8 % of its width, and three small stars beside it. */
const drawn = `<svg viewBox="0 0 100 60"><path fill="#b3202c" fill-rule="evenodd" d="M0 0h60v60h-60zM30 30v1.5h1.5v-1.5zM10 10v8h8v-8zM70 0h4v4h-4zM70 30h4v4h-4zM96 56h4v4h-4z"/></svg>`;
let n = 0;
const person = () => crafter('Ada', 'marlow-24', `ada${++n}@board.example`);
const vinyl = (who: Person, type: string, hex = '#b3202c') =>
  addVinyl(who, { brand: 'Tansy', name: `Own ${type}`, type, colour: 'red', hex });
async function jobIn(who: Person, type: string, more: Record<string, string> = {}) {
  const id = await beginJob(who, shirtForm(more));
  await setDrawing(who, id, form({ svg: drawn }));
  const own = await vinyl(who, type);
  await chooseVinyl(who, id, form({ layer: (await jobOf(who, id)).layers[0]!.id, vinyl: own }));
  return { id, vinyl: own };
}
const size = (mm: number) =>
  form({ width: `${mm} mm`, from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' });
/** As the board has it. */
const verdictOf = ({ artwork, layers, plan }: JobView) =>
  judge(
    artwork!,
    layers.map((l) => ({ layer: l.art, film: l.needs! })),
    plan.design!.widthUm,
  );

describe('one verdict', () => {
  test('for every type the check is handed the size and the film of the job, and judges as the board does', async () => {
    const who = await person();
    const id = await beginJob(who, shirtForm());
    await setDrawing(who, id, form({ svg: drawn }));
    for (const type of vinylTypeKeys) {
      const own = await vinyl(who, type);
      await chooseVinyl(who, id, form({ layer: (await jobOf(who, id)).layers[0]!.id, vinyl: own }));
      await setSize(who, id, size(60), false);
      const job = await jobOf(who, id);
      const checked = await drawingOfJob(who, id);
      const films = await checkFilms(
        who,
        checked.films.map((f) => f.vinyl),
      );
      const film = films.find((f) => f.key === checked.films.find((c) => c.hex === job.layers[0]!.drawn)!.vinyl);
      expect(film?.needs, type).toEqual(job.layers[0]!.needs);
      expect(checked.drawing.widthUm, type).toBe(60_000);
      expect(
        judge(job.artwork!, [{ layer: job.layers[0]!.art, film: film!.needs }], checked.drawing.widthUm).faults,
        type,
      ).toEqual(verdictOf(job).faults);
    }
    // On the way to another page is not done with it.
    expect((await jobOf(who, id)).plan.design!.sized).toBe(false);
  }, 120_000);

  test('a puff that closes is mended at its size, and put back', async () => {
    const who = await person();
    const { id, vinyl: own } = await jobIn(who, 'puff');
    await setSize(who, id, size(120));
    const before = await jobOf(who, id);
    expect(verdictOf(before).faults.map((f) => f.kind)).toContain('closes');
    await mendJob(who, id);
    const after = await jobOf(who, id);
    expect(verdictOf(after).faults.filter((f) => f.kind === 'closes' || f.kind === 'gap')).toEqual([]);
    expect([after.layers[0]!.id, after.layers[0]!.vinyl!.id]).toEqual([before.layers[0]!.id, own]);
    expect(Math.abs(after.plan.design!.widthUm - 120_000)).toBeLessThan(50);
    expect(after.plan.design!.artwork).not.toBe(before.plan.design!.artwork);
    await unmendJob(who, id);
    expect((await jobOf(who, id)).plan.design).toEqual({ ...before.plan.design!, widthUm: after.plan.design!.widthUm });
  });
  test('where nothing is wrong there is nothing to mend; what stands in another workshop is not there', async () => {
    const who = await person();
    const { id } = await jobIn(who, 'smooth');
    await setSize(who, id, size(250));
    if (verdictOf(await jobOf(who, id)).faults.length === 0)
      expect(await fieldsOf(mendJob(who, id))).toHaveProperty('form');
    await expect(mendJob(await person(), id)).rejects.toBeInstanceOf(NotFound);
  });
  test('a size and a film that were chosen in the check come back to the job', async () => {
    const who = await person();
    const { id } = await jobIn(who, 'smooth');
    const other = await vinyl(who, 'glitter');
    const back = form({ svg: drawn, width: '180000' });
    back.append('film', `#b3202c ${other}`);
    await takeMended(who, id, back);
    const { plan } = await jobOf(who, id);
    expect([plan.design!.widthUm, plan.layers[0]!.vinyl]).toEqual([180_000, other]);
    const wrong = form({ svg: drawn, width: '180000' });
    wrong.append('film', 'puff');
    expect(await fieldsOf(takeMended(who, id, wrong))).toHaveProperty('form');
  });
});

test('a mended drawing keeps the order of its layers, and what was left out stays out', async () => {
  const who = await person();
  const id = await beginJob(who, shirtForm());
  const three = drawn.replace(
    '</svg>',
    '<path fill="#204080" d="M66 2h20v20h-20z"/><path fill="#30a050" d="M66 40h20v18h-20z"/></svg>',
  );
  await setDrawing(who, id, form({ svg: three }));
  const own = await vinyl(who, 'puff');
  const { layers } = await jobOf(who, id);
  const act = (what: string, layer: string) => changeLayers(who, id, form({ act: what, layer }));
  await act('leave', layers.find((l) => l.drawn === '#30a050')!.id);
  await act('up', layers.find((l) => l.drawn === '#b3202c')!.id);
  for (const l of (await jobOf(who, id)).layers) await chooseVinyl(who, id, form({ layer: l.id, vinyl: own }));
  await setSize(who, id, size(120));
  const before = await jobOf(who, id);
  await mendJob(who, id);
  const after = await jobOf(who, id);
  expect(after.layers.map((l) => [l.id, l.drawn])).toEqual(before.layers.map((l) => [l.id, l.drawn]));
  expect(after.leftOut.map((l) => l.hex)).toEqual(['#30a050']);
});

test('what is in stock and fits is proposed; what is not in hand, and a second colour of the same film, are not', async () => {
  const who = await person();
  const red = await vinyl(who, 'smooth');
  const id = await beginJob(who, shirtForm());
  await setDrawing(who, id, form({ svg: drawn }));
  expect(await proposeVinyls(who, await benchOf(who), id)).toBe(false);
  await addPiece(who, red, form({ kind: 'roll', width: '305 mm', length: '3 m' }));
  expect(await proposeVinyls(who, await benchOf(who), id)).toBe(true);
  expect((await jobOf(who, id)).layers[0]!.vinyl!.id).toBe(red);
});

test('lost pieces of film are cut again by themselves, close together; of a drawing that was changed the whole layer is', async () => {
  const who = await person();
  const { id } = await jobIn(who, 'smooth', { count: '4' });
  await setSize(who, id, size(200));
  const job = await jobOf(who, id);
  const said = (shapes: { artwork: string; ids: string[] } | undefined) => ({
    id: uuidv7(),
    job: id,
    step: `weed/${job.layers[0]!.part}`,
    attempt: 1,
    rev: job.rev,
    device: uuidv4(),
    deviceAt: new Date().toISOString(),
    kind: 'lost',
    part: job.layers[0]!.part,
    pieces: [job.plan.pieces[1]!.id],
    ...(shapes ? { shapes } : {}),
  });
  const artwork = job.plan.design!.artwork;
  // The outlines of the drawing: which of them are the small squares is asked of the reader.
  const stars = filmShapes(job.layers[0]!.art).filter((s) => s.box.width < 0.1 * job.artwork!.width);
  expect(stars).toHaveLength(3);
  const ids = stars.slice(0, 2).map((s) => s.id);
  const answers = await takeAll(who, [said({ artwork, ids }), said({ artwork: 'f'.repeat(64), ids }), said(undefined)]);
  expect(answers.map((a) => a.outcome)).toEqual(['stored', 'stored', 'stored']);
  const { parts } = await jobOf(who, id);
  expect(parts.map((r) => r.pieces)).toEqual([2, job.layers[0]!.art.pieces, job.layers[0]!.art.pieces]);
  // Two squares of 8 mm on one offcut: a border all round, and a finger between them.
  expect(Math.max(parts[0]!.film!.width, parts[0]!.film!.height)).toBeLessThan(60_000);
  expect(parts[1]!.film!.width).toBeGreaterThan(200_000);
  const bad = await takeAll(who, [{ ...said(undefined), shapes: { artwork, ids: ['p1; drop table'] } }]);
  expect(bad[0]!.outcome).toBe('refused');
});

test('a layer that stays as it was cut is asked about once; a new size asks again', async () => {
  const who = await person();
  const { id } = await jobIn(who, 'smooth');
  await setSize(who, id, size(200));
  const job = await jobOf(who, id);
  const bench = (await benchOf(who))!;
  const event = (more: object) => saidOf(job, more);
  const { part } = job.layers[0]!;
  const setting = (await couponOf(who, await makeCoupon(who, bench, job.layers[0]!.vinyl!.id, form({})))).evidence.base;
  await takeAll(who, [
    event({ kind: 'cut', step: `cut/${part}`, part, setting, mounting: bench.blade!.mounting, witness: false }),
  ]);
  const others = async () => (await jobOf(who, id)).sheet.otherSize.map((o) => o.widthUm);
  expect(await others()).toEqual([]);
  await setSize(who, id, size(150));
  expect(await others()).toEqual([200_000]);
  await takeAll(who, [event({ kind: 'agreed', step: `cut/${part}`, to: keptAt(150_000) })]);
  expect(await others()).toEqual([]);
  // What is kept so is no leave to press a stack that does not hold.
  expect((await jobOf(who, id)).sheet.agreed).toEqual([]);
  await setSize(who, id, size(160));
  expect(await others()).toEqual([200_000]);
});

test('a test cut that was made for a job leads back to it; that of somebody else is refused', async () => {
  const who = await person();
  const { id, vinyl: own } = await jobIn(who, 'glitter');
  const bench = (await benchOf(who))!;
  const coupon = await makeCoupon(who, bench, own, form({ job: id }));
  expect((await couponOf(who, coupon)).job).toEqual({ id, name: (await jobOf(who, id)).name });
  const other = await person();
  const theirs = await vinyl(other, 'glitter');
  await expect(makeCoupon(other, (await benchOf(other))!, theirs, form({ job: id }))).rejects.toBeInstanceOf(NotFound);
});

test('the same again: nothing done, the same blank, drawing and vinyls, ids of its own', async () => {
  const who = await person();
  const { id } = await jobIn(who, 'smooth');
  await setSize(who, id, size(200));
  const [one, two] = [await jobOf(who, id), await jobOf(who, await repeatJob(who, id))];
  expect([two.sheet.done, two.missing, two.plan.design!.widthUm]).toEqual([0, 'size', 200_000]);
  expect(two.plan.blank).toEqual(one.plan.blank);
  expect(two.layers[0]!.vinyl!.id).toBe(one.layers[0]!.vinyl!.id);
  const ids = (j: JobView) => [...j.plan.pieces, ...j.plan.layers, ...j.plan.loads].map((x) => x.id);
  expect(ids(one).some((x) => ids(two).includes(x))).toBe(false);
  await expect(repeatJob(await person(), id)).rejects.toBeInstanceOf(NotFound);
});

test('a weeding against the clock is counted once and kept; taken back it is no more', async () => {
  const who = await person();
  const { id } = await jobIn(who, 'smooth', { count: '2' });
  await setSize(who, id, size(200));
  const job = await jobOf(who, id);
  const device = uuidv4();
  const from = Date.now() - 200_000;
  const said = (seconds: number, more: object) => ({
    id: uuidv7(),
    job: id,
    step: `weed/${job.layers[0]!.part}`,
    attempt: 1,
    rev: job.rev,
    device,
    deviceAt: new Date(from + seconds * 1000).toISOString(),
    ...more,
  });
  const done = said(90, { kind: 'done' });
  await takeAll(who, [said(0, { kind: 'start' }), done]);
  const first = await weededParts(who);
  expect(first).toMatchObject([{ minutes: 1.5, pieces: job.layers[0]!.pieces, slow: expect.any(Number) }]);
  expect(await rows(house.url, 'select part from weeded_part')).toEqual([{ part: first[0] }]);
  expect(await weededParts(who)).toEqual(first);
  await takeAll(who, [said(120, { kind: 'undo', event: done.id })]);
  expect(await weededParts(who)).toEqual([]);
});
