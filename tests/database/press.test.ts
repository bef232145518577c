import { v4 as uuidv4 } from 'uuid';
import { describe, expect, test } from 'vitest';
import { fahrenheitToMilliCelsius as f } from '#core/units/index.ts';
import { pressId } from '#core/job/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { takeAll } from '#work/deliver.ts';
import { setPress, setSchool } from '#work/jobs/jobs.ts';
import { jobsOf } from '#work/jobs/list.ts';
import { sayPressFigures } from '#work/jobs/sayPressFigures.ts';
import { jobOf } from '#work/jobs/view.ts';
import { addRecipe, recipesOn, setRecipeAway, takeRecipe } from '#work/vinyls/recipes.ts';
import { beginSwatch, gradeSwatch, keepSwatchRecipe, swatchesOn } from '#work/vinyls/swatches.ts';
import { addVinyl, vinylOf } from '#work/vinyls/vinyls.ts';
import { addPress, keepNine, measuredPress, measurePress } from '#work/workshop/presses.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { crafter, device, fieldsOf, form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { apart, job, said, someone, two, vinyl } from '../pressed.ts';
import { rows } from '../testDatabase.ts';

// How vinyls are pressed: recipes with proof, presses as people have them, plans of layers, and what outcomes do.
const house = ownHouse();
const iron = { name: 'Old iron', kind: 'iron', width: '110', length: '220', hottest: '220', shows: 'C', off: '0' };

describe('presses as people have them', () => {
  test('a word on the dial that was measured changes the steps of open jobs', async () => {
    const person = await someone();
    const id = await job(person, [await vinyl(person, 'navy'), await vinyl(person, 'red')]);
    await addPress(person, form(iron));
    const [press] = (await workshopOf(person)).presses;
    // In the words of its dial, as crafters say them; what they have is what such words usually have.
    const before = await jobOf(person, id);
    expect(before.pressPlan.source).toMatchObject({ name: 'Old iron', words: true });
    expect(new Set(before.press.map((s) => [s.toSet, s.heat].join()))).toEqual(new Set(['cotton,200000']));
    await measurePress(person, press!.id, form({ 'level-1': '120', 'level-2': '160' }));
    const after = await jobOf(person, id);
    expect(new Set(after.press.map((s) => [s.toSet, s.heat].join()))).toEqual(new Set(['cotton,160000']));
    // The list of jobs counts the same steps.
    expect((await jobsOf(person)).find((j) => j.id === id)!.of).toBe(after.sheet.steps.length);
  });
  test('the press that fits is taken, another where one says so; what nobody has is refused', async () => {
    const person = await someone();
    const id = await job(person, [await vinyl(person, 'navy'), await vinyl(person, 'red')]);
    await addPress(person, form(iron));
    await addPress(
      person,
      form({ name: 'Big plate', kind: 'plate', width: '380', length: '380', hottest: '430', shows: 'F', off: '-4' }),
    );
    const [old, plate] = (await workshopOf(person)).presses;
    const fits = await jobOf(person, id);
    expect(fits.pressPlan.source).toMatchObject({ id: plate!.id, because: expect.stringMatching(/closes over all/) });
    // It shows 4 °F too much: it is set that much higher.
    expect(fits.press[0]!.toSet).toBe('309 °F');
    await setPress(person, id, form({ press: old!.id }));
    expect((await jobOf(person, id)).pressPlan.source!.id).toBe(old!.id);
    await expect(setPress(await someone(), id, form({ press: old!.id }))).rejects.toThrow(NotFound);
    await expect(measurePress(await someone(), old!.id, form({}))).rejects.toThrow(NotFound);
  });
  test('what is larger than the plate is pressed part by part, each layer in as many as it needs; the sheet counts them', async () => {
    const person = await someone();
    const id = await job(person, [await vinyl(person, 'navy'), await vinyl(person, 'red')]);
    await addPress(person, form(iron));
    const { press, pressPlan, plan, rev } = await jobOf(person, id);
    // 203 mm square under 110 × 220: two parts. The square in its middle, 81 mm: one.
    expect(press.map((s) => [s.does, s.parts])).toEqual([
      ['before', 2],
      ['layer', 2],
      ['layer', 1],
      ['last', 2],
    ]);
    expect(pressPlan.cautions.join(' ')).toMatch(/up to 2 parts a press/);
    expect(pressPlan.cautions.join(' ')).not.toMatch(/heated twice/);
    const step = `press/${pressId(plan.pieces[0]!.id, press[0]!.what)}`;
    const at = (s: number, kind: string) => ({ ...said(id, step, { kind }, Date.now() - 60_000 + s * 1000), rev });
    await takeAll(person, [at(0, 'start'), at(12, 'start')]);
    const here = async () => (await jobOf(person, id)).sheet.steps.find((s) => s.id === step)!;
    expect((await here()).part).toBe(2);
    await takeAll(person, [at(30, 'opened')]);
    expect(await here()).toMatchObject({ part: 0, opened: expect.any(String) });
    // Film that is not plain is heated twice where parts overlap.
    const shine = await job(person, [await vinyl(person, 'gleam', 'glitter'), await vinyl(person, 'plain')]);
    expect((await jobOf(person, shine)).pressPlan.cautions.join(' ')).toMatch(/heated twice/);
    await addPress(person, form({ ...iron, name: 'Big', kind: 'plate', width: '380', length: '380' }));
    expect((await jobOf(person, id)).press.every((s) => s.parts === 1)).toBe(true);
  });
  test('pressure by a bathroom scale: what another plate would want for the same', async () => {
    const person = await someone();
    await addPress(
      person,
      form({ name: 'Big', kind: 'plate', width: '400', length: '400', hottest: '200', shows: 'C', off: '0' }),
    );
    await addPress(
      person,
      form({ name: 'Small', kind: 'hand press', width: '200', length: '200', hottest: '200', shows: 'C', off: '0' }),
    );
    const [big, small] = (await workshopOf(person)).presses;
    await measurePress(person, big!.id, form({ 'kg-medium': '40', 'turns-medium': '3' }));
    const medium = (await measuredPress(person, small!.id)).pressures.find((p) => p.force === 'medium')!;
    expect(medium.asOn).toEqual({ name: 'Big', kg: 10 });
    expect(await fieldsOf(measurePress(person, big!.id, form({ 'kg-heavy': 'a lot' })))).toHaveProperty('kg-heavy');
  });
  test('the same swatch in nine places says where the plate is cool; a press that is cool somewhere says so where it is chosen', async () => {
    const person = await someone();
    await addPress(
      person,
      form({ name: 'Old', kind: 'plate', width: '400', length: '400', hottest: '200', shows: 'C', off: '0' }),
    );
    const [press] = (await workshopOf(person)).presses;
    const nine = (grades: string[]) =>
      form({ heat: '150', seconds: '8', ...Object.fromEntries(grades.map((g, i) => [`place-${i}`, g])) });
    const b = 'bonded';
    expect(await fieldsOf(keepNine(person, press!.id, nine([])))).toHaveProperty('form');
    expect(await fieldsOf(keepNine(person, press!.id, form({ heat: '900', seconds: '8' })))).toHaveProperty('heat');
    await keepNine(person, press!.id, nine(['not bonded', 'edges lift', b, b, b, b, b, b, b]));
    const { places, source } = await measuredPress(person, press!.id);
    expect(places!.read.coolest).toMatchObject({ row: 0, column: 0 });
    expect(source.uneven).toBe(Math.round(places!.read.uneven * 1000));
    expect(source.uneven).toBeGreaterThan(3_000);
  });
});

describe('recipes', () => {
  const wrote = {
    heat: '310',
    unit: 'F',
    from: '12',
    to: '18',
    pressure: 'medium',
    peel: 'warm',
    surface: 'plain-cloth',
    before: '10',
    after: '8',
  };
  test('one’s own is how jobs are pressed from then on: heat, times, the bare blank, the press after', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    const id = await job(person, [navy, navy], { svg: two.replace('#b3202c', '#1f3a5f') });
    expect((await jobOf(person, id)).press.map((s) => s.does)).toEqual(['before', 'layer']);
    await addRecipe(person, navy, form(wrote));
    const { press } = await jobOf(person, id);
    expect(press.map((s) => [s.does, s.seconds])).toEqual([
      ['before', 10],
      ['layer', 12],
      ['after', 8],
    ]);
    expect(press[1]).toMatchObject({ heat: f(310), peel: 'warm', wait: 10 });
    const [first] = (await recipesOn(person, await vinylOf(person, navy), 'plain-cloth')).recipes;
    expect(first).toMatchObject({ from: 'you', standing: 'draft', beyond: [] });
    // On another fabric it says nothing; put away it is gone.
    expect((await recipesOn(person, await vinylOf(person, navy), 'mesh')).recipes[0]!.from).toBe('type');
    await setRecipeAway(person, first!.id!, true);
    expect((await jobOf(person, id)).press[1]!.heat).not.toBe(f(310));
    await expect(setRecipeAway(await someone(), first!.id!, false)).rejects.toThrow(NotFound);
  });
  test('by how much it shrinks is measured once, and said where layers would be off', async () => {
    const person = await someone();
    const [navy, red] = [await vinyl(person, 'navy'), await vinyl(person, 'red')];
    const id = await job(person, [navy, red]);
    expect(await fieldsOf(addRecipe(person, navy, form({ ...wrote, drawn: '200' })))).toHaveProperty('pressed');
    expect(await fieldsOf(addRecipe(person, navy, form({ ...wrote, drawn: '200', pressed: '150' })))).toHaveProperty(
      'pressed',
    );
    await setSchool(person, id, form({ school: 'full' }));
    await addRecipe(person, navy, form({ ...wrote, drawn: '200', pressed: '198' }));
    // 1 in 100 of 203 mm, once it was pressed for good.
    expect((await jobOf(person, id)).pressPlan.cautions.join(' ')).toMatch(/2\.0 mm narrower .* as you measured/);
  });
  test('beyond what fabric or film bears it is kept only by a deliberate yes, which stays on record', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    const hot = { ...wrote, heat: '380', surface: 'silk' };
    expect(await fieldsOf(addRecipe(person, navy, form(hot)))).toHaveProperty('agreed');
    const id = await addRecipe(person, navy, form({ ...hot, agreed: 'yes' }));
    const [kept] = await rows<{ agreed: string }>(house.url, 'select agreed from recipe where id = $1', [id]);
    expect(kept!.agreed).toMatch(/takes 350 °F.*takes 280 °F/);
    for (const [field, more] of [
      ['heat', { heat: '900' }],
      ['to', { from: '30', to: '10' }],
      ['wait', { wait: 'long' }],
    ] as const)
      expect(await fieldsOf(addRecipe(person, navy, form({ ...wrote, ...more })))).toHaveProperty(field);
  });
  test('outcomes of jobs prove it, then doubt it; a slip of the hand says nothing; what is taken back counts no more', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    await addRecipe(person, navy, form({ ...wrote, after: '' }));
    const DAY = 86_400_000;
    const out = async (daysAgo: number, word: string) => {
      const id = await job(person, [navy, navy], { svg: two.replace('#b3202c', '#1f3a5f') });
      const { plan, press, rev } = await jobOf(person, id);
      const step = `press/${pressId(plan.pieces[0]!.id, press.at(-1)!.what)}`;
      const event = {
        ...said(
          id,
          step,
          { kind: 'outcome', pieces: [plan.pieces[0]!.id], word, recipe: '' },
          Date.now() - daysAgo * DAY,
        ),
        rev,
      };
      expect(await takeAll(person, [event])).toEqual([{ id: event.id, outcome: 'stored' }]);
      return { id, event, rev };
    };
    const stands = async () =>
      (await recipesOn(person, await vinylOf(person, navy), 'plain-cloth')).recipes.find((r) => r.from === 'you')!;
    for (let i = 0; i < 9; i++) await out(40 - i * 3, 'bonded');
    await out(12, 'slipped');
    expect(await stands()).toMatchObject({ standing: 'proven', held: 9, pieces: 9 });
    await out(5, 'scorched');
    const last = await out(3, 'edges lift');
    const bad = await out(1, 'came off in the wash');
    expect((await stands()).standing).toBe('doubted');
    await takeAll(person, [{ ...said(bad.id, bad.event.step, { kind: 'undo', event: bad.event.id }), rev: bad.rev }]);
    expect((await stands()).pieces).toBe(11);
    expect(last.id).not.toBe(bad.id);
  }, 60_000);
  test('a recipe of several presses is a sequence of steps; one that lacks its time is refused at its field; a raise alone is joined to nothing', async () => {
    const person = await someone();
    const id = await vinyl(person, 'navy', 'metallic-puff');
    const first = {
      heat: '285',
      unit: 'F',
      from: '9',
      to: '9',
      peel: 'warm',
      pressure: 'heavy',
      surface: 'plain-cloth',
    };
    expect(await fieldsOf(addRecipe(person, id, form({ ...first, heat1: '285' })))).toHaveProperty('seconds1');
    expect(await fieldsOf(addRecipe(person, id, form({ ...first, heat1: '28', seconds1: '9' })))).toHaveProperty(
      'heat1',
    );
    await addRecipe(
      person,
      id,
      form({
        ...first,
        ...{ heat1: '290', seconds1: '7', pressure1: 'heavy' },
        ...{ heat2: '290', seconds2: '6', pressure2: 'heavy', ask2: 'Risen all over?' },
      }),
    );
    const made = await job(person, [id], { svg: two.replace('#b3202c', '#1f3a5f') });
    const { press } = await jobOf(person, made);
    expect(press.map((s) => [s.does, s.heat && Math.round(s.heat / 1000), s.seconds, s.ask])).toEqual([
      ['before', 141, 10, undefined],
      ['layer', 141, 9, undefined],
      ['raise', 143, 7, undefined],
      ['raise', 143, 6, 'Risen all over?'],
    ]);
    expect(press.slice(1).every((s) => s.by === 'own written' && s.support === 'hard board')).toBe(true);
    // As it was written before a recipe had several presses.
    const other = await vinyl(person, 'red', 'metallic-puff');
    await rows(house.url, `insert into recipe (id, person_id, vinyl_id, way) values ($1, $2, $3, $4)`, [
      uuidv4(),
      person.id,
      other,
      { purpose: 'raise', seconds: [5, 5], cover: 'baking paper', peel: 'by the leaflet' },
    ]);
    const { recipes, raises } = await recipesOn(person, await vinylOf(person, other), 'plain-cloth');
    expect(raises).toHaveLength(1);
    expect(recipes.some((r) => r.way.purpose === 'raise')).toBe(false);
    const plain = await jobOf(person, await job(person, [other], { svg: two.replace('#b3202c', '#1f3a5f') }));
    expect(plain.press.some((s) => s.seconds === 5)).toBe(false);
  });
  test('what nobody has said is said from within the job: as its leaflet has it, or as one’s own, for that surface', async () => {
    const [ada, guest] = [await crafter('Ilse', 'marlow-24', 'ilse@press.example'), await someone()];
    for (const [person, said, source] of [
      [ada, 'leaflet', 'leaflet'],
      [guest, 'own', 'own written'],
    ] as const) {
      const id = await vinyl(person, 'silver', 'reflective');
      const made = await job(person, [id], { svg: two.replace('#b3202c', '#1f3a5f') });
      expect((await jobOf(person, made)).pressPlan.lacks).toEqual([
        expect.objectContaining({ vinyl: id, what: ['heat', 'seconds'] }),
      ]);
      const says = { said, vinyl: id, heatUnit: 'F', heat: '305', from: '12', to: '', peel: 'warm', pressure: '' };
      expect(await fieldsOf(sayPressFigures(person, made, form({ ...says, heat: '3050' })))).toHaveProperty('heat');
      await expect(sayPressFigures(person, made, form({ ...says, vinyl: uuidv4() }))).rejects.toThrow(NotFound);
      await sayPressFigures(person, made, form(says));
      const after = await jobOf(person, made);
      expect(after.pressPlan.lacks).toEqual([]);
      expect(after.press.find((s) => s.does === 'layer')).toMatchObject({ heat: f(305), seconds: 12, by: source });
    }
    // A leaflet is copied under a name; a guest has none.
    const id = await vinyl(guest, 'gleam', 'reflective');
    const made = await job(guest, [id], { svg: two.replace('#b3202c', '#1f3a5f') });
    const copied = form({ said: 'leaflet', vinyl: id, heatUnit: 'C', heat: '150', from: '10', to: '10' });
    expect(await fieldsOf(sayPressFigures(guest, made, copied))).toHaveProperty('form');
  });
  test('printed film comes off its backing before it is pressed: a step of hands, over once the press is', async () => {
    const person = await someone();
    const id = await vinyl(person, 'print', 'printable');
    const made = await job(person, [id], { svg: two.replace('#b3202c', '#1f3a5f') });
    const { press, sheet, plan, rev } = await jobOf(person, made);
    expect(press.map((s) => [s.does, s.kind, s.lifts])).toEqual([
      ['before', 'press', 'carrier'],
      ['backing off', 'apply', 'cover'],
      ['layer', 'press', 'cover'],
    ]);
    expect(press[1]).toMatchObject({ heat: undefined, seconds: undefined, byHand: true });
    const of = (i: number) => `${press[i]!.kind}/${pressId(plan.pieces[0]!.id, press[i]!.what)}`;
    expect(sheet.steps.map((s) => s.id)).toContain(of(1));
    // A job that pressed it before there was such a step is not asked for it.
    await takeAll(person, [{ ...said(made, of(2), { kind: 'done' }), rev }]);
    expect((await jobOf(person, made)).sheet.steps.find((s) => s.id === of(1))!.state).toBe('done');
  });
  test('what somebody shares others see, with how it held, and take as their own', async () => {
    const [a, c] = [
      await crafter('Ada', 'marlow-24', 'ada@press.example'),
      await crafter('Cleo', 'marlow-24', 'cleo@press.example'),
    ];
    const id = await addVinyl(
      a,
      { brand: 'Larkfield', name: 'Open', type: 'smooth', colour: 'x', hex: '#112233' },
      'public',
    );
    await addRecipe(a, id, form({ ...wrote, shared: 'yes' }));
    const theirs = (await recipesOn(c, await vinylOf(c, id), 'plain-cloth')).recipes;
    const shared = theirs.find((r) => r.from === 'shared')!;
    expect(shared).toMatchObject({ by: 'Ada', way: { heat: f(310) } });
    await takeRecipe(c, id, 'plain-cloth', shared.id!);
    expect((await recipesOn(c, await vinylOf(c, id), 'plain-cloth')).recipes[0]).toMatchObject({
      from: 'you',
      way: { heat: f(310) },
    });
    await takeRecipe(c, id, 'plain-cloth', 'way 2');
    await expect(takeRecipe(c, id, 'plain-cloth', uuidv4())).rejects.toThrow(NotFound);
  });
});

describe('a job’s layers at the press', () => {
  test('what lies apart is pressed at once; schools change the steps; a pair that must not meet is refused with what helps', async () => {
    const person = await someone();
    const [navy, red] = [await vinyl(person, 'navy'), await vinyl(person, 'red')];
    const id = await job(person, [navy, red], { svg: apart });
    expect((await jobOf(person, id)).press.map((s) => [s.does, s.layers.length])).toEqual([
      ['before', 0],
      ['layer', 2],
    ]);
    const stacked = await job(person, [navy, red]);
    expect((await jobOf(person, stacked)).press.map((s) => s.does)).toEqual(['before', 'layer', 'layer', 'last']);
    await setSchool(person, stacked, form({ school: 'top' }));
    expect((await jobOf(person, stacked)).press.map((s) => s.seconds)).toEqual([5, 3, 10]);
    const puff = await job(person, [await vinyl(person, 'loft', 'puff'), navy]);
    const { pressPlan, plan, press, rev } = await jobOf(person, puff);
    expect(pressPlan).toMatchObject({ verdict: 'refused' });
    expect(pressPlan.helps.map((h) => h.do)).toContain('swap');
    // Pressed all the same only by a yes that is kept.
    const step = `press/${pressId(plan.pieces[0]!.id, press[0]!.what)}`;
    await takeAll(person, [{ ...said(puff, step, { kind: 'agreed', to: pressPlan.because[0]!.says }), rev }]);
    expect((await jobOf(person, puff)).sheet.agreed).toHaveLength(1);
  });
  test('a press far off its plan is kept as what it was, and says nothing for what it was meant to be', async () => {
    const person = await someone();
    const navy = await vinyl(person, 'navy');
    const outcomes = async () =>
      (
        await rows<{ way: { seconds: number[]; meant?: number } }>(
          house.url,
          'select way from press_outcome where person_id = $1 order by at, event_id',
          [person.id],
        )
      ).map((r) => [r.way.seconds[1], r.way.meant]);
    const spoken = async () => (await recipesOn(person, await vinylOf(person, navy), 'plain-cloth')).recipes[0]!.pieces;
    // The third is closed on one device and opened on another: their clocks are not one, so it counts as planned, and that is said.
    for (const [seconds, kept, opener] of [
      [4, 0, device],
      [11, 1, device],
      [4, 2, uuidv4()],
    ] as const) {
      const id = await job(person, [navy, navy], { svg: two.replace('#b3202c', '#1f3a5f') });
      const { plan, press, rev } = await jobOf(person, id);
      const layer = press.findIndex((s) => s.does === 'layer');
      expect(press[layer]!.seconds).toBe(10);
      const step = `press/${pressId(plan.pieces[0]!.id, press[layer]!.what)}`;
      const at = (s: number, more: object) => ({ ...said(id, step, more, Date.now() - 60_000 + s * 1000), rev });
      await takeAll(person, [
        at(0, { kind: 'start' }),
        at(seconds, { kind: 'opened', device: opener }),
        ...(kept ? [] : [at(seconds + 1, { kind: 'agreed', to: 'pressed for 4 of 10 s' })]),
        at(20, { kind: 'outcome', pieces: [plan.pieces[0]!.id], word: 'bonded', recipe: 'x' }),
      ]);
      expect((await outcomes()).at(-1)).toEqual(kept ? [10, undefined] : [4, 10]);
      expect(await spoken()).toBe(kept);
      // What was left at that agrees to nothing else.
      expect((await jobOf(person, id)).sheet.agreed).toEqual([]);
    }
    expect((await recipesOn(person, await vinylOf(person, navy), 'plain-cloth')).recipes[0]!.twoClocks).toBe(1);
  });
  test('how long a press takes to change its heat is learnt from its own log, and from no other press', async () => {
    const person = await someone();
    const big = { name: 'Big', kind: 'plate', width: '380', length: '380', hottest: '220', shows: 'C', off: '0' };
    await addPress(person, form(big));
    await addPress(person, form({ ...big, name: 'Quick' }));
    await addPress(person, form({ ...big, name: 'New' }));
    const presses = (await workshopOf(person)).presses;
    const navy = await vinyl(person, 'navy');
    const id = await job(person, [navy, navy], { svg: two.replace('#b3202c', '#1f3a5f') });
    const { plan, press, rev } = await jobOf(person, id);
    const step = `press/${pressId(plan.pieces[0]!.id, press[0]!.what)}`;
    const from = Date.now() - 3_600_000;
    const at = (s: number, more: object) => ({ ...said(id, step, more, from + s * 1000), rev });
    const plate = (s: number, heat: number, source: string) => at(s, { kind: 'plate', heat, shows: 'C', source });
    const [slow, quick, fresh] = presses.map((p) => p.id);
    await takeAll(person, [
      plate(0, 140_000, slow!),
      at(20, { kind: 'opened' }),
      plate(120, 160_000, slow!),
      at(130, { kind: 'opened' }),
      plate(250, 180_000, slow!),
      // The other press was at 140 before, whatever this one was at meanwhile.
      plate(300, 140_000, quick!),
      at(310, { kind: 'opened' }),
      plate(340, 160_000, quick!),
      at(350, { kind: 'opened' }),
      plate(380, 180_000, quick!),
    ]);
    const warmth = async (of: string) => (await measuredPress(person, of)).warmth;
    // 100 s and 120 s for 20 °C each; 30 s each; nothing yet.
    expect(await warmth(slow!)).toMatchObject({ warm: 5.5, timed: 2 });
    expect(await warmth(quick!)).toMatchObject({ warm: 1.5, timed: 2 });
    expect(await warmth(fresh!)).toMatchObject({ timed: 0 });
  });
});

describe('swatches, and what is not pressed', () => {
  test('a card is planned, graded, counts as evidence, and its recipe is kept; grades that are put right count as they are now', async () => {
    const person = await someone();
    const id = await vinyl(person, 'navy');
    await beginSwatch(person, id, 'plain-cloth');
    await expect(beginSwatch(person, id, 'plain-cloth')).rejects.toThrow(/Grade the card/);
    const view = await swatchesOn(person, await vinylOf(person, id), 'plain-cloth');
    const [card] = view.cards;
    expect(card!.cells.length).toBeGreaterThanOrEqual(5);
    const graded = (
      bond: (c: { heat: number; seconds: number }) => string,
      harm: (c: { heat: number; seconds: number }) => string,
    ) =>
      form(
        Object.fromEntries(
          card!.cells.flatMap((c, i) => [
            [`bond-${i}`, bond(c)],
            [`harm-${i}`, harm(c)],
          ]),
        ),
      );
    await expect(gradeSwatch(await someone(), id, card!.id, form({}))).rejects.toThrow(NotFound);
    expect(await fieldsOf(gradeSwatch(person, id, card!.id, form({ 'bond-0': 'glorious' })))).toHaveProperty('bond');
    await gradeSwatch(
      person,
      id,
      card!.id,
      graded(
        () => 'not bonded',
        () => 'scorched',
      ),
    );
    const count = async (word: string) =>
      Number(
        (
          await rows<{ n: string }>(
            house.url,
            `select count(*) as n from press_outcome where person_id = $1 and word = $2 and undone_at is null`,
            [person.id, word],
          )
        )[0]!.n,
      );
    expect(await count('scorched')).toBe(card!.cells.length);
    await gradeSwatch(
      person,
      id,
      card!.id,
      graded(
        (c) => (c.seconds >= 8 ? 'bonded' : 'edges lift'),
        () => 'fine',
      ),
    );
    expect([await count('scorched'), (await count('bonded')) > 0]).toEqual([0, true]);
    const read = await swatchesOn(person, await vinylOf(person, id), 'plain-cloth');
    expect(read.result.verdict).toBe('enough');
    await keepSwatchRecipe(person, id, 'plain-cloth');
    const [mine] = (await recipesOn(person, await vinylOf(person, id), 'plain-cloth')).recipes;
    expect(mine).toMatchObject({ from: 'you', way: { heat: read.result.recipe!.celsius * 1000 } });
    await expect(swatchesOn(person, await vinylOf(person, id), 'glass')).rejects.toThrow();
  });
  test('a job of film that sticks has no press step: it is cleaned, taped, laid; how it holds is proof for that surface', async () => {
    const person = await someone();
    const [reed, bone] = [await vinyl(person, 'reed', 'adhesive'), await vinyl(person, 'bone', 'glitter-adhesive')];
    const id = await job(person, [reed, bone], { surface: 'wood' });
    const { press, plan, rev, sheet } = await jobOf(person, id);
    expect(sheet.steps.some((s) => s.kind === 'press')).toBe(false);
    expect(press.map((s) => s.what)).toEqual(['apply clean', 'apply gather', 'apply lay']);
    const step = `apply/${pressId(plan.pieces[0]!.id, 'apply lay')}`;
    await takeAll(person, [
      { ...said(id, step, { kind: 'outcome', pieces: [plan.pieces[0]!.id], word: 'bonded', recipe: '' }), rev },
    ]);
    const [n] = await rows<{ n: number }>(
      house.url,
      `select count(*)::int as n from press_outcome where job_id = $1 and surface = 'wood'`,
      [id],
    );
    expect(n!.n).toBe(2);
  });
});
