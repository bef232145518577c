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
  parsePosition,
  passesOf,
  positionsOf,
  SettingError,
  shippedModel,
  shippedModels,
  startingSetting,
  startOf,
  strengthAxis,
  validateSetting,
  type Axis,
} from './index.ts';

const marlow = shippedModel('marlow-24', 1)!;
const oxbow = shippedModel('oxbow-dial', 1)!;
const axes = shippedModels.flatMap((m) => m.axes);

/** Axes nobody has drawn yet: any range, any step, signed too; dials with numbers or names, with halves or without. */
const anyAxis: fc.Arbitrary<Axis> = fc.oneof(
  fc
    .record({
      min: fc.integer({ min: -300, max: 300 }),
      span: fc.integer({ min: 1, max: 500 }),
      step: fc.constantFrom(1, 2, 5, 0.5, 0.1, 10),
    })
    .map(({ min, span, step }): Axis => ({
      kind: 'number',
      key: 'n',
      word: 'pressure',
      role: 'strength',
      min,
      max: min + span,
      step,
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
    [marlow, '134.5', 'force 134.5 is outside this cutter: 10 to 400'],
    [marlow, 'strong', 'force "strong" is outside this cutter: 10 to 400'],
    [oxbow, '9½', 'dial 9½ is outside this cutter: 1 to 9 in half stops'],
    [oxbow, '4.25', 'dial 4.25 is outside this cutter: 1 to 9 in half stops'],
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

test('a model that cannot be is refused with the reason', () => {
  const bad = (change: object) => cutterModelSchema.safeParse({ ...marlow, ...change }).error?.issues[0]?.message;
  expect(bad({ axes: [] })).toBeDefined();
  expect(bad({ axes: marlow.axes.filter((a) => a.role !== 'strength') })).toBe('a model has exactly one strength axis');
  expect(bad({ axes: [...marlow.axes, { ...marlow.axes[1], role: 'depth' }] })).toBe('two axes bear the same key');
  expect(bad({ axes: [{ ...marlow.axes[0], min: 500 }] })).toBe('min must lie below max');
  expect(bad({ axes: [{ ...marlow.axes[0], min: 0 }] })).toBe('a log axis needs positive numbers');
});
