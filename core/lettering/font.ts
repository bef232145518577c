import { create, type Font, type Glyph } from 'fontkit';
import { letteringLimits } from '../artwork/index.ts';

/** A file that is no font we can read, in one line. */
export class FontError extends Error {
  override name = 'FontError';
}

/** Letters of one design: several files where each holds a part of the alphabet. */
export type Face = { fonts: Font[] };

/**
 * Opens a font from its files, OTF, TTF, WOFF or WOFF2. The first file that has a letter draws it.
 * @throws FontError where a file is none, or too large
 */
export function openFace(files: readonly Uint8Array[]): Face {
  return {
    fonts: files.map((bytes) => {
      if (bytes.length > letteringLimits.font)
        throw new FontError(`This font has ${Math.ceil(bytes.length / 1e6)} MB; ${letteringLimits.font / 1e6} MB fit`);
      try {
        // Fontkit reads Buffers by its types, any bytes in fact.
        const opened = create(bytes as Parameters<typeof create>[0]);
        const font = 'fonts' in opened ? opened.fonts[0] : opened;
        if (!font || !(font.unitsPerEm > 0)) throw new Error('no letters');
        // What cannot be laid out is found now, not with the first name.
        font.layout('a');
        return font as Font;
      } catch {
        throw new FontError('This is no font that can be read: choose an OTF, TTF, WOFF or WOFF2 file');
      }
    }),
  };
}

/** A letter as it is drawn: outlines as SVG path data, y downwards, 1000 units to the em; `from` is where its advance begins. */
export type Drawn = { d: string; advance: number; says: string };

/** Letters of a text in the order they stand, joined and kerned by the font's own rules, with what it has no letter for. */
export function drawText({ fonts }: Face, text: string): { letters: Drawn[]; missing: string[] } {
  const missing = new Set<string>();
  const runs: { font: Font; text: string }[] = [];
  for (const char of text) {
    const font = fonts.find((f) => f.hasGlyphForCodePoint(char.codePointAt(0)!));
    if (!font) {
      if (char.trim() !== '') missing.add(char);
      continue;
    }
    const last = runs.at(-1);
    if (last?.font === font) last.text += char;
    else runs.push({ font, text: char });
  }
  const letters = runs.flatMap(({ font, text: said }) => {
    const k = 1000 / font.unitsPerEm;
    const { glyphs, positions } = font.layout(said);
    return glyphs.map((glyph: Glyph, i): Drawn => {
      const { xAdvance, xOffset, yOffset } = positions[i]!;
      return {
        d: glyph.path.transform(k, 0, 0, -k, xOffset * k, -yOffset * k).toSVG(),
        advance: xAdvance * k,
        says: String.fromCodePoint(...glyph.codePoints),
      };
    });
  });
  return { letters, missing: [...missing] };
}
