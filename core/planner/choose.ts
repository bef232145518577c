import { positionsOf } from '../controls/index.ts';
import { summaryDefaults, type Posterior } from '../window/index.ts';
import { chancesAt, columnsOf, meanOf, plainWay, type Place, type Way } from './columns.ts';
import type { Worth } from './design.ts';

/** A further coupon must be expected to raise the value of the choice by this much. */
export const WORTH = 0.02;

/** Whether cells are worth cutting: less than two in a hundred are no reason to load the mat again. */
export const worthwhile = ({ now, after }: Pick<Worth, 'now' | 'after'>): boolean => after - now >= WORTH;

/** A gain too small to be seen is no reason for a second pass. */
const NOTICED = 0.005;

/**
 * What to set, over strengths and ways of cutting: the place with the highest mean chance of a clean cut, the way named first and the
 * lower strength on a tie; where through is wanted, the first way that reaches it, at the lightest place with enough chance, or the
 * surest one where none has it.
 */
export function choosePlace(
  post: Posterior,
  wanted: 'clean' | 'through',
  ways: readonly Way[] = [plainWay],
): { place: Place; chance: number } {
  const columns = columnsOf(post, post.draws.length);
  let best: { place: Place; chance: number } | undefined;
  for (const way of ways)
    for (const position of positionsOf(post.axis)) {
      const place = { position, way };
      const found = { place, chance: meanOf(chancesAt(columns, columns.loads(place), wanted)) };
      if (wanted === 'through' && found.chance >= summaryDefaults.throughChance) return found;
      const margin = best && best.place.way !== way ? NOTICED : 1e-6;
      if (!best || found.chance > best.chance + margin) best = found;
    }
  return best!;
}
