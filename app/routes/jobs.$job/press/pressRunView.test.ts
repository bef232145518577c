import { describe, expect, it } from 'vitest';
import { pressQueue, type QueueStep } from '#core/job/index.ts';
import { BEHIND } from './useLive.ts';
import { pressRunView } from './pressRunView.ts';
import type { Job } from '../useSheet.ts';
import type { Run } from './useRun.ts';

// What the run says at each turn: one sentence, one button, and no second number that contradicts the first.
const NOW = Date.UTC(2026, 5, 1, 9);
const press = (more: object = {}) => ({
  does: 'layer',
  lifts: 'carrier',
  layers: ['a'],
  purpose: 'full',
  heat: 152_000,
  seconds: 15,
  wait: 45,
  peel: 'cool',
  ask: undefined,
  support: 'as usual',
  kind: 'press',
  what: 'layer a',
  toSet: undefined,
  parts: 1,
  ...more,
});
type Fake = { presses?: object[]; source?: object; verdict?: string; pieces?: number };
const jobOf = ({ presses = [press()], source, verdict = 'holds', pieces = 1 }: Fake = {}) =>
  ({
    press: presses,
    tips: { layers: {}, press: presses.map(() => ({ before: [], opened: [], board: false })), design: [] },
    pressPlan: {
      verdict,
      source,
      because: [{ says: 'Puff under plain.' }],
      helps: [{ do: 'swap', says: 'Swap them.' }],
    },
    layers: [{ id: 'a', vinyl: { colour: { name: 'navy' }, brand: 'Larkfield', name: 'Plain' } }],
    parts: [],
    plan: {
      pieces: Array.from({ length: pieces }, (_, i) => ({ id: `p${i}` })),
      blank: { shape: 'shirt', surface: 'plain-cloth' },
    },
  }) as unknown as Job;
const stepOf = (more: Partial<QueueStep> = {}): QueueStep => ({
  id: 'press/1',
  piece: 0,
  press: 0,
  heat: 152_000,
  seconds: 15,
  wait: 45,
  open: true,
  ready: true,
  part: 1,
  closedAt: undefined,
  openedAt: undefined,
  ...more,
});
const runOf = (steps: QueueStep[], plate: number | undefined, now = NOW): Run => ({
  ...pressQueue(steps, plate, now),
  now,
  done: 0,
  of: steps.length,
  piece: () => 'the shirt',
});
const little = { id: 'l', name: 'Little press', words: true, shows: 'F', off: 0, open: true, because: '' };
const plate = { id: 'b', name: 'Big plate', words: false, shows: 'C', off: -4_000, open: false, because: '' };

describe('the heat', () => {
  const heat = (of: Fake, shown?: 'C' | 'F') =>
    pressRunView(jobOf(of), runOf([stepOf()], undefined), 'F', true, shown, undefined);

  it('where no press is known both scales are asked for', () => {
    const turned = heat({});
    expect(turned).toMatchObject({ does: 'heat', title: 'Set the press to 306\u00a0°F.', button: 'It shows 306 °F' });
    expect(turned.other).toBe('It shows 152 °C');
    expect(turned.lines.join(' ')).toMatch(/°F or °C\?/);
    expect(heat({}, 'C')).toMatchObject({ button: 'It shows 152 °C', other: 'It shows 306 °F' });
  });
  it('a press that is set by words is told a word, and asked for no scale', () => {
    const turned = heat({ source: little, presses: [press({ toSet: 'medium' })] });
    expect(turned.title).toMatch(/Little press.* to “medium”\.$/);
    expect(turned).toMatchObject({ button: 'It is set', other: undefined, shows: 'F' });
    expect(turned.lines.join(' ')).not.toMatch(/°F or °C|medium/);
  });
  it('a display that is off is told what it is to show: the same number in title and button, in the scale it reads', () => {
    const turned = heat({ source: plate, presses: [press({ toSet: '156 °C' })] });
    expect(turned.title).toMatch(/Big plate.* to 156\u00a0°C\.$/);
    expect(turned).toMatchObject({ button: 'It shows 156 °C', other: 'It shows 313 °F', heat: 152_000 });
    expect(turned.lines[0]).toBe('Its display is off: it has 152 °C then.');
  });
  it('a change of heat says from where, and how long it takes', () => {
    const steps = [
      stepOf({ open: false, ready: true }),
      stepOf({ id: 'press/2', press: 1, heat: 130_000, ready: true }),
    ];
    const job = jobOf({ presses: [press(), press({ heat: 130_000, change: { seconds: 240 } })] });
    const turned = pressRunView(job, runOf(steps, 152_000), 'C', true, 'C', undefined);
    expect(turned.title).toBe('Change the heat to 130\u00a0°C.');
    expect(turned.lines[0]).toMatch(/stands at 152 °C.*about 4 min/);
  });
});

describe('a piece', () => {
  const at = (step: Partial<QueueStep>, of: Fake = {}, now = NOW, live?: number) =>
    pressRunView(
      jobOf(of),
      runOf([stepOf(step)], 152_000, now),
      'C',
      true,
      'C',
      live === undefined ? undefined : { name: 'Big plate', celsius: live, set: 152, closed: false, simulated: true },
    );

  it('is laid, unless the plate has not its heat yet: then it waits, and the pedal does nothing', () => {
    expect(at({})).toMatchObject({ does: 'close', title: 'Lay navy on the shirt.', behind: false });
    const behind = at({}, {}, NOW, 152 - BEHIND - 1);
    expect(behind).toMatchObject({ does: 'close', behind: true });
    expect(behind.title).toMatch(/^Wait: the plate is at/);
    expect(at({}, {}, NOW, 152 - BEHIND + 1).behind).toBe(false);
  });
  it('is closed until its time is over, then the sentence changes and nothing else', () => {
    const closedAt = NOW - 10_000;
    const closed = at({ closedAt });
    expect(closed).toMatchObject({ does: 'open', over: false, clock: { seconds: 15, due: closedAt + 15_000 } });
    expect(closed.lines).toEqual(['Then peel cool, in 45 s.']);
    expect(at({ closedAt: NOW - 16_000 })).toMatchObject({ does: 'open', over: true });
  });
  it('cools on a clock of its own, may come up with its carrier, and is asked about at the end', () => {
    const opened = { closedAt: NOW - 40_000, openedAt: NOW - 20_000 };
    const cools = at(opened);
    expect(cools).toMatchObject({ does: 'peel', over: false, canComeUp: true, clock: { seconds: 45 } });
    const over = at(opened, {}, NOW + 60_000);
    expect(over).toMatchObject({ does: 'peel', over: true, clock: undefined });
    // The last press of a piece asks how it came.
    expect(over.title).toMatch(/\?$/);
  });
  it('larger than the plate it is pressed part by part: the pedal moves on until the last part, which is opened', () => {
    const of = { presses: [press({ parts: 3 })], source: { ...little, kind: 'iron' } };
    expect(at({}, of).lines.join(' ')).toMatch(/In 3 parts.*without sliding/);
    const closedAt = NOW - 16_000;
    expect(at({ closedAt, part: 1 }, of)).toMatchObject({ does: 'next', title: 'Move on to part 2 of 3.', over: true });
    const second = at({ closedAt: NOW - 2_000, part: 2 }, of);
    expect(second).toMatchObject({ does: 'open', over: false, button: 'Opened' });
    expect(second.title).toBe('Navy, part 2 of 3. Move on at the beep.');
    expect(at({ closedAt, part: 3 }, of)).toMatchObject({ does: 'open', title: 'Open it now.' });
    expect(at({ closedAt: NOW, part: 3 }, of).lines[0]).toBe('The last of 3 parts.');
  });
  it('with no time said is watched by the leaflet, without a clock', () => {
    const turned = at({ closedAt: NOW - 5_000, seconds: undefined }, { presses: [press({ seconds: undefined })] });
    expect(turned).toMatchObject({ does: 'open', clock: undefined });
  });
});

describe('before and after', () => {
  it('a stack that does not hold is pressed only by a yes, with what would help', () => {
    const turned = pressRunView(jobOf({ verdict: 'refused' }), runOf([stepOf()], undefined), 'C', false, undefined);
    expect(turned).toMatchObject({ does: 'agree', lines: ['Puff under plain.', 'Swap them.'] });
  });
  it('nothing to press yet, and all pressed, lead back to the sheet', () => {
    const elsewhere = pressRunView(jobOf(), runOf([stepOf({ ready: false })], undefined), 'C', true, undefined);
    expect(elsewhere).toMatchObject({ does: undefined, title: 'Nothing to press yet.' });
    const done = pressRunView(jobOf(), runOf([stepOf({ open: false })], undefined), 'C', true, undefined);
    expect(done).toMatchObject({ does: undefined, title: 'All pressed.' });
  });
});
