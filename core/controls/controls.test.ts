import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  atStrength,
  AxisError,
  cutterModelSchema,
  describeLimits,
  formatPosition,
  formatSetting,
  limitsOf,
  settingSchema,
  parsePosition,
  passesOf,
  positionsOf,
  SettingError,
  shippedModel,
  shippedModels,
  startingSetting,
  startOf,
  strengthAxis,
  carrySetting,
  controls,
  parseSetting,
  sayStrength,
  shortPosition,
  validateSetting,
  type Axis,
  type CutterModel,
} from './index.ts';

const marlow = shippedModel('marlow-24', 1)!;
const oxbow = shippedModel('oxbow-dial', 1)!;
const axes = shippedModels.flatMap((m) => m.axes);

/** Axes nobody has drawn yet: any range, any step, signed too; dials with numbers or names, halves or none; lists with modifiers or none. */
const anyAxis: fc.Arbitrary<Axis> = fc.oneof(
  fc
    .record({
      min: fc.integer({ min: -300, max: 300 }),
      span: fc.integer({ min: 1, max: 500 }),
      step: fc.constantFrom(1, 2, 5, 0.5, 0.1, 10),
      signed: fc.boolean(),
    })
    .map(({ min, span, step, signed }): Axis => ({
      kind: 'number',
      key: 'n',
      word: 'pressure',
      role: 'strength',
      min,
      max: min + span,
      step,
      signed,
      scale: 'linear',
    })),
  fc
    .record({ count: fc.integer({ min: 2, max: 15 }), halves: fc.boolean(), named: fc.boolean() })
    .map(({ count, halves, named }): Axis => ({
      kind: 'dial',
      key: 'd',
      word: 'dial',
      role: 'strength',
      stops: Array.from({ length: count }, (_, i) => (named ? `stop-${String.fromCharCode(97 + i)}` : String(i + 1))),
      halves,
    })),
  fc
    .record({
      names: fc.uniqueArray(fc.stringMatching(/^[a-zäé]([a-zäé ½-]{0,18}[a-z])?$/), { minLength: 2, maxLength: 20 }),
      modifiers: fc.option(
        fc.uniqueArray(fc.constantFrom('least', 'less', 'normal', 'more', 'most'), { minLength: 2 }),
      ),
    })
    .map(({ names, modifiers }): Axis => ({
      kind: 'list',
      key: 'l',
      word: 'material',
      role: 'strength',
      entries: names.map((name, i) => ({ name, load: i / 10 })),
      ...(modifiers ? { modifier: { word: 'pressure', names: modifiers, normal: modifiers.length >> 1 } } : {}),
    })),
);

/** A whole model out of any strength axis and any others. */
const anyModel: fc.Arbitrary<CutterModel> = fc
  .tuple(anyAxis, fc.array(anyAxis, { maxLength: 3 }))
  .map(([strength, rest]) =>
    cutterModelSchema.parse({
      key: 'any',
      version: 3,
      name: 'Any',
      axes: [
        ...rest.map((a, i) => ({ ...a, key: `x${i}`, role: (['speed', 'depth', 'passes'] as const)[i]! })),
        { ...strength, key: 's' },
      ],
    }),
  );

describe('an axis', () => {
  test('parse(format(x)) = x', () => {
    fc.assert(
      fc.property(anyAxis, fc.nat(), (axis, n) => {
        const all = positionsOf(axis);
        const position = all[n % all.length]!;
        expect(parsePosition(axis, formatPosition(axis, position))).toBe(position);
      }),
      { numRuns: 400 },
    );
  });
  test('every position of the shipped models too', () => {
    for (const axis of axes)
      for (const p of positionsOf(axis)) expect(parsePosition(axis, formatPosition(axis, p))).toBe(p);
  });
  test('reads what people type', () => {
    const dial = strengthAxis(oxbow);
    expect(parsePosition(dial, '4½')).toBe(7);
    expect(parsePosition(dial, '4,5')).toBe(7);
    expect(parsePosition(dial, '4 1/2')).toBe(7);
    expect(formatPosition(dial, 7)).toBe('4½');
    expect(parsePosition(strengthAxis(marlow), ' 134 ')).toBe(134);
  });
  test.each([
    [marlow, '500', 'force 500 is outside this cutter: 10 to 400'],
    [marlow, '9', 'force 9 is outside this cutter: 10 to 400'],
    [marlow, '134.5', 'force goes in whole numbers: 134 or 135'],
    [marlow, 'strong', 'force "strong" is outside this cutter: 10 to 400'],
    [oxbow, '9½', 'dial 9½ is outside this cutter: 1 to 9 in half stops'],
    [oxbow, '4.25', 'the dial has half stops: 4 or 4½'],
  ])('a value outside names axis and limits', (model, typed, message) => {
    expect(() => parsePosition(strengthAxis(model), typed)).toThrow(AxisError);
    expect(() => parsePosition(strengthAxis(model), typed)).toThrow(message);
  });
  test('ten thousand characters do not come back in the message', () => {
    expect(() => parsePosition(strengthAxis(marlow), 'x'.repeat(10_000))).toThrow(/^.{1,120}$/);
  });
  test('limits and start', () => {
    expect(limitsOf(strengthAxis(oxbow))).toEqual({ min: 0, max: 16 });
    expect(describeLimits(strengthAxis(marlow))).toBe('10 to 400');
    const plain = { ...strengthAxis(marlow), start: undefined } as Axis;
    expect(startOf(plain)).toBe(63);
  });
});

describe('a setting', () => {
  const start = startingSetting(marlow);
  test('starts at plain vinyl in one pass', () => {
    expect(start).toEqual({ model: 'marlow-24', version: 1, steps: { force: 100, speed: 4, passes: 1 } });
    expect(passesOf(marlow, start)).toBe(1);
    expect(validateSetting(marlow, atStrength(marlow, start, 400)).steps.force).toBe(400);
  });
  test('is told in the cutter’s own words, strength first', () => {
    expect(formatSetting(marlow, start).map((p) => [p.word, p.value, p.note])).toEqual([
      ['force', '100', undefined],
      ['speed', '4', 'slow'],
      ['passes', '1', undefined],
    ]);
  });
  test('must belong to its model and version', () => {
    expect(() => validateSetting(oxbow, start)).toThrow(SettingError);
    expect(() => validateSetting(marlow, { ...start, version: 2 })).toThrow('version 2');
    expect(() => validateSetting(marlow, { ...start, steps: { force: 100 } })).toThrow('speed is missing');
    expect(() => validateSetting(marlow, { ...start, steps: { ...start.steps, depth: 3 } })).toThrow(
      'no control called "depth"',
    );
    expect(() => validateSetting(marlow, atStrength(marlow, start, 401))).toThrow(
      'force 401 is outside this cutter: 10 to 400',
    );
    expect(() => validateSetting(marlow, atStrength(marlow, start, 100.5))).toThrow(AxisError);
  });
});

describe('whole settings', () => {
  test('of any model: what is said leads back to the same steps', () => {
    fc.assert(
      fc.property(anyModel, fc.array(fc.nat(), { minLength: 4, maxLength: 4 }), (model, picks) => {
        const steps = Object.fromEntries(
          model.axes.map((a, i) => {
            const all = positionsOf(a);
            return [a.key, all[picks[i]! % all.length]!];
          }),
        );
        const setting = { model: model.key, version: model.version, steps };
        const typed = Object.fromEntries(formatSetting(model, setting).map((p) => [p.key, p.value]));
        expect(parseSetting(model, typed)).toEqual(setting);
        expect(controls({ format: 'versipel-controls/1', model, typed }).setting).toEqual(setting);
        expect(controls({ format: 'versipel-controls/1', model, steps }).setting).toEqual(setting);
      }),
      { numRuns: 200 },
    );
  });
  test('every way of stating strength speaks its own words', () => {
    const said = (key: string, typed: Record<string, string>) =>
      controls({ format: 'versipel-controls/1', model: { key }, typed }).said;
    expect(said('marlow-24', { force: '120' })).toBe('force 120, blade depth 3, speed 4, passes 1');
    expect(said('oxbow-dial', { dial: '4½' })).toBe('dial 4½, passes 1');
    expect(said('pellam-leaf', { material: 'Glitter Film, more pressure', passes: '2' })).toBe(
      'material glitter film, more pressure, passes 2',
    );
    expect(said('pellam-leaf', { material: 'glitter film, normal pressure' })).toBe('material glitter film, passes 1');
    expect(said('sorrel-custom', { custom: '48' })).toBe('custom number 48, passes 1');
    expect(said('whin-duo', { pressure: '-3', blade: '2', speed: '1' })).toBe('pressure −3, blade 2, speed 1');
    expect(said('whin-duo', { pressure: '+3' })).toBe('pressure +3, blade 3, speed 3');
    expect(said('whin-duo', { pressure: '3' })).toContain('pressure +3');
  });
  test('short forms fit a cell', () => {
    const list = strengthAxis(shippedModel('pellam-leaf', 1)!);
    expect(shortPosition(list, parsePosition(list, 'glitter film, more pressure'))).toBe('glitter film +');
    expect(shortPosition(list, parsePosition(list, 'glitter film, less pressure'))).toBe('glitter film −');
    expect(sayStrength(list, startOf(list))).toBe('plain film');
    expect(sayStrength(strengthAxis(marlow), 120)).toBe('force 120');
  });
  test.each([
    [
      { key: 'pellam-leaf' },
      { material: 'velvet' },
      'material "velvet" is outside this cutter: window cling, thin film',
    ],
    [{ key: 'whin-duo' }, { pressure: '9' }, 'pressure 9 is outside this cutter: −8 to +8'],
    [{ key: 'whin-duo' }, { force: '9' }, 'Whin Duo has no control called "force"'],
    [{ key: 'marlow-24', version: 7 }, {}, 'no shipped model is called "marlow-24" in version 7'],
  ])('a wrong one names axis and limits', (model, typed, message) => {
    expect(() => controls({ format: 'versipel-controls/1', model, typed: typed as Record<string, string> })).toThrow(
      message,
    );
  });
  test('a newer version of a model takes over what the controls show', () => {
    const newer = shippedModel('marlow-24', 2)!;
    const carried = carrySetting(marlow, newer, {
      ...startingSetting(marlow),
      steps: { force: 134, speed: 6, passes: 2 },
    });
    expect(carried).toEqual({ model: 'marlow-24', version: 2, steps: { depth: 3, speed: 6, force: 134, passes: 2 } });
    // Steps of another size: the shown number stays, not the position.
    const halves = cutterModelSchema.parse({
      ...marlow,
      version: 9,
      axes: marlow.axes.map((a) => (a.key === 'force' ? { ...a, min: 4, max: 80, step: 5, start: 20 } : a)),
    });
    expect(carrySetting(marlow, halves, atStrength(marlow, startingSetting(marlow), 120))!.steps.force).toBe(24);
    expect(carrySetting(marlow, halves, atStrength(marlow, startingSetting(marlow), 134))).toBeUndefined();
    expect(carrySetting(marlow, oxbow, startingSetting(marlow))).toBeUndefined();
  });
});

test('a model that cannot be is refused with the reason', () => {
  const bad = (change: object) => cutterModelSchema.safeParse({ ...marlow, ...change }).error?.issues[0]?.message;
  expect(bad({ axes: [] })).toBeDefined();
  expect(bad({ axes: marlow.axes.filter((a) => a.role !== 'strength') })).toBe('a model has exactly one strength axis');
  expect(bad({ axes: [...marlow.axes, { ...marlow.axes[1], role: 'depth' }] })).toBe('two axes bear the same key');
  expect(bad({ axes: [{ ...marlow.axes[0], min: 500 }] })).toBe('min must lie below max');
  expect(bad({ axes: [{ ...marlow.axes[0], min: 0 }] })).toBe('a log axis needs positive numbers');
  const list = (entries: { name: string; load: number }[], modifier?: object) =>
    bad({ axes: [{ kind: 'list', key: 'l', word: 'material', role: 'strength', entries, modifier }] });
  expect(
    list([
      { name: 'a', load: 0 },
      { name: 'A', load: 1 },
    ]),
  ).toBe('two positions are both called "a"');
  expect(
    list([
      { name: 'a', load: 1 },
      { name: 'b', load: 0 },
    ]),
  ).toBe('the list runs from the lightest entry to the heaviest');
  expect(
    list(
      [
        { name: 'a', load: 0 },
        { name: 'a, more pressure', load: 1 },
      ],
      { word: 'pressure', names: ['normal', 'more'], normal: 0 },
    ),
  ).toBe('two positions are both called "a, more pressure"');
  expect(bad({ hpgl: { force: 'grip' } })).toBe('hpgl names a number axis of the model that is never below zero');
});

describe('an axis has at most two thousand places', () => {
  const model = (max: number, more: object = {}) => ({
    key: 'mine',
    version: 1,
    name: 'Mine',
    axes: [{ kind: 'number', key: 'force', word: 'force', role: 'strength', min: 1, max, ...more }],
  });
  test.each([
    [2_000, true],
    [2_001, false],
    [900_000_000, false],
    [Number.MAX_SAFE_INTEGER, false],
  ])('%i: %s', (max, taken) => expect(cutterModelSchema.safeParse(model(max)).success).toBe(taken));
  test('steps, words and settings are bounded as well', () => {
    expect(cutterModelSchema.safeParse(model(100, { step: 1e-300 })).success).toBe(false);
    const words = Object.fromEntries(Array.from({ length: 101 }, (_, i) => [String(i), 'x']));
    expect(cutterModelSchema.safeParse(model(400, { words })).success).toBe(false);
    const steps = Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`a${i}`, 1]));
    expect(settingSchema.safeParse({ model: 'm', version: 1, steps }).success).toBe(false);
    expect(settingSchema.safeParse({ model: 'm', version: 1, steps: { a: 1e12 } }).success).toBe(false);
  });
  test('a kind that nobody knows is an error, never a dial', () => {
    expect(() => limitsOf({ kind: 'wheel', stops: ['a', 'b'] } as never)).toThrow('unknown kind: wheel');
  });
});
