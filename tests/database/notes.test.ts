import { v7 as uuidv7 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { inchesToMicrometres as inch } from '#core/units/index.ts';
import { erase } from '#store/people/people.ts';
import { db } from '#store/base/db.ts';
import { addNote, notesOf, remindersFor } from '#work/jobs/beside.ts';
import { takeAll } from '#work/deliver.ts';
import { habitsIn, offersFor, setHabit } from '#work/jobs/habits.ts';
import { setSchool, setSize } from '#work/jobs/jobs.ts';
import { followPlace } from '#work/jobs/placeHabit.ts';
import { jobOf } from '#work/jobs/view.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import type { Person } from '#work/people/person.ts';
import { addLeaflet } from '#work/vinyls/leaflet.ts';
import { crafter, fieldsOf, form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { job, said, someone, two, vinyl } from '../pressed.ts';
import { rows } from '../testDatabase.ts';

// What a hand notes comes again where it is needed; what it does alike three times is offered as a habit, and never taken for one.
const house = ownHouse();
const one = two.replace('#b3202c', '#1f3a5f');

/** Notes something at a step of a job, of a vinyl or of the blank. */
async function note(person: Person, id: string, kind: 'weed' | 'press', text: string, about?: string) {
  const { sheet, rev } = await jobOf(person, id);
  const step = sheet.steps.find((s) => s.kind === kind)!;
  const event = { ...said(id, step.id, { kind: 'note', text, ...(about ? { vinyl: about } : {}) }), rev };
  return { event, outcome: (await takeAll(person, [event]))[0]!.outcome };
}
const reminded = async (person: Person, id: string) =>
  (await remindersFor(person, await jobOf(person, id))).map((r) => [r.step, r.vinyl, r.says]);

describe('notes', () => {
  test('of a vinyl come again with it, of a blank with such a blank; taken back they are gone', async () => {
    const person = await someone();
    const [navy, other] = [await vinyl(person, 'navy'), await vinyl(person, 'other')];
    const first = await job(person, [navy], { svg: one });
    const { event } = await note(person, first, 'weed', 'Begin at the tail.', navy);
    await note(person, first, 'press', 'This shirt needs the small plate.');
    // Not in the job it was made in, where it stands among the notes of the job.
    expect(await reminded(person, first)).toEqual([]);
    expect((await jobOf(person, first)).sheet.notes).toHaveLength(2);
    const next = await job(person, [navy], { svg: one });
    expect((await reminded(person, next)).toSorted()).toEqual([
      ['press', undefined, 'This shirt needs the small plate.'],
      ['weed', navy, 'Begin at the tail.'],
    ]);
    const elsewhere = await job(person, [other], { svg: one, surface: 'mesh' });
    expect(await reminded(person, elsewhere)).toEqual([]);
    expect((await notesOf(person, navy)).map((n) => n.says)).toEqual(['Begin at the tail.']);
    // Of one vinyl at one kind of step the newest counts.
    await note(person, next, 'weed', 'Begin at the ear.', navy);
    const third = await job(person, [navy], { svg: one });
    expect((await reminded(person, third)).filter(([kind]) => kind === 'weed')).toEqual([
      ['weed', navy, 'Begin at the ear.'],
    ]);
    await takeAll(person, [{ ...said(first, event.step, { kind: 'undo', event: event.id }), rev: event.rev }]);
    expect((await notesOf(person, navy)).map((n) => n.says)).toEqual(['Begin at the ear.']);
  });
  test('on a bench card and at a cut a vinyl is noted without a job, and comes again in the next one', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    expect(await fieldsOf(addNote(person, navy, 'card', form({ note: ' ' })))).toHaveProperty('note');
    expect(await fieldsOf(addNote(person, navy, 'card', form({ note: 'x'.repeat(201) })))).toHaveProperty('note');
    await addNote(person, navy, 'card', form({ note: 'Curls when it is warm.' }));
    await addNote(person, navy, 'cut', form({ note: 'Slow on the tails.' }));
    const made = await job(person, [navy], { svg: one });
    expect((await reminded(person, made)).toSorted()).toEqual([
      ['card', navy, 'Curls when it is warm.'],
      ['cut', navy, 'Slow on the tails.'],
    ]);
  });
  test('a note of a vinyl that the job has not is kept by nobody; those of others are seen by nobody else', async () => {
    const [ada, eve] = [await someone(), await someone()];
    const navy = await vinyl(ada, 'navy');
    const made = await job(ada, [navy], { svg: one });
    expect((await note(ada, made, 'weed', 'x', uuidv7())).outcome).not.toBe('stored');
    await note(ada, made, 'weed', 'Mine alone.', navy);
    expect(await notesOf(eve, navy)).toEqual([]);
    const [row] = await rows<{ n: number }>(
      house.url,
      'select count(*)::int as n from bench_note where person_id = $1',
      [ada.id],
    );
    expect(row!.n).toBe(1);
    await erase(db(), ada.id);
    expect(await notesOf(ada, navy)).toEqual([]);
  });
});

describe('habits', () => {
  const sized = async (person: Person, more: Record<string, string>) => {
    const id = await job(person, [await vinyl(person, 'navy')], { svg: one });
    const size = { width: '8 in', from: 'below', down: '3 in', across: '0', anchorX: '0.5', anchorY: '0' };
    await setSize(person, id, form({ ...size, ...more }));
    return id;
  };
  const offered = async (person: Person, vinyls: { id: string; lifts: string | undefined }[] = [], side = 'front') =>
    (await offersFor(person, { shape: 'shirt', side, unit: person.length_unit, vinyls })).map((o) => [o.topic, o.way]);

  test('where a design goes: after three alike it is offered; yes places the next one so, no is never asked again', async () => {
    const person = await someone();
    await sized(person, { width: '9 1/4 in', down: '4 3/4 in' });
    await sized(person, { width: '9 1/4 in', down: '4 3/4 in' });
    expect(await offered(person)).toEqual([]);
    await sized(person, { width: '9 1/4 in', down: '4 3/4 in' });
    expect(await offered(person)).toEqual([
      ['drop', '4.5-5'],
      ['width', '9-9.5'],
    ]);
    // What was done on the front says nothing of a name on the back, which has a box of its own.
    expect(await offered(person, [], 'name on the back')).toEqual([]);
    await setHabit(person, form({ topic: 'drop', way: '4.5-5', shape: 'shirt' }));
    await setHabit(person, form({ topic: 'width', way: '', shape: 'shirt' }));
    expect(await offered(person)).toEqual([]);
    expect((await habitsIn(person, 'shirt')).place).toEqual({ drop: '4.5-5' });
    expect(await fieldsOf(setHabit(person, form({ topic: 'drop', way: 'anyhow', shape: 'shirt' })))).toHaveProperty(
      'form',
    );
    // What is done as is usual is no habit to be asked about.
    const usual = await someone();
    for (let i = 0; i < 3; i++) await sized(usual, { width: '10 in', down: '3 in' });
    expect(await offered(usual)).toEqual([]);
  });
  test('a way that is followed places the design: drop and width each reach the plan', async () => {
    const person = await someone();
    const id = await sized(person, {});
    for (const [way, inches] of [
      ['2.5-3', 2.75],
      ['4.5-5', 4.75],
      ['3', 3],
    ] as const) {
      await followPlace(person, id, form({ topic: 'drop', way, shape: 'shirt' }));
      const { down } = (await jobOf(person, id)).plan.design!.spot;
      expect(Math.abs(down - inch(inches)), way).toBeLessThan(5_001);
    }
    const widths = new Set<number>();
    for (const way of ['8', '9-9.5', 'by size']) {
      await followPlace(person, id, form({ topic: 'width', way, shape: 'shirt' }));
      widths.add((await jobOf(person, id)).plan.design!.widthUm);
    }
    expect(widths.size).toBe(3);
  });
  test('how layers are pressed, and what is done when a film comes up', async () => {
    const person = await someone();
    const [navy, red] = [await vinyl(person, 'navy'), await vinyl(person, 'red')];
    for (let i = 0; i < 3; i++) await setSchool(person, await job(person, [navy, red]), form({ school: 'full' }));
    expect(await offered(person)).toContainEqual(['layers', 'full']);
    await setHabit(person, form({ topic: 'layers', way: 'full', shape: 'shirt' }));
    const made = await job(person, [navy, red]);
    expect((await jobOf(person, made)).plan.school).toBe('full');
    const { sheet, rev } = await jobOf(person, made);
    const step = sheet.steps.find((s) => s.kind === 'press')!.id;
    const wrong = { kind: 'wrong', seen: 'came up', cause: 'warm', remedy: 'wait and peel', vinyl: navy };
    for (let i = 0; i < 3; i++) await takeAll(person, [{ ...said(made, step, wrong), rev }]);
    const hands = [{ id: navy, lifts: undefined }];
    expect(await offered(person, hands)).toContainEqual(['lifts', 'wait']);
    await setHabit(person, form({ topic: 'lifts', way: 'wait', shape: 'shirt', vinyl: navy }));
    expect((await jobOf(person, made)).layers[0]!.hands.lifts).toBe('wait');
  });
});

describe('in the job', () => {
  test('another way of an iron is chosen by its key, as one of a press is', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    await followSchool(person, navy, form({ topic: 'press', way: 'iron 30-45' }));
    await followSchool(person, navy, form({ topic: 'press', way: '350 30' }));
    expect(await fieldsOf(followSchool(person, navy, form({ topic: 'press', way: 'iron 1' })))).toHaveProperty('form');
  });
});

describe('the wash', () => {
  test('a day later, or at once where the leaflet of every film says so', async () => {
    const person = await crafter('Wash', 'marlow-24', 'wash@press.example');
    const [navy, red] = [await vinyl(person, 'navy'), await vinyl(person, 'red')];
    const both = await job(person, [navy, red]);
    const wash = async () => (await jobOf(person, both)).wash;
    expect(await wash()).toBe('a day later');
    await addLeaflet(person, navy, form({ wash: 'at once' }));
    expect(await wash()).toBe('a day later');
    await addLeaflet(person, red, form({ wash: 'at once', heat: '150', heatUnit: 'C' }));
    expect(await wash()).toBe('at once');
    // What is not washed has no step for it.
    const kinds = async (id: string) => (await jobOf(person, id)).sheet.steps.map((s) => s.kind);
    expect(await kinds(both)).toContain('wash');
  });
});
