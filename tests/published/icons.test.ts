import { describe, expect, test } from 'vitest';
import { readArtwork } from '#core/artwork/index.ts';
import { icons, united } from '../icons.ts';

/** Icons the two of us do not agree on, each with why. At most one in a hundred. */
const exceptions: Record<string, string> = {
  GitHub: 'Paper.js itself throws on its outline ("getDirectedAngle" of null); ours is read',
};

// Five hundred icons of an open package as we read them, against Paper.js: in tens, so that one that is off is named soon.
describe('five hundred icons, as Paper.js has them', () => {
  const chosen = icons(500);
  test('they are five hundred different ones, of which at most one in a hundred is an exception', () => {
    expect(new Set(chosen.map((c) => c.d)).size).toBe(500);
    expect(Object.keys(exceptions).length).toBeLessThanOrEqual(5);
  });
  const tens = Array.from({ length: 50 }, (_, i) => chosen.slice(10 * i, 10 * i + 10));
  test.each(tens.map((ten) => [ten[0]!.name, ten] as const))(
    'ten from %s on: area, length of the cut, pieces and holes',
    (_, ten) => {
      for (const { name, d } of ten) {
        const { layers } = readArtwork(`<svg viewBox="0 0 24 24"><path d="${d}"/></svg>`);
        expect(layers, name).toHaveLength(1);
        const [layer] = layers;
        if (name in exceptions) {
          expect(() => united(d), name).toThrow();
          continue;
        }
        const theirs = united(d);
        // A drawing is as large as what is drawn: a million of our units its longer side.
        const unit = 1e6 / theirs.longer;
        expect(Math.abs(layer!.area / unit ** 2 / theirs.area - 1), name).toBeLessThan(0.002);
        expect(Math.abs(layer!.length / unit / theirs.length - 1), name).toBeLessThan(0.002);
        expect([layer!.pieces, layer!.holes], name).toEqual([theirs.pieces, theirs.holes]);
      }
    },
  );
});
