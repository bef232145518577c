import { positionsOf } from '../controls/index.ts';
import { gradeIndex } from '../grades/index.ts';
import { countMisplaced, summaryDefaults, type GradedCell, type Posterior } from '../window/index.ts';
import { chancesAt, columnsOf, meanOf, plainWay, type Place, type Way } from './columns.ts';
import type { Worth } from './design.ts';

/** A further coupon must be expected to raise the value of the choice by this much. */
export const WORTH = 0.02;

/** Whether cells are worth cutting: less than two in a hundred are no reason to load the mat again. */
export const worthwhile = ({ now, after }: Pick<Worth, 'now' | 'after'>): boolean => after - now >= WORTH;

/** Coupons after which cells that contradict each other are taken for what they are: noise. */
const ENOUGH_COUPONS = 2;

/** Whether cells were seen on both sides of what is wanted: some with too little, some with too much (or, for through, enough). */
function bracketed(cells: readonly GradedCell[], wanted: 'clean' | 'through'): boolean {
  const seen = cells.flatMap((c) => c.figures.flatMap((f) => f.grades.map((g) => gradeIndex[g.grade])));
  const at = wanted === 'clean' ? gradeIndex.clean : gradeIndex.through;
  return seen.some((g) => g < at) && seen.some((g) => (wanted === 'clean' ? g > at : g >= at));
}

/**
 * Whether another coupon is called for: because it is expected to bring enough, or because the only one does not stand on its own feet:
 * its cells contradict each other plainly, or lie on one side of an edge that nobody has seen. The model trusts itself there; when a wild
 * cell was the mat or a crease, a second look finds out. Where the number of others was the starting point, one side is enough.
 *
 * @param known whether the first coupon was laid round a number that others had found
 */
export const oneMore = (
  worth: Pick<Worth, 'now' | 'after'>,
  cells: readonly GradedCell[],
  wanted: 'clean' | 'through',
  known = false,
): boolean =>
  worthwhile(worth) ||
  (new Set(cells.map((c) => c.coupon)).size < ENOUGH_COUPONS &&
    (countMisplaced(cells) > 0 || (!known && !bracketed(cells, wanted))));

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
