import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font, type Glyph } from 'fontkit';
import QRCode from 'qrcode';
import { renderToStaticMarkup } from 'react-dom/server';
import { createElement } from 'react';
import sharp from 'sharp';
import { formatSetting, sayStrength, strengthAxis } from '#core/controls/index.ts';
import { stripShades, stripDomain, stripSplit, stripX } from '#core/strip/index.ts';
import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import type { CardView } from '#work/shelf/view.ts';
import { Kept } from '#work/base/kept.ts';
import { words } from '../messages/index.ts';
import { SwatchDrawing } from '../ui/vinyls/Swatch.tsx';
import { capitalise } from '#core/units/index.ts';

/** Size of a picture that groups and chats show whole. */
const POST = { width: 1200, height: 630 };

const ink = '#20242b';
const muted = '#666a70';
const ground = '#f5f1e8';
const sheet = '#fffdf8';
const clean = '#0f7a66';

const require = createRequire(import.meta.url);
const fonts = new Map<number, Font>();
function fontOf(weight: 400 | 700): Font {
  let font = fonts.get(weight);
  if (!font) {
    const file = require.resolve(
      `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
    );
    font = create(readFileSync(file)) as Font;
    fonts.set(weight, font);
  }
  return font;
}

/** Outlines that were made, by weight and glyph: at most all glyphs of the two fonts. Making one again costs more than all else of a picture. */
const outlines = new Map<string, string>();
function outlineOf(weight: 400 | 700, glyph: Glyph): string {
  const key = `${weight} ${glyph.id}`;
  let outline = outlines.get(key);
  if (outline === undefined) outlines.set(key, (outline = glyph.path.toSVG()));
  return outline;
}

/** Text as outlines: the picture looks the same wherever it is made. What the font lacks is left out. */
function text(
  said: string,
  x: number,
  y: number,
  size: number,
  { weight = 400, fill = ink, max = Infinity }: { weight?: 400 | 700; fill?: string; max?: number } = {},
): string {
  const font = fontOf(weight);
  const known = [...said.normalize('NFC')].filter((c) => font.hasGlyphForCodePoint(c.codePointAt(0)!)).join('');
  const widthOf = (s: string) => (font.layout(s).advanceWidth / font.unitsPerEm) * size;
  let shown = known;
  while (shown.length > 1 && widthOf(shown) > max) shown = `${[...shown].slice(0, -2).join('').trimEnd()}…`;
  const scale = size / font.unitsPerEm;
  const run = font.layout(shown);
  let at = 0;
  const glyphs = run.glyphs.map((glyph, i) => {
    const p = run.positions[i]!;
    const path = outlineOf(weight, glyph);
    const place = `translate(${at + p.xOffset} ${p.yOffset})`;
    at += p.xAdvance;
    return path ? `<path transform="${place}" d="${path}"/>` : '';
  });
  return `<g transform="translate(${x} ${y}) scale(${scale} ${-scale})" fill="${fill}">${glyphs.join('')}</g>`;
}

/** All that a picture says of a card. */
type Pictured = Pick<CardView, 'content' | 'proof' | 'author' | 'from'>;

/** The card as a drawing: swatch, number, window strip, controls, standing, short address and its code. */
function postSvg(card: Pictured, address: string): string {
  const { content } = card;
  const axis = strengthAxis(content.model);
  const position = content.controls.steps[axis.key]!;
  const standing = card.proof?.standing ?? content.standing;
  const type = content.vinyl.type as VinylTypeKey;
  const swatch = renderToStaticMarkup(
    createElement(SwatchDrawing, { type, hex: content.vinyl.hex, standing, edge: ink }),
  );
  const strip = { x: 72, y: 368, width: 780, height: 58 };
  const domain = stripDomain(axis, [content.result.summary], [position]);
  const at = (p: number) => strip.x + stripX(domain, p) * strip.width;
  const shades = stripShades(axis, content.result.summary, domain);
  const split = strip.x + stripSplit(content.result.summary, domain) * strip.width;
  const code = QRCode.create(address, { errorCorrectionLevel: 'M' }).modules;
  const cell = 208 / code.size;
  const dots = [];
  for (const [at, dark] of code.data.entries()) {
    const [x, y] = [(at % code.size) * cell, Math.floor(at / code.size) * cell];
    const side = cell.toFixed(2);
    if (dark) dots.push(`M${x.toFixed(2)} ${y.toFixed(2)}h${side}v${side}h-${side}z`);
  }
  const rest = formatSetting(content.model, content.controls)
    .filter((p) => p.key !== axis.key)
    .map((p) => `${p.word} ${p.value}`);
  // The count stands by itself; what is missing beside the author.
  const [says, missing] = (card.proof?.sentence ?? words.cardStanding[standing]).split(/; /) as [string, string?];
  const name = [content.vinyl.brand, content.vinyl.name].filter(Boolean).join(' ');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${POST.width}" height="${POST.height}" viewBox="0 0 ${POST.width} ${POST.height}">
<defs>
<pattern id="hatch" width="10" height="10" patternUnits="userSpaceOnUse"><rect width="10" height="10" fill="#e4e5e4"/><path d="M-2 2L2 -2M0 10L10 0M8 12L12 8" stroke="#8e9db3" stroke-width="2"/></pattern>
<pattern id="dots" width="12" height="12" patternUnits="userSpaceOnUse"><rect width="12" height="12" fill="#f3dcae"/><circle cx="6" cy="6" r="2.4" fill="#b2452d"/></pattern>
<linearGradient id="clean">${shades.map((s) => `<stop offset="${s.x}" stop-color="${clean}" stop-opacity="${s.strength}"/>`).join('')}</linearGradient>
</defs>
<rect width="100%" height="100%" fill="${ground}"/>
<rect x="36" y="36" width="1128" height="558" rx="10" fill="${sheet}" stroke="#dcd4c4"/>
<svg x="72" y="72" width="200" height="200" viewBox="0 0 200 200">${swatch}</svg>
${text(name, 304, 118, 52, { weight: 700, max: 800 })}
${text([content.vinyl.colour, vinylTypes[type].word].filter(Boolean).join(' · '), 304, 162, 30, { fill: muted, max: 800 })}
${text(sayStrength(axis, position), 304, 240, 68, { weight: 700, max: 800 })}
${text([content.model.name, ...rest].join(', '), 304, 284, 28, { fill: muted, max: 800 })}
<rect x="${strip.x}" y="${strip.y}" width="${Math.max(0, split - strip.x)}" height="${strip.height}" fill="url(#hatch)"/>
<rect x="${split}" y="${strip.y}" width="${Math.max(0, strip.x + strip.width - split)}" height="${strip.height}" fill="url(#dots)"/>
<rect x="${strip.x}" y="${strip.y}" width="${strip.width}" height="${strip.height}" fill="url(#clean)"/>
<rect x="${strip.x}" y="${strip.y}" width="${strip.width}" height="${strip.height}" fill="none" stroke="${ink}" stroke-opacity="0.35"/>
<path d="M${at(position)} ${strip.y - 14}v${strip.height + 28}" stroke="${ink}" stroke-width="5"/>
${text(capitalise(says), strip.x, 486, 28, { weight: 700, max: 780 })}
${text([missing, `by ${card.author}${card.from ? ` (${card.from.home})` : ''}`].filter(Boolean).join(' · '), strip.x, 526, 26, { fill: muted, max: 780 })}
${text(address.replace(/^https?:\/\//, ''), strip.x, 564, 24, { fill: muted, max: 1050 })}
<g transform="translate(904 330)"><path d="${dots.join('')}" fill="${ink}"/></g>
</svg>`;
}

/** Pictures that were drawn, by what is on them: the same card is shown again wherever its address was posted. */
const drawn = new Kept<Buffer>({ bytes: 30_000_000, size: (picture) => picture.length });

/** The same as a PNG, 1200 × 630. What was drawn before is not drawn again: laying out its text alone holds everybody up. */
export function postPicture({ content, proof, author, from }: CardView, address: string): Promise<Buffer> {
  const card: Pictured = { content, proof, author, from };
  const key = createHash('sha256')
    .update(JSON.stringify([card, address]))
    .digest('base64url');
  return drawn.get(key, () =>
    sharp(Buffer.from(postSvg(card, address)))
      .png({ compressionLevel: 9 })
      .toBuffer(),
  );
}
