import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contrastOf, overBlank } from './overBlank.ts';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);

describe('a film over a blank', () => {
  test('contrast is that of WCAG 2.2: 21 for black on white, 4.54 for #767676 on white (Understanding SC 1.4.3)', () => {
    expect(contrastOf('#000000', '#ffffff')).toBeCloseTo(21, 6);
    expect(contrastOf('#767676', '#ffffff')).toBeCloseTo(4.54, 2);
  });
  test('what is opaque looks as it is; the clearer, the nearer to the blank', () => {
    fc.assert(
      fc.property(hex, hex, (film, blank) => {
        expect(overBlank(film, 'opaque', blank).hex).toBe(film);
        const away = (h: string) =>
          [1, 3, 5].reduce(
            (s, i) => s + Math.abs(parseInt(h.slice(i, i + 2), 16) - parseInt(blank.slice(i, i + 2), 16)),
            0,
          );
        const [some, little] = [overBlank(film, 'translucent', blank).hex, overBlank(film, 'clear', blank).hex];
        expect(away(little)).toBeLessThanOrEqual(away(some) + 3);
        expect(away(some)).toBeLessThanOrEqual(away(film) + 3);
      }),
    );
  });
  test('a pale clear film on white is hardly seen, on black it is; nothing on itself is', () => {
    expect(overBlank('#f4f0ff', 'clear', '#ffffff').hardly).toBe(true);
    expect(overBlank('#f4f0ff', 'clear', '#101010').hardly).toBe(false);
    fc.assert(fc.property(hex, (h) => overBlank(h, 'opaque', h).hardly));
  });
});
