import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fitScale, limitsOf, ScaleError, shippedModels, strengthAxis } from './index.ts';

const axisOf = (key: string) => strengthAxis(shippedModels.findLast((m) => m.key === key)!);
const marlow = axisOf('marlow-24');
const fit = (readings: [number, number][], axis = marlow) =>
  fitScale({
    format: 'versipel-scale/1',
    axis,
    readings: readings.map(([position, grams]) => ({ position, grams })),
  });

describe('grams along an axis', () => {
  test('goes through readings that rise, and says which part was weighed', () => {
    const { readings, curve, spread } = fit([
      [40, 38],
      [130, 126],
      [320, 309],
    ]);
    expect(readings.map((r) => r.wild)).toEqual([false, false, false]);
    expect(spread).toBeLessThan(1e-9);
    expect(curve.every((c, i) => i === 0 || c.grams >= curve[i - 1]!.grams)).toBe(true);
    expect(curve.filter((c) => c.weighed).map((c) => c.position)).toEqual(expect.arrayContaining([40, 130, 320]));
    expect(curve[0]).toMatchObject({ position: limitsOf(marlow).min, weighed: false });
  });
  test('marks the one that was misread, leaves it out and draws on', () => {
    const { readings } = fit([
      [40, 38],
      [80, 81],
      [130, 126],
      [180, 118],
      [240, 236],
      [320, 309],
    ]);
    expect(readings.filter((r) => r.wild).map((r) => r.position)).toEqual([180]);
    expect(readings.find((r) => r.wild)!.residual).toBeLessThan(-0.2);
  });
  test('two that change places a little are made level, not wild', () => {
    const { readings } = fit([
      [40, 40],
      [100, 101],
      [104, 99],
      [200, 205],
    ]);
    expect(readings.every((r) => !r.wild)).toBe(true);
    expect(readings[1]!.fitted).toBeCloseTo(readings[2]!.fitted, 6);
  });
  test('falling readings, places off the axis: refused with why', () => {
    expect(() =>
      fit([
        [40, 300],
        [130, 120],
        [320, 30],
      ]),
    ).toThrow(ScaleError);
    expect(() =>
      fit([
        [5, 10],
        [130, 120],
        [320, 300],
      ]),
    ).toThrow('position 5 is not on the axis');
  });
  test('on any kind of axis the curve never falls, whatever was weighed', () => {
    for (const key of ['marlow-24', 'oxbow-dial', 'pellam-leaf', 'whin-duo']) {
      const axis = axisOf(key);
      const { min, max } = limitsOf(axis);
      fc.assert(
        fc.property(
          fc.uniqueArray(fc.integer({ min, max }), { minLength: 3, maxLength: 8 }),
          fc.array(fc.integer({ min: 20, max: 400 }), { minLength: 8, maxLength: 8 }),
          (places, grams) => {
            try {
              const { curve } = fit(
                places.map((p, i) => [p, grams[i]!]),
                axis,
              );
              curve.forEach(
                (c, i) => i > 0 && expect(c.grams).toBeGreaterThanOrEqual(curve[i - 1]!.grams * (1 - 1e-4)),
              );
            } catch (error) {
              expect(error).toBeInstanceOf(ScaleError);
            }
          },
        ),
        { numRuns: 60 },
      );
    }
  });
});
