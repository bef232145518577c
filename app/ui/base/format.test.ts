import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fahrenheitToMilliCelsius, heatInBoth } from '#core/units/index.ts';
import {
  bothLengths,
  bothSizes,
  clockOf,
  day,
  heatOf,
  isolate,
  metres,
  percent,
  sayFine,
  sayLength,
} from './format.ts';

describe('what pages write', () => {
  it('a clock: seconds to a hundred, then minutes, then hours; never shorter than what is left', () => {
    expect([0, 7.2, 99, 100, 600, 3_599, 3_600, 86_400].map(clockOf)).toEqual([
      '0',
      '8',
      '99',
      '1:40',
      '10:00',
      '59:59',
      '1:00:00',
      '24:00:00',
    ]);
    expect(clockOf(-3)).toBe('0');
    fc.assert(
      fc.property(fc.double({ min: 0, max: 90_000, noNaN: true }), (s) => {
        const back = clockOf(s)
          .split(':')
          .reduce((sum, part) => sum * 60 + Number(part), 0);
        expect(back).toBeGreaterThanOrEqual(s);
        expect(back - s).toBeLessThan(1 + 1e-9);
      }),
    );
  });

  it('a heat in both scales, one’s own first; every whole degree Fahrenheit is shown as itself', () => {
    expect(heatInBoth(160_000, 'F')).toEqual(['320 °F', '160 °C']);
    for (let f = 212; f <= 430; f++) expect(heatInBoth(fahrenheitToMilliCelsius(f), 'F')[0]).toBe(`${f} °F`);
    expect(heatOf({}, 'C')).toBeUndefined();
    expect(heatOf({ heat: 154_444, upTo: 165_556 }, 'F')![0]).toBe('310 to 330 °F');
  });

  it('a size is rounded up: a piece so large is enough, in either unit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1_000, max: 2_000_000 }), (um) => {
        const [mm, inches] = bothSizes(um, um, 'mm');
        expect(Number(mm.split(' ')[0]) * 1_000).toBeGreaterThanOrEqual(um);
        expect(Number(inches.split(' ')[0]) * 25_400).toBeGreaterThanOrEqual(um - 1);
      }),
    );
    expect(bothLengths(25_400, 'in')[0]).toMatch(/^1(\.0+)? in$/);
    expect([metres(2_500_000), metres(18_200_000), metres(0)]).toEqual(['2.5', '18', '0']);
  });

  it('a chance is never said to be none or all; a day is that of the person’s own zone', () => {
    expect([0, 0.002, 0.006, 0.5, 0.999, 1].map(percent)).toEqual(['0 %', '0 %', '1 %', '50 %', '99 %', '99 %']);
    expect(day('2026-06-01T23:30:00Z', 'UTC')).toBe('1 June 2026');
    expect(day('2026-06-01T23:30:00Z', 'Asia/Tokyo')).toBe('2 June 2026');
  });

  it('what others wrote cannot turn the line round it: directions end with it (UAX 9)', () => {
    expect(isolate('Big plate')).toBe('Big plate');
    expect(isolate('\u202eetalp')).toBe('\u2068\u202eetalp\u2069');
    // It cannot end the isolate by itself.
    expect(isolate('a\u2069\u202eb')).toBe('\u2068a\u202eb\u2069');
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', 'א', '\u202e', '\u2066', '\u2069', ' ') }), (s) => {
        const said = isolate(s);
        const opens = [...said].filter((c) => c === '\u2068' || c === '\u2066' || c === '\u2067').length;
        const ends = [...said].filter((c) => c === '\u2069').length;
        expect(opens).toBe(ends);
      }),
    );
  });
  it('a narrow place never reads as nothing, and what is no figure as none', () => {
    expect(sayFine(2_100, 'mm', 'point')).toBe('2.1\u00a0mm');
    expect(sayFine(350, 'mm', 'point')).toBe('0.35\u00a0mm');
    expect(sayFine(3, 'mm', 'point')).toBe('under 0.01\u00a0mm');
    expect(sayFine(0, 'mm', 'point')).toBe('0\u00a0mm');
    expect(sayFine(2_100, 'in', 'point')).toBe('0.083\u00a0in');
    for (const none of [NaN, Infinity, -Infinity]) {
      expect(sayFine(none, 'mm', 'point')).toBe('–');
      expect(sayLength(none, 'in', 'fractions')).toBe('–');
      expect(bothLengths(none, 'mm')).toEqual(['–', '–']);
      expect([metres(none), percent(none)]).toEqual(['–', '–']);
    }
  });
});
