import { Clipper, ClipType, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import type { ArtLayer, Artwork } from './artwork.ts';
import { scaled } from './outline.ts';
import { holds, ringsOfPath, toPaths, type Ring } from './rings.ts';
import { SegmentGrid } from './segmentGrid.ts';

export const pairDefaults = {
  /** How far one layer reaches below the other where they lie side by side, µm: it hides that they are never laid quite in line. */
  choke: 300,
  /** A lower layer of which less than this share is seen is wasted film. Judgement, no source. */
  seen: 0.01,
  /** A rim thinner than this is hardly seen, µm. Judgement, no source. */
  rim: 700,
  /** The rim is looked at so far apart along the upper layer, µm. */
  spacing: 400,
  /** Farther from the edge than this it is no rim but a ground, µm. */
  ground: 8_000,
};

/** Two layers of a drawing, one over the other, at a size. Areas in mm², lengths in µm, places as shares of the drawing. */
export type LayerPair = {
  lower: string;
  upper: string;
  /** How much of the lower layer lies below the upper one. */
  coveredMm2: number;
  share: number;
  /** Nothing of the lower layer is seen. */
  hidden: boolean;
  /** The narrowest rim of the lower layer that is still seen round the upper one once both have grown; undefined where none is meant. */
  rim: { x: number; y: number; widthUm: number } | undefined;
};

const areaOf = (paths: Paths64) => Clipper.areaPaths(paths) / 1e6;

/**
 * Every two layers of which one covers something of the other, the most covered first.
 * @param growth how far the edge of each layer moves outward in the press, µm
 */
export function layerPairs(drawing: Artwork, growth: readonly number[], widthUm: number): LayerPair[] {
  const um = widthUm / drawing.width;
  const rings = drawing.layers.map((l) => scaled(ringsOfPath(l.d), um));
  const paths = rings.map(toPaths);
  const pairs: LayerPair[] = [];
  drawing.layers.forEach((upper, u) => {
    drawing.layers.slice(0, u).forEach((lower, l) => {
      if (apart(lower.box, upper.box)) return;
      const coveredMm2 = areaOf(Clipper.booleanOp(ClipType.Intersection, paths[l]!, paths[u]!, FillRule.NonZero));
      const all = areaOf(paths[l]!);
      if (coveredMm2 < 0.5) return;
      const share = coveredMm2 / all;
      const hidden = share > 1 - pairDefaults.seen;
      const narrowest = hidden ? undefined : rimOf(rings[l]!, rings[u]!, growth[u]! - growth[l]!);
      pairs.push({
        lower: lower.id,
        upper: upper.id,
        coveredMm2,
        share,
        hidden,
        rim: narrowest && {
          x: narrowest.x / (um * drawing.width),
          y: narrowest.y / (um * drawing.height),
          widthUm: Math.max(0, Math.round(narrowest.width)),
        },
      });
    });
  });
  return pairs.sort((a, b) => b.share - a.share);
}

type Box = ArtLayer['box'];
const apart = (a: Box, b: Box) =>
  a.x + a.width < b.x || b.x + b.width < a.x || a.y + a.height < b.y || b.y + b.height < a.y;

type RimPlace = { x: number; y: number; width: number };

/** The narrowest place between the edge of an upper layer and the edge of the lower one it lies on. */
function rimOf(lower: readonly Ring[], upper: readonly Ring[], grows: number): RimPlace | undefined {
  const { spacing, ground } = pairDefaults;
  const grid = new SegmentGrid(lower, 2_000);
  let best: RimPlace | undefined;
  for (const ring of upper) {
    // Places of the rim along the ring; undefined where there is none.
    const round: (RimPlace | undefined)[] = [];
    for (let i = 0; i < ring.length; i++) {
      const [[ax, ay], [bx, by]] = [ring[i]!, ring[(i + 1) % ring.length]!];
      const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / spacing));
      for (let s = 0; s < steps; s++) {
        const [x, y] = [ax + ((bx - ax) * s) / steps, ay + ((by - ay) * s) / steps];
        const near = grid.nearest(x, y, ground);
        if (near === undefined) round.push({ x, y, width: Infinity });
        else if (!within(lower, grid, near, x, y)) round.push(undefined);
        else round.push({ x: near.x, y: near.y, width: Math.hypot(near.x - x, near.y - y) - grows });
      }
    }
    for (const place of tapered(round)) if (place.width < (best?.width ?? Infinity)) best = place;
  }
  return best;
}

/** The places of a rim without those where it only gets narrower because the upper layer reaches over the edge farther on. */
function tapered(round: readonly (RimPlace | undefined)[]): RimPlace[] {
  const n = round.length;
  const over = round.indexOf(undefined);
  if (over < 0) return round.filter((p) => p !== undefined);
  const places: RimPlace[] = [];
  let run: RimPlace[] = [];
  for (let i = 1; i <= n; i++) {
    const place = round[(over + i) % n];
    if (place) {
      run.push(place);
      continue;
    }
    let [from, to] = [0, run.length - 1];
    while (from < to && run[from + 1]!.width >= run[from]!.width) from++;
    while (from < to && run[to - 1]!.width >= run[to]!.width) to--;
    if (from < to) places.push(...run.slice(from + 1, to));
    run = [];
  }
  return places;
}

/** Whether a point lies on film: film lies to the left of its edge. At a corner the edge does not say it. */
function within(
  rings: readonly Ring[],
  grid: SegmentGrid,
  near: { x: number; y: number; segment: number },
  x: number,
  y: number,
): boolean {
  const s = near.segment;
  const [ax, ay, bx, by] = [grid.ax[s]!, grid.ay[s]!, grid.bx[s]!, grid.by[s]!];
  const corner = (near.x === ax && near.y === ay) || (near.x === bx && near.y === by);
  if (!corner) return (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0;
  return rings.reduce((inside, ring) => (holds(ring, [x, y]) ? !inside : inside), false);
}

/**
 * The shape of an upper layer cut out of the lower one, less a margin all round: side by side, they overlap by that margin, inside the upper
 * one only. Source: trapping in print, common practice, no source for its width.
 *
 * @param choke how far the lower layer reaches below the upper one, in the units of the outlines
 * @throws RangeError for a margin below zero
 */
export function knockOut(lower: Paths64, upper: Paths64, choke: number): Paths64 {
  if (!(choke >= 0)) throw new RangeError(`a margin of ${choke} is none`);
  const hole =
    choke === 0
      ? upper
      : Clipper.inflatePaths(upper, -choke, JoinType.Miter, EndType.Polygon, 2, Math.max(0.25, choke / 30));
  return Clipper.booleanOp(ClipType.Difference, lower, hole, FillRule.NonZero);
}
