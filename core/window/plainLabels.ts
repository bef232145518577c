import type { FitInput } from './fit.ts';

const kinds = ['coupon', 'colour', 'batch', 'blade', 'cutter'] as const;

/**
 * The same input with plain labels in place of keys: "blade1", "blade2" in the order they come in. What is shared tells what was cut, not
 * the keys it is kept under; and whoever has the cells comes to the same reading, to the digit.
 */
export function withPlainLabels(input: FitInput): FitInput {
  const known = new Map<string, string>();
  const counts = new Map<string, number>();
  const label = (kind: (typeof kinds)[number], key: string): string => {
    const id = `${kind} ${key}`;
    const before = known.get(id);
    if (before !== undefined) return before;
    const n = (counts.get(kind) ?? 0) + 1;
    counts.set(kind, n);
    const made = `${kind === 'coupon' ? 'cut' : kind}${n}`;
    known.set(id, made);
    return made;
  };
  const relabel = <T extends Partial<Record<(typeof kinds)[number], string | undefined>>>(of: T): T => ({
    ...of,
    ...Object.fromEntries(kinds.flatMap((k) => (of[k] === undefined ? [] : [[k, label(k, of[k])]]))),
  });
  const cells = input.cells.map(relabel);
  return { ...input, cells, target: relabel(input.target) };
}
