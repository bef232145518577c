import { v7 as uuidv7 } from 'uuid';
import { expect, test } from 'vitest';
import { filmShapes } from '#core/artwork/index.ts';
import { tooLarge } from '#core/job/index.ts';
import { correct } from '#work/answer/editable.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { takeAll } from '#work/deliver.ts';
import { partFile } from '#work/jobs/cut.ts';
import { beginJob, chooseVinyl, setDrawing, setSize } from '#work/jobs/jobs.ts';
import { setRounds } from '#work/jobs/rounds.ts';
import { jobOf } from '#work/jobs/view.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addMat } from '#work/workshop/mats.ts';
import { benchOf } from '#work/workshop/bench.ts';
import type { Person } from '#work/people/person.ts';
import { crafter, form, saidOf, shirtForm } from '../bench.ts';
import { rows } from '../testDatabase.ts';
import { ownHouse } from '../house.ts';

// What does not go under the blade is never cut as if it did: mats, widths and presses that are added later reach jobs that are open.
const house = ownHouse();

const drawn = `<svg viewBox="0 0 100 60"><path fill="#b3202c" d="M0 0h60v60h-60zM70 0h4v4h-4zM70 30h4v4h-4zM96 56h4v4h-4z"/></svg>`;
const size = (mm: number) =>
  form({ width: `${mm} mm`, from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' });
let n = 0;
async function jobOn(mat: { width: string; length: string } | undefined, count: number, mm: number) {
  const who = await crafter('Ada', 'oxbow-dial', `ada${++n}@mat.example`);
  if (mat) await addMat(who, form({ name: 'Square mat', grip: 'ordinary', ...mat }));
  const id = await beginJob(who, shirtForm({ count: String(count) }));
  await setDrawing(who, id, form({ svg: drawn }));
  const vinyl = await addVinyl(who, { brand: 'Tansy', name: 'Own', type: 'smooth', colour: 'red', hex: '#b3202c' });
  await chooseVinyl(who, id, form({ layer: (await jobOf(who, id)).layers[0]!.id, vinyl }));
  await setSize(who, id, size(mm));
  return { who, id, vinyl };
}
const largeOf = async (who: Person, id: string) => {
  const job = await jobOf(who, id);
  return tooLarge(job.layers[0]!.asked!, job.under, job.under.others);
};

test('a mat that is laid later reaches an open job: 360 mm is too much for 305, and turned it fits a long one', async () => {
  const { who, id } = await jobOn(undefined, 1, 300);
  expect(await largeOf(who, id)).toBeUndefined();
  await addMat(who, form({ name: 'Square mat', grip: 'ordinary', width: '12 in', length: '12 in' }));
  expect(await largeOf(who, id)).toMatchObject({ fits: 0, by: 'mat', mats: [] });
  await addMat(who, form({ name: 'Long mat', grip: 'ordinary', width: '12 in', length: '24 in' }));
  expect(await largeOf(who, id)).toBeUndefined();
  const { layers } = await jobOf(who, id);
  expect(layers[0]!.film!.turned).toBe(true);
  // The file is turned as the film lies: no wider than the cutter, and as long as the film is wide.
  const bench = (await benchOf(who))!;
  const file = await partFile(who, bench, id, layers[0]!.part, 'svg');
  const box = /viewBox="([\d. -]+)"/.exec(String(file.body))![1]!.split(' ').map(Number);
  expect(box[2]! * 1000).toBeCloseTo(layers[0]!.film!.height, -2);
  expect(box[3]! * 1000).toBeCloseTo(layers[0]!.film!.width, -2);
});

test('how wide a cutter cuts is its model’s until its owner says; what is said reaches the job', async () => {
  const { who, id } = await jobOn({ width: '12 in', length: '12 in' }, 1, 270);
  expect(await largeOf(who, id)).toBeUndefined();
  const cutter = (await benchOf(who))!.cutter.id;
  await correct(who, 'cutter', cutter, form({ name: 'Dial', width: '6 in' }));
  expect(await largeOf(who, id)).toMatchObject({ fits: 0, by: 'cutter', mats: [] });
  await expect(correct(who, 'cutter', cutter, form({ name: 'Dial', width: '1 mm' }))).rejects.toThrow(/width|wide/i);
});

test('a batch that does not lie on the mat at once is cut in rounds: each its own steps, film and file, and all are pressed', async () => {
  const { who, id, vinyl } = await jobOn({ width: '12 in', length: '12 in' }, 4, 227);
  const large = await largeOf(who, id);
  expect(large).toMatchObject({ fits: 2, rounds: 2 });
  const before = await jobOf(who, id);
  await setRounds(who, id, before.layers[0]!.id, 2);
  const job = await jobOf(who, id);
  // What was there stays: the first round is the part there was.
  expect(job.parts.map((p) => p.round)).toEqual([
    { at: 1, of: 2 },
    { at: 2, of: 2 },
  ]);
  expect(job.parts[0]!.part).toBe(before.layers[0]!.part);
  for (const part of job.parts) {
    expect(tooLarge(part.asked!, job.under)).toBeUndefined();
    expect(part.film!.copies).toHaveLength(2);
  }
  expect(job.sheet.steps.filter((s) => s.kind === 'cut')).toHaveLength(2);
  const weeds = job.sheet.steps.filter((s) => s.kind === 'weed').map((s) => s.id);
  // The first shirt waits for the first round alone, the last for the second.
  const needs = (piece: number) =>
    job.sheet.steps.filter((s) => s.kind === 'press' && s.needs.some((x) => weeds.includes(x as never)))[piece]!.needs;
  expect(needs(0)).toContain(weeds[0]);
  expect(needs(3)).toContain(weeds[1]);
  expect(needs(0)).not.toContain(weeds[1]);
  // Each round is cut: of half the length, off its own film.
  const bench = (await benchOf(who))!;
  const setting = (await couponOf(who, await makeCoupon(who, bench, vinyl, form({})))).evidence.base;
  const said = job.parts.map(({ part }) => {
    const cut = { kind: 'cut', step: `cut/${part}`, part, setting, mounting: bench.blade!.mounting, witness: false };
    return saidOf(job, cut) as ReturnType<typeof saidOf> & typeof cut;
  });
  expect((await takeAll(who, said)).map((a) => a.outcome)).toEqual(['stored', 'stored']);
  // A star that the second round lost is cut again by itself: its length is that of the star, not of the layer.
  const artwork = job.plan.design!.artwork;
  const star = filmShapes(job.layers[0]!.art).filter((s) => s.box.width < 0.1 * job.artwork!.width)[0]!;
  const lost = {
    ...said[1]!,
    id: uuidv7(),
    kind: 'lost',
    step: `weed/${job.parts[1]!.part}`,
    pieces: [job.plan.pieces[3]!.id],
    shapes: { artwork, ids: [star.id] },
  };
  const { setting: _, mounting: __, witness: ___, ...event } = lost;
  expect((await takeAll(who, [event])).map((a) => a.outcome)).toEqual(['stored']);
  const again = (await jobOf(who, id)).parts.find((p) => p.again)!;
  await takeAll(who, [{ ...said[1]!, id: uuidv7(), step: `cut/${again.part}`, part: again.part }]);
  const lengths = await rows<{ part: string; um: string; width: number }>(
    house.url,
    `select j.part_id as part, sum(c.length_um)::text as um, max(j.width_um)::int as width
       from job_cut j join cell c on c.cut_id = j.cut_id where j.job_id = $1 group by 1`,
    [id],
  );
  const of = (part: string) => lengths.find((l) => l.part === part)!;
  expect(Number(of(again.part).um)).toBeCloseTo(4 * 4 * 2_270, -3);
  expect(of(again.part).width).toBeLessThan(60_000);
  expect(Number(of(said[0]!.part).um)).toBe(Number(of(said[1]!.part).um));
  // More rounds than a job has loads for are refused; with room for all of it, it is one again.
  await addMat(who, form({ name: 'Long mat', grip: 'ordinary', width: '12 in', length: '48 in' }));
  await setRounds(who, id, job.layers[0]!.id, 1);
  expect((await jobOf(who, id)).parts.filter((p) => !p.again)).toEqual([]);
});
