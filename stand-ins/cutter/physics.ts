import { seededRandom, seedFromText, type Random } from '#core/stats/index.ts';
import type { Path, Point } from '#core/coupon/index.ts';

/**
 * What happens at the blade of the simulated cutter. It knows nothing of the product's model of a cut: a depth in µm follows
 * from the force on the tip, point by point along the path, and the grade from which points are through the film and how far
 * they go into the carrier. All figures are invented, of a size that is common practice (films about 0.1 mm).
 */
export type Mat = {
  /** Film and carrier, µm. */
  film: number;
  carrier: number;
  /** Depth per gram to the power 0.8. */
  bite: number;
  /** How much lighter it cuts from the right edge to the left, as a share. */
  slope: number;
  /** Share of depth the blade has lost with age. */
  dull: number;
};

export const grades = ['uncut', 'hangs', 'clean', 'scored', 'through'] as const;
export type TrueGrade = (typeof grades)[number];

type CutPoint = { at: Point; depth: number };
export type CutPath = { path: Path; points: CutPoint[] };

/** A number from 0 to 1 out of a text, always the same. */
const share = (text: string): number => seededRandom(seedFromText(text)).uniform();

/** The hidden vinyl behind a name: the same name is the same film. Films run from 70 to 130 µm. */
export function matFor(vinyl: string, seed: number, age: number): Mat {
  return {
    film: 70 + 60 * share(`film ${seed} ${vinyl}`),
    carrier: 95 + 30 * share(`carrier ${seed} ${vinyl}`),
    bite: 2.15,
    slope: 0.1 * (share(`slope ${seed}`) - 0.3),
    dull: Math.min(0.25, age * 0.002),
  };
}

/** Grams on the tip for a hand-set cutter, from where the hand stands on its axis: bent, as cheap springs are. */
export const gramsByHand = (hand: number): number => 28 * (330 / 28) ** (0.85 * hand + 0.15 * hand * hand);

const STEP = 200;

/** The blade's turn at a vertex, radians. */
const turn = (a: Point, b: Point, c: Point) => {
  const [u, v] = [Math.atan2(b[1] - a[1], b[0] - a[0]), Math.atan2(c[1] - b[1], c[0] - b[0])];
  return Math.abs(((v - u + 3 * Math.PI) % (2 * Math.PI)) - Math.PI);
};

/**
 * Runs one pass over a path: the depth at every 0.2 mm. A second pass goes on in the groove of the first, by less.
 * @param before depths of the passes before, or undefined
 * @param day what this very cell has of luck, a share
 */
export function runPass(
  path: Path,
  grams: number,
  speed: number,
  mat: Mat,
  day: number,
  random: Random,
  before: CutPath | undefined,
): CutPath {
  const corners = path.closed ? [...path.points, path.points[0]!] : path.points;
  const points: CutPoint[] = [];
  let wobble = 0;
  for (let i = 1; i < corners.length; i++) {
    const [a, b] = [corners[i - 1]!, corners[i]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const n = Math.max(1, Math.round(length / STEP));
    const sharp = corners[i + 1] ? turn(a, b, corners[i + 1]!) > 0.6 : true;
    for (let k = 0; k < n; k++) {
      const at: Point = [a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n];
      wobble = 0.92 * wobble + 0.012 * random.normal();
      // Where the tip swivels round it lifts a little.
      const toCorner = Math.min(Math.hypot(at[0] - b[0], at[1] - b[1]), Math.hypot(at[0] - a[0], at[1] - a[1]));
      const lift = sharp && toCorner < 350 ? 0.07 : 0;
      const place = 1 + mat.slope * (at[0] / 100_000 - 0.5);
      const fresh =
        mat.bite *
        grams ** 0.8 *
        place *
        (1 - mat.dull) *
        (1 - lift) *
        (1 + wobble) *
        day *
        (speed > 0 ? (speed / 4) ** -0.05 : 1);
      const old = before?.points[points.length]?.depth;
      points.push({ at, depth: old === undefined ? fresh : Math.max(old, old + 0.38 * fresh * Math.exp(-old / 600)) });
    }
  }
  return { path, points };
}

const shareOf = (points: CutPoint[], deep: (d: number) => boolean) =>
  points.length === 0 ? 0 : points.filter((p) => deep(p.depth)).length / points.length;

/** The true grade of a cell from all its points. */
export function gradeOf(paths: CutPath[], mat: Mat): TrueGrade {
  const points = paths.flatMap((p) => p.points);
  const film = shareOf(points, (d) => d >= mat.film);
  const deep = shareOf(points, (d) => d >= mat.film + 0.3 * mat.carrier);
  const out = shareOf(points, (d) => d >= mat.film + mat.carrier);
  if (film < 0.55) return 'uncut';
  if (film < 0.985) return 'hangs';
  if (out > 0.85) return 'through';
  return deep > 0.3 ? 'scored' : 'clean';
}
