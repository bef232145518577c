import { positionsOf } from '../controls/index.ts';
import { gradeIndex } from '../grades/index.ts';
import { countMisplaced, summaryDefaults, type GradedCell, type Posterior } from '../window/index.ts';
import { chancesAt, columnsOf, meanOf, plainWay, type Place, type Way } from './columns.ts';
import type { Worth } from './design.ts';

/** A further coupon must be expected to raise the value of the choice by this much. */
const WORTH = 0.02;

/** Whether cells are worth cutting: less than two in a hundred are no reason to load the mat again. */
export const worthwhile = ({ now, after }: Pick<Worth, 'now' | 'after'>): boolean => after - now >= WORTH;

/** Enough is expected of it; cells contradict each other; an edge has not been seen. */
export type WhyOneMore = 'gain' | 'torn' | 'open';

/** Coupons after which cells that contradict each other are taken for what they are, noise; and after which an edge need not be seen. */
const ENOUGH = { torn: 3, open: 2 };

/** Whether cells were seen on both sides of what is wanted: some with too little, some with too much (or, for through, enough). */
function bracketed(cells: readonly GradedCell[], wanted: 'clean' | 'through'): boolean {
  const seen = cells.flatMap((c) => c.figures.flatMap((f) => f.grades.map((g) => gradeIndex[g.grade])));
  const at = wanted === 'clean' ? gradeIndex.clean : gradeIndex.through;
  return seen.some((g) => g < at) && seen.some((g) => (wanted === 'clean' ? g > at : g >= at));
}

/**
 * Why another coupon is called for, if it is: because it is expected to bring enough, or because what there is does not stand on its own feet:
 * cells contradict each other plainly, or those of the only coupon lie on one side of an edge that nobody has seen. The model trusts itself there; when a wild
 * cell was the mat or a crease, a second look finds out. Where the number of others was the starting point, one side is enough.
 *
 * @param known whether the first coupon was laid round a number that others had found
 */
export function whyOneMore(
  worth: Pick<Worth, 'now' | 'after'>,
  cells: readonly GradedCell[],
  wanted: 'clean' | 'through',
  known = false,
): WhyOneMore | undefined {
  const coupons = new Set(cells.map((c) => c.coupon)).size;
  if (worthwhile(worth)) return 'gain';
  if (coupons < ENOUGH.torn && countMisplaced(cells) > 0) return 'torn';
  if (coupons < ENOUGH.open && !known && !bracketed(cells, wanted)) return 'open';
  return undefined;
}

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
