import { median } from './quantile.ts';

/**
 * A straight line that up to a quarter of wild points do not move: the median of the slopes between all pairs, and the median of
 * what is left. Source: Theil (1950), Sen (1968).
 *
 * @returns slope and intercept; NaN when fewer than two places differ
 */
export function theilSen(x: readonly number[], y: readonly number[]): { slope: number; intercept: number } {
  const slopes: number[] = [];
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++) if (x[i] !== x[j]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!));
  const slope = slopes.length > 0 ? median(slopes) : NaN;
  return { slope, intercept: median(y.map((v, i) => v - slope * x[i]!)) };
}
