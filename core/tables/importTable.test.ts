import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { hexOfName } from '../catalogue/index.ts';
import { shippedModel } from '../controls/index.ts';
import {
  guessSettingColumn,
  judgeTable,
  mendTable,
  readSetting,
  seeTable,
  settingColumns,
  type JudgeInput,
} from './index.ts';

const marlow = shippedModel('marlow-24', 2)!;
const dial = shippedModel('oxbow-dial', 1)!;
const cutter = {
  model: marlow,
  blades: [
    { id: 'b1', name: 'first', angle: 45 },
    { id: 'b2', name: 'deep', angle: 60 },
  ],
};
const bytes = (text: string) => new TextEncoder().encode(text);
const judge = (text: string, over: Partial<JudgeInput> = {}, newId?: () => string) =>
  judgeTable({ ...seeTable('a.csv', bytes(text), marlow), ownTypes: [], own: [], cutter, ...over }, newId);

describe('headings that name a control', () => {
  test('whatever a spreadsheet calls the strength, it is the strength of the cutter on the bench', () => {
    for (const h of ['Force', 'pressure', 'Strength (g)', 'GRAMS', 'Cut pressure'])
      expect(guessSettingColumn(marlow, h), h).toBe('set.force');
    expect(guessSettingColumn(dial, 'pressure')).toBe('set.dial');
    expect(guessSettingColumn(marlow, 'Number of passes')).toBe('set.passes');
    expect(guessSettingColumn(marlow, 'blade_depth')).toBe('set.depth');
    expect(guessSettingColumn(marlow, 'Blade')).toBe('on.blade');
    expect(guessSettingColumn(dial, 'speed')).toBeUndefined();
    expect(guessSettingColumn(marlow, 'price')).toBeUndefined();
  });
  test('a column of vinyls is not taken for a control, and none is given twice', () => {
    const { mapping } = seeTable(
      'a.csv',
      bytes('name,type,press pressure,pressure,force\na,smooth,light,90,91\n'),
      marlow,
    );
    expect(mapping).toEqual(['name', 'type', 'press_pressure', 'set.force', null]);
  });
  test('the columns of a cutter do not bear the words of others', () => {
    const words = settingColumns(shippedModel('whin-duo', 1) ?? marlow).map((c) => c.word);
    expect(new Set(words).size).toBe(words.length);
  });
});

describe('controls in a row', () => {
  test('what is left out stands where the model starts; without a strength there is no setting', () => {
    expect(readSetting(marlow, { 'set.force': '146 g' })).toMatchObject({
      setting: { steps: { force: 146, passes: 1 } },
    });
    expect(readSetting(marlow, { 'set.speed': '4' })).toBeUndefined();
    expect(readSetting(dial, { 'set.dial': '4½' })).toHaveProperty('setting');
  });
  test('each value outside its axis is said at its column', () => {
    const read = readSetting(marlow, { 'set.force': '900', 'set.speed': 'fast' })!;
    expect('problems' in read && read.problems.map((p) => p.column).toSorted()).toEqual(['set.force', 'set.speed']);
  });
  test('no text of any kind throws', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (force, speed) => {
        const read = readSetting(marlow, { 'set.force': force, 'set.speed': speed });
        expect(read === undefined || 'setting' in read || read.problems.length > 0).toBe(true);
      }),
    );
  });
});

describe('rows of one vinyl', () => {
  test('a second colour is a colour; the same row twice is the same vinyl; another number is for its colour', () => {
    let n = 0;
    const judged = judge(
      'name,type,colour,force,blade\nHeron,smooth,red,90,60°\nHeron,smooth,navy,95,\nheron ,smooth,red,90,\n',
      {},
      () => `id${n++}`,
    );
    expect(judged.counts).toEqual({ new: 1, more: 1, already: 0, refused: 1, numbers: 2, colours: 0 });
    expect(judged.refused[0]!.problems[0]!.why).toBe('is the same vinyl as line 2');
    const [vinyl] = JSON.parse(judged.vinyls!) as [{ id: string; colours: { id: string; name: string }[] }];
    expect(vinyl.colours.map((c) => c.name)).toEqual(['red', 'navy']);
    expect(judged.numbers).toMatchObject([
      { vinyl: vinyl.id, colour: null, blade: 'b2' },
      { vinyl: vinyl.id, colour: vinyl.colours[1]!.id, blade: 'b1' },
    ]);
    expect(JSON.parse(judged.left!).rows).toHaveLength(0);
  });
  test('what is here gets the colour it has not, and a number only where none is kept', () => {
    const own = [{ id: 'v', brand: '', name: 'Heron', kept: false, colours: [{ id: 'c', name: 'red' }] }];
    const text = 'name,type,colour,force\nHeron,smooth,navy,90\n';
    expect(judge(text, { own }).counts).toMatchObject({ more: 1, numbers: 1, colours: 1 });
    expect(judge(text, { own: [{ ...own[0]!, kept: true }] }).counts).toMatchObject({ numbers: 0, colours: 1 });
    expect(judge('name,type,colour\nHeron,smooth,RED\n', { own }).counts).toMatchObject({ already: 1, more: 0 });
  });
  test('a mended row is judged as it stands then; a line that is not there is left alone', () => {
    const text = 'name,type,force\nHeron,smooth,900\n';
    const seen = seeTable('a.csv', bytes(text), marlow);
    const content = mendTable(
      seen.content,
      new Map([
        [2, ['Heron', 'smooth', '90']],
        [77, ['x']],
      ]),
    );
    expect(judgeTable({ ...seen, content, ownTypes: [], own: [], cutter }).counts).toMatchObject({
      new: 1,
      refused: 0,
    });
  });
});

test('a colour looks as its name says: CSS names, a few of the trade, lighter and darker; else grey', () => {
  // CSS Color Module Level 4, 6.1: navy is #000080, red #ff0000, teal #008080.
  expect(hexOfName('Navy')).toBe('#000080');
  expect(hexOfName('Ember Red')).toBe('#ff0000');
  expect(hexOfName('hot pink')).toBe('#ff69b4');
  expect(hexOfName('Dark Grey matte')).toBe('#a9a9a9');
  expect(hexOfName('xyzzy')).toBe('#b9b2a3');
  const sum = (hex: string) => [1, 3, 5].reduce((s, i) => s + parseInt(hex.slice(i, i + 2), 16), 0);
  expect(sum(hexOfName('pale teal'))).toBeGreaterThan(sum(hexOfName('teal')));
  expect(sum(hexOfName('deep teal'))).toBeLessThan(sum(hexOfName('teal')));
});
