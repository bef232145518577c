import { normalCdf } from './normal.ts';

const REACH = 8;
const PER_UNIT = 512;
const table = Float64Array.from({ length: 2 * REACH * PER_UNIT + 2 }, (_, i) => normalCdf(i / PER_UNIT - REACH));

/**
 * Φ(z) by linear interpolation in a table, to 5·10⁻⁷, an order of magnitude quicker than `normalCdf`: for sums over many draws, whose own
 * sampling error is far larger. The error is bounded by h²/8·max|φ′| with h = 1/512.
 *
 * @param z any number; beyond ±8 it is 0 or 1
 */
export function quickNormalCdf(z: number): number {
  const at = (z + REACH) * PER_UNIT;
  if (!(at > 0)) return 0;
  if (at >= 2 * REACH * PER_UNIT) return 1;
  const i = at | 0;
  const low = table[i]!;
  return low + (at - i) * (table[i + 1]! - low);
}
