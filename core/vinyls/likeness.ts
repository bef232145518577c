const tokens = (name: string): string[] =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/['’]/g, '')
    .split(/[^\p{L}\p{N}]+/u)
    // An "and" written out is an ampersand.
    .filter((w) => w !== '' && w !== 'and');

/**
 * Edits between two words: letters added, left out or changed, and neighbours that changed places.
 * Source: Damerau (1964), in the restricted form (optimal string alignment).
 */
export function edits(a: string, b: string): number {
  const rows = Array.from({ length: a.length + 1 }, (_, i) => [i, ...Array<number>(b.length).fill(0)]);
  for (let j = 1; j <= b.length; j++) rows[0]![j] = j;
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++) {
      const change = a[i - 1] === b[j - 1] ? 0 : 1;
      let least = Math.min(rows[i - 1]![j]! + 1, rows[i]![j - 1]! + 1, rows[i - 1]![j - 1]! + change);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, rows[i - 2]![j - 2]! + 1);
      rows[i]![j] = least;
    }
  return rows[a.length]![b.length]!;
}

/** How alike two words are, 0 to 1: one less the share of letters that were edited. */
const wordLikeness = (a: string, b: string): number => 1 - edits(a, b) / Math.max(a.length, b.length);

/**
 * How alike two names of vinyls are, 0 to 1, whatever the order of their words: every word against its best partner in the
 * other name, weighed by its length; what has no partner counts against it.
 */
export function nameLikeness(a: string, b: string): number {
  const [left, right] = [tokens(a), tokens(b)];
  if (left.length === 0 || right.length === 0) return 0;
  const side = (from: string[], to: string[]) => {
    const best = from.map((w) => Math.max(...to.map((t) => wordLikeness(w, t))));
    const weight = from.reduce((s, w) => s + w.length, 0);
    return from.reduce((s, w, i) => s + best[i]! * w.length, 0) / weight;
  };
  // The same letters with the words joined or parted differently: "Soft Film", "Softfilm".
  const joined = wordLikeness(left.join(''), right.join(''));
  return Math.max(joined, Math.min(side(left, right), side(right, left)));
}

/** From here on two names may well be the same vinyl: asked, never assumed. */
const SAME_NAME = 0.82;

/** @example sameName('Quilow Drfit', 'Quillow Drift') // true */
export const sameName = (a: string, b: string): boolean => nameLikeness(a, b) >= SAME_NAME;
