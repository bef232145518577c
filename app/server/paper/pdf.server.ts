import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

// pdfmake is CommonJS and keeps its fonts in one place for the whole process.
const require = createRequire(import.meta.url);
type PdfMake = {
  addFonts: (fonts: Record<string, Record<string, string>>) => void;
  setUrlAccessPolicy: (allowed: () => boolean) => void;
  setLocalAccessPolicy: (allowed: (path: string) => boolean) => void;
  createPdf: (definition: TDocumentDefinitions) => { getBuffer: () => Promise<Buffer> };
};
let ready: PdfMake | undefined;

function pdfmake(): PdfMake {
  if (ready) return ready;
  const make = require('pdfmake') as PdfMake;
  const folder = join(dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')), 'files');
  const file = (set: string, weight: number) => join(folder, `atkinson-hyperlegible-next-${set}-${weight}-normal.woff`);
  make.addFonts({
    Latin: { normal: file('latin', 400), bold: file('latin', 700) },
    LatinExt: { normal: file('latin-ext', 400), bold: file('latin-ext', 700) },
  });
  // Nothing in a paper of ours comes from elsewhere, and nothing but the fonts from this machine.
  make.setLocalAccessPolicy((path) => path.startsWith(folder));
  make.setUrlAccessPolicy(() => false);
  ready = make;
  return make;
}

/** Points a millimetre. */
export const MM = 72 / 25.4;

/** Makes the paper. Fonts are embedded; text stays text. */
export const pdf = (definition: TDocumentDefinitions): Promise<Buffer> =>
  pdfmake()
    .createPdf({
      ...definition,
      defaultStyle: { font: 'Latin', fontSize: 9, lineHeight: 1.1, ...definition.defaultStyle },
    })
    .getBuffer();

// What the two font files hold, as their package states it.
const latin =
  /[\u0000-\u00ff\u0131\u0152\u0153\u02bb\u02bc\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2191\u2193\u2212\u2215]/; // eslint-disable-line no-control-regex
const latinExt =
  /[\u0100-\u02ba\u1d00-\u1dbf\u1e00-\u1e9f\u1ef2-\u1eff\u20a0-\u20ab\u20ad-\u20c0\u2113\u2c60-\u2c7f\ua720-\ua7ff]/;

/**
 * Text in runs of the font that has its letters. Letters of other scripts have no font here: each becomes a question mark, so that nobody
 * takes what is left for the whole name.
 */
export function runs(text: string, style: { bold?: boolean; fontSize?: number; color?: string } = {}): Content {
  const parts: { text: string; font: string }[] = [];
  for (const letter of text.normalize('NFC').replace(/[\p{Cf}\p{Cc}]/gu, '')) {
    const font = latin.test(letter) || !latinExt.test(letter) ? 'Latin' : 'LatinExt';
    const shown = latin.test(letter) || latinExt.test(letter) ? letter : '?';
    const last = parts.at(-1);
    if (last?.font === font) last.text += shown;
    else parts.push({ text: shown, font });
  }
  return { text: parts, ...style };
}

/** At most so many letters. */
export const cut = (text: string, letters: number): string => {
  const all = [...text];
  return all.length <= letters ? text : `${all.slice(0, letters - 1).join('')}…`;
};

export const pdfAnswer = (body: Buffer, name: string): Response =>
  new Response(new Uint8Array(body), {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${name}"`,
      'Cache-Control': 'private, no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
