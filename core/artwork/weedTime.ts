import type { VinylTypeKey } from '../vinyls/index.ts';

/** What makes weeding long. */
export type WeedWork = {
  /** Inner pieces to lift one by one. */
  holes: number;
  /** Pieces of film that stay. */
  pieces: number;
  /** Metres of cut. */
  metres: number;
  /** Narrow places, where one goes slowly. */
  narrow: number;
  /** How much slower this vinyl is than plain film. */
  slow: number;
};

/** A part that was weeded, with the time hands were at it, minutes. */
export type WeededPart = WeedWork & { minutes: number };

const weedTimeDefaults = {
  /**
   * Minutes for the outside, an inner piece, a piece that stays, a metre of cut, a narrow place; and how far each may be off, sd. Common
   * practice, no source: an inner piece is hooked and lifted in about five seconds.
   */
  minutes: [1, 0.08, 0.02, 0.35, 0.04],
  sd: [1, 0.15, 0.05, 0.5, 0.06],
  /** One part differs from the next by this share of its time, sd: hands, light, talk. Judgement, no source. */
  share: 0.3,
  /** That share is believed like the spread of so many parts. */
  parts: 6,
  /** So often the time lies in the interval. */
  holds: 0.8,
};
/** Standard normal, 90 %. */
const Z = 1.2816;

/** Films that weed slower than plain ones. That they do is common practice, no source; by how much is judgement. */
const SLOW: Partial<Record<VinylTypeKey, number>> = {
  glitter: 1.4,
  flock: 1.2,
  matless: 1.3,
  holographic: 1.15,
  'faux-leather': 1.3,
  'budget-adhesive': 1.2,
};
export const slowToWeed = (type: string): number => (SLOW as Record<string, number | undefined>)[type] ?? 1;

const rowOf = ({ holes, pieces, metres, narrow, slow }: WeedWork): number[] =>
  [1, holes, pieces, metres, narrow].map((x) => x * slow);
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, x, i) => s + x * b[i]!, 0);

export type WeedTime = {
  minutes: number;
  /** Eight times in ten it lies between these. */
  low: number;
  high: number;
  /** Parts it was learnt from: none says common practice. */
  parts: number;
};

/**
 * How long weeding takes, by the clocks of parts that were weeded: linear regression with a normal prior, so that common practice speaks until
 * there are clocks. The error of a part is a share of the time it is expected to take. That share is no part of the posterior: it is found
 * beside it in four rounds, from the errors there are and a prior worth a few parts. Source of the regression at a given share: Gelman et al.,
 * Bayesian Data Analysis, 3rd ed., 14.8; the rounds are common practice (iteratively reweighted least squares).
 *
 * @example weedTime({ holes: 10, pieces: 5, metres: 1, narrow: 0, slow: 1 }, []).minutes // 2.25
 */
export function weedTime(work: WeedWork, weeded: readonly WeededPart[]): WeedTime {
  const prior = weedTimeDefaults;
  // How far a part may be off follows from how long it should take: first by common practice, then by what was learnt. By the clock itself
  // short ones would count for more than they say.
  let mean: readonly number[] = prior.minutes;
  let precision: number[][] = [];
  let share = prior.share;
  for (let turn = 0; turn < 4; turn++) {
    [mean, precision] = learnt(weeded, mean, share);
    const off = weeded.reduce((s, p) => s + (p.minutes / Math.max(0.5, dot(rowOf(p), mean)) - 1) ** 2, 0);
    share = Math.sqrt((prior.parts * prior.share ** 2 + off) / (prior.parts + weeded.length));
  }
  const row = rowOf(work);
  const minutes = Math.max(0.25, dot(row, mean));
  const spread = Math.sqrt(dot(row, solve(precision, row)) + (share * minutes) ** 2);
  const round = (m: number) => Number(m.toFixed(2));
  return {
    minutes: round(minutes),
    low: round(Math.max(0.2, minutes - Z * spread)),
    high: round(minutes + Z * spread),
    parts: weeded.length,
  };
}

/** Mean and precision of the coefficients once parts were weeded: the prior, then a rank-one update a part. */
function learnt(weeded: readonly WeededPart[], expected: readonly number[], share: number): [number[], number[][]] {
  const { minutes: prior, sd } = weedTimeDefaults;
  const precision = sd.map((s, i) => sd.map((_, j) => (i === j ? 1 / s ** 2 : 0)));
  const shift = prior.map((m, i) => m / sd[i]! ** 2);
  for (const part of weeded) {
    const row = rowOf(part);
    const noise = (share * Math.max(0.5, dot(row, expected))) ** 2;
    row.forEach((x, i) => {
      shift[i]! += (x * part.minutes) / noise;
      row.forEach((y, j) => (precision[i]![j]! += (x * y) / noise));
    });
  }
  return [solve(precision, shift), precision];
}

/** Solves a small symmetric positive definite system: Gauss without pivots, which it needs none of. */
function solve(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const n = right.length;
  const a = matrix.map((row, i) => [...row, right[i]!]);
  for (let k = 0; k < n; k++)
    for (let i = k + 1; i < n; i++) {
      const f = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= n; j++) a[i]![j]! -= f * a[k]![j]!;
    }
  const x = new Array<number>(n).fill(0);
  for (let k = n - 1; k >= 0; k--) {
    let s = a[k]![n]!;
    for (let j = k + 1; j < n; j++) s -= a[k]![j]! * x[j]!;
    x[k] = s / a[k]![k]!;
  }
  return x;
}
