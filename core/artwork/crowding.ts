import type { Line } from './geometry.ts';

const crowdingDefaults = {
  /** Looks at pairs of lines and steps through squares that counting may take: about a quarter of a second. */
  work: 20_000_000,
  /** Squares along a side, at most. */
  squares: 512,
};

/** Ends of straight pieces, four numbers each: ax, ay, bx, by. */
export type Segments = Float64Array;

/** The straight pieces of lines; what is filled returns to its start whether the line says so or not. */
export function segmentsOf(lines: readonly Line[], filled: boolean): Segments {
  const count = lines.reduce((n, { points, closed }) => n + points.length - (closed || filled ? 0 : 1), 0);
  const ends = new Float64Array(4 * count);
  let at = 0;
  for (const { points, closed } of lines) {
    const last = closed || filled ? points.length : points.length - 1;
    for (let i = 0; i < last; i++) {
      const [a, b] = [points[i]!, points[(i + 1) % points.length]!];
      ends.set([a.x, a.y, b.x, b.y], at);
      at += 4;
    }
  }
  return ends;
}

/** The edges of the rectangles that a pen of some width covers along straight pieces: about the outline it is joined from. */
export function edgesOfPen(segments: Segments, width: number): Segments {
  const edges = new Float64Array(4 * segments.length);
  for (let i = 0; i < segments.length; i += 4) {
    const [ax, ay, bx, by] = segments.subarray(i, i + 4) as unknown as [number, number, number, number];
    const long = Math.hypot(bx - ax, by - ay) || 1;
    const [nx, ny] = [(-(by - ay) / long) * (width / 2), ((bx - ax) / long) * (width / 2)];
    const corners = [ax + nx, ay + ny, bx + nx, by + ny, bx - nx, by - ny, ax - nx, ay - ny];
    for (let k = 0; k < 4; k++)
      edges.set(
        [corners[2 * k]!, corners[2 * k + 1]!, corners[(2 * k + 2) % 8]!, corners[(2 * k + 3) % 8]!],
        4 * i + 4 * k,
      );
  }
  return edges;
}

/**
 * How often straight pieces cross one another: what joining them to outlines costs, known before they are joined. Counted square by square of
 * a grid; a crossing belongs to the square it lies in. Pieces that share an end do not cross there.
 *
 * @param most counting stops beyond it
 * @returns the count; Infinity where there are more than `most`, or the lines lie so close that counting them is too much already
 */
export function crossingCount(segments: Segments, most: number): number {
  const n = segments.length / 4;
  if (n < 2) return 0;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < segments.length; i += 2) {
    left = Math.min(left, segments[i]!);
    right = Math.max(right, segments[i]!);
    top = Math.min(top, segments[i + 1]!);
    bottom = Math.max(bottom, segments[i + 1]!);
  }
  const side = Math.max(1, Math.min(crowdingDefaults.squares, Math.ceil(Math.sqrt(n))));
  const [w, h] = [(right - left) / side || 1, (bottom - top) / side || 1];
  const column = (x: number) => Math.max(0, Math.min(side - 1, Math.floor((x - left) / w)));
  const row = (y: number) => Math.max(0, Math.min(side - 1, Math.floor((y - top) / h)));
  const squares: number[][] = Array.from({ length: side * side }, () => []);
  let work = 0;
  for (let s = 0; s < n; s++) {
    const [ax, ay, bx, by] = segments.subarray(4 * s, 4 * s + 4) as unknown as [number, number, number, number];
    // Row by row, the columns it runs through in that row.
    const [from, to] = [row(Math.min(ay, by)), row(Math.max(ay, by))];
    for (let j = from; j <= to; j++) {
      const [y0, y1] = [top + j * h, top + (j + 1) * h];
      const xAt = (y: number) => (by === ay ? ax : ax + ((bx - ax) * (y - ay)) / (by - ay));
      const within = (y: number) => Math.max(Math.min(ay, by), Math.min(Math.max(ay, by), y));
      const [p, q] = by === ay ? [ax, bx] : [xAt(within(y0)), xAt(within(y1))];
      for (let i = column(Math.min(p, q)); i <= column(Math.max(p, q)); i++) {
        squares[j * side + i]!.push(s);
        if (++work > crowdingDefaults.work) return Infinity;
      }
    }
  }
  let found = 0;
  for (let square = 0; square < squares.length; square++) {
    const held = squares[square]!;
    work += (held.length * (held.length - 1)) / 2;
    if (work > crowdingDefaults.work) return Infinity;
    for (let a = 0; a < held.length; a++)
      for (let b = a + 1; b < held.length; b++) {
        const at = crossing(segments, 4 * held[a]!, 4 * held[b]!);
        if (at && row(at.y) * side + column(at.x) === square && ++found > most) return Infinity;
      }
  }
  return found;
}

/** Where two straight pieces cross, ends left out. */
function crossing(s: Segments, a: number, b: number): { x: number; y: number } | undefined {
  const [ux, uy] = [s[a + 2]! - s[a]!, s[a + 3]! - s[a + 1]!];
  const [vx, vy] = [s[b + 2]! - s[b]!, s[b + 3]! - s[b + 1]!];
  const cross = ux * vy - uy * vx;
  if (cross === 0) return undefined;
  const [dx, dy] = [s[b]! - s[a]!, s[b + 1]! - s[a + 1]!];
  const t = (dx * vy - dy * vx) / cross;
  const r = (dx * uy - dy * ux) / cross;
  const end = 1e-9;
  return t > end && t < 1 - end && r > end && r < 1 - end ? { x: s[a]! + t * ux, y: s[a + 1]! + t * uy } : undefined;
}

/**
 * What sweeping over straight pieces from top to bottom costs: at every height where one of them ends, all that run past it are looked at.
 * Vatti's sweep, by which outlines are joined, does this much at least (Vatti, Communications of the ACM 35 (1992)).
 */
export function sweepCost(segments: Segments): number {
  const heights = Float64Array.from({ length: segments.length / 2 }, (_, i) => segments[2 * i + 1]!).sort();
  let n = 0;
  for (let i = 0; i < heights.length; i++) if (i === 0 || heights[i] !== heights[n - 1]) heights[n++] = heights[i]!;
  const place = (y: number) => {
    let [low, high] = [0, n];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (heights[middle]! < y) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  let cost = 0;
  for (let i = 0; i < segments.length; i += 4) cost += Math.abs(place(segments[i + 3]!) - place(segments[i + 1]!));
  return cost;
}
