import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  celsiusToMilliCelsius,
  fahrenheitToMilliCelsius,
  inchesToMicrometres,
  micrometresToInches,
  milliCelsiusToCelsius,
  milliCelsiusToFahrenheit,
  mmToMicrometres,
  numberStyles,
  sayInches,
  micrometresToMm,
  parseDecimal,
} from './index.ts';

describe('lengths', () => {
  // NIST SP 811 (2008), B.8: inch to millimetre, factor 2.54 E+01 exactly; mil to millimetre 2.54 E−02 exactly.
  test('inch and mil', () => {
    expect(inchesToMicrometres(1)).toBe(25_400);
    expect(inchesToMicrometres(0.001)).toBe(25);
    expect(micrometresToInches(25_400)).toBe(1);
  });
  test('millimetres come back', () => {
    fc.assert(fc.property(fc.integer({ min: -1e9, max: 1e9 }), (um) => mmToMicrometres(micrometresToMm(um)) === um));
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (um) => inchesToMicrometres(micrometresToInches(um)) === um),
    );
  });
});

describe('temperatures', () => {
  // NIST SP 811 (2008), B.8: t/°C = (t/°F − 32)/1.8.
  test('fixed points', () => {
    expect(fahrenheitToMilliCelsius(32)).toBe(0);
    expect(fahrenheitToMilliCelsius(212)).toBe(100_000);
    expect(milliCelsiusToFahrenheit(-40_000)).toBe(-40);
    expect(milliCelsiusToCelsius(celsiusToMilliCelsius(155))).toBe(155);
  });
  // Common practice, no source: the pairs printed on presses and leaflets, as people round them.
  test('the pairs of the trade', () => {
    expect(Math.round(fahrenheitToMilliCelsius(300) / 1000)).toBe(149);
    expect(Math.abs(fahrenheitToMilliCelsius(310) / 1000 - 155)).toBeLessThan(1);
    expect(Math.abs(fahrenheitToMilliCelsius(330) / 1000 - 165)).toBeLessThan(1);
    expect(Math.round(fahrenheitToMilliCelsius(320) / 1000)).toBe(160);
  });
});

describe('numbers as people write them', () => {
  test.each([
    ['4.5', 4.5],
    ['4,5', 4.5],
    [' 4½ ', 4.5],
    ['½', 0.5],
    ['4 1/2', 4.5],
    ['3/4', 0.75],
    ['−3', -3],
    ['+2', 2],
    ['.5', 0.5],
    ['0,250', 0.25],
    ['1500', 1500],
  ])('%s', (text, value) => expect(parseDecimal(text)).toBe(value));
  // Common practice, no source: a rule in inches has sixteenths.
  test.each([
    [11.5, 'fractions', '11½'],
    [0.0625, 'fractions', '1/16'],
    [7.3125, 'fractions', '7 5/16'],
    [4, 'fractions', '4'],
    [0, 'fractions', '0'],
    [2.98, 'fractions', '3'],
    [11.5, 'comma', '11,5'],
    [11.5, 'point', '11.5'],
    [4, 'comma', '4'],
  ] as const)('%d in style %s', (inches, style, text) => expect(sayInches(inches, 2, style)).toBe(text));
  test('what is said can be typed, to half a sixteenth; rounded up it is never too small', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3_000_000 }), fc.constantFrom(...numberStyles), (um, style) => {
        const inches = micrometresToInches(um);
        expect(Math.abs(parseDecimal(sayInches(inches, 2, style))! - inches)).toBeLessThanOrEqual(1 / 32 + 0.001);
        expect(parseDecimal(sayInches(inches, 2, 'fractions', Math.ceil))!).toBeGreaterThan(inches - 0.001);
      }),
    );
  });
  test.each(['', 'abc', '1,500', '1.2.3', '1e5', '--2', '4½½', 'NaN', 'Infinity', '1/0', '12 mm'])(
    '%s is refused',
    (text) => expect(parseDecimal(text)).toBeUndefined(),
  );
  test('any decimal comes back', () => {
    fc.assert(
      fc.property(fc.integer({ min: -99_999, max: 99_999 }), (n) => {
        const text = (n / 100).toFixed(2);
        expect(parseDecimal(text)).toBe(Number(text));
        expect(parseDecimal(text.replace('.', ','))).toBe(Number(text));
      }),
    );
  });
});
