import { Clipper, EndType, JoinType } from 'clipper2-ts';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { leastMitred, leastOutline } from './outline.ts';
import { piecesOf } from './pieces.ts';
import type { Ring } from './rings.ts';

const mm = (n: number) => Math.round(n * 1000);
const square = (x: number, y: number, side: number): Ring => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];
const circle = (x: number, y: number, r: number, n = 400): Ring =>
  Array.from({ length: n }, (_, i) => [
    Math.round(x + r * Math.cos((2 * Math.PI * i) / n)),
    Math.round(y + r * Math.sin((2 * Math.PI * i) / n)),
  ]);
const hole = (ring: Ring): Ring => ring.toReversed();
const pieces = (rings: readonly Ring[], by: number) =>
  Clipper.inflatePaths(
    rings.map((r) => r.map(([x, y]) => ({ x, y }))),
    by,
    JoinType.Round,
    EndType.Polygon,
    2,
    2,
  ).filter((p) => Clipper.area(p) > 0).length;

describe('the thinnest outline', () => {
  test('of what is in one piece already is none', () => {
    const ring = [circle(0, 0, mm(20)), hole(circle(0, 0, mm(15)))];
    expect(leastOutline(ring, mm(1))).toMatchObject({ radius: 0, touching: 0, joints: [] });
    expect(leastOutline([square(0, 0, mm(10)), square(mm(14), 0, mm(10))], mm(1), [], 2).radius).toBe(0);
  });
  test('between two long edges it is half the gap', () => {
    const least = leastOutline([square(0, 0, mm(10)), square(mm(14), 0, mm(10))], mm(1));
    expect(least.touching).toBe(mm(2));
    expect(Math.abs(least.radius - mm(2))).toBeLessThan(30);
    expect(least.joints).toHaveLength(1);
    expect(least.joints[0]!.x).toBe(mm(12));
    expect(least.rings.length).toBe(1);
  });
  test('between two tips a joint of a line’s width asks for √((d/2)² + (line/2)²)', () => {
    const tip = (x: number, s: number): Ring => {
      const ring: Ring = [
        [x, 0],
        [x + s * mm(30), mm(2)],
        [x + s * mm(30), -mm(2)],
      ];
      return s > 0 ? ring.toReversed() : ring;
    };
    for (const [d, line] of [
      [2, 1],
      [1, 2],
      [6, 1],
    ] as const) {
      const shapes = [tip(0, -1), tip(mm(d), 1)].map((r) =>
        Clipper.area(r.map(([x, y]) => ({ x, y }))) > 0 ? r : hole(r),
      );
      const wanted = Math.hypot(mm(d), mm(line)) / 2;
      expect(Math.abs(leastOutline(shapes, mm(line)).radius - wanted), `${d} ${line}`).toBeLessThan(60);
    }
  });
  test('between two circles: their offsets overlap by a lens as wide as the line', () => {
    for (const [r, d, line] of [
      [10, 3, 1],
      [5, 2, 2],
      [20, 1, 3],
    ] as const) {
      const shapes = [circle(0, 0, mm(r)), circle(mm(2 * r + d), 0, mm(r))];
      // (R + least)² = (R + d/2)² + (line/2)².
      const wanted = Math.hypot(mm(r + d / 2), mm(line / 2)) - mm(r);
      expect(Math.abs(leastOutline(shapes, mm(line)).radius - wanted), `${r} ${d} ${line}`).toBeLessThan(40);
    }
  });
  test('a pair that is a little further apart but joins broadly is taken instead of two tips', () => {
    // A large plate, and a bar before it that comes nearest with a thin spike at one end.
    const plate = square(0, 0, mm(60));
    const bar: Ring = [
      [mm(62.2), 0],
      [mm(70), 0],
      [mm(70), mm(60)],
      [mm(62.2), mm(60)],
      [mm(62.2), mm(40)],
      [mm(62), mm(39.9)],
      [mm(62.2), mm(39.8)],
    ];
    expect(leastOutline([plate, bar], mm(3)).radius).toBeLessThan(mm(1.5));
  });
  test('film that is too thin by itself is thickened on both sides', () => {
    const least = leastOutline([square(0, 0, mm(10))], mm(1), [{ x: 0, y: 0, width: 400 }]);
    expect(least.radius).toBe(300);
    expect(least.joints).toEqual([{ x: 0, y: 0, width: mm(1) }]);
  });
  test('an island in a hole is a piece of its own', () => {
    const rings = [circle(0, 0, mm(30)), hole(circle(0, 0, mm(20))), circle(0, 0, mm(10))];
    expect(piecesOf(rings).count).toBe(2);
    expect(Math.abs(leastOutline(rings, mm(1)).radius - mm(5))).toBeLessThan(60);
  });
  test('mitred corners join no later than round ones', () => {
    const rings = [square(0, 0, mm(10)), square(mm(13), mm(13), mm(10))];
    const round = leastOutline(rings, mm(1)).radius;
    const mitred = leastMitred(rings, mm(1), round);
    expect(mitred).toBeLessThan(0.9 * round);
    expect(mitred).toBeGreaterThan(mm(1.5));
  });
  test('a number of pieces that is none is refused', () =>
    expect(() => leastOutline([square(0, 0, 10)], 1, [], 0)).toThrow(RangeError));
});

/** Distance of two outlines, by looking at every pair of their edges. */
function apart(a: Ring, b: Ring): number {
  const toEdge = ([x, y]: readonly [number, number], [ax, ay]: Ring[number], [bx, by]: Ring[number]) => {
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    return Math.hypot(x - ax - t * dx, y - ay - t * dy);
  };
  let least = Infinity;
  for (let i = 0; i < a.length; i++)
    for (let j = 0; j < b.length; j++)
      least = Math.min(
        least,
        toEdge(a[i]!, b[j]!, b[(j + 1) % b.length]!),
        toEdge(b[j]!, a[i]!, a[(i + 1) % a.length]!),
      );
  return least;
}

/** All distances, shortest first, joined where they join something (Kruskal): the edges of the spanning tree, longest first. */
function treeByForce(rings: readonly Ring[]): number[] {
  const pairs = rings.flatMap((a, i) => rings.slice(i + 1).map((b, k) => ({ i, j: i + 1 + k, d: apart(a, b) })));
  const set = rings.map((_, i) => i);
  const taken: number[] = [];
  for (const { i, j, d } of pairs.sort((p, q) => p.d - q.d)) {
    if (set[i] === set[j]) continue;
    const [from, to] = [set[i]!, set[j]!];
    set.forEach((s, k) => s === from && (set[k] = to));
    taken.push(d);
  }
  return taken.reverse();
}

// Kruskal, On the shortest spanning subtree of a graph and the traveling salesman problem, Proc. AMS 7 (1956).
test('just touching is half the longest edge of the spanning tree, for n pieces half the n-th: 200 random sets by force', () => {
  const random = seededRandom(11);
  const between = (a: number, b: number) => a + (b - a) * random.uniform();
  for (let set = 0; set < 200; set++) {
    const rings: Ring[] = [];
    const n = 2 + Math.floor(between(0, 7));
    while (rings.length < n) {
      const [x, y, r] = [between(0, mm(120)), between(0, mm(120)), between(mm(2), mm(9))];
      const corners = 3 + Math.floor(between(0, 6));
      const ring = Array.from({ length: corners }, (_, i): [number, number] => {
        const angle = ((i + between(0, 0.8)) * 2 * Math.PI) / corners;
        return [Math.round(x + r * Math.cos(angle)), Math.round(y + r * Math.sin(angle))];
      });
      if (Clipper.area(ring.map(([a, b]) => ({ x: a, y: b }))) < mm(1) ** 2) continue;
      if (rings.every((o) => apart(o, ring) > 300 && pieces([o, ring], 1) === 2)) rings.push(ring);
    }
    const tree = treeByForce(rings);
    expect(Math.abs(leastOutline(rings, 0).touching - tree[0]! / 2)).toBeLessThanOrEqual(1);
    const left = 1 + Math.floor(between(0, n));
    expect(Math.abs(leastOutline(rings, 0, [], left).touching - (tree[left - 1] ?? 0) / 2)).toBeLessThanOrEqual(1);
    if (set % 10 > 0) continue;
    // The offset itself: in one piece a hair above, in more a hair below.
    const { radius } = leastOutline(rings, mm(1));
    expect(pieces(rings, radius)).toBe(1);
    expect(pieces(rings, tree[0]! / 2 - 15)).toBeGreaterThan(1);
  }
});
