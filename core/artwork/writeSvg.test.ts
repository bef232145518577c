import { describe, expect, test } from 'vitest';
import { designs } from './designs.ts';
import { readArtwork } from './readArtwork.ts';
import { writeSvg } from './writeSvg.ts';

describe('a drawing written anew', () => {
  test.each(designs.map((d) => [d.name, d.svg] as const))(
    '%s is the same when it is read again, and as wide as it says',
    (_, svg) => {
      const art = readArtwork(svg);
      const again = readArtwork(writeSvg(art.layers, art, 123_456));
      expect(Math.abs(again.naturalWidthUm! - 123_456)).toBeLessThan(5);
      expect(again.layers.map((l) => [l.hex, l.pieces, l.holes])).toEqual(
        art.layers.map((l) => [l.hex, l.pieces, l.holes]),
      );
      again.layers.forEach((l, i) => expect(Math.abs(l.area / art.layers[i]!.area - 1)).toBeLessThan(1e-4));
    },
  );
  test('without a width it says no size; what is seen may begin anywhere', () => {
    const text = writeSvg([{ hex: '#102030', d: 'M-5-5l10 0 0 10-10 0z' }], {
      left: -5,
      top: -5,
      width: 10,
      height: 10,
    });
    expect(text).toContain('viewBox="-5 -5 10 10"');
    expect(readArtwork(text).naturalWidthUm).toBeUndefined();
  });
  test('lines through the waste stand in the file as lines, and are no part of the drawing when it is read again', () => {
    const art = readArtwork(designs[0]!.svg);
    const strips = { hex: art.layers[0]!.hex, d: `M0 0L${art.width} ${art.height}M${art.width} 0L0 ${art.height}` };
    const text = writeSvg(art.layers, art, 100_000, strips);
    expect(text).toContain(`stroke="${strips.hex}"`);
    expect(text).toContain(strips.d);
    const again = readArtwork(text);
    expect(again.layers.map((l) => [l.hex, l.pieces, l.holes])).toEqual(
      art.layers.map((l) => [l.hex, l.pieces, l.holes]),
    );
    expect(again.width / again.height).toBeCloseTo(art.width / art.height, 3);
  });
});
