import { v4 as uuidv4 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { jobLimits, pressId } from '#core/job/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { takeAll } from '#work/deliver.ts';
import { addFinish, dropFinish } from '#work/jobs/finish.ts';
import { jobOf } from '#work/jobs/view.ts';
import { fieldsOf, form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { job, said, someone, vinyl } from '../pressed.ts';

// Steps of one's own at the end of each piece.
ownHouse();

describe('steps of one’s own', () => {
  test('each piece has them at its end, in order, with their rest; what was done stays done when one goes', async () => {
    const person = await someone();
    const id = await job(person, [await vinyl(person, 'navy'), await vinyl(person, 'red')], { count: '2' });
    const before = (await jobOf(person, id)).sheet.steps.length;
    await addFinish(person, id, form({ says: 'Glue the halves back to back', rest: '60' }));
    await addFinish(person, id, form({ says: 'Tie the ribbon', rest: '' }));
    const { plan, press, sheet, rev } = await jobOf(person, id);
    expect(press.slice(-2).map((s) => [s.kind, s.says, s.rest])).toEqual([
      ['apply', ['Glue the halves back to back'], 3_600],
      ['apply', ['Tie the ribbon'], undefined],
    ]);
    expect(sheet.steps).toHaveLength(before + 4);
    // The ribbon waits for the glue of its own piece.
    const step = (piece: number, which: number) =>
      `apply/${pressId(plan.pieces[piece]!.id, `apply own ${plan.finish[which]!.id}`)}` as const;
    const ribbon = sheet.steps.find((s) => s.id === step(0, 1))!;
    expect(ribbon.needs).toContain(step(0, 0));
    expect(sheet.steps.find((s) => s.id === step(1, 1))!.needs).toContain(step(1, 0));
    await takeAll(person, [{ ...said(id, step(0, 0), { kind: 'done' }), rev }]);
    await dropFinish(person, id, form({ step: plan.finish[1]!.id }));
    const after = await jobOf(person, id);
    expect(after.sheet.steps.find((s) => s.id === step(0, 0))!.state).toBe('done');
    expect(after.sheet.steps.some((s) => s.id === step(0, 1))).toBe(false);
  });

  test('what cannot be is said where it stands; of anybody else’s job there is nothing', async () => {
    const person = await someone();
    const id = await job(person, [await vinyl(person, 'navy'), await vinyl(person, 'red')]);
    expect(await fieldsOf(addFinish(person, id, form({ says: '', rest: '' })))).toHaveProperty('says');
    expect(await fieldsOf(addFinish(person, id, form({ says: 'x'.repeat(121), rest: '' })))).toHaveProperty('says');
    for (const rest of ['-1', '2000', 'an hour'])
      expect(await fieldsOf(addFinish(person, id, form({ says: 'Wait', rest })))).toHaveProperty('rest');
    await expect(addFinish(await someone(), id, form({ says: 'Wait', rest: '' }))).rejects.toThrow(NotFound);
    await expect(dropFinish(person, id, form({ step: uuidv4() }))).rejects.toThrow(NotFound);
    for (let i = 0; i < jobLimits.finish; i++) await addFinish(person, id, form({ says: `Step ${i}`, rest: '' }));
    expect(await fieldsOf(addFinish(person, id, form({ says: 'One more', rest: '' })))).toHaveProperty('says');
  });
});
