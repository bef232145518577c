import { createServer, type Server } from 'node:net';
import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { couponFile, couponOf, listCoupons } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { lineOf, sendToCutter, settleAfterCrash, settleCell } from '#work/cuts/line.ts';
import { NotFound } from '#work/base/errors.ts';
import { setAway } from '#work/answer/editable.ts';
import { cutOf, nextCutId, openCuts, reportCut } from '#work/cuts/cuts.ts';
import { becomeGuest } from '#work/people/people.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { listVinyls } from '#work/answer/list.ts';
import { addCutter, takeNewerModel } from '#work/workshop/cutters.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { startStandIn, type StandIn } from '../../bin/lib/standIn.ts';
import { fieldsOf, form, grade } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { root, rows } from '../testDatabase.ts';
import { placeToSet } from '#core/window/index.ts';

// Ordinary cuts, through, passes, versions of a model, and the line to a cutter, on a real database with a real process
// on the other end of the line.
const house = ownHouse();
let standIn: StandIn;
beforeAll(async () => {
  standIn = await startStandIn(root, ['--ms', '60', '--truth', '--seed', '5']);
  process.env.VERSIPEL_CUTTERS = standIn.listFile;
});
afterAll(async () => {
  standIn?.stop();
});

/** The first thing that was refused. */
const problem = async (work: Promise<unknown>) => {
  const refused = await fieldsOf(work);
  return typeof refused === 'object' && !(refused instanceof Error) ? Object.values(refused as object)[0] : refused;
};

async function atWork(model = 'marlow-24', type = 'glitter', plan: Record<string, string> = {}) {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model, name: 'Mine', blade: 'first', angle: '45', used: '0' }));
  const vinyl = await addVinyl(person, form({ brand: 'Tansy', name: 'Loft', type, colour: 'maize', hex: '#e0ac33' }));
  const bench = (await benchOf(person))!;
  const coupon = await makeCoupon(person, bench, vinyl, form({ cells: '4', ...plan }));
  return { person, vinyl, bench, coupon, view: await couponOf(person, coupon) };
}

describe('every kind of cutter', () => {
  test.each(['marlow-24', 'oxbow-dial', 'pellam-leaf', 'sorrel-custom', 'whin-duo'])(
    '%s: planned, cut as a file, graded, kept',
    async (model) => {
      const { person, vinyl, bench, coupon, view } = await atWork(model);
      expect(new Set(view.cells.map((c) => c.position)).size).toBe(4);
      for (const kind of ['svg', 'hpgl', 'dxf'] as const)
        expect((await couponFile(person, coupon, kind, 2)).body).toContain(kind === 'dxf' ? 'CELL_2' : 'cell');
      const words = ['hangs', 'clean', 'clean', 'scored'];
      await takeAll(
        person,
        view.cells.map((c, i) => grade(c.id, words[i]!)),
      );
      const { result } = await couponOf(person, coupon);
      expect(result.evidence.cells).toBe(4);
      const { formatPosition, strengthAxis } = await import('#core/controls/index.ts');
      const axis = strengthAxis(bench.cutter.model);
      const strength = formatPosition(axis, placeToSet(result.summary).position);
      await keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength }));
      const [listed] = await listVinyls(person, bench, 'loft');
      expect(formatPosition(axis, listed!.answer.position!)).toBe(strength);
    },
  );

  test('the controls other than strength are planned, read and kept with it', async () => {
    const { person, vinyl, bench, view } = await atWork('marlow-24', 'glitter', { 'c.speed': '7', 'c.passes': '2' });
    expect(view.sheet.cells.every((c) => c.setting.steps.speed === 7 && c.setting.steps.passes === 2)).toBe(true);
    expect(view.result.passes).toBe(2);
    expect(await problem(makeCoupon(person, bench, vinyl, form({ 'c.depth': '99' })))).toBe(
      'blade depth 99 is outside this cutter: 1 to 10.',
    );
    await keepSetting(person, form({ vinyl, cutter: bench.cutter.id, strength: '90', 'c.speed': '3' }));
    expect((await settingOf(person.id, vinyl, bench.cutter, 'clean'))!.controls.steps).toEqual({
      depth: 3,
      speed: 3,
      force: 90,
      passes: 2,
    });
  });

  test('only cells cut at the depth of the coming cut speak about it', async () => {
    const { person, vinyl, bench, view } = await atWork();
    await takeAll(person, [grade(view.cells[1]!.id, 'clean')]);
    const deeper = await couponOf(person, await makeCoupon(person, bench, vinyl, form({ 'c.depth': '5' })));
    expect(deeper.result.evidence.cells).toBe(0);
    expect((await couponOf(person, view.id)).result.evidence.cells).toBe(1);
  });

  test('through is a reading and a setting of its own', async () => {
    const { person, vinyl, bench, view } = await atWork('marlow-24', 'smooth', { wanted: 'through' });
    expect(view.wanted).toBe('through');
    await takeAll(
      person,
      view.cells.map((c, i) => grade(c.id, ['scored', 'through', 'through', 'through'][i]!)),
    );
    const kept = { vinyl, cutter: bench.cutter.id };
    await keepSetting(person, form({ ...kept, wanted: 'through', strength: '300' }));
    await keepSetting(person, form({ ...kept, wanted: 'clean', strength: '90' }));
    expect((await settingOf(person.id, vinyl, bench.cutter, 'through'))!.controls.steps.force).toBe(300);
    expect((await settingOf(person.id, vinyl, bench.cutter, 'clean'))!.controls.steps.force).toBe(90);
    expect(
      (await rows(house.url, 'select wanted from reading where vinyl_id = $1 order by 1', [vinyl])).map(
        (r) => r.wanted,
      ),
    ).toEqual(['clean', 'through']);
    // Faux leather is wanted through without anybody saying so.
    expect((await atWork('marlow-24', 'faux-leather')).view.wanted).toBe('through');
  });

  test('a newer version of the model: what was cut and kept before comes along by what the controls show', async () => {
    const { person, vinyl, coupon, view } = await atWork();
    const cutter = (await benchOf(person))!.cutter;
    // As if the cutter had been added, and its coupon cut, when version 1 was the newest.
    await rows(house.url, 'alter table cell disable trigger cell_fixed');
    await rows(
      house.url,
      `update cell set setting = jsonb_set(setting #- '{steps,depth}', '{version}', '1') where cut_id = $1`,
      [coupon],
    );
    await rows(house.url, 'alter table cell enable trigger cell_fixed');
    await rows(
      house.url,
      `update coupon set sheet = jsonb_set(sheet, '{cells}', (
         select jsonb_agg(jsonb_set(c #- '{setting,steps,depth}', '{setting,version}', '1')) from jsonb_array_elements(sheet -> 'cells') c))
        where cut_id = $1`,
      [coupon],
    );
    await rows(house.url, 'update cutter set model_version = 1 where id = $1', [cutter.id]);
    const bench = (await benchOf(person))!;
    await takeAll(
      person,
      view.cells.map((c, i) => grade(c.id, ['uncut', 'clean', 'clean', 'scored'][i]!)),
    );
    await keepSetting(person, form({ vinyl, cutter: cutter.id, strength: '120' }));
    expect(bench.cutter.model.version).toBe(1);
    await takeNewerModel(person, cutter.id);
    const after = (await benchOf(person))!;
    expect(after.cutter.model.version).toBe(2);
    expect((await settingOf(person.id, vinyl, after.cutter, 'clean'))!.controls).toEqual({
      model: 'marlow-24',
      version: 2,
      steps: { depth: 3, speed: 4, force: 120, passes: 1 },
    });
    const next = await couponOf(person, await makeCoupon(person, after, vinyl, form({})));
    expect(next.result.evidence.cells).toBe(4);
    expect((await couponOf(person, coupon)).cutter.model.version).toBe(1);
    expect(await problem(takeNewerModel(person, cutter.id))).toContain('newest version');
  });

  test('two passes age a blade twice', async () => {
    const { person, view } = await atWork();
    const cell = view.cells[0]!.id;
    const before = (await workshopOf(person)).cutters[0]!.blade!.cutUm;
    for (const passes of [1, 2, 2])
      await takeAll(person, [
        { id: uuidv7(), kind: 'cut', cell, passes, device: uuidv4(), deviceAt: new Date().toISOString() },
      ]);
    expect((await workshopOf(person)).cutters[0]!.blade!.cutUm - before).toBe(2 * view.sheet.cells[0]!.length);
  });
});

describe('"I cut this"', () => {
  test('is one cell of evidence, asked about until it is graded or dropped, and a repeated tap is no second cut', async () => {
    const { person, vinyl, bench, view } = await atWork();
    const said = (cut: string) =>
      form({
        cut,
        vinyl,
        cutter: bench.cutter.id,
        wanted: 'clean',
        setting: JSON.stringify(view.sheet.cells[1]!.setting),
      });
    const id = nextCutId();
    expect(await reportCut(person, bench, said(id))).toBe(id);
    expect(await reportCut(person, bench, said(id))).toBe(id);
    expect(await openCuts(person)).toHaveLength(1);
    const told = await cutOf(person, id);
    await takeAll(person, [grade(told.cell, 'clean')]);
    expect(await openCuts(person)).toEqual([]);
    expect((await couponOf(person, view.id)).result.evidence).toMatchObject({ cells: 1, coupons: 1 });
    const other = nextCutId();
    await reportCut(person, bench, said(other));
    await setAway(person, 'cut', other, true);
    expect(await openCuts(person)).toEqual([]);
    const stranger = (await becomeGuest()).person;
    await expect(cutOf(stranger, id)).rejects.toThrow(NotFound);
    await expect(setAway(stranger, 'cut', id, true)).rejects.toThrow(NotFound);
    const wrong = form({ cut: nextCutId(), vinyl, cutter: bench.cutter.id, setting: '{"model":1}' });
    expect(await problem(reportCut(person, bench, wrong))).toBe('That is no setting.');
  });
});

describe('the line to a cutter', () => {
  const fault = (f: object) => fetch(`${standIn.camera}/fault`, { method: 'POST', body: JSON.stringify(f) });
  const truth = async (cell: string) => {
    const answer = await fetch(`${standIn.camera}/cells/${cell}.json`);
    return answer.ok ? ((await answer.json()) as { grade: string; passes: number }) : undefined;
  };
  const done = async (person: Parameters<typeof lineOf>[0], coupon: string) => {
    for (let i = 0; i < 200; i++) {
      const line = await lineOf(person, coupon);
      if (line.run && !line.run.running) return line;
      await new Promise((r) => setTimeout(r, 50));
    }
    throw new Error('the run does not end');
  };
  const send = (cells: string, pass = '1') => form({ device: 'stand-in', cells, pass });
  const states = (line: Awaited<ReturnType<typeof lineOf>>) => line.run!.cells.map((c) => c.state);

  test('cuts every cell once, says so, and counts it; nothing is sent a second time', async () => {
    const { person, coupon, view } = await atWork();
    await sendToCutter(person, coupon, send('1,2,3,4'));
    expect(await problem(sendToCutter(person, coupon, send('1')))).toMatch(/cutting something else|on its way/);
    const line = await done(person, coupon);
    expect(states(line)).toEqual(['cut', 'cut', 'cut', 'cut']);
    expect(line.run!.trouble).toBeNull();
    for (const c of view.cells) expect((await truth(c.id))!.passes).toBe(1);
    expect((await couponOf(person, coupon)).cells.map((c) => [c.passesRun, c.pictured])).toEqual(
      Array(4).fill([1, true]),
    );
    expect(await problem(sendToCutter(person, coupon, send('2')))).toBe(
      'Cell 2 has had that pass already. It is not cut twice.',
    );
    await sendToCutter(person, coupon, send('2', '2'));
    await done(person, coupon);
    expect((await truth(view.cells[1]!.id))!.passes).toBe(2);
  });

  test.each([
    [true, 'cut', 1],
    [false, 'not cut', 0],
  ] as const)(
    'cut off in mid-job (the cell under the blade cut: %s): unclear until a person looks',
    async (cuts, seen, times) => {
      const { person, coupon, view } = await atWork();
      await fault({ kind: 'drop', after: 1, cuts });
      await sendToCutter(person, coupon, send('1,2,3,4'));
      const line = await done(person, coupon);
      expect(states(line)).toEqual(['cut', 'unclear', 'not cut', 'not cut']);
      expect(line.run!.trouble).toBe('The line to the cutter broke.');
      // Nobody knows whether cell 2 was cut: it cannot be sent until somebody has looked.
      expect(await problem(sendToCutter(person, coupon, send('2')))).toContain('may have been cut');
      const [doubt] = line.doubtful;
      const say = (what: string) =>
        settleCell(person, coupon, form({ run: doubt!.run, cell: doubt!.cell, pass: '1', seen: what }));
      await say(seen);
      expect(await problem(say('cut'))).toContain('said that already');
      await sendToCutter(person, coupon, send(cuts ? '3,4' : '2,3,4'));
      await done(person, coupon);
      expect(await Promise.all(view.cells.map(async (c) => (await truth(c.id))?.passes))).toEqual([1, 1, 1, 1]);
      expect((await couponOf(person, coupon)).cells.map((c) => c.passesRun)).toEqual([1, 1, 1, 1]);
      expect(times + (cuts ? 0 : 1)).toBe(1);
    },
  );

  test('a cell that is only half cut is left out: not graded, not asked for, and the coupon is done without it', async () => {
    const { person, coupon, view } = await atWork();
    await fault({ kind: 'drop', after: 3, cuts: false });
    await sendToCutter(person, coupon, send('1,2,3,4'));
    const [doubt] = (await done(person, coupon)).doubtful;
    await settleCell(person, coupon, form({ run: doubt!.run, cell: doubt!.cell, pass: '1', seen: 'spoiled' }));
    expect((await couponOf(person, coupon)).cells.map((c) => c.leftOut)).toEqual([false, false, false, true]);
    expect(await problem(sendToCutter(person, coupon, send('4')))).toContain('may have been cut');
    await takeAll(
      person,
      view.cells.slice(0, 3).map((c) => grade(c.id, 'clean')),
    );
    expect((await listCoupons(person))[0]).toMatchObject({ cells: 3, graded: 3, cut: 3 });
  });

  test('busy, offline, and an instruction it does not know are clear states that lose nothing', async () => {
    const { person, coupon } = await atWork();
    await fault({ kind: 'busy' });
    await sendToCutter(person, coupon, send('1,2'));
    let line = await done(person, coupon);
    expect([line.run!.trouble, ...states(line)]).toEqual([
      'The cutter is busy with something else. Try again when it is done.',
      'not cut',
      'not cut',
    ]);
    await fault({ kind: 'unknown' });
    await sendToCutter(person, coupon, send('1,2'));
    line = await done(person, coupon);
    expect([line.run!.trouble, ...states(line)]).toEqual([
      'The cutter complained: it does not know an instruction.',
      'unclear',
      'not cut',
    ]);
    const dead = await new Promise<Server>((ready) => {
      const server = createServer().listen(0, '127.0.0.1', () => ready(server));
    });
    const { port } = dead.address() as { port: number };
    await new Promise((closed) => dead.close(closed));
    const { devices } = await import('#work/cuts/deviceList.ts');
    const device = devices()[0]!;
    const real = device.port;
    device.port = port;
    try {
      const second = await atWork();
      await sendToCutter(second.person, second.coupon, send('1'));
      line = await done(second.person, second.coupon);
      expect([line.run!.trouble, ...states(line)]).toEqual([
        'The cutter cannot be reached. Is it on, and is its cable in?',
        'not cut',
      ]);
    } finally {
      device.port = real;
    }
  });

  test('only cutters on the administrator’s list, only one’s own coupon', async () => {
    const { person, coupon } = await atWork();
    expect(await problem(sendToCutter(person, coupon, form({ device: '10.0.0.1:9100', cells: '1', pass: '1' })))).toBe(
      'That cutter is not on this server’s list, or not for you.',
    );
    const stranger = (await becomeGuest()).person;
    await expect(sendToCutter(stranger, coupon, send('1'))).rejects.toThrow(NotFound);
    await expect(lineOf(stranger, coupon)).rejects.toThrow(NotFound);
  });

  test('after a crash what was under the blade is unclear, what had not left is not cut', async () => {
    const { person, coupon, view } = await atWork();
    const run = uuidv7();
    await rows(house.url, `insert into device_run (id, cut_id, person_id, device) values ($1, $2, $3, 'stand-in')`, [
      run,
      coupon,
      person.id,
    ]);
    for (const [i, state] of ['cut', 'sending', 'waiting'].entries())
      await rows(
        house.url,
        'insert into device_cell (run_id, cell_id, pass, number, state) values ($1, $2, 1, $3, $4)',
        [run, view.cells[i]!.id, i + 1, state],
      );
    expect(await settleAfterCrash()).toBe(1);
    const line = await lineOf(person, coupon);
    expect(states(line)).toEqual(['cut', 'unclear', 'not cut']);
    expect(line.run!.trouble).toBe('The server stopped while this was being cut.');
  });
});
