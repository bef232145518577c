import { describe, expect, test } from 'vitest';
import { milliCelsiusToFahrenheit } from '../units/index.ts';
import { behaviourOf, behaviourTable, saySeconds, vinylTypeKeys, vinylTypes } from './index.ts';

describe('every type', () => {
  test.each([...vinylTypeKeys])('%s: side, cut and press fit together', (key) => {
    const b = behaviourOf(key);
    // What is cut from the back lies with its face or its carrier down, and the other way about.
    expect(vinylTypes[key].cutFrom === 'back').toBe(b.side !== 'backing down');
    expect(b.warnings.length).toBeGreaterThan(0);
    expect(b.because).not.toBe('');
    for (const way of b.press) {
      expect(way.seconds[0]).toBeLessThanOrEqual(way.seconds[1]);
      // Nothing that is ironed on is pressed colder than 250 °F or hotter than 400 °F.
      if (way.heat !== undefined) {
        const fahrenheit = milliCelsiusToFahrenheit(way.heat);
        expect(fahrenheit).toBeGreaterThan(250);
        expect(fahrenheit).toBeLessThan(400);
      }
    }
    // Adhesive film is never pressed; all else is, or serves as a ground for what is.
    expect(b.press.length > 0).toBe(b.carry !== 'tape');
  });
  // Check values of the trade. Source: common practice, no source.
  test.each([
    ['holographic', 320, [15, 20], 'cold'],
    ['low-heat', 265, [5, 5], 'lukewarm'],
    ['smooth-glitter', 300, [10, 10], 'warm'],
    ['printable', 374, [12, 12], 'cool'],
    ['metallic-puff', 300, [10, 10], 'cold'],
  ] as const)('%s is pressed as crafters press it', (key, fahrenheit, seconds, peel) => {
    const [way] = behaviourOf(key).press;
    expect(milliCelsiusToFahrenheit(way!.heat!)).toBeCloseTo(fahrenheit, 2);
    expect([way!.seconds, way!.peel]).toEqual([seconds, peel]);
  });
  test('two ways stand side by side where crafters disagree', () => {
    for (const key of ['smooth', 'metallic-puff', 'holographic', 'printable'] as const)
      expect(behaviourOf(key).press.length).toBeGreaterThan(1);
  });
});

test('seconds are said as people say them; both tables have a row a type', () => {
  expect([saySeconds([10, 10]), saySeconds([15, 20])]).toEqual(['10 s', '15 to 20 s']);
  for (const key of vinylTypeKeys)
    expect(behaviourTable(String).match(new RegExp(`^\\| ${key} \\|`, 'gm'))).toHaveLength(2);
});
