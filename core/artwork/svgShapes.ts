import type { SvgNode } from './svgTree.ts';

/** Pixels of 1/96 in, by unit. Source: CSS Values 3, 6.2. */
const pixels: Record<string, number> = {
  px: 1,
  '': 1,
  in: 96,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  q: 96 / 101.6,
  pt: 96 / 72,
  pc: 16,
};

/** A length in pixels; of a share of something, that share of `whole`. Undefined for what is no length. */
export function lengthOf(text: string | undefined, whole: number): number | undefined {
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*(px|in|mm|cm|q|pt|pc|em|ex|%|)\s*$/i.exec(text ?? '');
  if (!match) return undefined;
  const value = Number(match[1]);
  const unit = match[2]!.toLowerCase();
  if (unit === '%') return (value / 100) * whole;
  // A letter's size stands for the usual 16 px.
  if (unit === 'em') return value * 16;
  if (unit === 'ex') return value * 8;
  return value * pixels[unit]!;
}

const number = (n: number) => Number(n.toPrecision(12)).toString();
const ring = (cx: number, cy: number, rx: number, ry: number) =>
  [
    `M${number(cx - rx)} ${number(cy)}`,
    `A${number(rx)} ${number(ry)} 0 1 1 ${number(cx + rx)} ${number(cy)}`,
    `A${number(rx)} ${number(ry)} 0 1 1 ${number(cx - rx)} ${number(cy)}Z`,
  ].join('');

/** The path data of a shape; undefined for what is none, or has no extent. Source: SVG 1.1, chapter 9. */
export function pathOf(node: SvgNode, view: { width: number; height: number }): string | undefined {
  const a = node.attributes;
  const diagonal = Math.hypot(view.width, view.height) / Math.SQRT2;
  const across = (key: string) => lengthOf(a[key], view.width);
  const down = (key: string) => lengthOf(a[key], view.height);
  switch (node.name) {
    case 'path':
      return a.d?.slice(0, 2_000_000);
    case 'rect': {
      const [x, y, w, h] = [across('x') ?? 0, down('y') ?? 0, across('width') ?? 0, down('height') ?? 0];
      if (!(w > 0 && h > 0)) return undefined;
      const rx = Math.min(w / 2, Math.max(0, across('rx') ?? down('ry') ?? 0));
      const ry = Math.min(h / 2, Math.max(0, down('ry') ?? across('rx') ?? 0));
      if (rx === 0 || ry === 0) return `M${number(x)} ${number(y)}h${number(w)}v${number(h)}h${number(-w)}Z`;
      const arc = (dx: number, dy: number) => `a${number(rx)} ${number(ry)} 0 0 1 ${number(dx)} ${number(dy)}`;
      return `M${number(x + rx)} ${number(y)}h${number(w - 2 * rx)}${arc(rx, ry)}v${number(h - 2 * ry)}${arc(-rx, ry)}h${number(2 * rx - w)}${arc(-rx, -ry)}v${number(2 * ry - h)}${arc(rx, -ry)}Z`;
    }
    case 'circle': {
      const r = lengthOf(a.r, diagonal) ?? 0;
      return r > 0 ? ring(across('cx') ?? 0, down('cy') ?? 0, r, r) : undefined;
    }
    case 'ellipse': {
      const [rx, ry] = [across('rx') ?? 0, down('ry') ?? 0];
      return rx > 0 && ry > 0 ? ring(across('cx') ?? 0, down('cy') ?? 0, rx, ry) : undefined;
    }
    case 'line':
      return `M${number(across('x1') ?? 0)} ${number(down('y1') ?? 0)}L${number(across('x2') ?? 0)} ${number(down('y2') ?? 0)}`;
    case 'polyline':
    case 'polygon': {
      const n = (a.points ?? '').match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? [];
      if (n.length < 4) return undefined;
      const points = Array.from({ length: Math.floor(n.length / 2) }, (_, i) => `${n[2 * i]} ${n[2 * i + 1]}`);
      return `M${points.join('L')}${node.name === 'polygon' ? 'Z' : ''}`;
    }
    default:
      return undefined;
  }
}
