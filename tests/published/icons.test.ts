import { describe, expect, test } from 'vitest';
import { readArtwork } from '#core/artwork/index.ts';
import { icons, united } from '../icons.ts';

// Sixty icons of an open package as we read them, against Paper.js.
describe('sixty icons, as Paper.js has them', () => {
  const chosen = icons(60);
  test('they are sixty different ones', () => expect(new Set(chosen.map((c) => c.d)).size).toBe(60));
  test.each(chosen)('$name: area, length of the cut, pieces and holes', ({ d }) => {
    const { layers } = readArtwork(`<svg viewBox="0 0 24 24"><path d="${d}"/></svg>`);
    expect(layers).toHaveLength(1);
    const [layer] = layers;
    const theirs = united(d);
    // A drawing is as large as what is drawn: a million of our units its longer side.
    const unit = 1e6 / theirs.longer;
    expect(Math.abs(layer!.area / unit ** 2 / theirs.area - 1)).toBeLessThan(0.002);
    expect(Math.abs(layer!.length / unit / theirs.length - 1)).toBeLessThan(0.002);
    expect([layer!.pieces, layer!.holes]).toEqual([theirs.pieces, theirs.holes]);
  });
});
