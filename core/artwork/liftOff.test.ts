import { describe, expect, test } from 'vitest';
import { checkLayer } from './check.ts';
import { liftOff } from './liftOff.ts';
import { readArtwork } from './readArtwork.ts';

const film = { line: 1000, gap: 500, growth: 0 };
const lift = (body: string, widthUm: number, more: Parameters<typeof liftOff>[5] = {}) => {
  const drawing = readArtwork(`<svg viewBox="0 0 200 200">${body}</svg>`);
  const layer = drawing.layers[0]!;
  return liftOff(drawing, layer, film, widthUm, checkLayer(drawing, layer, film, widthUm).weed, more);
};
/** A plate with so many holes in rows, stout bars between them. */
const lace = (n: number, size = 200) =>
  `<path fill="#333" fill-rule="evenodd" d="M0 0h${size}v${size}h-${size}z${Array.from({ length: n * n }, (_, i) => {
    const cell = size / n;
    return `M${(i % n) * cell + 0.3 * cell} ${Math.floor(i / n) * cell + 0.3 * cell}h${0.4 * cell}v${0.4 * cell}h-${0.4 * cell}z`;
  }).join('')}"/>`;

describe('weed it, or cut it through and lift it whole', () => {
  test('one piece with hundreds of holes is lifted, one with nine is weeded: it flips in between', () => {
    const [few, many] = [lift(lace(3), 200_000), lift(lace(20), 200_000)];
    expect([few.do, few.because]).toEqual(['weed', 'one piece']);
    expect([many.do, many.because]).toEqual(['lift', 'one piece']);
    expect(many.minutes.lift!).toBeLessThan(many.minutes.weed / 2);
    expect(few.minutes.lift!).toBeGreaterThan(few.minutes.weed);
  });
  test('joints below the least line tear: the same design smaller is weeded', () => {
    // Bars of 0.6 of a cell: 6 mm at 200 mm, 0.9 at 30.
    const [large, small] = [lift(lace(20), 200_000), lift(lace(20), 30_000)];
    expect(large.tears).toBeLessThan(0.1);
    expect(small.tears).toBeGreaterThan(0.5);
    expect(lift(lace(20), 200_000, { tack: 'low' }).tears).toBeGreaterThan(large.tears);
  });
  test('a few large pieces are placed by hand where the blank bears few presses, and only there; specks never', () => {
    const three = '<path fill="#333" d="M0 0h50v50h-50zM70 0h50v50h-50zM140 0h50v50h-50z"/>';
    expect(lift(three, 190_000).do).toBe('weed');
    expect(lift(three, 190_000, { fewPresses: true })).toMatchObject({ do: 'lift', because: 'few large pieces' });
    const specks = '<path fill="#333" d="M0 0h50v50h-50zM70 0h2v2h-2zM140 0h50v50h-50z"/>';
    expect(lift(specks, 190_000, { fewPresses: true })).toMatchObject({ do: 'weed', minutes: { lift: undefined } });
  });
  test('it is lifted from the side where most film lies', () => {
    // A comb, its back at the bottom; turned, at the left.
    const comb = 'M0 180h200v20h-200zM0 0h6v181h-6zM60 0h6v181h-6zM120 0h6v181h-6zM194 0h6v181h-6z';
    expect(lift(`<path fill="#333" d="${comb}"/>`, 200_000).from).toBe('bottom');
    expect(lift(`<path fill="#333" transform="rotate(90 100 100)" d="${comb}"/>`, 200_000).from).toBe('left');
  });
});
