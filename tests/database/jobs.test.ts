import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { inchesToMicrometres as inch } from '#core/units/index.ts';
import { readHpgl } from '#core/cutfile/index.ts';
import { causesOf, cellId, cutId, pressId } from '#core/job/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { deleteAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { answersFor, partFile } from '#work/jobs/cut.ts';
import { takeAll } from '#work/deliver.ts';
import { keepArtwork, sweepArtworks } from '#work/jobs/artwork.ts';
import {
  archiveJob,
  beginJob,
  changeBlank,
  chooseVinyl,
  setDrawing,
  setSchool,
  setSize,
  setWaste,
} from '#work/jobs/jobs.ts';
import { ownBlanks, setBlankAway } from '#work/jobs/ownBlanks.ts';
import { takeMended } from '#work/jobs/mend.ts';
import { setNames } from '#work/jobs/names.ts';
import { changeLayers } from '#work/jobs/layers.ts';
import { jobsOf } from '#work/jobs/list.ts';
import { offersFor } from '#work/jobs/offers.ts';
import { paperOf } from '#work/jobs/paper.ts';
import { recordsOf } from '#work/jobs/record.ts';
import { jobOf } from '#work/jobs/view.ts';
import { markCellId } from '#core/coupon/index.ts';
import { addPiece, pieceOf, putBack, stockOf, takesOf } from '#work/vinyls/stock.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { addMat } from '#work/workshop/mats.ts';
import { addPress, largestPlaten } from '#work/workshop/presses.ts';
import { crafter as account, device, fieldsOf, form, grade, password, shirtForm } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

// A job from its blank to the wash: what is planned, what hands say of it, and what that does to blade, film and proof.
const house = ownHouse();
const square =
  '<svg viewBox="0 0 100 100"><rect width="100" height="100" fill="#1f3a5f"/><rect x="30" y="30" width="40" height="40" fill="#b3202c"/></svg>';
async function crafter(): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model: 'marlow-24', name: 'mine', blade: 'first', angle: '45', used: '0' }));
  return person;
}
/** A job of two squares, 10 in and 4 in wide, ready to be cut. */
async function readyJob(person: Person, more: Record<string, string> = {}) {
  const id = await beginJob(person, shirtForm(more));
  await setDrawing(person, id, form({ svg: square }));
  const navy = await addVinyl(person, {
    brand: 'Quillow',
    name: 'Plain',
    type: 'smooth',
    colour: 'navy',
    hex: '#1f3a5f',
  });
  const red = await addVinyl(person, {
    brand: 'Quillow',
    name: 'Ember',
    type: 'smooth',
    colour: 'red',
    hex: '#b3202c',
  });
  const { layers } = await jobOf(person, id);
  await chooseVinyl(person, id, form({ layer: layers[0]!.id, vinyl: navy }));
  await chooseVinyl(person, id, form({ layer: layers[1]!.id, vinyl: red }));
  await setSize(
    person,
    id,
    form({ width: '10 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' }),
  );
  return { id, navy, red, job: await jobOf(person, id) };
}
const setting = { model: 'marlow-24', version: 1, steps: { force: 100, depth: 4, speed: 10, passes: 1 } };
const settingFor = async (person: Person, job: Awaited<ReturnType<typeof readyJob>>['job']) =>
  (await answersFor(person, await benchOf(person), job))[0]?.toSet?.setting ?? setting;
const say = (job: string, step: string, more: Record<string, unknown>) => ({
  id: uuidv7(),
  job,
  step,
  attempt: 1,
  rev: 4,
  device,
  deviceAt: new Date().toISOString(),
  ...more,
});
const outcomes = async (person: Person, ...events: unknown[]) => (await takeAll(person, events)).map((o) => o.outcome);

describe('planning', () => {
  test('a blank, a drawing, its vinyls, its size: each its own revision, each page knows what is missing', async () => {
    const person = await crafter();
    const id = await beginJob(person, shirtForm());
    expect((await jobOf(person, id)).missing).toBe('design');
    await setDrawing(person, id, form({ svg: square }));
    const drawn = await jobOf(person, id);
    // Ten inches, as a hand sets them in millimetres.
    expect([drawn.missing, drawn.layers.length, drawn.plan.design!.widthUm]).toEqual(['vinyls', 2, 250_000]);
    const { job } = await readyJob(person);
    expect(job.missing).toBeUndefined();
    expect(job.placed).toMatchObject({ left: inch(5), right: inch(5), top: inch(3), over: [] });
    expect(job.rev).toBe(5);
    expect((await jobsOf(person)).map((j) => j.missing)).toContain('vinyls');
  });
  test('what is wrong with a blank is said at its field; nothing is kept', async () => {
    const person = await crafter();
    expect(await fieldsOf(beginJob(person, shirtForm({ width: '0' })))).toHaveProperty('width');
    expect(await fieldsOf(beginJob(person, shirtForm({ width: '-3 in' })))).toHaveProperty('width');
    expect(await fieldsOf(beginJob(person, shirtForm({ edge: '11 in' })))).toHaveProperty('edge');
    expect(await fieldsOf(beginJob(person, shirtForm({ count: '0' })))).toHaveProperty('count');
    expect(await fieldsOf(beginJob(person, shirtForm({ hex: 'reddish' })))).toHaveProperty('hex');
    expect(await jobsOf(person)).toEqual([]);
  });
  test('a drawing that cannot be used is one clear line; the job stays as it was', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    for (const [svg, says] of [
      ['<svg><g id="a"><use href="#a"/></g></svg>', /round and round/],
      ['<svg><image href="x.png"/></svg>', /only pixels/],
      ['not a drawing', /no drawing that can be read/],
    ] as const)
      expect(await fieldsOf(setDrawing(person, id, form({ svg })))).toMatchObject({
        file: expect.stringMatching(says) as unknown,
      });
    expect(await fieldsOf(setDrawing(person, id, form({})))).toHaveProperty('file');
    expect((await jobOf(person, id)).rev).toBe(job.rev);
  });
  test('a list of names: a piece each, in the place of the drawing; another drawing takes theirs; nothing of one name is mended for all', async () => {
    const person = await crafter();
    const { id } = await readyJob(person);
    const named = (says: string, wide: number) => ({
      says,
      svg: `<svg viewBox="0 0 ${wide} 10"><rect width="${wide}" height="10" fill="#333"/></svg>`,
      widthUm: wide * 1_000,
    });
    const put = (names: unknown) => setNames(person, id, form({ names: JSON.stringify(names) }));
    await put([named('Ida', 40), named('Bartholomew', 120)]);
    const { plan, layers } = await jobOf(person, id);
    expect(plan.pieces.map((p) => [p.name!.says, p.name!.share])).toEqual([
      ['Ida', 40 / 120],
      ['Bartholomew', 1],
    ]);
    expect([plan.design!.widthUm, layers.length]).toEqual([120_000, 1]);
    // 2 × (40 + 10) + 2 × (120 + 10) mm.
    expect(Math.abs(layers[0]!.lengthUm - 360_000)).toBeLessThan(50);
    expect(await fieldsOf(takeMended(person, id, form({ svg: square, width: '100000' })))).toMatchObject({
      form: expect.stringMatching(/list of names/) as unknown,
    });
    for (const wrong of [[], [{ says: 'Ida' }], Array.from({ length: 61 }, () => named('Ida', 40)), 'Ida'])
      expect(await fieldsOf(put(wrong))).toHaveProperty('names');
    expect(await fieldsOf(put([{ ...named('Ida', 40), svg: square }]))).toMatchObject({
      form: expect.stringMatching(/one colour/) as unknown,
    });
    expect((await jobOf(person, id)).plan).toEqual(plan);
    await setDrawing(person, id, form({ svg: square }));
    const after = await jobOf(person, id);
    expect(after.plan.pieces).toEqual(plan.pieces.map((p) => ({ id: p.id })));
    expect(after.layers).toHaveLength(2);
  });
  test('layers are left out, brought back, moved and joined; a vinyl that was chosen stays on its colour', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const [low, high] = job.layers;
    await changeLayers(person, id, form({ act: 'up', layer: low!.id }));
    expect((await jobOf(person, id)).layers.map((l) => l.id)).toEqual([high!.id, low!.id]);
    await changeLayers(person, id, form({ act: 'leave', layer: low!.id }));
    const left = await jobOf(person, id);
    expect([left.layers.length, left.leftOut.length]).toEqual([1, 1]);
    expect(await fieldsOf(changeLayers(person, id, form({ act: 'leave', layer: high!.id })))).toHaveProperty('form');
    await changeLayers(person, id, form({ act: 'back', layer: left.leftOut[0]!.path }));
    const back = await jobOf(person, id);
    expect(back.layers).toHaveLength(2);
    await changeLayers(person, id, form({ act: 'merge', layer: back.layers[1]!.id, into: back.layers[0]!.id }));
    const merged = await jobOf(person, id);
    expect(merged.layers).toHaveLength(1);
    expect(merged.layers[0]!.vinyl!.name).toBe('Ember');
    expect(merged.layers[0]!.art).toMatchObject({ pieces: 1, holes: 0 });
  });
  test('another crafter’s job is not there, whatever is asked of it', async () => {
    const [person, other] = [await crafter(), await crafter()];
    const { id, job } = await readyJob(person);
    await expect(jobOf(other, id)).rejects.toThrow(NotFound);
    await expect(setDrawing(other, id, form({ svg: square }))).rejects.toThrow(NotFound);
    await expect(changeBlank(other, id, shirtForm())).rejects.toThrow(NotFound);
    await expect(setSchool(other, id, form({ school: 'full' }))).rejects.toThrow(NotFound);
    await expect(archiveJob(other, id, true)).rejects.toThrow(NotFound);
    await expect(paperOf(other, id)).rejects.toThrow(NotFound);
    await expect(partFile(other, await benchOf(other), id, job.layers[0]!.part, 'svg')).rejects.toThrow(NotFound);
    expect(await outcomes(other, say(id, `trim/${job.layers[0]!.part}`, { kind: 'done' }))).toEqual(['later']);
    expect((await jobOf(person, id)).events).toEqual([]);
  });
  test('vinyls on offer: what the blank takes first; a film in stock and near in colour before others, where it shows', async () => {
    const person = await crafter();
    const { id, navy } = await readyJob(person, { hex: '#f4f1ea' });
    await addVinyl(person, { brand: 'Tin', name: 'Cling', type: 'adhesive', colour: 'navy', hex: '#1f3a5f' });
    await addPiece(person, navy, form({ kind: 'roll', width: '305', length: '2000' }));
    const [first] = await offersFor(person, await benchOf(person), await jobOf(person, id), '');
    expect(first!.offers[0]!.vinyl.id).toBe(navy);
    expect(first!.offers.at(-1)!.suits).toBe('not');
    // Navy on navy is hardly seen: it is said, and does not stand first.
    const dark = await readyJob(person);
    const [onNavy] = await offersFor(person, await benchOf(person), await jobOf(person, dark.id), '');
    expect(onNavy!.offers.find((o) => o.vinyl.id === navy)!.words).toContain('hardly shows');
    expect(onNavy!.offers[0]!.vinyl.id).not.toBe(navy);
  });
});

describe('what hands do', () => {
  test('a cut ages the blade by its true length, takes film off the roll, and is graded like every other', async () => {
    const person = await crafter();
    const { id, navy, job } = await readyJob(person);
    const piece = await addPiece(person, navy, form({ kind: 'roll', width: '305', length: '2000' }));
    const layer = job.layers[0]!;
    const before = (await benchOf(person))!.blade!;
    const event = say(id, `cut/${layer.part}`, {
      kind: 'cut',
      part: layer.part,
      setting: await settingFor(person, job),
      mounting: before.mounting,
      stock: piece,
      witness: false,
      rev: job.rev,
    });
    expect(await outcomes(person, event)).toEqual(['stored']);
    // A square of 10 in with a margin of 10 mm: 4 × 254 mm of cut.
    const after = (await benchOf(person))!.blade!;
    expect(after.cutUm - before.cutUm).toBe(4 * inch(10));
    const stock = await pieceOf(person, piece);
    expect(stock.lengthUm - stock.leftUm).toBe(inch(10) + 20_000);
    const cut = cutId(layer.part, 1);
    expect(await outcomes(person, grade(cellId(cut), 'clean'))).toEqual(['stored']);
    const sheet = (await jobOf(person, id)).sheet;
    expect(sheet.steps.filter((s) => s.about === layer.part && s.state === 'done').map((s) => s.kind)).toEqual([
      'cut',
      'lift',
    ]);
    const [row] = await rows<{ n: number }>(
      house.url,
      `select count(*)::int as n from cut where id = $1 and kind = 'ordinary'`,
      [cut],
    );
    expect(row!.n).toBe(1);
    // The same tap on another device is the same cut: nothing is taken twice.
    expect(await outcomes(person, { ...event, id: uuidv7(), device: uuidv4() })).toEqual(['stored']);
    expect(await outcomes(person, event)).toEqual(['already']);
    expect((await benchOf(person))!.blade!.cutUm).toBe(after.cutUm);
    expect((await pieceOf(person, piece)).leftUm).toBe(stock.leftUm);
    // Graded: it is not taken back.
    expect((await takeAll(person, [say(id, `cut/${layer.part}`, { kind: 'undo', event: event.id })]))[0]!.outcome).toBe(
      'stored',
    );
  });

  test('the test mark of a part: its cells are there with it, age the blade, and are graded for themselves', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const layer = job.layers[0]!;
    const bench = (await benchOf(person))!;
    const event = say(id, `cut/${layer.part}`, {
      kind: 'cut',
      part: layer.part,
      setting: await settingFor(person, job),
      mounting: bench.blade!.mounting,
      witness: true,
      rev: job.rev,
    });
    expect(await outcomes(person, event)).toEqual(['stored']);
    const cut = cutId(layer.part, 1);
    const cells = await rows<{ id: string; number: number; um: string }>(
      house.url,
      'select id, number, length_um as um from cell where cut_id = $1 order by number',
      [cut],
    );
    expect(cells.map((c) => c.number)).toEqual([1, 2, 3, 4]);
    expect(cells.slice(1).map((c) => c.id)).toEqual([2, 3, 4].map((n) => markCellId(cut, n)));
    const ran = (await benchOf(person))!.blade!.cutUm - bench.blade!.cutUm;
    expect(ran).toBe(cells.reduce((s, c) => s + Number(c.um), 0));
    // The part is clean, the mark one step lighter hangs: only the part says how the part was cut.
    expect(await outcomes(person, grade(cells[1]!.id, 'hangs'), grade(cells[0]!.id, 'clean'))).toEqual([
      'stored',
      'stored',
    ]);
    const fact = (await jobOf(person, id)).facts[0]!;
    expect([fact.grade, fact.enough, fact.events.length]).toEqual(['clean', true, 2]);
    // Something of it is graded: it is not taken back.
    expect(await outcomes(person, say(id, event.step, { kind: 'undo', event: event.id }))).toEqual(['refused']);
  });

  test('two films lie side by side on a roll: its length goes once, and the place of one that was taken back is free', async () => {
    const person = await crafter();
    const { id, navy, job } = await readyJob(person);
    const piece = await addPiece(person, navy, form({ kind: 'roll', width: '610', length: '2000' }));
    const layer = job.layers[0]!;
    const bench = (await benchOf(person))!;
    const setting = await settingFor(person, job);
    const cut = (attempt: number) =>
      say(id, `cut/${layer.part}`, {
        kind: 'cut',
        part: layer.part,
        attempt,
        setting,
        mounting: bench.blade!.mounting,
        stock: piece,
        witness: false,
        rev: job.rev,
      });
    const left = async () => (await pieceOf(person, piece)).leftUm;
    const [first, second, third] = [cut(1), cut(2), cut(3)];
    await takeAll(person, [first]);
    const once = 2_000_000 - (await left());
    expect(once).toBe(Math.min(layer.film!.width, layer.film!.height));
    await takeAll(person, [second]);
    expect(2_000_000 - (await left())).toBe(once);
    await takeAll(person, [third]);
    expect(2_000_000 - (await left())).toBe(2 * once);
    await takeAll(person, [say(id, first.step, { kind: 'undo', event: first.id })]);
    expect(2_000_000 - (await left())).toBe(2 * once);
    const takes = await takesOf(person, piece);
    expect(takes.map((t) => [t.widthUm, t.lengthUm])).toEqual([
      [layer.film!.height, layer.film!.width].sort((a, b) => b - a),
      [layer.film!.height, layer.film!.width].sort((a, b) => b - a),
    ]);
    // The third goes back to its roll by hand: all but the second is free again.
    await putBack(person, cutId(layer.part, 3));
    expect(2_000_000 - (await left())).toBe(once);
  });

  test('a cut that was taken back gives back blade and film; made after all it takes them again; graded it stays', async () => {
    const person = await crafter();
    const { id, navy, job } = await readyJob(person);
    const piece = await addPiece(person, navy, form({ kind: 'roll', width: '305', length: '2000' }));
    const layer = job.layers[0]!;
    const bench = (await benchOf(person))!;
    const cut = () =>
      say(id, `cut/${layer.part}`, {
        kind: 'cut',
        part: layer.part,
        setting: bestSetting,
        mounting: bench.blade!.mounting,
        stock: piece,
        witness: false,
      });
    const bestSetting = await settingFor(person, job);
    const state = async () => [(await benchOf(person))!.blade!.cutUm, (await pieceOf(person, piece)).leftUm];
    const untouched = await state();
    const first = cut();
    await takeAll(person, [first]);
    const taken = await state();
    expect(taken).not.toEqual(untouched);
    expect(await outcomes(person, say(id, first.step, { kind: 'undo', event: first.id }))).toEqual(['stored']);
    expect(await state()).toEqual(untouched);
    expect((await jobOf(person, id)).sheet.steps.find((s) => s.kind === 'cut')!.state).toBe('open');
    const second = cut();
    expect(await outcomes(person, second)).toEqual(['stored']);
    expect(await state()).toEqual(taken);
    await takeAll(person, [grade(cellId(cutId(layer.part, 1)), 'hangs')]);
    const [refused] = await takeAll(person, [say(id, first.step, { kind: 'undo', event: second.id })]);
    expect(refused).toMatchObject({ outcome: 'refused', why: expect.stringMatching(/graded/) as unknown });
    expect(await state()).toEqual(taken);
  });

  test('whatever the order: the second device’s cut before the first one’s is taken back leaves one cut', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const layer = job.layers[0]!;
    const { mounting } = (await benchOf(person))!.blade!;
    const best = await settingFor(person, job);
    const cut = () =>
      say(id, `cut/${layer.part}`, { kind: 'cut', part: layer.part, setting: best, mounting, witness: false });
    const [one, two] = [cut(), cut()];
    const undo = say(id, one.step, { kind: 'undo', event: one.id });
    const facts = async () => {
      const seen = await jobOf(person, id);
      return [seen.facts.filter((f) => !f.undone).length, seen.sheet.steps.find((s) => s.kind === 'cut')!.state];
    };
    expect(await outcomes(person, undo)).toEqual(['later']);
    expect(await outcomes(person, two, one, undo)).toEqual(['stored', 'stored', 'stored']);
    expect(await facts()).toEqual([1, 'done']);
  });

  test('a part cut anew is a cut of its own, of that part alone', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const [a, b] = job.layers;
    const { mounting } = (await benchOf(person))!.blade!;
    const best = await settingFor(person, job);
    const cut = (part: string, attempt: number) =>
      say(id, `cut/${part}`, { kind: 'cut', part, attempt, setting: best, mounting, witness: false });
    await takeAll(person, [
      cut(a!.part, 1),
      cut(b!.part, 1),
      say(id, `trim/${a!.part}`, { kind: 'start', attempt: 2 }),
    ]);
    const sheet = (await jobOf(person, id)).sheet;
    expect(sheet.steps.filter((s) => s.kind === 'cut').map((s) => [s.attempt, s.state])).toEqual([
      [2, 'open'],
      [1, 'done'],
    ]);
    expect(await outcomes(person, cut(a!.part, 2))).toEqual(['stored']);
    expect((await jobOf(person, id)).facts).toHaveLength(3);
  });

  test('the plan may change after the first cut: what was done stays, an event of the older plan merges', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const layer = job.layers[0]!;
    await takeAll(person, [say(id, `trim/${layer.part}`, { kind: 'done', rev: job.rev })]);
    const { mounting } = (await benchOf(person))!.blade!;
    await takeAll(person, [
      say(id, `cut/${layer.part}`, {
        kind: 'cut',
        part: layer.part,
        setting: await settingFor(person, job),
        mounting,
        witness: false,
        rev: job.rev,
      }),
    ]);
    await setSize(
      person,
      id,
      form({ width: '8 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' }),
    );
    const changed = await jobOf(person, id);
    expect(changed.sheet.otherSize).toEqual([{ part: layer.part, widthUm: inch(10) }]);
    expect(await outcomes(person, say(id, `weed/${layer.part}`, { kind: 'done', rev: job.rev }))).toEqual(['stored']);
    expect(await outcomes(person, say(id, `weed/${layer.part}`, { kind: 'done', rev: 99 }))).toEqual(['later']);
    expect((await jobOf(person, id)).sheet.steps.find((s) => s.id === `weed/${layer.part}`)!.state).toBe('done');
  });

  test('events are whole or refused with a reason; a job that was put away still takes what hands did', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const layer = job.layers[0]!;
    const bad = async (more: Record<string, unknown>, step = `cut/${layer.part}`) =>
      (await takeAll(person, [say(id, step, more)]))[0]!;
    const { mounting } = (await benchOf(person))!.blade!;
    const best = await settingFor(person, job);
    expect((await bad({ kind: 'dance' })).outcome).toBe('refused');
    expect((await bad({ kind: 'done' }, 'cut/everything')).why).toMatch(/step/);
    // It may be of a piece that another device says is lost: the word of that is still on its way.
    expect((await bad({ kind: 'cut', part: uuidv4(), setting: best, mounting, witness: false })).outcome).toBe('later');
    expect(
      (await bad({ kind: 'cut', part: layer.part, setting: best, mounting: uuidv4(), witness: false })).why,
    ).toMatch(/No such blade/);
    expect(
      (
        await bad({
          kind: 'cut',
          part: layer.part,
          setting: { ...best, steps: { ...best.steps, force: 9_999 } },
          mounting,
          witness: false,
        })
      ).outcome,
    ).toBe('refused');
    expect((await bad({ kind: 'undo', event: uuidv7() })).outcome).toBe('later');
    // What the plan does not have may be on its way from another device; it is kept by no job.
    for (const more of [
      { kind: 'outcome', pieces: [uuidv4()], word: 'bonded', recipe: 'x' },
      { kind: 'lost', part: layer.part, pieces: [uuidv4()] },
      { kind: 'lost', part: uuidv4(), pieces: [job.plan.pieces[0]!.id] },
      { kind: 'wrong', seen: 'edges lift', cause: 'too cool', remedy: 'again', vinyl: uuidv4() },
      { kind: 'helped', event: uuidv7(), helped: true },
    ])
      expect((await bad(more)).outcome).toMatch(/later|refused/);
    const ahead = new Date(Date.now() + 2 * 86_400_000).toISOString();
    expect(await bad({ kind: 'done', deviceAt: ahead })).toMatchObject({
      outcome: 'refused',
      why: expect.stringContaining('a day ahead') as string,
    });
    expect((await jobOf(person, id)).facts).toEqual([]);
    await archiveJob(person, id, true);
    expect(await outcomes(person, say(id, `trim/${layer.part}`, { kind: 'done' }))).toEqual(['stored']);
    expect((await jobsOf(person)).map((j) => j.id)).not.toContain(id);
    expect((await jobsOf(person, { archived: true })).map((j) => j.id)).toEqual([id]);
  });

  test('one event that two bring at one moment is stored once', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const event = say(id, `trim/${job.layers[0]!.part}`, { kind: 'done' });
    const told = await Promise.all(Array.from({ length: 4 }, () => takeAll(person, [event])));
    expect(
      told
        .flat()
        .map((o) => o.outcome)
        .sort(),
    ).toEqual(['already', 'already', 'already', 'stored']);
  });

  test('pressed to the end, washed, done', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    for (let i = 0; i < 30; i++) {
      const { sheet } = await jobOf(person, id);
      if (!sheet.next) break;
      const step = sheet.steps.find((s) => s.id === sheet.next)!;
      const event =
        step.kind === 'cut'
          ? say(id, step.id, {
              kind: 'cut',
              part: step.about,
              setting: await settingFor(person, job),
              mounting: (await benchOf(person))!.blade!.mounting,
              witness: false,
            })
          : say(id, step.id, { kind: 'done' });
      expect(await outcomes(person, event)).toEqual(['stored']);
    }
    const end = await jobOf(person, id);
    expect(end.sheet.next).toBeUndefined();
    const piece = end.plan.pieces[0]!.id;
    expect(end.sheet.steps.filter((s) => s.kind === 'press').map((s) => s.about)).toEqual(
      end.press.map((p) => pressId(piece, p.what)),
    );
    expect(
      await outcomes(
        person,
        say(id, `wash/${piece}`, { kind: 'outcome', pieces: [piece], word: 'washed well', recipe: '' }),
      ),
    ).toEqual(['stored']);
    expect((await jobOf(person, id)).sheet.outcomes.map((o) => o.word)).toEqual(['washed well']);
  });
});

describe('blanks that are kept', () => {
  test('kept again under its name a blank is measured anew; put away it is gone from the list, taken up it is back', async () => {
    const person = await crafter();
    await beginJob(person, shirtForm({ keep: 'My usual shirt, M' }));
    await beginJob(person, shirtForm({ keep: 'my usual shirt, m', width: '21 in' }));
    const [kept, ...more] = await ownBlanks(person);
    expect(more).toEqual([]);
    expect(kept!.blank.width).toBe(inch(21));
    await setBlankAway(person, kept!.id, true);
    expect(await ownBlanks(person)).toEqual([]);
    await expect(setBlankAway(await crafter(), kept!.id, false)).rejects.toThrow(NotFound);
    await setBlankAway(person, kept!.id, false);
    expect((await ownBlanks(person)).map((b) => b.name)).toEqual(['My usual shirt, M']);
  });
  test('a press that is told says how large it closes; an iron is moved about', async () => {
    const person = await crafter();
    expect(await largestPlaten(person)).toBeUndefined();
    const press = {
      name: 'the press',
      kind: 'plate',
      width: '38 cm',
      length: '38 cm',
      hottest: '230',
      shows: 'C',
      off: '0',
    };
    await addPress(person, form(press));
    await addPress(person, form({ ...press, name: 'small', width: '25 cm', length: '30 cm' }));
    expect(await largestPlaten(person)).toEqual({ width: 380_000, length: 380_000 });
  });
});

test('a drawing that no plan shows goes after a month; one that a plan shows stays, one that is brought again begins anew', async () => {
  const person = await crafter();
  const { id } = await readyJob(person);
  const lone = (n: number) => square.replace('#b3202c', `#b3202${n}`);
  await keepArtwork(lone(1));
  await keepArtwork(lone(2));
  await rows(house.url, `update artwork set made_at = now() - interval '40 days'`);
  await keepArtwork(lone(2));
  await sweepArtworks();
  const left = await rows<{ n: number }>(house.url, `select count(*)::int as n from artwork where bytes in ($1, $2)`, [
    Buffer.from(lone(1)),
    Buffer.from(lone(2)),
  ]);
  expect(left[0]!.n).toBe(1);
  expect((await jobOf(person, id)).artwork).toBeDefined();
});

describe('what went wrong', () => {
  test('the record knows blade, mat, the last clean cut and its batch; what helped before counts for the next time', async () => {
    const person = await crafter();
    const { id, job, navy } = await readyJob(person);
    const layer = job.layers[0]!;
    const bench = (await benchOf(person))!;
    const best = await settingFor(person, job);
    const seen = async () => {
      const now = await jobOf(person, id);
      return (await recordsOf(person, bench, now, await answersFor(person, bench, now), await stockOf(person)))[
        layer.id
      ]!;
    };
    const bare = await seen();
    expect(bare).toMatchObject({ proven: false, good: undefined, otherBatch: undefined, mat: undefined, tried: {} });
    // Cut clean from one batch; the next piece comes from another, and is set softer.
    await addMat(
      person,
      form({ name: 'the worn one', grip: 'ordinary', width: '12 in', length: '12 in', loads: '40' }),
    );
    const stock = { kind: 'roll', width: '305 mm', length: '3000 mm' };
    const first = await addPiece(person, navy, form({ ...stock, batch: 'LOT 7' }));
    const cut = (attempt: number, setting: typeof best, piece: string) =>
      say(id, `cut/${layer.part}`, {
        kind: 'cut',
        part: layer.part,
        attempt,
        setting,
        mounting: bench.blade!.mounting,
        stock: piece,
        witness: false,
      });
    await takeAll(person, [cut(1, best, first), grade(cellId(cutId(layer.part, 1)), 'clean')]);
    const second = await addPiece(person, navy, form({ ...stock, batch: 'LOT 9' }));
    const softer = { ...best, steps: { ...best.steps, force: best.steps.force! - 2 } };
    await takeAll(person, [cut(2, softer, second)]);
    const known = await seen();
    expect(known).toMatchObject({ otherBatch: true, matLoads: 42, thin: 0 });
    expect(known.set!.strength).toBe(known.good!.strength - 2);
    expect(known.mat).toBeDefined();
    expect(causesOf('holds everywhere', { ...known, onMat: true })[0]).toMatchObject({
      cause: 'soft',
      remedy: 'run again',
    });
    expect(causesOf('shifted', { ...known, onMat: false })[0]!.cause).toBe('mat');
    const step = `lift/${layer.part}`;
    const wrong = say(id, step, { kind: 'wrong', attempt: 2, seen: 'shifted', cause: 'mat', remedy: 'wash mat' });
    const answer = (helped: boolean) => say(id, step, { kind: 'helped', attempt: 2, event: wrong.id, helped });
    const [yes, last] = [answer(true), answer(false)];
    expect(await outcomes(person, wrong, yes, last)).toEqual(['stored', 'stored', 'stored']);
    expect((await seen()).tried).toEqual({ mat: { helped: 0, not: 1 } });
    await takeAll(person, [say(id, step, { kind: 'undo', attempt: 2, event: last.id })]);
    expect((await seen()).tried).toEqual({ mat: { helped: 1, not: 0 } });
    expect((await jobOf(person, id)).sheet.wrongs).toMatchObject([{ seen: 'shifted', helped: true }]);
    expect(
      await outcomes(person, say(id, step, { kind: 'wrong', seen: 'odd', cause: 'mat', remedy: 'wash mat' })),
    ).toEqual(['refused']);
  });
});

describe('files', () => {
  test('a part as HPGL reads back as it lies, mirrored once where the film lies face down', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const layer = job.layers[0]!;
    await setWaste(person, id, form({ layer: layer.id }));
    const { body } = await partFile(person, await benchOf(person), id, layer.part, 'hpgl');
    const points = readHpgl(body).strokes.flatMap((s) => s.path.points);
    const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(inch(10), -2);
    expect(Math.abs(Math.max(...ys) - Math.min(...ys) - inch(10))).toBeLessThanOrEqual(50);
    for (const kind of ['svg', 'dxf'])
      expect((await partFile(person, await benchOf(person), id, layer.part, kind)).body.length).toBeGreaterThan(50);
    await expect(partFile(person, await benchOf(person), id, layer.part, 'exe')).rejects.toThrow(NotFound);
  });
  test('the file holds the test mark at its own strengths, off the design, and a frame round everything', async () => {
    const person = await crafter();
    const { id, job } = await readyJob(person);
    const bench = await benchOf(person);
    const layer = job.layers[0]!;
    expect(layer.film!.because).toContain('mark');
    await setWaste(person, id, form({ layer: layer.id, mark: 'yes', frame: 'yes' }));
    const { film } = (await jobOf(person, id)).layers[0]!;
    const { strokes } = readHpgl((await partFile(person, bench, id, layer.part, 'hpgl')).body);
    const boxOf = (list: typeof strokes) => {
      const points = list.flatMap((s) => s.path.points);
      const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
      return [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
    };
    const forces = [...new Set(strokes.map((s) => s.force))];
    // The part, and beside its force one step either way.
    expect(forces).toHaveLength(3);
    const [w, h] = boxOf(strokes);
    expect(Math.abs(w! - film!.frame!.width)).toBeLessThanOrEqual(50);
    expect(Math.abs(h! - film!.frame!.height)).toBeLessThanOrEqual(50);
    const marks = strokes.filter((s) => s.force !== forces[0]);
    expect(boxOf(marks)[1]!).toBeLessThan(film!.mark!.height);
  });
  test('the paper is as large as the design', async () => {
    const person = await crafter();
    const { id } = await readyJob(person);
    expect(await paperOf(person, id)).toContain('width="274mm"');
  });
});

test('whoever leaves takes their jobs with them; their cuts stay as evidence', async () => {
  const person = await account('Ines Marlowe', 'marlow-24', 'ines@example.org');
  const { id, job } = await readyJob(person);
  const layer = job.layers[0]!;
  await takeAll(person, [
    say(id, `cut/${layer.part}`, {
      kind: 'cut',
      part: layer.part,
      setting: await settingFor(person, job),
      mounting: (await benchOf(person))!.blade!.mounting,
      witness: false,
    }),
  ]);
  await deleteAccount(person, form({ password, sure: 'yes' }), 'test');
  const [left] = await rows<{ jobs: number; cuts: number }>(
    house.url,
    'select (select count(*)::int from job where person_id = $1) as jobs, (select count(*)::int from cut where person_id = $1) as cuts',
    [person.id],
  );
  expect(left).toEqual({ jobs: 0, cuts: 1 });
});
