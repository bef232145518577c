import { MaxRectsPacker } from 'maxrects-packer';
import type { ArtLayer, Artwork } from './artwork.ts';
import { layerOf } from './layerOf.ts';
import { piecesOf } from './pieces.ts';
import { boxOf, holds, pathOfRings, ringArea, ringsOfLayer, toPaths, type Ring } from './rings.ts';

/** One piece of film of a layer: its outside with the holes in it. Units of the drawing. */
export type FilmShape = {
  /** Holds for one drawing alone: which of the layer’s outlines is its outside. */
  id: string;
  d: string;
  box: { x: number; y: number; width: number; height: number };
  rings: readonly Ring[];
};

/** The pieces of film of a layer, in the order of its outlines. */
export function filmShapes(layer: Pick<ArtLayer, 'd'>): FilmShape[] {
  const rings = ringsOfLayer(layer);
  const { of } = piecesOf(rings);
  const groups = new Map<number, number[]>();
  rings.forEach((_, i) => groups.set(of[i]!, [...(groups.get(of[i]!) ?? []), i]));
  return [...groups.values()]
    .map((members) => {
      const outside = members.find((i) => ringArea(rings[i]!) > 0) ?? members[0]!;
      const own = members.map((i) => rings[i]!);
      const { left, top, right, bottom } = boxOf(own);
      return {
        outside,
        id: `p${outside}`,
        d: pathOfRings(own),
        box: { x: left, y: top, width: right - left, height: bottom - top },
        rings: own,
      };
    })
    .sort((a, b) => a.outside - b.outside)
    .map(({ outside: _, ...shape }) => shape);
}

/** The piece a hand means that taps here: the smallest it lies in, else the one whose box is nearest. Undefined where there is none. */
export function nearestShape(shapes: readonly FilmShape[], x: number, y: number): FilmShape | undefined {
  const within = shapes
    .filter((s) => s.rings.some((ring) => ringArea(ring) > 0 && holds(ring, [x, y])))
    .sort((a, b) => a.box.width * a.box.height - b.box.width * b.box.height)[0];
  const off = ({ box }: FilmShape) =>
    Math.hypot(Math.max(box.x - x, 0, x - box.x - box.width), Math.max(box.y - y, 0, y - box.y - box.height));
  return within ?? shapes.toSorted((a, b) => off(a) - off(b))[0];
}

/**
 * Some pieces of a layer as a drawing of their own, laid close together: what was lost is cut again on an offcut. Each is as large as it was, and
 * none is turned. Packing: maximal rectangles (Jylänki, A Thousand Ways to Pack the Bin, 2010; package maxrects-packer).
 * @param ids of `filmShapes`; @param gap between two of them; @param most how wide they may lie together, units
 * @returns undefined where none of the ids is there
 */
export function someShapes(
  layer: Pick<ArtLayer, 'id' | 'hex' | 'd'>,
  ids: readonly string[],
  { gap, most }: { gap: number; most: number },
): Pick<Artwork, 'format' | 'width' | 'height' | 'naturalWidthUm' | 'notes' | 'layers'> | undefined {
  const wanted = filmShapes(layer).filter((s) => ids.includes(s.id));
  if (wanted.length === 0) return undefined;
  const widest = Math.max(...wanted.map((s) => s.box.width));
  const area = wanted.reduce((s, { box }) => s + (box.width + gap) * (box.height + gap), 0);
  const packer = new MaxRectsPacker<{ width: number; height: number; x: number; y: number; of: FilmShape }>(
    Math.max(widest, Math.min(most, Math.ceil(1.5 * Math.sqrt(area)))),
    100_000_000,
    gap,
    { smart: true, pot: false, square: false, allowRotation: false },
  );
  packer.addArray(wanted.map((of) => ({ width: of.box.width, height: of.box.height, x: 0, y: 0, of })));
  const rings = packer.bins.flatMap((bin) =>
    bin.rects.flatMap(({ x, y, of }) =>
      of.rings.map((ring): Ring => ring.map(([a, b]) => [a - of.box.x + Math.round(x), b - of.box.y + Math.round(y)])),
    ),
  );
  const made = layerOf(layer.id, layer.hex, toPaths(rings));
  return {
    format: 'versipel-artwork/1',
    width: made.box.width,
    height: made.box.height,
    naturalWidthUm: undefined,
    notes: [],
    layers: [made],
  };
}
