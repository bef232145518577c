import type { Standing } from '../proof/index.ts';
import { normalBetween, normalCdf } from '../stats/index.ts';
import { vinylTypes, type VinylTypeKey } from '../vinyls/index.ts';
import { priorDefaults } from '../window/index.ts';

const rankDefaults = {
  /** Doubt costs: the chance counted is that with the place this many standard deviations off, on the worse side. */
  doubt: 0.8,
  /** What the evidence behind a card is worth: a number that fails of late, or was never cut, is not trusted as it stands. */
  trust: { proven: 1, tried: 0.96, draft: 0.85, doubted: 0.6, retired: 0.5 } satisfies Record<Standing, number>,
};

/**
 * Chance that a cut comes out as wanted.
 *
 * @param off how far the place lies from the middle of the window (clean), or from the lightest place that is through for sure, log load
 * @param spread standard deviation of all that may move it, log load
 */
export function chanceOff(type: VinylTypeKey, wanted: 'clean' | 'through', off: number, spread: number): number {
  const { gap } = vinylTypes[type];
  const { lapse, sigma } = priorDefaults;
  const p =
    wanted === 'clean'
      ? normalBetween((-gap / 2 - off) / spread, (gap / 2 - off) / spread)
      : normalCdf((off + 1.645 * sigma.median) / spread);
  return (1 - lapse) * p + lapse / 5;
}

export type Rank = {
  /** Chance of a cut as wanted if the card is followed on this cutter. */
  chance: number;
  /** The same with doubt counted against it, and the trust its standing deserves: cards are ranked by this. */
  worth: number;
};

/**
 * What a card is worth on one cutter: not how many like it or how old it is, but how likely its number, translated, comes out there.
 *
 * @param off how far the card's number lies from what all say of its vinyl, log load
 * @param sd how closely the place is known on this cutter, log load
 */
export function rankOf(type: VinylTypeKey, wanted: 'clean' | 'through', off: number, sd: number, at: Standing): Rank {
  const sigma = priorDefaults.sigma.median;
  const sides = [-1, 1].map((side) => chanceOff(type, wanted, off + side * rankDefaults.doubt * sd, sigma));
  return {
    chance: chanceOff(type, wanted, off, Math.hypot(sigma, sd)),
    worth: Math.min(...sides) * rankDefaults.trust[at],
  };
}
