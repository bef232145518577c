import { createHash } from 'node:crypto';
import type { Content } from 'pdfmake/interfaces';
import { paperOnThread } from '#work/base/compute.ts';
import { Kept } from '#work/base/kept.ts';
import type { Paper } from '#workers/paper.ts';

/** Points a millimetre. */
export const MM = 72 / 25.4;

/** Papers that were drawn: the same one is asked for again and again, by printers most of all. */
const drawn = new Kept<Uint8Array>({ bytes: 40_000_000, size: (paper) => paper.length });

/** The paper, drawn on a thread; the same paper is drawn once. */
export function pdf(paper: Paper): Promise<Uint8Array> {
  const key = createHash('sha256').update(JSON.stringify(paper)).digest('base64url');
  return drawn.get(key, () => paperOnThread(paper));
}

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

export const pdfAnswer = (body: Uint8Array, name: string): Response =>
  new Response(new Uint8Array(body), {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${name}"`,
      'Cache-Control': 'private, no-store',
    },
  });
