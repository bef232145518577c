import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { mended } from './mend.ts';
import { layerPairs, pairDefaults } from './pairs.ts';
import { readArtwork } from './readArtwork.ts';
import { ringArea, ringsOfPath } from './rings.ts';

const svg = (body: string) => `<svg viewBox="0 0 100 100" xmlns="http://www.w3.org/2000/svg">${body}</svg>`;
const plate = '<path fill="#204080" d="M0 0h100v60h-100z"/>';
const areaMm2 = (d: string, um: number) => (ringsOfPath(d).reduce((s, r) => s + ringArea(r), 0) * um * um) / 1e6;

describe('layers pair by pair', () => {
  test('how much is covered, and what lies apart is no pair', () => {
    const drawing = readArtwork(
      svg(`${plate}<path fill="#c02020" d="M10 10h30v30h-30z"/><path fill="#20a040" d="M0 80h50v20h-50z"/>`),
    );
    const pairs = layerPairs(drawing, [0, 0, 0], 100_000);
    expect(pairs).toHaveLength(1);
    expect(pairs[0]).toMatchObject({ lower: 'l1', upper: 'l2', hidden: false });
    expect(pairs[0]!.coveredMm2).toBeCloseTo(900, 0);
    expect(pairs[0]!.share).toBeCloseTo(0.15, 3);
  });
  test('a lower layer of which nothing is seen is wasted', () => {
    const drawing = readArtwork(svg(`<path fill="#c02020" d="M10 10h30v30h-30z"/>${plate}`));
    expect(layerPairs(drawing, [0, 0], 100_000)[0]!.hidden).toBe(true);
  });
  test('a planted rim is found within 0.05 mm, less what the upper layer grows and more what the lower one does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 40 }), fc.integer({ min: 0, max: 8 }), (rim, grows) => {
        const r = rim / 10;
        const drawing = readArtwork(svg(`${plate}<path fill="#c02020" d="M${r} 8h60v44h-60z"/>`));
        const [pair] = layerPairs(drawing, [100, grows * 100 + 100], 100_000);
        expect(Math.abs(pair!.rim!.widthUm - Math.max(0, r * 1000 - grows * 100))).toBeLessThan(50);
        // The edge the rim lies along: the left one.
        expect(pair!.rim!.x).toBeLessThan(0.01);
      }),
      { numRuns: 40, seed: 3 },
    );
  });
  test('what lies far from every edge has a ground, no rim; what reaches over the edge has none there', () => {
    const rim = (d: string) =>
      layerPairs(readArtwork(svg(`${plate}<path fill="#c02020" d="${d}"/>`)), [0, 0], 100_000)[0]!.rim;
    expect(rim('M30 20h40v20h-40z')).toBeUndefined();
    expect(rim('M-10 20h40v20h-40z')).toBeUndefined();
  });
  test('cut out, two layers overlap by 0.3 ± 0.02 mm, inside only, whatever the shape', () => {
    const shapes = ['M20 10h40v30h-40z', 'M20 10L80 20L50 50z', 'M50 10a20 20 0 1 1 0 40a20 20 0 1 1 0-40z'];
    for (const d of shapes) {
      const drawing = readArtwork(svg(`${plate}<path fill="#c02020" d="${d}"/>`));
      const um = 100_000 / drawing.width;
      const { svg: said, widthUm } = mended(
        drawing,
        { do: 'knock out', lower: 'l1', upper: 'l2', choke: pairDefaults.choke },
        100_000,
      );
      const after = readArtwork(said);
      expect(Math.abs(widthUm - 100_000)).toBeLessThan(2);
      const upper = drawing.layers[1]!;
      // Overlap over the length of the edge it lies along, half of it further in: its width.
      const [pair] = layerPairs(after, [0, 0], 100_000);
      const edgeMm = (upper.length * um) / 1000;
      const width = (2 * pair!.coveredMm2) / (edgeMm + innerEdge(after.layers[0]!.d, um));
      expect(Math.abs(width - 0.3), d).toBeLessThan(0.02);
      // The upper layer is as it was, and the lower one has its area outside of it: nothing stands out.
      expect(areaMm2(after.layers[1]!.d, um)).toBeCloseTo(areaMm2(upper.d, um), 0);
      expect(areaMm2(after.layers[0]!.d, um) - pair!.coveredMm2).toBeCloseTo(
        areaMm2(drawing.layers[0]!.d, um) - areaMm2(upper.d, um),
        0,
      );
    }
  });
});

/** Length of the one hole of a layer, mm. */
function innerEdge(d: string, um: number): number {
  const hole = ringsOfPath(d).find((r) => ringArea(r) < 0)!;
  return (
    hole.reduce((s, [x, y], i) => {
      const [a, b] = hole[(i + 1) % hole.length]!;
      return s + Math.hypot(a - x, b - y);
    }, 0) *
    (um / 1000)
  );
}
