/**
 * Quantile of a sorted list, with linear interpolation (Hyndman & Fan 1996, type 7).
 *
 * @param sorted numbers in rising order
 * @param p in [0, 1]
 * @throws RangeError on an empty list or a p outside [0, 1]
 * @example quantile([1, 2, 3, 4, 5], 0.5) // 3
 */
export function quantile(sorted: ArrayLike<number>, p: number): number {
  if (sorted.length === 0) throw new RangeError('invalid list; it is empty');
  if (!(p >= 0 && p <= 1)) throw new RangeError(`invalid p; not in [0, 1]: ${p}`);
  const at = (sorted.length - 1) * p;
  const below = Math.floor(at);
  const low = sorted[below]!;
  const high = sorted[Math.min(sorted.length - 1, below + 1)]!;
  return low + (high - low) * (at - below);
}

/**
 * The middle of some numbers, in any order. @throws RangeError when there are none
 * @example median([9, 1, 5]) // 5
 */
export const median = (values: readonly number[]): number =>
  quantile(
    [...values].sort((a, b) => a - b),
    0.5,
  );
