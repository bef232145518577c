import { formatPosition, sayStrength, type Axis } from '../controls/index.ts';
import { placeToSet, type Summary } from './summary.ts';

/** What the evidence amounts to. */
export type Verdict =
  | { kind: 'prior' }
  /** Cut only on other machines of the model. */
  | { kind: 'elsewhere' }
  | { kind: 'stronger' | 'lighter'; tried: number; atLimit: boolean }
  | { kind: 'window' | 'narrow' | 'unsure'; misplaced: number };

/**
 * "93 times in 100"; never 0 or 100, which nobody can promise.
 * @example timesInHundred(0.999) // '99 times in 100'
 */
export function timesInHundred(chance: number): string {
  return `${Math.min(99, Math.max(1, Math.round(chance * 100)))} times in 100`;
}

/**
 * A chance as people count it: one of so many. Source: natural frequencies, Gigerenzer & Hoffrage, Psychological Review 102 (1995).
 * @returns "1 of 4", "2 of 3", "fewer than 1 of 50"
 * @example oneOf(0.25) // '1 of 4'
 */
export function oneOf(chance: number): string {
  if (chance < 0.02) return 'fewer than 1 of 50';
  if (chance < 0.1) return `1 of ${Math.round(1 / chance)}`;
  // Wholes a hand has fingers for, the smallest first: a larger one has to say it clearly better.
  let best = { k: 1, n: 2, off: Infinity };
  for (const n of [2, 3, 4, 5, 10]) {
    const k = Math.min(n - 1, Math.max(1, Math.round(chance * n)));
    const off = Math.abs(k / n - chance);
    if (off < best.off - 0.02 * chance) best = { k, n, off };
  }
  return `${best.k} of ${best.n}`;
}

/** One plain sentence or two: what is known, and what it rests on. Numbers are in the cutter's own words. */
export function say(axis: Axis, verdict: Verdict, summary: Summary, wanted: 'clean' | 'through'): string {
  const at = (position: number) => sayStrength(axis, position);
  const { best, recommended, window } = summary;
  const contradiction =
    'misplaced' in verdict && verdict.misplaced > 0
      ? ' Some cells contradict each other, so this is wider than it looks.'
      : '';
  switch (verdict.kind) {
    case 'prior':
      return `Nobody has cut this yet. Going by the type alone, ${at(best.position)} is where to look first.`;
    case 'elsewhere': {
      const look = placeToSet({ recommended, best });
      return `Found on other machines of this model. On yours look first at ${at(look.position)}: ${wanted} about ${timesInHundred(look.chance)} on a machine nobody has tried.`;
    }
    case 'stronger':
      return wanted === 'through'
        ? verdict.atLimit
          ? `Not through even at ${at(verdict.tried)}, the strongest there is. Add a pass or change the blade.`
          : `Nothing fell out up to ${at(verdict.tried)}. Go stronger.`
        : verdict.atLimit
          ? `It still holds even at ${at(verdict.tried)}, the strongest there is. Add a pass or change the blade.`
          : `It still holds everywhere up to ${at(verdict.tried)}. Go stronger.`;
    case 'lighter':
      return verdict.atLimit
        ? `The carrier is cut even at ${at(verdict.tried)}, the lightest there is. Bring the blade in or slow down.`
        : `The carrier is cut everywhere down to ${at(verdict.tried)}. Go lighter.`;
    case 'window': {
      const range = formatPosition(axis, window!.low) === formatPosition(axis, window!.high);
      const what = wanted === 'clean' ? 'Clean' : 'Through';
      const where =
        wanted === 'through'
          ? 'The lightest setting that falls out for sure.'
          : range
            ? `Set exactly ${formatPosition(axis, recommended!.position)}; the stops beside it are risky.`
            : summary.inside
              ? `Also clean 9 times in 10: ${summary.inside
                  .filter((p) => p !== recommended!.position)
                  .slice(0, 3)
                  .map((p) => formatPosition(axis, p))
                  .join('; ')}.`
              : `Window ${formatPosition(axis, window!.low)} to ${formatPosition(axis, window!.high)}.`;
      return `${what} ${timesInHundred(recommended!.chance)} at ${at(recommended!.position)}. ${where}${contradiction}`;
    }
    case 'narrow':
      return wanted === 'through'
        ? `No setting falls out for sure: at best ${timesInHundred(best.chance)}, at ${at(best.position)}. Add a pass.`
        : `No clean window on this cutter: at best ${timesInHundred(best.chance)}, at ${at(best.position)}.${contradiction}`;
    case 'unsure':
      return `Not settled yet. Best so far ${at(best.position)}, ${wanted} about ${timesInHundred(best.chance)}; one more coupon would narrow it.${contradiction}`;
  }
}
