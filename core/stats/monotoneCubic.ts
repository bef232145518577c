/**
 * A smooth curve through points that never turns where the points do not: cubic Hermite pieces whose slopes are limited.
 * Beyond the ends it goes on straight. Source: Fritsch & Carlson (1980), slopes by Fritsch & Butland (1984).
 *
 * @param x strictly increasing
 * @throws RangeError with fewer than two points or x that does not increase
 */
export function monotoneCubic(x: readonly number[], y: readonly number[]): (at: number) => number {
  const n = x.length;
  if (n < 2 || x.some((v, i) => i > 0 && !(v > x[i - 1]!)))
    throw new RangeError('invalid x; at least two values that increase are needed');
  const h = Array.from({ length: n - 1 }, (_, i) => x[i + 1]! - x[i]!);
  const d = h.map((step, i) => (y[i + 1]! - y[i]!) / step);
  const m = x.map((_, i) => {
    if (i === 0) return d[0]!;
    if (i === n - 1) return d[n - 2]!;
    const [a, b] = [d[i - 1]!, d[i]!];
    if (a * b <= 0) return 0;
    const [before, after] = [h[i - 1]!, h[i]!];
    const weight = (before + 2 * after) / (3 * (before + after));
    return (a * b) / (weight * b + (1 - weight) * a);
  });
  return (at) => {
    if (at <= x[0]!) return y[0]! + m[0]! * (at - x[0]!);
    if (at >= x[n - 1]!) return y[n - 1]! + m[n - 1]! * (at - x[n - 1]!);
    let i = 0;
    while (at > x[i + 1]!) i++;
    const t = (at - x[i]!) / h[i]!;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * y[i]! +
      (t3 - 2 * t2 + t) * h[i]! * m[i]! +
      (3 * t2 - 2 * t3) * y[i + 1]! +
      (t3 - t2) * h[i]! * m[i + 1]!
    );
  };
}
