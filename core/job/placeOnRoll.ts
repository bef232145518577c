/** An area of a roll or sheet, µm: `x` across it, `y` along it from where it begins. */
export type FilmArea = { x: number; y: number; width: number; height: number };

/** How far along a piece of stock its film is used, µm. */
export const usedLength = (areas: readonly FilmArea[]): number =>
  areas.reduce((m, a) => Math.max(m, a.y + a.height), 0);

/** Areas of one piece that are looked at: older ones lie further back than anything small would still fit beside. */
const LOOKED_AT = 60;

const apart = (a: FilmArea, b: FilmArea) =>
  a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;

/**
 * Where a piece of film is cut from a roll or sheet: beside what was cut before where there is room, so that no more of its length goes
 * than must. Turned by a quarter where that takes less. A film too wide for it either way takes its whole width.
 *
 * Lowest place first, then the leftmost: the bottom-left rule of Baker, Coffman & Rivest, Orthogonal packings in two dimensions, SIAM J.
 * Comput. 9 (1980).
 *
 * @param width of the roll or sheet, µm
 * @param taken areas that are gone already
 * @example placeOnRoll(300, [{ x: 0, y: 0, width: 100, height: 80 }], { width: 120, height: 60 }) // { x: 100, y: 0, width: 120, height: 60 }
 */
export function placeOnRoll(
  width: number,
  taken: readonly FilmArea[],
  film: { width: number; height: number },
): FilmArea {
  const near = taken.toSorted((a, b) => b.y + b.height - (a.y + a.height)).slice(0, LOOKED_AT);
  // What lies before all that is looked at counts as full.
  const floor = near.length < taken.length ? Math.min(...near.map((a) => a.y)) : 0;
  const turned = [film, { width: film.height, height: film.width }].filter((f) => f.width <= width);
  const shapes = turned.length > 0 ? turned : [{ width, height: film.height }];
  const lefts = [0, ...near.map((a) => a.x + a.width)];
  const tops = [floor, ...near.map((a) => a.y + a.height)].filter((y) => y >= floor);
  let best: FilmArea | undefined;
  const rank = (a: FilmArea) => [usedLength([...near, a]), a.y + a.height, a.y, a.x];
  const before = (a: FilmArea, b: FilmArea) => {
    const [p, q] = [rank(a), rank(b)];
    const i = p.findIndex((n, k) => n !== q[k]);
    return i >= 0 && p[i]! < q[i]!;
  };
  for (const shape of shapes)
    for (const y of tops)
      for (const x of lefts) {
        const area = { x, y, ...shape };
        if (x + shape.width > width || !near.every((a) => apart(a, area))) continue;
        if (!best || before(area, best)) best = area;
      }
  // The last one cut ends somewhere: right behind it there is always room.
  return best!;
}
