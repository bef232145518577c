import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { v5 as uuidv5 } from 'uuid';
import { jobEventSchema, type JobEvent } from './events.ts';
import { planSchema, type Plan } from './plan.ts';
import { cutId, pressId, recutId, recutLoad, runSheet, type CutFact, type PressPlan } from './runSheet.ts';

const NAMES = '4f0e9a66-8a43-4f3a-9a53-0d2cb3f3a111';
const id = (name: string) => uuidv5(name, NAMES);
/** Version 7 ids in order: made by devices. */
const eventId = (n: number) => `0198f000-0000-7000-8000-${n.toString(16).padStart(12, '0')}`;
const JOB = id('job');
const devices = [id('bench'), id('phone')];
const BEGUN = Date.UTC(2026, 5, 1, 9);

function planOf(layers: string[], pieces = 1, widthUm = 250_000): Plan {
  return planSchema.parse({
    format: 'versipel-job-plan/1',
    blank: {
      shape: 'shirt',
      surface: 'plain-cloth',
      width: 508_000,
      height: 660_000,
      margins: { side: 25_000, top: 25_000, bottom: 50_000 },
      hex: '#223344',
      side: 'front',
    },
    pieces: Array.from({ length: pieces }, (_, i) => ({ id: id(`piece ${i}`) })),
    design: {
      artwork: 'a'.repeat(64),
      name: 'a star',
      widthUm,
      sized: true,
      spot: { from: 'centred', down: 0, anchor: { x: 0.5, y: 0.5 } },
    },
    layers: layers.map((l) => ({ id: id(l), path: l, vinyl: id(`vinyl ${l}`) })),
    loads: layers.map((l) => ({
      id: id(`load ${l}`),
      parts: [
        { id: id(`part ${l}`), layer: id(l), pieces: Array.from({ length: pieces }, (_, i) => id(`piece ${i}`)) },
      ],
    })),
  });
}
const press: PressPlan = [
  { what: 'before', layers: [] },
  { what: 'layer a', layers: [id('a')] },
  { what: 'layer b', layers: [id('b')] },
  { what: 'all', layers: [] },
];
const plan = planOf(['a', 'b']);
const sheetOf = (
  events: JobEvent[],
  { facts = [], now = BEGUN, of = plan }: { facts?: CutFact[]; now?: number; of?: Plan } = {},
) => runSheet(of, [of.design!.widthUm], events, facts, press, now);

/** The same sheet where one layer is pressed for so many seconds. */
const timed = (events: JobEvent[], seconds: number) =>
  runSheet(plan, [plan.design!.widthUm], events, [], [{ what: 'layer a', layers: [id('a')], seconds }], BEGUN);

let made = 0;
const event = (
  kind: 'start' | 'pause' | 'done' | 'skip',
  step: string,
  more: { device?: number; at?: number; attempt?: number } = {},
): JobEvent =>
  jobEventSchema.parse({
    id: eventId(++made),
    job: JOB,
    step,
    attempt: more.attempt ?? 1,
    rev: 1,
    device: devices[more.device ?? 0],
    deviceAt: new Date(BEGUN + (more.at ?? made) * 1000).toISOString(),
    kind,
  });
const said = (step: string, at: number, attempt: number, what: object): JobEvent =>
  jobEventSchema.parse({
    id: eventId(++made),
    job: JOB,
    step,
    attempt,
    rev: 1,
    device: devices[0],
    deviceAt: new Date(BEGUN + at * 1000).toISOString(),
    ...what,
  });
const undo = (of: JobEvent) => said(of.step, made, of.attempt, { kind: 'undo', event: of.id });
const cut = (part: string, attempt = 1) =>
  said(`cut/${id(part)}`, made, attempt, {
    kind: 'cut',
    part: id(part),
    setting: { model: 'marlow-24', version: 1, steps: { force: 100 } },
    mounting: id('mounting'),
  });
const wrongAt = (step: string, at = made, attempt = 1) =>
  said(step, at, attempt, { kind: 'wrong', seen: 'shifted', cause: 'mat', remedy: 'wash mat' });
const helpedBy = (wrong: JobEvent, helped: boolean, at = made) =>
  said(wrong.step, at, wrong.attempt, { kind: 'helped', event: wrong.id, helped });

describe('the run sheet', () => {
  it('begins with the first film to trim, and comes to an end', () => {
    const events: JobEvent[] = [];
    expect(sheetOf(events).next).toBe(`trim/${id('part a')}`);
    const kinds: string[] = [];
    for (let i = 0; i < 40; i++) {
      const { next } = sheetOf(events);
      if (!next) break;
      kinds.push(next.slice(0, next.indexOf('/')));
      events.push(
        next.startsWith('cut/') ? cut(next.endsWith(id('part a')) ? 'part a' : 'part b') : event('done', next),
      );
    }
    expect(kinds).toEqual([
      'trim',
      'mat',
      'cut',
      'lift',
      'weed',
      'trim',
      'mat',
      'cut',
      'lift',
      'weed',
      'press',
      'press',
      'press',
      'press',
      'wash',
    ]);
    expect(sheetOf(events).next).toBeUndefined();
  });

  it('knows a step by what it is about: one that stays in a new plan stays done, one that goes is said', () => {
    const events = [event('done', `trim/${id('part a')}`), event('done', `trim/${id('part b')}`)];
    const changed = sheetOf(events, { of: planOf(['b', 'c']) });
    expect(changed.steps.find((s) => s.id === `trim/${id('part b')}`)!.state).toBe('done');
    expect(changed.past).toEqual([{ id: `trim/${id('part a')}`, rev: 1 }]);
  });

  it('says a part that was cut at another width', () => {
    const events = [cut('part a')];
    const wide = planOf(['a', 'b'], 1, 300_000);
    const sheet = runSheet(wide, [250_000, 300_000], events, [], press, BEGUN);
    expect(sheet.otherSize).toEqual([{ part: id('part a'), widthUm: 250_000 }]);
  });

  it('a recut opens that part alone', () => {
    const done = ['trim/part', 'mat/load', 'lift/part', 'weed/part'].map((s) => {
      const [kind, what] = s.split('/');
      return event('done', `${kind}/${id(`${what} a`)}`);
    });
    const events = [...done, cut('part a'), event('done', `trim/${id('part b')}`)];
    expect(
      sheetOf(events).steps.filter((s) => s.layer === id('a') && s.state === 'open' && s.kind !== 'press'),
    ).toEqual([]);
    const again = sheetOf([...events, event('start', `trim/${id('part a')}`, { attempt: 2 })]);
    expect(again.next).toBe(`trim/${id('part a')}`);
    expect(again.steps.find((s) => s.id === `cut/${id('part a')}`)).toMatchObject({ state: 'open', attempt: 2 });
    expect(again.steps.find((s) => s.id === `trim/${id('part b')}`)!.state).toBe('done');
  });

  it('what was never pressed is not offered its wash; one press that was done is enough', () => {
    const of = (...skipped: string[]) =>
      sheetOf(skipped.map((what) => event('skip', `press/${pressId(id('piece 0'), what)}`))).steps.map((s) => s.kind);
    expect(of('before', 'layer a', 'layer b', 'all')).not.toContain('wash');
    expect(of('before', 'layer b', 'all')).toContain('wash');
  });

  it('what hands do before a press is over once that press is', () => {
    const steps: PressPlan = [
      { what: 'backing off a', layers: [id('a')], kind: 'apply', byHand: true },
      { what: 'layer a', layers: [id('a')], seconds: 10 },
    ];
    const at = (events: JobEvent[]) =>
      runSheet(planOf(['a']), [250_000], events, [], steps, BEGUN).steps.find((s) => s.kind === 'apply')!.state;
    const layer = `press/${pressId(id('piece 0'), 'layer a')}`;
    expect(at([])).toBe('open');
    expect(at([event('done', layer)])).toBe('done');
    expect(at([said(layer, made, 1, { kind: 'start' })])).toBe('done');
  });

  it('what one piece lost is cut again for that piece alone, and taken back again', () => {
    const of = planOf(['a'], 3);
    const steps = (events: JobEvent[]) =>
      runSheet(of, [of.design!.widthUm], events, [], [{ what: 'layer a', layers: [id('a')] }], BEGUN).steps;
    const all = (list: ReturnType<typeof steps>) => list.map((s) => event('done', s.id));
    const done = all(steps([]).filter((s) => s.kind !== 'press' && s.kind !== 'wash'));
    const lost = said(`press/${pressId(id('piece 1'), 'layer a')}`, made, 1, {
      kind: 'lost',
      part: id('part a'),
      pieces: [id('piece 1')],
    });
    const after = steps([...done, lost]);
    const again = recutId(id('part a'), lost.id);
    expect(after.filter((s) => s.about === again || s.about === recutLoad(again)).map((s) => s.kind)).toEqual([
      'trim',
      'mat',
      'cut',
      'lift',
      'weed',
    ]);
    expect(after.filter((s) => s.kind === 'press').map((s) => s.ready)).toEqual([true, false, true]);
    const weeded = [...done, lost, ...all(after.filter((s) => s.about === again || s.about === recutLoad(again)))];
    expect(
      steps(weeded)
        .filter((s) => s.kind === 'press')
        .every((s) => s.ready),
    ).toBe(true);
    expect(steps([...done, lost, undo(lost)])).toHaveLength(steps(done).length);
  });
  it('what tore while it was weeded is cut again for the pieces that lost it; the others go to the press', () => {
    const of = planOf(['a'], 4);
    const steps = (events: JobEvent[]) =>
      runSheet(of, [of.design!.widthUm], events, [], [{ what: 'layer a', layers: [id('a')] }], BEGUN).steps;
    const weed = `weed/${id('part a')}`;
    const before = steps([]).filter((s) => ['trim', 'mat', 'cut', 'lift'].includes(s.kind));
    const lost = said(weed, made, 1, { kind: 'lost', part: id('part a'), pieces: [id('piece 1'), id('piece 3')] });
    const events = [...before.map((s) => event('done', s.id)), lost, event('done', weed)];
    const again = recutId(id('part a'), lost.id);
    expect(steps(events).filter((s) => s.about === again && s.kind === 'cut')).toHaveLength(1);
    expect(
      steps(events)
        .filter((s) => s.kind === 'press')
        .map((s) => s.ready),
    ).toEqual([true, false, true, false]);
    // Once more for one of the two: a word of another device, another part.
    const twice = said(weed, made, 1, { kind: 'lost', part: id('part a'), pieces: [id('piece 3')] });
    expect(steps([...events, twice]).filter((s) => s.kind === 'trim')).toHaveLength(3);
  });
  it('the press is closed, opened, and what came up cools anew from then on', () => {
    const about = `press/${pressId(id('piece 0'), 'before')}`;
    const at = (kind: 'start' | 'opened' | 'pause', s: number, wait?: number) =>
      said(about, s, 1, { kind, ...(wait === undefined ? {} : { wait }) });
    const step = (events: JobEvent[]) => sheetOf(events).steps.find((s) => s.id === about)!;
    expect(step([at('start', 0), at('opened', 15)])).toMatchObject({
      closed: new Date(BEGUN).toISOString(),
      opened: new Date(BEGUN + 15_000).toISOString(),
      cools: undefined,
    });
    expect(step([at('start', 0), at('opened', 15), at('opened', 40, 60)])).toMatchObject({
      opened: new Date(BEGUN + 15_000).toISOString(),
      cools: 85,
    });
    expect(step([at('start', 0), at('opened', 15), at('pause', 50), at('start', 60)])).toMatchObject({
      closed: new Date(BEGUN + 60_000).toISOString(),
      opened: undefined,
    });
    expect(step([at('start', 0), at('pause', 5)])).toMatchObject({ closed: undefined });
  });
  it('opened early it keeps its rest, until it is closed for that or somebody says it is enough', () => {
    const about = `press/${pressId(id('piece 0'), 'layer a')}`;
    const step = (events: JobEvent[]) => timed(events, 15).steps.find((s) => s.id === about)!;
    const at = (kind: 'start' | 'opened', s: number, more = {}) => said(about, s, 1, { kind, ...more });
    expect(step([at('start', 0), at('opened', 4)])).toMatchObject({
      rest: 11,
      closed: undefined,
      opened: undefined,
      part: 1,
    });
    // Two devices, late and twice: one sheet.
    const early = [at('start', 0), at('opened', 4), at('start', 20, { part: 1, rest: 11 })];
    expect(step([early[2]!, early[0]!, early[1]!, early[0]!])).toMatchObject({
      closesFor: 11,
      rest: undefined,
      part: 1,
    });
    expect(step([...early, at('opened', 25)])).toMatchObject({ rest: 6, opened: undefined });
    expect(step([...early, at('opened', 31)])).toMatchObject({
      rest: undefined,
      opened: new Date(BEGUN + 31_000).toISOString(),
    });
    // A hand is not quicker than a second.
    expect(step([at('start', 0), at('opened', 14.2)]).opened).toBeDefined();
    const enough = said(about, 6, 1, { kind: 'agreed', to: 'pressed for 4 of 15 s' });
    expect(step([at('start', 0), at('opened', 4), enough])).toMatchObject({
      rest: undefined,
      opened: new Date(BEGUN + 4_000).toISOString(),
    });
  });
  it('with parts each has its time: opened early the same part is closed again', () => {
    const about = `press/${pressId(id('piece 0'), 'layer a')}`;
    const step = (events: JobEvent[]) => timed(events, 10).steps.find((s) => s.id === about)!;
    const at = (kind: 'start' | 'opened', s: number) => said(about, s, 1, { kind });
    expect(step([at('start', 0), at('start', 12), at('opened', 15)])).toMatchObject({ part: 2, rest: 7 });
    expect(step([at('start', 0), at('start', 12), at('opened', 15), at('start', 20)])).toMatchObject({
      part: 2,
      closesFor: 7,
    });
    expect(step([at('start', 0), at('start', 12), at('opened', 15), at('start', 20), at('start', 27)])).toMatchObject({
      part: 3,
      closesFor: 10,
    });
  });
  it('closed part by part it counts them, until it is opened or paused', () => {
    const about = `press/${pressId(id('piece 0'), 'layer a')}`;
    const part = (events: JobEvent[]) => sheetOf(events).steps.find((s) => s.id === about)!.part;
    const at = (kind: 'start' | 'opened' | 'pause', s: number) => said(about, s, 1, { kind });
    expect(part([])).toBe(0);
    expect(part([at('start', 0)])).toBe(1);
    expect(part([at('start', 0), at('start', 20), at('start', 41)])).toBe(3);
    expect(part([at('start', 0), at('start', 20), at('opened', 40)])).toBe(0);
    // Pressed once more after it was opened: from the first part on.
    expect(part([at('start', 0), at('start', 20), at('opened', 40), at('start', 60)])).toBe(1);
    expect(part([at('start', 0), at('pause', 10), at('start', 60), at('start', 80)])).toBe(2);
  });
  it('a part that holds is not lifted until it is cut through: its grade says so', () => {
    const c = cutId(id('part a'), 1);
    const fact = { part: id('part a'), attempt: 1, cut: c, cell: c, passes: 1, grade: 'hangs' as const, enough: false };
    const events = [cut('part a')];
    const lift = (f: CutFact) =>
      sheetOf(events, { facts: [f] }).steps.find((s) => s.id === `lift/${id('part a')}`)!.state;
    expect(lift(fact)).toBe('open');
    expect(lift({ ...fact, passes: 2, grade: 'clean', enough: true })).toBe('done');
  });

  it('a cut that was sent is made when the line says so', () => {
    const c = cutId(id('part a'), 1);
    const fact = { part: id('part a'), attempt: 1, cut: c, cell: c, passes: 0, grade: undefined, enough: false };
    const state = (passes: number) =>
      sheetOf([cut('part a')], { facts: [{ ...fact, passes }] }).steps.find((s) => s.kind === 'cut')!.state;
    expect(state(0)).toBe('open');
    expect(state(1)).toBe('done');
  });

  it('clocks of two devices that overlap count once, and one that nobody stopped runs on', () => {
    const step = `weed/${id('part a')}`;
    const events = [
      event('start', step, { at: 0 }),
      event('pause', step, { at: 60 }),
      event('start', step, { at: 30, device: 1 }),
      event('pause', step, { at: 90, device: 1 }),
      event('start', step, { at: 200 }),
    ];
    const weed = sheetOf(events, { now: BEGUN + 210_000 }).steps.find((s) => s.id === step)!;
    expect(weed.seconds).toBe(100);
    expect(weed.since).toBe(new Date(BEGUN + 200_000).toISOString());
  });

  it('what went wrong is kept with what was done about it; the last word on whether it helped holds, until it is taken back', () => {
    const wrong = wrongAt(`lift/${id('part a')}`);
    const open = sheetOf([wrong]).wrongs;
    expect(open).toMatchObject([{ id: wrong.id, seen: 'shifted', cause: 'mat', helped: undefined }]);
    const [yes, no] = [helpedBy(wrong, true), helpedBy(wrong, false)];
    expect(sheetOf([no, wrong, yes]).wrongs[0]!.helped).toBe(false);
    expect(sheetOf([no, wrong, yes, undo(no)]).wrongs[0]!.helped).toBe(true);
    expect(sheetOf([wrong, yes, undo(wrong)]).wrongs).toEqual([]);
  });

  it('presses piece by piece', () => {
    const two = planOf(['a', 'b'], 2);
    const steps = runSheet(two, [1], [], [], press, BEGUN).steps.filter((s) => s.kind === 'press');
    expect(steps.map((s) => s.id)).toEqual(
      [0, 1].flatMap((n) => press.map(({ what }) => `press/${pressId(id(`piece ${n}`), what)}`)),
    );
  });
});

/** Events as two devices may make them at the steps of the plan. */
const anyEvents = fc
  .array(
    fc.record({
      step: fc.constantFrom(...sheetOf([]).steps.map((s) => s.id)),
      kind: fc.constantFrom('start', 'pause', 'done', 'done', 'skip', 'undo', 'cut', 'wrong', 'helped'),
      attempt: fc.integer({ min: 1, max: 3 }),
      device: fc.integer({ min: 0, max: 1 }),
      at: fc.integer({ min: 0, max: 5_000 }),
      of: fc.nat(),
    }),
    { maxLength: 40 },
  )
  .map((raw) => {
    const events: JobEvent[] = [];
    for (const r of raw) {
      const before = events[r.of % Math.max(1, events.length)];
      if (r.kind === 'undo') {
        if (before && before.kind !== 'undo') events.push(undo(before));
      } else if (r.kind === 'wrong') events.push(wrongAt(r.step, r.at, r.attempt));
      else if (r.kind === 'helped') {
        if (before?.kind === 'wrong') events.push(helpedBy(before, r.of % 2 === 0, r.at));
      } else if (r.kind === 'cut') events.push(cut(r.of % 2 ? 'part a' : 'part b', r.attempt));
      else events.push(event(r.kind as 'done', r.step, r));
    }
    return events;
  });

describe('whatever the order', () => {
  it('any order, repetition and delay of what two devices say gives one sheet', () => {
    fc.assert(
      fc.property(anyEvents, fc.array(fc.nat(), { maxLength: 80 }), (events, picks) => {
        const now = BEGUN + 6_000_000;
        const whole = sheetOf(events, { now });
        const shuffled = events
          .map((e, i) => ({ e, at: picks[i % Math.max(1, picks.length)] ?? i }))
          .sort((a, b) => a.at - b.at)
          .map((x) => x.e);
        const repeated = [
          ...shuffled,
          ...picks.map((n) => events[n % Math.max(1, events.length)]).filter((e) => e !== undefined),
        ];
        expect(sheetOf(repeated, { now })).toEqual(whole);
      }),
      { numRuns: 150 },
    );
  });

  it('a changed plan keeps what was done: every done step is on the sheet or among the past', () => {
    fc.assert(
      fc.property(anyEvents, fc.subarray(['a', 'b', 'c'], { minLength: 1 }), (events, layers) => {
        const before = sheetOf(events);
        const after = runSheet(planOf(layers), [1], events, [], press, BEGUN);
        const here = new Set([
          ...after.steps.filter((s) => s.state === 'done').map((s) => s.id),
          ...after.past.map((p) => p.id),
        ]);
        for (const s of before.steps) if (s.state === 'done') expect(here).toContain(s.id);
      }),
      { numRuns: 100 },
    );
  });

  it('what was taken back is as if it had never been', () => {
    fc.assert(
      fc.property(anyEvents, (events) => {
        const base = sheetOf(events);
        const extra = event('done', `weed/${id('part a')}`, { at: 9_000 });
        expect(sheetOf([...events, extra, undo(extra)])).toEqual(base);
      }),
      { numRuns: 60 },
    );
  });
});
