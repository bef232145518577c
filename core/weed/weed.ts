import { figureDetails, type Finest } from '../coupon/index.ts';
import { onceInOrder } from '../events/index.ts';
import { details, type Detail, type WeedEvent } from '../grades/index.ts';
import type { Micrometres } from '../units/index.ts';

const weedDefaults = {
  /** A detail holds in a vinyl when it is expected to survive so often. */
  holds: 0.75,
  /** Where it does not, lines must be so much wider. Common practice, no source. */
  wider: 1.5,
  /** So many cells must have kept a detail before lines that fine are trusted. Judgement, no source. */
  enough: 3,
};

/** How the waste of one cell came off. */
export type Weed = { cell: string; ease: number; lost: Detail[]; torn: boolean; finest?: Finest };

/** What stands after all events: for each cell the latest word, by device time, then id. */
export function currentWeeds(events: readonly (WeedEvent & { finest?: Finest })[]): Weed[] {
  return [
    ...new Map(
      onceInOrder(events).map(({ cell, ease, lost, torn, finest }) => [
        cell,
        { cell, ease, lost, torn, ...(finest ? { finest } : {}) },
      ]),
    ).values(),
  ];
}

export type WeedReading = {
  /** Cells that were weeded and told of. */
  n: number;
  /** Mean ease, 1 hard to 5 by itself. */
  ease: number;
  torn: number;
  /** How often each detail of the figure survived, and how often it should: (k + 1)/(n + 2), Laplace's rule of succession. */
  survived: Record<Detail, { kept: number; expected: number }>;
  /** Least width of a line and of a gap that the film has shown to hold, µm; undefined while nobody has said anything. */
  leastLineUm: Micrometres;
  leastGapUm: Micrometres;
  /** By how many cells each is shown to hold; 0 where it is what lost ones ask for. */
  held: { line: number; gap: number };
};

/**
 * What weeding says about how fine the film may be cut: a detail that survives keeps its own size, one that is lost asks for a half more.
 * Cells that were not clean say nothing: what was not cut through is lost for another reason.
 *
 * @param weeds of clean cells
 * @returns undefined without any
 */
export function weedReading(weeds: readonly Weed[]): WeedReading | undefined {
  const n = weeds.length;
  if (n === 0) return undefined;
  const kept = (d: Detail) => weeds.filter((w) => !w.lost.includes(d)).length;
  const survived = Object.fromEntries(
    details.map((d) => [d, { kept: kept(d), expected: (kept(d) + 1) / (n + 2) }]),
  ) as WeedReading['survived'];
  const [line, gap] = [leastOf(weeds, 'bar'), leastOf(weeds, 'gap')];
  return {
    n,
    ease: weeds.reduce((s, w) => s + w.ease, 0) / n,
    torn: weeds.filter((w) => w.torn).length,
    survived,
    leastLineUm: line.um,
    leastGapUm: gap.um,
    held: { line: line.held, gap: gap.held },
  };
}

/**
 * The finest width of a detail that holds: figures test it at different widths. A width holds where it was kept often enough and so was every
 * wider one; where none holds, lines must be wider than the widest that was lost.
 */
function leastOf(weeds: readonly Weed[], d: 'bar' | 'gap'): { um: Micrometres; held: number } {
  const widths = new Map<number, Weed[]>();
  for (const w of weeds) {
    const um = w.finest?.[d] ?? figureDetails[d];
    widths.set(um, [...(widths.get(um) ?? []), w]);
  }
  let least: { um: Micrometres; held: number } | undefined;
  for (const [um, cells] of [...widths].sort(([a], [b]) => b - a)) {
    // A few cells prove little: a detail is given up when it was lost more often than the rule allows, not before.
    const kept = cells.filter((w) => !w.lost.includes(d)).length;
    if (kept / cells.length < weedDefaults.holds) return least ?? { um: Math.round(um * weedDefaults.wider), held: 0 };
    least = { um, held: cells.length };
  }
  return least!;
}

/** Least widths that weeding has shown, µm, and by how many cells; what it has not shown is left out. */
export type LearntLeast = { line?: Micrometres; gap?: Micrometres; cells: number };

/**
 * What weeding has shown of how fine a film may be cut. A detail that was lost too often counts at once; one that held counts once enough
 * cells kept it, since one lucky cell proves nothing.
 *
 * @example learntLeast(undefined) // undefined
 */
export function learntLeast(reading: WeedReading | undefined): LearntLeast | undefined {
  if (!reading) return undefined;
  const shown = (held: number) => held === 0 || held >= weedDefaults.enough;
  const { leastLineUm: line, leastGapUm: gap, n: cells, held } = reading;
  return {
    ...(shown(held.line) ? { line } : {}),
    ...(shown(held.gap) ? { gap } : {}),
    cells,
  };
}
