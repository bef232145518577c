import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, test } from 'vitest';
import { checkLayer, readArtwork } from '../artwork/index.ts';
import { FontError, letterAll, lettering, letteringSvg, openFace } from './index.ts';

const file = (name: string) => readFileSync(createRequire(import.meta.url).resolve(name));
const script = openFace([
  file('@fontsource/pacifico/files/pacifico-latin-400-normal.woff2'),
  file('@fontsource/pacifico/files/pacifico-latin-ext-400-normal.woff2'),
]);
const block = openFace([file('@fontsource/lilita-one/files/lilita-one-latin-400-normal.woff2')]);
const outlines = (face: typeof script, says: string, join?: number) => lettering(face, says, join).outlines;

describe('letters as outlines', () => {
  test('a script word is one piece, as far as no dot or gap is in it', () => {
    for (const word of ['anna', 'lena', 'noor', 'Emma']) expect(outlines(script, word), word).toBe(1);
    // Two dots.
    expect(outlines(script, 'mini')).toBe(3);
  });
  test('block letters are one piece each until they are joined; then the word is one, each joint as wide as it must be', () => {
    expect(outlines(block, 'NORA')).toBe(4);
    const said = lettering(block, 'NORA', 4_000);
    expect(said.outlines).toBe(1);
    // Wide enough: the check finds no joint below the line it was joined for.
    const drawing = readArtwork(letteringSvg(said, '#333333', 100_000));
    const line = (4_000 * 100_000) / said.width;
    const check = checkLayer(drawing, drawing.layers[0]!, { line: 0.9 * line, gap: 1, growth: 0 }, 100_000);
    expect(check.onePiece).toBe(true);
    expect(check.faults.filter((f) => f.kind === 'neck')).toEqual([]);
    expect(outlines(block, 'NO RA', 4_000)).toBe(2);
  });
  test('a letter that a face has not got is said, and the rest drawn', () => {
    expect(lettering(block, 'Zoë☃')).toMatchObject({ missing: ['☃'], outlines: 5 });
    expect(lettering(script, 'Łucja').missing).toEqual([]);
    expect(() => lettering(block, '☃')).toThrow(RangeError);
  });
  test('what is no font is refused in one line', () => {
    for (const bytes of [new Uint8Array(0), Buffer.from('no font at all'), new Uint8Array(4_000).fill(65)])
      expect(() => openFace([bytes])).toThrow(FontError);
    expect(() => openFace([new Uint8Array(9_000_000)])).toThrow(/9 MB/);
  });
});

describe('a list of names in boxes of one size', () => {
  const box = { width: 127_000, height: 38_100 };
  const names = ['Ida', 'Bartholomew', 'Noor', 'Mo'];
  test('each fits, touches its box on one side at least, and is read as large as it is', () => {
    for (const one of letterAll(script, names, box, { oneSize: false })) {
      if (!('d' in one)) throw new Error(one.wrong);
      const high = (one.widthUm * one.height) / one.width;
      expect(one.widthUm).toBeLessThanOrEqual(box.width);
      expect(high).toBeLessThanOrEqual(box.height + 1);
      expect(Math.max(one.widthUm / box.width, high / box.height)).toBeGreaterThan(0.999);
      expect(
        Math.abs(readArtwork(letteringSvg(one, '#333333', one.widthUm)).naturalWidthUm! - one.widthUm),
      ).toBeLessThan(20);
    }
  });
  test('in letters of one size the longest decides', () => {
    const all = letterAll(script, names, box, { oneSize: true }).map((o) => ('d' in o ? o : undefined)!);
    const units = all.map((o) => o.widthUm / o.width);
    expect(Math.max(...units) / Math.min(...units)).toBeLessThan(1.001);
    expect(all[1]!.widthUm).toBe(box.width);
  });
  test('joined for a film, every name is fit for that film: no sliver is left between its letters', () => {
    const film = { line: 1_000, gap: 500, growth: 0 };
    for (const one of letterAll(block, [...names, 'Hanneke'], box, { oneSize: false, join: film.line })) {
      if (!('d' in one)) throw new Error(one.wrong);
      expect(one.outlines, one.says).toBe(1);
      const drawing = readArtwork(letteringSvg(one, '#333333', one.widthUm));
      const { faults } = checkLayer(drawing, drawing.layers[0]!, film, one.widthUm);
      expect(faults, one.says).toEqual([]);
    }
  });
  test('one that cannot be drawn is said beside the others', () => {
    const all = letterAll(block, ['Ida', '☃☃'], box, { oneSize: true });
    expect(all.map((o) => 'wrong' in o)).toEqual([false, true]);
  });
});
