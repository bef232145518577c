import type { Placed } from './place.ts';

type PaperInput = {
  /** µm. */
  design: { width: number; height: number };
  placed: Pick<Placed, 'left' | 'top' | 'anchor'>;
  /** The drawing: its width in its own units, and its layers as path data with their colours. */
  art: { width: number; layers: readonly { d: string; hex: string }[] };
  mirrored: boolean;
};

const mm = (um: number) => Number((um / 1000).toFixed(3));

/**
 * The design at true size on paper as large as it is, as SVG in mm: both lines through its anchor, and a bar of 100 mm to check the printer
 * by. µm in.
 */
export function truePaper({ design, placed, art, mirrored }: PaperInput): string {
  const margin = 10_000;
  const foot = 14_000;
  const [w, h] = [design.width + 2 * margin, design.height + 2 * margin + foot];
  const scale = design.width / art.width / 1000;
  const [ax, ay] = [mm(placed.anchor.x - placed.left + margin), mm(placed.anchor.y - placed.top + margin)];
  const turn = mirrored ? ` translate(${art.width} 0) scale(-1 1)` : '';
  const bar = mm(Math.min(100_000, w - 2 * margin));
  const base = mm(h - foot / 2);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(w)}mm" height="${mm(h)}mm" viewBox="0 0 ${mm(w)} ${mm(h)}">`,
    `<g transform="translate(${mm(margin)} ${mm(margin)}) scale(${scale})${turn}">${art.layers.map((l) => `<path d="${l.d}" fill="${l.hex}"/>`).join('')}</g>`,
    `<g fill="none" stroke="#000" stroke-width="0.2"><path d="M${ax} 0V${mm(h - foot)}M0 ${ay}H${mm(w)}" stroke-dasharray="3 2"/>`,
    `<path d="M${mm(margin)} ${base}h${bar}m0 -2v4m${-bar} 0v-4"/></g>`,
    `<text x="${mm(margin) + 2}" y="${base - 1.2}" font-family="sans-serif" font-size="4">${bar} mm</text></svg>\n`,
  ].join('');
}
