import { type Term, TERMS, type ShelfInput } from './shelfInput.ts';
import { type CutterOffset, type ShelfPrediction, Shelf } from './shelf.ts';

export type ShelfResult = {
  format: 'versipel-shelf-result/1';
  models: Record<string, { axis: number; slope: number; sd: number; settings: number; comparable: string[] }>;
  spread: Record<Term, number>;
  cutters: (CutterOffset & { model: string; cutter: string })[];
  wild: { row: number; off: number }[];
  predictions: ShelfPrediction[];
};

/** The command-line door of `Shelf`. */
export function readShelf(input: ShelfInput): ShelfResult {
  const shelf = Shelf.fit(input.settings, input.scales);
  const keys = [...new Set([...input.settings, ...input.scales].map((r) => r.model))];
  const models = Object.create(null) as ShelfResult['models'];
  for (const m of keys)
    models[m] = {
      axis: shelf.axisOf(m),
      slope: shelf.slopeOf(m),
      sd: shelf.residualSd(m),
      settings: input.settings.filter((r) => r.model === m).length,
      comparable: keys.filter((o) => o !== m && shelf.comparable(m, o)),
    };
  const cutters = new Map(input.settings.map((r) => [JSON.stringify([r.model, r.cutter]), r]));
  return {
    format: 'versipel-shelf-result/1',
    models,
    spread: Object.fromEntries(TERMS.map((t) => [t, shelf.spreadOf(t)])) as Record<Term, number>,
    cutters: [...cutters.values()].map((r) => ({
      model: r.model,
      cutter: r.cutter,
      ...shelf.offsetOf(r.model, r.cutter)!,
    })),
    wild: shelf.wild(),
    predictions: input.predict.map((p) => shelf.predict(p, input.level)),
  };
}
