import { Clipper, EndType, JoinType, type Paths64 } from 'clipper2-ts';
import { piecesOf } from './pieces.ts';
import { toPaths, toRings, type Ring } from './rings.ts';
import { SegmentGrid } from './segmentGrid.ts';

export const outlineDefaults = {
  /** No outline is thinner where one is wanted: 0.1 in. Common practice, no source. */
  usual: 2_540,
  /** How far the chords of an offset may leave its arcs, µm. */
  arc: 10,
  /** A joint is walked in so many steps. */
  steps: 40,
  /** Other ways to join are looked for so often. */
  swaps: 24,
};

/** A place where an outline joins two pieces of film. µm. */
export type Joint = { x: number; y: number; width: number };

export type LeastOutline = {
  /** The least round offset, µm; 0 where the film is in so many pieces already and nowhere too thin. */
  radius: number;
  /** Half the longest gap that has to be bridged, µm: where an outline of this width just touches. */
  touching: number;
  /** The places that decide: where it joins last, or is thinnest. */
  joints: Joint[];
  /** The outline itself. */
  rings: Ring[];
};

type Edge = { a: number; b: number; distance: number; from: readonly [number, number]; to: readonly [number, number] };

/** The root of a set in a forest. */
const rootOf = (parent: Int32Array, i: number): number => {
  while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
  return i;
};

/**
 * The minimum spanning tree of pieces by their distances. Each round joins every set of pieces to the nearest other one.
 * Source: Borůvka, O jistém problému minimálním, Práce Mor. Přírodověd. Spol. 3 (1926).
 */
function spanningTree(rings: readonly Ring[], of: Int32Array, count: number, grid: SegmentGrid): Edge[] {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const edges: Edge[] = [];
  for (let sets = count; sets > 1;) {
    const root = Int32Array.from(parent, (_, i) => rootOf(parent, i));
    const nearest = new Map<number, Edge>();
    const known = (set: number) => nearest.get(set)?.distance ?? Infinity;
    // From the corners of each set first: how near another one is at most.
    rings.forEach((ring, r) => {
      const own = root[of[r]!]!;
      const others = (other: number) => root[of[other]!] !== own;
      for (const [x, y] of ring) {
        const near = grid.nearest(x, y, Math.min(known(own), grid.reach), others);
        if (!near) continue;
        const distance = Math.hypot(near.x - x, near.y - y);
        const to = of[grid.ring[near.segment]!]!;
        const edge: Edge = { a: of[r]!, b: to, distance, from: [x, y], to: [near.x, near.y] };
        if (distance < known(own)) nearest.set(own, edge);
        if (distance < known(root[to]!)) nearest.set(root[to]!, edge);
      }
    });
    // Then from the corners of the others: what is nearest to a set may be a corner of something that has a nearer neighbour itself.
    const furthest = Math.max(...[...nearest.values()].map((e) => e.distance));
    rings.forEach((ring, r) => {
      const own = root[of[r]!]!;
      for (const [x, y] of ring)
        grid.near(x, y, furthest, (segment, px, py, distance) => {
          const to = of[grid.ring[segment]!]!;
          if (root[to] === own || distance >= known(root[to]!)) return;
          nearest.set(root[to]!, { a: of[r]!, b: to, distance, from: [x, y], to: [px, py] });
        });
    });
    if (nearest.size === 0) break;
    for (const edge of [...nearest.values()].sort((p, q) => p.distance - q.distance)) {
      const [a, b] = [rootOf(parent, edge.a), rootOf(parent, edge.b)];
      if (a === b) continue;
      parent[a] = b;
      edges.push(edge);
      sets--;
    }
  }
  return edges;
}

/**
 * The least offset at which a gap between two pieces is bridged by a joint of some width: from the middle of the gap along the line that is as
 * far from either piece, always on the side that is nearer, until the two ends are that far apart. How far the last end is from the pieces is
 * the offset. Between two tips this is √((d/2)² + (line/2)²); between two long edges it is d/2.
 */
function bridged(edge: Edge, line: number, of: Int32Array, grid: SegmentGrid): number {
  const { from, to, distance } = edge;
  if (line <= 0 || distance === 0) return distance / 2;
  const most = Math.hypot(distance, line) / 2;
  const sides = [edge.a, edge.b].map((piece) => (ring: number) => of[ring] === piece);
  const middle: [number, number] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const [ux, uy] = [(to[0] - from[0]) / distance, (to[1] - from[1]) / distance];
  const step = line / outlineDefaults.steps;
  /** A point moved onto the line that is as far from either piece, with how far that is. */
  const settle = (x: number, y: number) => {
    for (let turn = 0; ; turn++) {
      const [p, q] = sides.map((side) => grid.nearest(x, y, 2 * most + 2 * line, side));
      if (!p || !q) return undefined;
      const [dp, dq] = [Math.hypot(p.x - x, p.y - y), Math.hypot(q.x - x, q.y - y)];
      if (turn === 3 || Math.abs(dp - dq) < 1) return { x, y, far: Math.max(dp, dq) };
      const [nx, ny] = [(q.x - x) / (dq || 1) - (p.x - x) / (dp || 1), (q.y - y) / (dq || 1) - (p.y - y) / (dp || 1)];
      const n = nx * nx + ny * ny || 1;
      [x, y] = [x - (nx * (dp - dq)) / n, y - (ny * (dp - dq)) / n];
    }
  };
  type End = { x: number; y: number; dx: number; dy: number; far: number };
  const ends: End[] = [-1, 1].map((s) => ({ x: middle[0], y: middle[1], dx: -uy * s, dy: ux * s, far: distance / 2 }));
  const ahead = ends.map((e) => settle(e.x + e.dx * step, e.y + e.dy * step));
  let radius = distance / 2;
  for (let i = 0; i < 4 * outlineDefaults.steps; i++) {
    const width = Math.hypot(ends[1]!.x - ends[0]!.x, ends[1]!.y - ends[0]!.y);
    if (width >= line) return Math.min(most, radius);
    const side = (ahead[0]?.far ?? Infinity) <= (ahead[1]?.far ?? Infinity) ? 0 : 1;
    const [end, next] = [ends[side]!, ahead[side]];
    if (!next) break;
    const moved = Math.hypot(next.x - end.x, next.y - end.y) || 1;
    radius = Math.max(radius, next.far);
    ends[side] = { ...next, dx: (next.x - end.x) / moved, dy: (next.y - end.y) / moved };
    ahead[side] = settle(next.x + ends[side].dx * step, next.y + ends[side].dy * step);
  }
  return most;
}

/** The nearest pairs of pieces of which one lies in a set and the other does not, closer than `within`: the nearest place of each pair. */
function across(
  rings: readonly Ring[],
  of: Int32Array,
  grid: SegmentGrid,
  inside: (piece: number) => boolean,
  within: number,
): Edge[] {
  const found = new Map<string, Edge>();
  rings.forEach((ring, r) => {
    const own = of[r]!;
    const side = inside(own);
    const others = (other: number) => inside(of[other]!) !== side;
    for (const [x, y] of ring) {
      const near = grid.nearest(x, y, within, others);
      if (!near) continue;
      const distance = Math.hypot(near.x - x, near.y - y);
      const other = of[grid.ring[near.segment]!]!;
      const key = own < other ? `${own} ${other}` : `${other} ${own}`;
      if (distance < (found.get(key)?.distance ?? Infinity))
        found.set(key, { a: own, b: other, distance, from: [x, y], to: [near.x, near.y] });
    }
  });
  return [...found.values()].sort((p, q) => p.distance - q.distance).slice(0, 60);
}

const inflate = (paths: Paths64, by: number, join: JoinType): Paths64 =>
  Clipper.inflatePaths(paths, by, join, EndType.Polygon, 2, outlineDefaults.arc);

/** Outlines as whole micrometres at a size. */
export const scaled = (rings: readonly Ring[], um: number): Ring[] =>
  rings.map((ring) => ring.map(([x, y]) => [Math.round(x * um), Math.round(y * um)] as const));

/** Pieces that stay when everything thinner than a line is taken away. */
const strongPieces = (paths: Paths64, line: number): number =>
  inflate(paths, -line / 2, JoinType.Round).filter((p) => Clipper.area(p) > 0).length;

/**
 * The thinnest round outline that leaves film in one piece, or in so many, with no joint thinner than the vinyl's least line.
 *
 * Without that line it is half the longest edge of the minimum spanning tree of the pieces' distances (in n pieces: half the n-th longest).
 * A joint of a width asks for more: each edge that may decide is walked out to that width (`bridged`), and where another pair of pieces joins
 * the same two sides more cheaply, that pair is taken instead (the cut property of spanning trees).
 *
 * @param rings outlines, µm; pieces with positive area, holes with negative
 * @param line the least line of the vinyl, µm
 * @param thin how thin film is at its own narrow places, µm: an outline thickens it on both sides
 * @param pieces how many pieces may be left
 * @throws RangeError for a number of pieces that is none
 * @example leastOutline([[[0, 0], [9, 0], [9, 9], [0, 9]], [[13, 0], [22, 0], [22, 9], [13, 9]]], 0).touching // 2
 */
export function leastOutline(
  rings: readonly Ring[],
  line: number,
  thin: readonly Joint[] = [],
  pieces = 1,
): LeastOutline {
  if (!Number.isInteger(pieces) || pieces < 1) throw new RangeError(`an outline in ${pieces} pieces is none`);
  const { of, count } = piecesOf(rings);
  const tooThin = thin.filter((t) => t.width < line);
  const thickened = tooThin.reduce((m, t) => Math.max(m, (line - t.width) / 2), 0);
  const grid = new SegmentGrid(rings, cellFor(rings));
  const edges = count > pieces ? spanningTree(rings, of, count, grid) : [];
  edges.sort((a, b) => b.distance - a.distance);
  // Those that stay open: the longest, one fewer than the pieces that are left.
  const open = edges.slice(0, pieces - 1);
  let tree = edges.slice(pieces - 1).map((edge) => ({ edge, radius: edge.distance / 2 }));
  const touching = tree[0]?.radius ?? 0;
  for (const t of tree)
    if (Math.hypot(t.edge.distance, line) / 2 > touching) t.radius = bridged(t.edge, line, of, grid);
  tree = tree.sort((a, b) => b.radius - a.radius);
  if (open.length === 0)
    for (let swap = 0; swap < outlineDefaults.swaps && tree.length > 0 && tree[0]!.radius > touching; swap++) {
      const better = elsewhere(tree, line, rings, of, count, grid);
      if (!better) break;
      tree = [better, ...tree.slice(1)].sort((a, b) => b.radius - a.radius);
    }
  const joins = tree[0]?.radius ?? 0;
  let radius = Math.max(joins, thickened);
  const paths = toPaths(rings);
  let rim = radius > 0 ? inflate(paths, radius, JoinType.Round) : paths;
  // What was walked step by step is looked at as a whole: an outline that is a hair too thin is widened by that hair.
  for (let tries = 0; tries < 3 && radius > 0 && strongPieces(rim, line - 4 * outlineDefaults.arc) > pieces; tries++) {
    radius += 2 * outlineDefaults.arc;
    rim = inflate(paths, radius, JoinType.Round);
  }
  const deciding = [
    ...tree
      .filter((t) => t.radius > 0 && t.radius >= radius - 5 * outlineDefaults.arc)
      .map(({ edge: { from, to } }) => ({
        x: Math.round((from[0] + to[0]) / 2),
        y: Math.round((from[1] + to[1]) / 2),
        width: line,
      })),
    ...tooThin
      .filter((t) => (line - t.width) / 2 >= radius - 5 * outlineDefaults.arc)
      .map((t) => ({ ...t, width: line })),
  ];
  return {
    radius: Math.round(radius),
    touching: Math.round(touching),
    joints: deciding.slice(0, 50),
    rings: toRings(rim),
  };
}

/** A pair that joins what the dearest edge of a tree joins, at less. */
function elsewhere(
  tree: readonly { edge: Edge; radius: number }[],
  line: number,
  rings: readonly Ring[],
  of: Int32Array,
  count: number,
  grid: SegmentGrid,
) {
  const [dearest, ...rest] = tree;
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  for (const { edge } of rest) parent[rootOf(parent, edge.a)] = rootOf(parent, edge.b);
  const side = rootOf(parent, dearest!.edge.a);
  let best = dearest!;
  for (const edge of across(rings, of, grid, (p) => rootOf(parent, p) === side, 2 * dearest!.radius)) {
    if (edge.distance / 2 >= best.radius) break;
    const radius = bridged(edge, line, of, grid);
    if (radius < best.radius - 1) best = { edge, radius };
  }
  return best === dearest ? undefined : best;
}

/** Squares of a grid about as large as the segments in it are long. */
function cellFor(rings: readonly Ring[]): number {
  let [length, segments] = [0, 0];
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!];
      length += Math.hypot(q[0] - p[0], q[1] - p[1]);
      segments++;
    }
  return Math.max(200, (2 * length) / Math.max(1, segments));
}

/**
 * The thinnest outline with mitred corners that does the same, by bisection below the round one, to a hundredth of a millimetre: corners
 * that reach out may join sooner.
 */
export function leastMitred(rings: readonly Ring[], line: number, round: number, pieces = 1): number {
  const paths = toPaths(rings);
  const enough = (by: number) => {
    const rim = inflate(paths, by, JoinType.Miter);
    return (
      rim.filter((p) => Clipper.area(p) > 0).length <= pieces &&
      strongPieces(rim, line - 4 * outlineDefaults.arc) <= pieces
    );
  };
  let [low, high] = [0, round];
  if (round === 0 || !enough(round)) return round;
  while (high - low > outlineDefaults.arc) {
    const by = (low + high) / 2;
    if (enough(by)) high = by;
    else low = by;
  }
  return Math.round(high);
}
