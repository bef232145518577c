import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { z } from 'zod';
import { gradeIndex, gradeWords } from '../grades/index.ts';
import { checked, maximise, normalBetween, normalDensity } from '../stats/index.ts';

export const evennessDefaults = {
  /** Sd of the local offset over the mat, log load. Common practice: cutters differ by some per cent from side to side. */
  sd: 0.08,
  /** How far the offset is alike, as a share of the mat's longer side. */
  reach: 0.6,
  /** How well the vinyl's own place is known while nothing was said of it: sd of what all places share, log load. */
  common: 0.2,
  lapse: 0.02,
  /** Credible intervals hold this much. */
  credible: 1.6448536269514722,
};

export const evennessInputSchema = z.strictObject({
  format: z.literal('versipel-evenness/1').optional(),
  places: z
    .array(z.strictObject({ x: z.number(), y: z.number(), grade: z.enum(gradeWords) }))
    .min(3)
    .max(400)
    .describe('where each figure lay, µm from the left top corner of the mat as it is loaded, and what was seen'),
  thresholds: z
    .tuple([z.number(), z.number(), z.number(), z.number()])
    .refine((t) => t.every((v, i) => i === 0 || v > t[i - 1]!), { message: 'cut points rise' })
    .describe('cut points of the vinyl less the log load that all places were cut with'),
  sigma: z.number().positive().describe('noise of one cut, log load'),
});
export type EvennessInput = z.infer<typeof evennessInputSchema>;

/** Offset of the strength at one place against the mat's mean, in log load: −0.09 cuts about 9 % light. */
type PlaceFound = { x: number; y: number; offset: number; low: number; high: number };
export type Evenness = {
  places: PlaceFound[];
  /** The place that is surely light (or heavy) by the most, if any is. */
  odd: PlaceFound | undefined;
  /** Largest difference between two places. */
  range: number;
};

/** Lower left, middle, … of a place, by thirds of the mat. */
export function zoneOf(place: { x: number; y: number }, all: readonly { x: number; y: number }[]): string {
  const third = (v: number, of: (p: { x: number; y: number }) => number) => {
    const values = all.map(of);
    const [min, max] = [Math.min(...values), Math.max(...values)];
    return max > min ? Math.min(2, Math.floor((3 * (v - min)) / (max - min))) : 1;
  };
  const row = ['upper', 'middle', 'lower'][third(place.y, (p) => p.y)]!;
  const column = ['left', 'middle', 'right'][third(place.x, (p) => p.x)]!;
  if (row === 'middle' && column === 'middle') return 'middle';
  return column === 'middle' ? `${row} middle` : `${row} ${column}`;
}

/**
 * A smooth field of local strength over the mat from one and the same figure cut and graded in many places.
 *
 * The offset is a Gaussian process with a squared exponential covariance; grades are ordinal with the vinyl's cut points, whose common
 * shift is unknown too; mode and curvature give mean and interval (Laplace). Source: Rasmussen & Williams (2006), Gaussian Processes
 * for Machine Learning, ch. 3; ordinal likelihood, Chu & Ghahramani (2005), J. Mach. Learn. Res. 6, 1019–1041.
 *
 * @throws RangeError with fewer than three places
 */
export function fitEvenness(input: EvennessInput, options: Partial<typeof evennessDefaults> = {}): Evenness {
  const { sd, reach, common, lapse, credible } = checked(
    { ...evennessDefaults, ...options },
    {
      sd: { from: 0, to: 10, open: 'from' },
      reach: { from: 0, to: 100, open: 'from' },
      common: { from: 0, to: 10, open: 'from' },
      lapse: { from: 0, to: 1, open: 'to' },
      credible: { from: 0, to: 10, open: 'from' },
    },
  );
  const { places, thresholds, sigma } = input;
  const n = places.length;
  if (n < 3) throw new RangeError(`invalid places; fewer than three: ${n}`);
  const span = (of: (p: { x: number; y: number }) => number) =>
    Math.max(...places.map(of)) - Math.min(...places.map(of));
  const length =
    reach *
    Math.max(
      1,
      span((p) => p.x),
      span((p) => p.y),
    );
  const covariance = Matrix.zeros(n, n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const d2 = (places[i]!.x - places[j]!.x) ** 2 + (places[i]!.y - places[j]!.y) ** 2;
      covariance.set(i, j, sd * sd * (Math.exp(-d2 / (2 * length * length)) + (i === j ? 1e-6 : 0)));
    }
  const root = new CholeskyDecomposition(covariance).lowerTriangularMatrix;
  /** Offsets from whitened values; the last value is the common shift. */
  const fieldOf = (z: ArrayLike<number>) =>
    places.map((_, i) => {
      let sum = 0;
      for (let k = 0; k <= i; k++) sum += root.get(i, k) * z[k]!;
      return sum;
    });
  const objective = (z: Float64Array, gradient: Float64Array): number => {
    const field = fieldOf(z);
    let sum = 0;
    for (let k = 0; k <= n; k++) {
      sum -= 0.5 * z[k]! * z[k]!;
      gradient[k] = -z[k]!;
    }
    places.forEach(({ grade }, i) => {
      const k = gradeIndex[grade];
      const u = field[i]! + common * z[n]!;
      const low = k > 0 ? (thresholds[k - 1]! - u) / sigma : -Infinity;
      const high = k < 4 ? (thresholds[k]! - u) / sigma : Infinity;
      const chance = (1 - lapse) * normalBetween(low, high) + lapse / 5;
      sum += Math.log(chance);
      const slope =
        ((1 - lapse) * ((k > 0 ? normalDensity(low) : 0) - (k < 4 ? normalDensity(high) : 0))) / sigma / chance;
      for (let j = 0; j <= i; j++) gradient[j]! += slope * root.get(i, j);
      gradient[n]! += slope * common;
    });
    return sum;
  };
  const top = maximise(objective, new Float64Array(n + 1), { tolerance: 1e-9 });
  const spread = new CholeskyDecomposition(top.information).solve(Matrix.eye(n + 1));
  const field = fieldOf(top.x);
  const mean = field.reduce((a, b) => a + b, 0) / n;
  const found = places.map(({ x, y }, i): PlaceFound => {
    // Against the mean of the mat: the row of the root less the mean of all rows.
    const row = Array.from({ length: n + 1 }, (_, k) =>
      k === n ? 0 : root.get(i, k) - places.reduce((s, _p, j) => s + root.get(j, k), 0) / n,
    );
    const along = spread.mmul(Matrix.columnVector(row)).to1DArray();
    const error = Math.sqrt(
      Math.max(
        0,
        row.reduce((s, r, k) => s + r * along[k]!, 0),
      ),
    );
    const offset = field[i]! - mean;
    return { x, y, offset, low: offset - credible * error, high: offset + credible * error };
  });
  const sure = found.filter((f) => f.low > 0 || f.high < 0);
  return {
    places: found,
    odd: sure.length > 0 ? sure.reduce((a, b) => (Math.abs(b.offset) > Math.abs(a.offset) ? b : a)) : undefined,
    range: Math.max(...field) - Math.min(...field),
  };
}
