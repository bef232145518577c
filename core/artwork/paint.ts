import { colourOf } from './colours.ts';
import { declarations, readRules, type Rules } from './css.ts';
import { identity, matrixOf, times, type Matrix, type StrokeStyle } from './geometry.ts';
import { ArtworkError, artworkLimits } from './limits.ts';
import { lengthOf, pathOf } from './svgShapes.ts';
import type { SvgNode, SvgTree } from './svgTree.ts';
import { WASTE_LINES } from './writeSvg.ts';

/** One shape as it is painted: an area in a colour, in its own units, and where these lie on the page. */
export type Painted = {
  d: string;
  matrix: Matrix;
  hex: string;
  /** How its area is filled; undefined for a line drawn with a pen. */
  rule: 'nonzero' | 'evenodd' | undefined;
  pen: (StrokeStyle & { dashes: number[]; offset: number }) | undefined;
};

/** What a drawing holds, in the order it is painted, and what of it could not be used. */
export type Paintings = { shapes: Painted[]; notes: string[]; width: number | undefined; height: number | undefined };

/** What is handed down from a group to what stands in it. Source: SVG 1.1, property index. */
const inherited = {
  fill: '#000000',
  stroke: 'none',
  color: '#000000',
  'fill-rule': 'nonzero',
  'stroke-width': '1',
  'stroke-linejoin': 'miter',
  'stroke-linecap': 'butt',
  'stroke-miterlimit': '4',
  'stroke-dasharray': 'none',
  'stroke-dashoffset': '0',
  visibility: 'visible',
  'fill-opacity': '1',
  'stroke-opacity': '1',
};
type Style = Record<keyof typeof inherited, string> & { opacity: string; display: string };
const keys = Object.keys(inherited) as (keyof typeof inherited)[];

const hidden = new Set([
  'defs',
  'symbol',
  'clipPath',
  'mask',
  'pattern',
  'marker',
  'style',
  'metadata',
  'title',
  'desc',
  'linearGradient',
  'radialGradient',
  'filter',
  'script',
  'foreignObject',
  'text',
  'image',
]);
const view = (node: SvgNode) => {
  const box = (node.attributes.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return box.length === 4 && box.every(Number.isFinite) && box[2]! > 0 && box[3]! > 0
    ? (box as [number, number, number, number])
    : undefined;
};

/** Fits a view box into a place: whole and in the middle unless the drawing says otherwise. Source: SVG 1.1, 7.8. */
function fitted(
  box: readonly [number, number, number, number],
  place: { x: number; y: number; width: number; height: number },
  how = '',
): Matrix {
  const [bx, by, bw, bh] = box;
  let [sx, sy] = [place.width / bw, place.height / bh];
  let [dx, dy] = [0, 0];
  if (!/^\s*none/.test(how)) {
    const s = /slice/.test(how) ? Math.max(sx, sy) : Math.min(sx, sy);
    const share = (axis: 'x' | 'Y') => {
      const word = new RegExp(`${axis}(Min|Mid|Max)`).exec(how)?.[1] ?? 'Mid';
      return word === 'Min' ? 0 : word === 'Max' ? 1 : 0.5;
    };
    [dx, dy] = [(place.width - bw * s) * share('x'), (place.height - bh * s) * share('Y')];
    [sx, sy] = [s, s];
  }
  return [sx, 0, 0, sy, place.x + dx - bx * sx, place.y + dy - by * sy];
}

/** Everything a drawing paints, `use` and all, nothing fetched. @throws ArtworkError where `use` leads round in a circle, or to too much */
export function paintings({ root, byId, styles, hasText, hasImage }: SvgTree): Paintings {
  const rules = readRules(styles);
  const shapes: Painted[] = [];
  const notes = new Set<string>();
  if (hasText) notes.add('Its letters are text: turn them into outlines, or they are left out.');
  if (hasImage) notes.add('A picture of pixels in it has no outlines to cut and is left out.');

  const box = view(root);
  const [w, h] = [lengthOf(root.attributes.width, box?.[2] ?? 0), lengthOf(root.attributes.height, box?.[3] ?? 0)];
  const size = { width: w || box?.[2] || 0, height: h || box?.[3] || 0 };
  const within = box ? { width: box[2], height: box[3] } : size;
  const onPage =
    box && size.width > 0 && size.height > 0
      ? fitted(box, { x: 0, y: 0, ...size }, root.attributes.preserveAspectRatio)
      : identity;

  const styleOf = (node: SvgNode, above: Style): Style => {
    const style: Style = { ...above, opacity: '1', display: 'inline' };
    const own = { ...node.attributes, ...rules.of(node), ...declarations(node.attributes.style ?? '') } as Record<
      string,
      string
    >;
    for (const key of [...keys, 'opacity', 'display'] as const) {
      const says = own[key]?.trim();
      if (says !== undefined && says !== '' && says !== 'inherit') style[key] = says;
    }
    return style;
  };

  /** The colour of a fill or stroke; a pattern or shading is taken for its first colour. */
  const paint = (says: string, style: Style): string | undefined => {
    if (says === 'none' || says === 'transparent') return undefined;
    if (/^currentcolor$/i.test(says)) return colourOf(style.color)?.hex;
    const to = /^url\(\s*['"]?#([^'")\s]+)['"]?\s*\)\s*(.*)$/.exec(says);
    if (to) {
      notes.add('It has a shading: a vinyl has one colour, so the first of it is used.');
      const stop = firstStop(byId.get(to[1]!), byId, rules);
      return (stop && colourOf(stop)?.hex) ?? (to[2] ? colourOf(to[2])?.hex : undefined) ?? '#808080';
    }
    const colour = colourOf(says);
    if (colour && colour.covers < 1 && colour.covers > 0) notes.add('It has see-through colours: vinyl covers whole.');
    return colour && colour.covers > 0 ? colour.hex : undefined;
  };

  const shape = (node: SvgNode, matrix: Matrix, style: Style) => {
    const d = pathOf(node, within);
    if (!d || style.visibility !== 'visible') return;
    if (shapes.length >= artworkLimits.shapes)
      throw new ArtworkError(`This drawing shows more than ${artworkLimits.shapes} shapes`);
    const fill = Number(style['fill-opacity']) === 0 || node.name === 'line' ? undefined : paint(style.fill, style);
    if (fill)
      shapes.push({
        d,
        matrix,
        hex: fill,
        rule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
        pen: undefined,
      });
    const stroke = Number(style['stroke-opacity']) === 0 ? undefined : paint(style.stroke, style);
    const diagonal = Math.hypot(within.width, within.height) / Math.SQRT2;
    const width = lengthOf(style['stroke-width'], diagonal) ?? 1;
    if (!stroke || !(width > 0)) return;
    const dashes =
      style['stroke-dasharray'] === 'none'
        ? []
        : style['stroke-dasharray']
            .split(/[\s,]+/)
            .slice(0, 60)
            .map((n) => lengthOf(n, diagonal) ?? NaN);
    shapes.push({
      d,
      matrix,
      hex: stroke,
      rule: undefined,
      pen: {
        width,
        join: style['stroke-linejoin'],
        cap: style['stroke-linecap'],
        miter: Number(style['stroke-miterlimit']) || 4,
        dashes: dashes.every((n) => n >= 0) ? dashes : [],
        offset: lengthOf(style['stroke-dashoffset'], diagonal) ?? 0,
      },
    });
  };

  const walk = (node: SvgNode, matrix: Matrix, above: Style, uses: readonly SvgNode[], asUsed = false) => {
    if ((hidden.has(node.name) && !asUsed) || node.attributes[WASTE_LINES]) return;
    const style = styleOf(node, above);
    if (style.display === 'none' || Number(style.opacity) === 0) return;
    for (const what of ['clip-path', 'mask', 'filter'] as const)
      if (node.attributes[what] && node.attributes[what] !== 'none')
        notes.add('A clip, mask or filter in it is left out: what it hides is shown.');
    let here = times(matrix, matrixOf(node.attributes.transform));
    if (node.name === 'use') {
      const href = node.attributes.href ?? node.attributes['xlink:href'] ?? '';
      if (!href.startsWith('#')) return void notes.add('It refers to another file: that part is left out.');
      const target = byId.get(href.slice(1));
      if (!target) return void notes.add('It refers to a part that is not in it.');
      if (uses.includes(target) || uses.length >= artworkLimits.uses)
        throw new ArtworkError(`A part of this drawing ("${href.slice(0, 40)}") uses itself, round and round`);
      here = times(here, [
        1,
        0,
        0,
        1,
        lengthOf(node.attributes.x, within.width) ?? 0,
        lengthOf(node.attributes.y, within.height) ?? 0,
      ]);
      const frame = view(target);
      if (target.name === 'symbol' && frame) {
        const width = lengthOf(node.attributes.width, within.width) ?? frame[2];
        const height = lengthOf(node.attributes.height, within.height) ?? frame[3];
        here = times(here, fitted(frame, { x: 0, y: 0, width, height }, target.attributes.preserveAspectRatio));
      }
      return walk(target, here, style, [...uses, target], true);
    }
    if (node.name === 'svg' && node.parent) {
      const frame = view(node);
      const place = {
        x: lengthOf(node.attributes.x, within.width) ?? 0,
        y: lengthOf(node.attributes.y, within.height) ?? 0,
        width: lengthOf(node.attributes.width, within.width) ?? within.width,
        height: lengthOf(node.attributes.height, within.height) ?? within.height,
      };
      here = times(
        here,
        frame ? fitted(frame, place, node.attributes.preserveAspectRatio) : [1, 0, 0, 1, place.x, place.y],
      );
    }
    shape(node, here, style);
    const children = node.name === 'switch' ? node.children.slice(0, 1) : node.children;
    for (const child of children) walk(child, here, style, uses);
  };
  walk(root, onPage, { ...inherited, opacity: '1', display: 'inline' }, []);
  return { shapes, notes: [...notes], width: size.width || undefined, height: size.height || undefined };
}

/** The colour a shading begins with, its own or that of the one it refers to. */
function firstStop(node: SvgNode | undefined, byId: Map<string, SvgNode>, rules: Rules, deep = 0): string | undefined {
  const stop = node?.children.find((c) => c.name === 'stop');
  if (stop)
    return (
      declarations(stop.attributes.style ?? '')['stop-color'] ??
      rules.of(stop)['stop-color'] ??
      stop.attributes['stop-color'] ??
      '#000000'
    );
  const href = node?.attributes.href ?? node?.attributes['xlink:href'];
  return href?.startsWith('#') && deep < 8 ? firstStop(byId.get(href.slice(1)), byId, rules, deep + 1) : undefined;
}
