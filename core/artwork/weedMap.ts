import type { ArtLayer } from './artwork.ts';
import { boxOf, crossings, holds, ringArea, ringsOfPath, type Ring } from './rings.ts';

/** A piece of waste inside a layer, to be lifted by itself: a point well within it, units of the drawing, and how large it is, square units. */
export type InnerPiece = { x: number; y: number; area: number };

/**
 * The inner pieces of a layer in the order in which they are lifted: from the outside in, so that a hand does not rest on what is loose.
 * Source: common practice, no source.
 *
 * @param d the outlines of the layer
 */
export function innerPieces(d: string): InnerPiece[] {
  const rings = ringsOfPath(d);
  const holes = rings.filter((ring) => ringArea(ring) < 0);
  const { left, top, right, bottom } = boxOf(rings);
  const [cx, cy] = [(left + right) / 2, (top + bottom) / 2];
  return holes
    .map((hole) => {
      // An island in a hole is film: the point is waste all the same.
      const islands = rings.filter((ring) => ringArea(ring) > 0 && holds(hole, ring[0]!));
      const [x, y] = pointWithin(hole, islands);
      return { x, y, area: -ringArea(hole) };
    })
    .sort((a, b) => Math.hypot(b.x - cx, b.y - cy) - Math.hypot(a.x - cx, a.y - cy));
}

/**
 * A place where waste is pulled off with care: out over a point, along a thin joint; never across. Units of the drawing, degrees from the
 * right downwards. Source: common practice, no source.
 */
export type PeelHint = { kind: 'point' | 'joint'; x: number; y: number; way: number };

/**
 * Where to pull waste which way, the most delicate first: joints narrower than some lines, then sharp corners.
 * @param line how wide a joint must be to need no care, units
 */
export function peelHints({ narrow, tips }: Pick<ArtLayer, 'narrow' | 'tips'>, line: number, most = 24): PeelHint[] {
  const joints = narrow
    .filter((n) => n.of === 'film' && n.width < line)
    .map((n): PeelHint => ({ kind: 'joint', x: n.x, y: n.y, way: half(n.across + 90) }));
  const points = tips.map((t): PeelHint => ({ kind: 'point', x: t.x, y: t.y, way: t.out }));
  return [...joints, ...points].slice(0, most);
}

/** A way that goes both ways, within half a turn. */
const half = (degrees: number): number => ((degrees % 180) + 180) % 180;

/** Rows of a ring that are looked at for the widest place. */
const ROWS = 15;

/** The middle of the widest stretch of a ring that no island takes, among some rows across it. */
function pointWithin(hole: Ring, islands: readonly Ring[]): [number, number] {
  const { top, bottom } = boxOf([hole]);
  let best: { x: number; y: number; wide: number } = { x: hole[0]![0], y: hole[0]![1], wide: -1 };
  for (let row = 0; row < ROWS; row++) {
    // Off the round numbers that corners lie on.
    const y = top + ((row + 0.5) / ROWS) * (bottom - top) + 0.137;
    const at = [hole, ...islands].flatMap((ring) => crossings(ring, y)).sort((a, b) => a - b);
    for (let i = 0; i + 1 < at.length; i += 2) {
      const wide = Math.min(at[i + 1]! - at[i]!, 3 * (bottom - top));
      // Near the middle rows there is room above and below as well.
      const room = wide * (1 - Math.abs(row - (ROWS - 1) / 2) / ROWS);
      if (room > best.wide) best = { x: (at[i]! + at[i + 1]!) / 2, y, wide: room };
    }
  }
  return [Math.round(best.x), Math.round(best.y)];
}
