import { boxOf, holds, ringArea, type Ring } from './rings.ts';

/** Which piece of film each outline belongs to: a piece is its outside with the holes in it; an island in a hole is a piece of its own. */
export function piecesOf(rings: readonly Ring[]): { of: Int32Array; count: number } {
  const areas = rings.map(ringArea);
  const boxes = rings.map((ring) => boxOf([ring]));
  const outsides = rings.flatMap((_, i) => (areas[i]! > 0 ? [i] : [])).sort((a, b) => areas[a]! - areas[b]!);
  const place = new Map(outsides.map((ring, n) => [ring, n]));
  const of = new Int32Array(rings.length);
  rings.forEach((ring, i) => {
    if (areas[i]! > 0) return void (of[i] = place.get(i)!);
    const [x, y] = ring[0]!;
    const around = outsides.find((o) => {
      const b = boxes[o]!;
      return (
        areas[o]! > -areas[i]! &&
        b.left <= x &&
        x <= b.right &&
        b.top <= y &&
        y <= b.bottom &&
        holds(rings[o]!, ring[0]!)
      );
    });
    of[i] = around === undefined ? 0 : place.get(around)!;
  });
  return { of, count: outsides.length };
}
