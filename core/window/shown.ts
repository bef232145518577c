import type { FitResult } from './fit.ts';
import type { Summary } from './summary.ts';

/** Places of the curve that a strip is drawn from, at most. */
const POINTS = 31;

/** What a strip and the number on it need of a summary. */
export type ShownSummary = Pick<Summary, 'window' | 'inside' | 'edges' | 'best'> & {
  curve: Pick<Summary['curve'], 'positions' | 'mean'>;
  recommended: { position: number; chance: number } | null;
};
/** What rows and charts show of a fit: a tenth of its size. */
export type ShownFit = Pick<FitResult, 'wanted' | 'sentence' | 'evidence'> & { summary: ShownSummary };

/** The chance that it comes out as wanted at a place, on the straight line between the places of the curve; of its ends beyond them. */
export function curveAt({ summary: { curve } }: Pick<ShownFit, 'summary'>, position: number): number {
  const { positions, mean } = curve;
  const after = positions.findIndex((p) => p >= position);
  if (after === -1) return mean.at(-1)!;
  if (after === 0 || positions[after] === position) return mean[after]!;
  const share = (position - positions[after - 1]!) / (positions[after]! - positions[after - 1]!);
  return mean[after - 1]! + share * (mean[after]! - mean[after - 1]!);
}

/** Thins a fit to what is shown of it in a row. The best and the recommended place stay on the curve. */
export function shownFit({ wanted, sentence, evidence, summary }: FitResult | ShownFit): ShownFit {
  const { curve, window, inside, edges, best, recommended } = summary;
  const every = Math.max(1, Math.ceil(curve.positions.length / POINTS));
  const kept = curve.positions.flatMap((p, i) =>
    i % every === 0 || i === curve.positions.length - 1 || p === best.position || p === recommended?.position
      ? [i]
      : [],
  );
  return {
    wanted,
    sentence,
    evidence,
    summary: {
      curve: {
        positions: kept.map((i) => curve.positions[i]!),
        mean: kept.map((i) => Number(curve.mean[i]!.toFixed(3))),
      },
      window,
      ...(inside ? { inside } : {}),
      edges,
      best,
      recommended: recommended && { position: recommended.position, chance: recommended.chance },
    },
  };
}
