import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contrastOf, overBlank, seenRange } from './overBlank.ts';

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

describe('a film whose look is a range', () => {
  test('opaque is one colour; what shows through goes from nearly the blank to nearly itself', () => {
    expect(seenRange('#c02020', 'opaque', false, '#000000')).toMatchObject({ hexes: ['#c02020'], hardly: 'never' });
    const range = seenRange('#ffffff', 'clear', false, '#000000');
    expect(range.hexes).toHaveLength(3);
    expect(range.contrast.low).toBeLessThan(overBlank('#ffffff', 'clear', '#000000').contrast);
    expect(range.contrast.high).toBeGreaterThan(overBlank('#ffffff', 'clear', '#000000').contrast);
  });
  test('a film that shifts shows other hues, never leaves what a screen shows, and its range holds the middle (200 colours)', () => {
    fc.assert(
      fc.property(hex, hex, (film, blank) => {
        const range = seenRange(film, 'translucent', true, blank);
        for (const h of range.hexes) expect(h).toMatch(/^#[0-9a-f]{6}$/);
        const { contrast } = overBlank(film, 'translucent', blank);
        expect(contrast).toBeGreaterThanOrEqual(range.contrast.low - 0.02);
        expect(contrast).toBeLessThanOrEqual(range.contrast.high + 0.02);
      }),
      { numRuns: 200 },
    );
    expect(new Set(seenRange('#30a0e0', 'opaque', true, '#ffffff').hexes).size).toBe(5);
  });
  test('a pale one on white is hardly seen here and there', () => {
    expect(seenRange('#e8d8ff', 'clear', true, '#ffffff').hardly).toBe('everywhere');
    expect(seenRange('#9070d0', 'clear', true, '#ffffff').hardly).toBe('here and there');
    expect(seenRange('#301060', 'translucent', true, '#ffffff').hardly).toBe('never');
  });
});
