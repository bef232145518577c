import { normalQuantile } from './normal.ts';

/**
 * Score interval for a proportion. Source: Wilson (1927); figures to check by in Newcombe (1998), Statistics in Medicine 17, 857–872, table I.
 *
 * @param hits of `n` tries, 0 ≤ hits ≤ n, n > 0; need not be whole where tries are weighted
 * @param level in (0, 1)
 * @throws RangeError on numbers outside these
 * @example wilson(81, 263).high // 0.3662
 * @example wilson(29, 30).low // 0.8333
 */
export function wilson(hits: number, n: number, level = 0.95): { low: number; high: number } {
  if (!(n > 0 && n < Infinity)) throw new RangeError(`invalid n; not above 0: ${n}`);
  if (!(hits >= 0 && hits <= n)) throw new RangeError(`invalid hits; not in [0, ${n}]: ${hits}`);
  if (!(level > 0 && level < 1)) throw new RangeError(`invalid level; not in (0, 1): ${level}`);
  const z = normalQuantile(1 - (1 - level) / 2);
  const p = hits / n;
  const middle = 2 * n * p + z * z;
  const half = z * Math.sqrt(z * z + 4 * n * p * (1 - p));
  const under = 2 * (n + z * z);
  return { low: Math.max(0, (middle - half) / under), high: Math.min(1, (middle + half) / under) };
}
