import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bladeWear, lifeLeft, matGrip, PLAIN_LIFE } from './index.ts';

describe('a blade', () => {
  test('wears by metres times what was cut; what nobody knows counts as plain', () => {
    const wear = bladeWear({ smooth: 10e6, glitter: 10e6, 'of old': 2e6 }, 3e6, PLAIN_LIFE);
    expect(wear.wornUm).toBe(10e6 + 25e6 + 2e6 + 3e6);
    expect(wear.state).toBe('fresh');
    expect(lifeLeft(wear, PLAIN_LIFE, ['smooth', 'glitter'])).toEqual([
      ['smooth', 20e6],
      ['glitter', 8e6],
    ]);
  });
  test.each([
    [50.9e6, 'fresh'],
    [51e6, 'soon'],
    [60e6, 'over'],
    [90e6, 'over'],
  ])('after %d µm: %s', (um, state) => expect(bladeWear({}, um, PLAIN_LIFE).state).toBe(state));
  test('past its life nothing is left, and never less', () =>
    expect(lifeLeft(bladeWear({}, 70e6, PLAIN_LIFE), PLAIN_LIFE, ['smooth'])).toEqual([['smooth', 0]]));
});

test('a mat loses grip with loads and with washes, and says what to do', () => {
  expect(matGrip(0, 0)).toEqual({ share: 1, advice: 'good' });
  expect(matGrip(30, 0).advice).toBe('wash');
  expect(matGrip(30, 7).advice).toBe('replace');
  fc.assert(
    fc.property(fc.nat(100), fc.nat(20), (loads, washes) => {
      const { share } = matGrip(loads, washes);
      expect(share).toBeGreaterThanOrEqual(0);
      expect(matGrip(loads + 1, washes).share).toBeLessThanOrEqual(share);
      expect(matGrip(loads, washes + 1).share).toBeLessThanOrEqual(share);
    }),
  );
});
