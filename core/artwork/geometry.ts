import svgpath from 'svgpath';
import { Clipper, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import { artworkLimits } from './limits.ts';

/** x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
export const identity: Matrix = [1, 0, 0, 1, 0, 0];
export type Spot = { x: number; y: number };
/** Points of a line, and whether it returns to its start. */
export type Line = { points: Spot[]; closed: boolean };

/** First `inner`, then `outer`. */
export const times = (outer: Matrix, inner: Matrix): Matrix => {
  const [a, b, c, d, e, f] = outer;
  const [g, h, i, j, k, l] = inner;
  return [a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * l + e, b * k + d * l + f];
};
export const moved = ([a, b, c, d, e, f]: Matrix, { x, y }: Spot): Spot => ({
  x: a * x + c * y + e,
  y: b * x + d * y + f,
});
/** How lengths grow on the whole: the root of how areas grow. */
export const growth = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));

/** The matrix of an SVG transform: where it takes the origin and both unit points. Nonsense leaves everything in its place. */
export function matrixOf(transform: string | undefined): Matrix {
  if (!transform) return identity;
  const ends: number[][] = [];
  svgpath('M0 0L1 0L0 1')
    .transform(transform.slice(0, 2000))
    .abs()
    .iterate((segment) => void ends.push(segment.slice(1) as number[]));
  const [o, x, y] = ends as [number, number][];
  const m: Matrix = [x![0] - o![0], x![1] - o![1], y![0] - o![0], y![1] - o![1], o![0], o![1]];
  return m.every(Number.isFinite) ? m : identity;
}

/** How many chords keep a curve within `tolerance`: from its second differences (|B″| ≤ 6·d for a cubic, error ≤ |B″|/8n²). */
const chords = (d: number, tolerance: number) =>
  Math.min(400, Math.max(1, Math.ceil(Math.sqrt((0.75 * d) / tolerance))));
const bend = (p: Spot, q: Spot, r: Spot) => Math.hypot(p.x - 2 * q.x + r.x, p.y - 2 * q.y + r.y);

/** No point of a drawing lies further out, in its own units. */
const FAR = 1e9;
/** Dashes of a line, at most: its rest stays whole. */
const DASHES = artworkLimits.dashes;

/** Path data as lines of points, curves replaced by chords that leave them by `tolerance` at most. Broken path data ends where it breaks. */
export function flatten(d: string, tolerance: number): Line[] {
  const lines: Line[] = [];
  let now: Line | undefined;
  let at: Spot = { x: 0, y: 0 };
  const to = (p: Spot) => {
    if (!now) lines.push((now = { points: [at], closed: false }));
    now.points.push(p);
    at = p;
  };
  svgpath(d)
    .abs()
    .unshort()
    .unarc()
    .iterate((segment) => {
      const [command, ...n] = segment as [string, ...number[]];
      // What lies a thousand kilometres away is no drawing: a number that was broken on the way.
      if (!n.every((v) => Math.abs(v) <= FAR)) return;
      switch (command) {
        case 'M':
          at = { x: n[0]!, y: n[1]! };
          now = undefined;
          break;
        case 'L':
          to({ x: n[0]!, y: n[1]! });
          break;
        case 'H':
          to({ x: n[0]!, y: at.y });
          break;
        case 'V':
          to({ x: at.x, y: n[0]! });
          break;
        case 'Q': {
          const [p, q, r] = [at, { x: n[0]!, y: n[1]! }, { x: n[2]!, y: n[3]! }];
          const count = chords((bend(p, q, r) / 3) * 2, tolerance);
          for (let i = 1; i <= count; i++) {
            const t = i / count;
            const [u, v, w] = [(1 - t) ** 2, 2 * t * (1 - t), t * t];
            to({ x: u * p.x + v * q.x + w * r.x, y: u * p.y + v * q.y + w * r.y });
          }
          break;
        }
        case 'C': {
          const [p, q, r, s] = [at, { x: n[0]!, y: n[1]! }, { x: n[2]!, y: n[3]! }, { x: n[4]!, y: n[5]! }];
          const count = chords(Math.max(bend(p, q, r), bend(q, r, s)), tolerance);
          for (let i = 1; i <= count; i++) {
            const t = i / count;
            const [a, b, c, e] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
            to({ x: a * p.x + b * q.x + c * r.x + e * s.x, y: a * p.y + b * q.y + c * r.y + e * s.y });
          }
          break;
        }
        case 'Z':
        case 'z':
          if (now) {
            now.closed = true;
            at = now.points[0]!;
          }
          now = undefined;
      }
    });
  return lines;
}

/** Cuts lines into dashes. Lengths in the units of the points. Source: SVG 1.1, 11.4: the pattern starts anew with each line. */
export function dashed(lines: readonly Line[], pattern: readonly number[], offset: number): Line[] {
  const whole = pattern.reduce((s, n) => s + n, 0);
  if (pattern.length === 0 || !(whole > 0) || pattern.some((n) => n < 0)) return [...lines];
  const cycle = pattern.length % 2 === 1 ? [...pattern, ...pattern] : pattern;
  const round = cycle.reduce((s, n) => s + n, 0);
  const found: Line[] = [];
  for (const { points, closed } of lines) {
    let left = ((offset % round) + round) % round;
    let i = 0;
    while (left >= cycle[i]!) left -= cycle[i++ % cycle.length]!;
    left = cycle[i]! - left;
    let dash: Spot[] | undefined = i % 2 === 0 ? [points[0]!] : undefined;
    const first = dash && closed ? found.length : undefined;
    const way = closed ? [...points, points[0]!] : points;
    for (let k = 1; k < way.length && found.length < DASHES; k++) {
      let from = way[k - 1]!;
      const to = way[k]!;
      let far = Math.hypot(to.x - from.x, to.y - from.y);
      while (far > left && found.length < DASHES) {
        const t = left / far;
        const stop = { x: from.x + (to.x - from.x) * t, y: from.y + (to.y - from.y) * t };
        if (dash) found.push({ points: [...dash, stop], closed: false });
        dash = dash ? undefined : [stop];
        far -= left;
        from = stop;
        i = (i + 1) % cycle.length;
        left = cycle[i]!;
        // A pattern of nothing but gaps of no length would go on for ever.
        if (left === 0 && round < far / DASHES) break;
      }
      left -= far;
      dash?.push(to);
    }
    if (!dash || dash.length < 2) continue;
    // Where a closed line ends within a dash and began with one, both are one dash with a join between them, as browsers draw it.
    const begun = first === undefined ? undefined : found[first];
    if (begun) begun.points = [...dash, ...begun.points.slice(1)];
    else found.push({ points: dash, closed: false });
  }
  return found;
}

/** How many dashes a pattern makes of lines; Infinity where it is all nothing. Lengths in the units of the points. */
export function dashCount(lines: readonly Line[], pattern: readonly number[]): number {
  const whole = pattern.reduce((s, n) => s + n, 0) * (pattern.length % 2 === 1 ? 2 : 1);
  const each = Math.ceil(pattern.length / (pattern.length % 2 === 1 ? 1 : 2));
  return lines.reduce((n, line) => n + (each * lengthOfLine(line)) / whole, 0);
}

function lengthOfLine({ points, closed }: Line): number {
  let sum = 0;
  for (let i = closed ? 0 : 1; i < points.length; i++) {
    const [a, b] = [points[(i || points.length) - 1]!, points[i]!];
    sum += Math.hypot(b.x - a.x, b.y - a.y);
  }
  return sum;
}

export type StrokeStyle = { width: number; join: string; cap: string; miter: number };

/** A turn less than this is part of a curve: its bevel is as good as its mitre. Radians. */
const CURVE = 0.1;

/**
 * The wedges that mitres add to bevels: at every turn whose mitre is no longer than `limit` pen widths. A longer one stays a bevel, as SVG
 * wants it (SVG 1.1, 11.4); the offsetting library would cut it off square.
 */
function mitres({ points, closed }: Line, width: number, limit: number): Paths64 {
  const way = points.filter((p, i) => i === 0 || p.x !== points[i - 1]!.x || p.y !== points[i - 1]!.y);
  const half = width / 2;
  const wedges: Paths64 = [];
  const n = way.length;
  for (let i = closed ? 0 : 1; i < (closed ? n : n - 1); i++) {
    const [a, b, c] = [way[(i - 1 + n) % n]!, way[i]!, way[(i + 1) % n]!];
    const [u, v] = [Math.hypot(b.x - a.x, b.y - a.y), Math.hypot(c.x - b.x, c.y - b.y)];
    if (u === 0 || v === 0) continue;
    const [ux, uy, vx, vy] = [(b.x - a.x) / u, (b.y - a.y) / u, (c.x - b.x) / v, (c.y - b.y) / v];
    const turn = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
    const long = 1 / Math.cos(turn / 2);
    if (Math.abs(turn) < CURVE || !(long <= limit)) continue;
    // Outside of the turn: to the right of the way where it turns left.
    const side = turn > 0 ? 1 : -1;
    const [px, py, qx, qy] = [uy * side, -ux * side, vy * side, -vx * side];
    const [mx, my] = [px + qx, py + qy];
    const m = Math.hypot(mx, my) || 1;
    const at = (dx: number, dy: number, r: number) => ({ x: Math.round(b.x + dx * r), y: Math.round(b.y + dy * r) });
    wedges.push([at(0, 0, 0), at(px, py, half), at(mx / m, my / m, half * long), at(qx, qy, half)]);
  }
  return wedges.map((w) => (Clipper.area(w) < 0 ? w.toReversed() : w));
}

/** What a pen of some width covers along lines. Whole units in, whole units out. */
export function stroked(lines: readonly Line[], { width, join, cap, miter }: StrokeStyle): Paths64 {
  const joins: Record<string, JoinType> = { round: JoinType.Round, bevel: JoinType.Bevel };
  const caps: Record<string, EndType> = { round: EndType.Round, square: EndType.Square };
  const covered: Paths64 = [];
  for (const { points, closed } of lines) {
    const path = points.map(({ x, y }) => ({ x: Math.round(x), y: Math.round(y) }));
    covered.push(
      ...Clipper.inflatePaths(
        [path],
        width / 2,
        joins[join] ?? JoinType.Bevel,
        closed ? EndType.Joined : (caps[cap] ?? EndType.Butt),
        2,
        Math.max(1, width / 400),
      ),
    );
    if (joins[join] === undefined) covered.push(...mitres({ points: path, closed }, width, miter));
  }
  return Clipper.union(covered, FillRule.NonZero);
}
