import { piecesOf } from './pieces.ts';
import { boxOf, ringArea, type Ring } from './rings.ts';
import { SegmentGrid } from './segmentGrid.ts';

/** A place where film, or a gap in it, is narrow. Lengths in units of the drawing. */
export type Narrow = {
  /** Of the film, or of what is between it. */
  of: 'film' | 'gap';
  /** In the middle of it. */
  x: number;
  y: number;
  width: number;
  /** The way across it, degrees from the right downwards: the way along it is a quarter turn further. */
  across: number;
  /**
   * The width up to which it joins two wider stretches: a neck of film, or a gap between two wider ones. Wanted wider than this, everything
   * about it is as narrow: a stroke, a speck, a hole that closes.
   */
  rise: number;
};

/** A place, and the outline it was seen from. */
type Placed = Narrow & { ring: number };

const narrowDefaults = {
  /** Wider than this, units, nothing is asked for: 8 % of the longer side, 8 mm of a design 100 mm wide. */
  widest: 80_000,
  /** Points are looked at so far apart, units, further where an outline is very long. */
  spacing: 900,
  /** At most so many points. */
  most: 40_000,
  /** The two sides of a narrow place face each other, seen from its middle, by so many degrees at least: a corner does not. */
  facing: 115,
  /** Past its narrowest it widens by this share before it counts as a place of its own. */
  widens: 0.06,
  /** Two sides nearer than so many widths along the outline are the two sides of a tip. */
  tip: 3,
  /** At most so many places are kept, the narrowest. */
  kept: 400,
};

type Sample = {
  x: number;
  y: number;
  nx: number;
  ny: number;
  ring: number;
  /** How far along its ring, units. */
  along: number;
  /** Radius of the largest circle that touches here and lies inside. */
  r: number;
  /** Where that circle touches besides: ring, and how far along it; −1 where it touches nothing. */
  onRing: number;
  onAlong: number;
  facing: boolean;
};

/** Points along outlines with their normals to the left hand of the way, which is inside of pieces: sides, and fans at corners that reach in. */
function samplesOf(rings: readonly Ring[], spacing: number): Sample[] {
  const samples: Sample[] = [];
  const push = (x: number, y: number, nx: number, ny: number, ring: number, along: number) =>
    samples.push({ x, y, nx, ny, ring, along, r: 0, onRing: -1, onAlong: 0, facing: false });
  rings.forEach((points, ring) => {
    let along = 0;
    for (let i = 0; i < points.length; i++) {
      const [[ax, ay], [bx, by], [cx, cy]] = [
        points[i]!,
        points[(i + 1) % points.length]!,
        points[(i + 2) % points.length]!,
      ];
      const length = Math.hypot(bx - ax, by - ay) || 1;
      const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
      // An odd number, so that one is in the middle: on a chord of a curve only that sees the circle of the curve.
      const steps = 2 * Math.floor(length / spacing / 2) + 1;
      for (let s = 0; s < steps; s++) {
        const t = (s + 0.5) / steps;
        push(ax + (bx - ax) * t, ay + (by - ay) * t, nx, ny, ring, along + length * t);
      }
      along += length;
      // Where the outline turns away from the inside, the nearest opposite may lie before the corner itself.
      const after = Math.hypot(cx - bx, cy - by) || 1;
      const [mx, my] = [-(cy - by) / after, (cx - bx) / after];
      const turn = Math.atan2(nx * my - ny * mx, nx * mx + ny * my);
      if (turn < -0.12) {
        const fans = Math.ceil(-turn / 0.18);
        for (let f = 1; f < fans; f++) {
          const angle = Math.atan2(ny, nx) + (turn * f) / fans;
          push(bx, by, Math.cos(angle), Math.sin(angle), ring, along);
        }
      }
    }
  });
  return samples;
}

/**
 * The largest circle that touches at a sample and lies inside: one that is free is doubled, one that is not is shrunk to the nearest outline.
 * Source: Ma, Bae & Choi, 3D medial axis point approximation using nearest neighbors and the normal field, The Visual Computer 28 (2012).
 *
 * @param start a radius to begin with, that of the sample before
 */
function fitCircle(p: Sample, grid: SegmentGrid, widest: number, facing: number, start: number) {
  const hit = (r: number) => grid.nearest(p.x + p.nx * r, p.y + p.ny * r, r * (1 - 1e-6) - 0.5);
  let r = Math.min(widest / 2, Math.max(start, 50));
  let near = hit(r);
  while (!near && r < widest / 2) {
    r = Math.min(widest / 2, 2 * r);
    near = hit(r);
  }
  p.r = r;
  for (let turn = 0; near && turn < 40; turn++) {
    const [qx, qy] = [near.x - p.x, near.y - p.y];
    const ahead = qx * p.nx + qy * p.ny;
    if (ahead <= 0) break;
    const smaller = (qx * qx + qy * qy) / (2 * ahead);
    if (!(smaller < r)) break;
    r = smaller;
    p.r = r;
    p.onRing = grid.ring[near.segment]!;
    p.onAlong =
      grid.along[near.segment]! + Math.hypot(near.x - grid.ax[near.segment]!, near.y - grid.ay[near.segment]!);
    const [ux, uy] = [near.x - (p.x + p.nx * r), near.y - (p.y + p.ny * r)];
    const cos = -(ux * p.nx + uy * p.ny) / (Math.hypot(ux, uy) || 1);
    p.facing = Math.acos(Math.max(-1, Math.min(1, cos))) >= (facing * Math.PI) / 180;
    near = hit(r);
  }
}

/** Local minima of the radius round a ring that widen again by a share: sample, and the last before one side widens no more. */
function minimaOf(round: readonly Sample[], widens: number): Sample[][] {
  const n = round.length;
  if (n === 0) return [];
  const order = round.map((_, i) => i).sort((a, b) => round[a]!.r - round[b]!.r || a - b);
  const group = new Int32Array(n).fill(-1);
  const parent: number[] = [];
  const lowest: number[] = [];
  const found: number[] = [];
  const top = (g: number): number => {
    while (parent[g] !== g) g = parent[g] = parent[parent[g]!]!;
    return g;
  };
  for (const i of order) {
    const sides = [group[(i + 1) % n]!, group[(i - 1 + n) % n]!].filter((g) => g >= 0).map(top);
    const [a, b] = sides;
    if (a === undefined) {
      const g = parent.push(parent.length) - 1;
      lowest.push(i);
      group[i] = g;
    } else if (b === undefined || a === b) group[i] = a;
    else {
      // Two valleys meet here: the shallower one ends, a place of its own if it is deep enough.
      const [deep, shallow] = round[lowest[a]!]!.r <= round[lowest[b]!]!.r ? [a, b] : [b, a];
      if (round[i]!.r >= round[lowest[shallow]!]!.r * (1 + widens)) found.push(lowest[shallow]!);
      parent[shallow] = deep;
      group[i] = deep;
    }
  }
  const last = top(group[order[0]!]!);
  found.push(lowest[last]!);
  return found.map((i) => along(round, i));
}

/** Of a stretch that stays as narrow: its middle, and a quarter from either end. An arm that ends blind has its end in the middle. */
function along(round: readonly Sample[], i: number): Sample[] {
  const n = round.length;
  const flat = (j: number) => round[((j % n) + n) % n]!.r <= round[i]!.r * 1.01;
  let [from, to] = [i, i];
  while (to - from < n - 1 && flat(from - 1)) from--;
  while (to - from < n - 1 && flat(to + 1)) to++;
  return [0.5, 0.25, 0.75].map((share) => round[((Math.round(from + (to - from) * share) % n) + n) % n]!);
}

const acrossOf = (p: Sample): number => Math.round((Math.atan2(p.ny, p.nx) * 180) / Math.PI);

/** Places found so far, in squares: whether one is known already is asked for each. */
class Places {
  readonly all: Placed[] = [];
  private readonly order = new Map<Placed, number>();
  private readonly squares = new Map<number, number[]>();
  private readonly square = 8_000;

  private key(x: number, y: number): number {
    return Math.floor(x / this.square) * 65_536 + Math.floor(y / this.square);
  }

  private hold(n: number): void {
    const { x, y } = this.all[n]!;
    const key = this.key(x, y);
    const held = this.squares.get(key);
    if (held) held.push(n);
    else this.squares.set(key, [n]);
  }

  add(place: Placed): void {
    const n = this.all.push(place) - 1;
    this.order.set(place, n);
    this.hold(n);
  }

  move(place: Placed, to: Pick<Placed, 'x' | 'y' | 'width' | 'across'>): void {
    const n = this.order.get(place)!;
    const key = this.key(place.x, place.y);
    this.squares.set(
      key,
      this.squares.get(key)!.filter((m) => m !== n),
    );
    Object.assign(place, to);
    this.hold(n);
  }

  /** The first place that is the same as one of a width here: nearer than most of the narrower of the two. */
  nearBy(x: number, y: number, width: number): Placed | undefined {
    const reach = Math.max(1500, 0.7 * width);
    let first = Infinity;
    for (let i = x - reach; ; i = Math.min(x + reach, i + this.square)) {
      for (let j = y - reach; ; j = Math.min(y + reach, j + this.square)) {
        for (const n of this.squares.get(this.key(i, j)) ?? []) {
          const o = this.all[n]!;
          if (n < first && Math.hypot(o.x - x, o.y - y) < Math.max(1500, 0.7 * Math.min(width, o.width))) first = n;
        }
        if (j >= y + reach) break;
      }
      if (i >= x + reach) break;
    }
    return this.all[first];
  }
}

/** The largest of values[a] … values[b − 1] for any a and b, 0 of none: two overlapping powers of two, looked up. */
function rangeMaximum(values: readonly number[]): (a: number, b: number) => number {
  const levels = [values];
  for (let step = 1; 2 * step <= values.length; step *= 2) {
    const below = levels.at(-1)!;
    levels.push(Array.from({ length: below.length - step }, (_, i) => Math.max(below[i]!, below[i + step]!)));
  }
  return (a, b) => {
    if (b <= a) return 0;
    const level = 31 - Math.clz32(b - a);
    return Math.max(levels[level]![a]!, levels[level]![b - 2 ** level]!);
  };
}

/** The first of some samples, in their order, that lies as far along as said, or further. */
function lowerBound(samples: readonly Sample[], along: number): number {
  let [low, high] = [0, samples.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (samples[middle]!.along < along) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A square of the grid: about as many squares as segments, but no more of them than long outlines run through in all. */
function cellFor(rings: readonly Ring[], outlines: number): number {
  const { left, top, right, bottom } = boxOf(rings);
  const segments = rings.reduce((n, ring) => n + ring.length, 0);
  const apart = Math.sqrt(((right - left) * (bottom - top)) / Math.max(1, segments));
  return Math.max(1000, outlines / 2e6, Math.min(4000, apart));
}

/** What is narrow inside of outlines, seen to the left hand of their way. */
function narrowInside(
  rings: readonly Ring[],
  of: Narrow['of'],
  parts: readonly number[],
): { whole: Placed[]; places: Placed[] } {
  const { widest, most, facing, widens, tip, kept } = narrowDefaults;
  const lengths = rings.map((ring) =>
    ring.reduce(
      (s, p, i) => s + Math.hypot(ring[(i + 1) % ring.length]![0] - p[0], ring[(i + 1) % ring.length]![1] - p[1]),
      0,
    ),
  );
  const outlines = lengths.reduce((s, l) => s + l, 0);
  const spacing = Math.max(narrowDefaults.spacing, outlines / most);
  const samples = samplesOf(rings, spacing);
  const grid = new SegmentGrid(rings, cellFor(rings, outlines));
  const byRing: Sample[][] = rings.map(() => []);
  let before = widest / 2;
  for (const p of samples) {
    fitCircle(p, grid, widest, facing, 1.2 * before);
    before = p.r;
    byRing[p.ring]!.push(p);
  }
  const largest = byRing.map((round) => round.reduce((m, p) => Math.max(m, p.r), 0));
  const found = new Places();
  const put = (p: Sample, rise: number) => {
    const [x, y, width] = [Math.round(p.x + p.nx * p.r), Math.round(p.y + p.ny * p.r), Math.round(2 * p.r)];
    const across = acrossOf(p);
    // Both sides of a place see it.
    const same = found.nearBy(x, y, width);
    if (same) {
      if (width < same.width) found.move(same, { x, y, width, across });
      same.rise = Math.max(same.rise, Math.round(rise));
    } else found.add({ of, x, y, width, across, rise: Math.max(width, Math.round(rise)), ring: p.ring });
  };
  byRing.forEach((round, ring) => {
    // What faces nothing is as wide as can be, or a corner: corners are left out, and join what is on both sides of them.
    const valid = round.filter((p) => p.facing || p.onRing < 0);
    const round1 = lengths[ring]!;
    const way = (p: Sample) => (((p.onAlong - p.along) % round1) + round1) % round1;
    const isTip = (p: Sample) =>
      p.onRing === ring && Math.min(way(p), round1 - way(p)) < Math.max(tip * 2 * p.r, 4 * spacing);
    const widestOf = rangeMaximum(valid.map((q) => q.r));
    const from = (along: number) => lowerBound(valid, along);
    for (const stretch of minimaOf(valid, widens)) {
      const p = stretch.find((q) => q.onRing >= 0 && !isTip(q));
      if (!p || 2 * p.r >= widest) continue;
      if (p.onRing !== ring) {
        put(p, 2 * Math.min(largest[ring]!, largest[p.onRing]!));
        continue;
      }
      // The widest on the way there, and on the way back: from here on round the outline, and from there.
      const [here, there] = [from(p.along), from((p.along + way(p)) % round1)];
      const between = (a: number, b: number) =>
        a <= b ? widestOf(a, b) : Math.max(widestOf(a, valid.length), widestOf(0, b));
      put(p, 2 * Math.min(between(here, there), between(there, here)));
    }
  });
  // A part that is narrow all over, a speck, a thin line, a hole that closes: one entry, at its widest.
  const whole = parts.flatMap((part): Placed[] => {
    const p = byRing[part]!.reduce((a, b) => (b.r > a.r ? b : a));
    const width = Math.round(2 * p.r);
    if (width >= widest * 0.999) return [];
    const [x, y] = [Math.round(p.x + p.nx * p.r), Math.round(p.y + p.ny * p.r)];
    return [{ of, x, y, width, across: acrossOf(p), rise: width, ring: part }];
  });
  return { whole, places: found.all.sort((a, b) => a.width - b.width).slice(0, kept) };
}

/**
 * Every narrow place of outlines, of the film and of the gaps in it, with its width: found once at the size of the drawing, and asked for at
 * any size afterwards. A neck lies between two stretches that are wider; a stroke, a speck, a hole are as narrow all over; a convex tip is
 * none of these. Units in, units out.
 *
 * @param rings pieces counter-clockwise as `Clipper` turns them (area > 0), holes the other way
 */
export function narrowPlaces(rings: readonly Ring[]): Narrow[] {
  const turned = rings.map((ring) => ring.toReversed());
  const pieces = rings.flatMap((ring, i) => (ringArea(ring) > 0 ? [i] : []));
  const holes = rings.flatMap((ring, i) => (ringArea(ring) < 0 ? [i] : []));
  const [film, gap] = [narrowInside(rings, 'film', pieces), narrowInside(turned, 'gap', holes)];
  const [whole, places] = [
    [...film.whole, ...gap.whole],
    [...film.places, ...gap.places],
  ];
  // A stroke is narrow everywhere: its one entry stands for all places along it.
  const { of: pieceOf } = piecesOf(rings);
  const narrowest = new Map<string, number>();
  const all = ({ of, ring }: Placed) => `${of} ${of === 'film' ? pieceOf[ring] : ring}`;
  for (const w of whole) narrowest.set(all(w), w.width);
  const along = (p: Placed) => p.width >= 0.9 * (narrowest.get(all(p)) ?? Infinity);
  return [...whole, ...places.filter((p) => !along(p))]
    .sort((a, b) => a.width - b.width)
    .slice(0, narrowDefaults.kept)
    .map(({ of, x, y, width, across, rise }) => ({ of, x, y, width, across, rise }));
}
