import { depthOf, passesOf, speedOf, strengthAxis, type CutterModel, type Setting } from '../controls/index.ts';
import { currentGrades, type GradeEvent } from '../grades/index.ts';
import type { VinylTypeKey } from '../vinyls/index.ts';
import type { GradedCell } from './cells.ts';
import type { FitInput } from './fit.ts';
import type { Around } from './prior.ts';

/** What is needed to read the evidence for one vinyl on one cutter, apart from the grades themselves. */
export type Evidence = {
  model: CutterModel;
  type: VinylTypeKey;
  wanted: 'clean' | 'through';
  target: { colour?: string; batch?: string; blade?: string; wear?: number };
  /** Somebody else's number that was tried here. */
  around?: Around;
  /** The controls of the coming cut other than strength: how deep the blade stands, how fast, how many passes. */
  base: Setting;
  /** Every cell cut, oldest first, its setting in this model's version. */
  cells: {
    id: string;
    cut: string;
    colour?: string;
    batch?: string;
    blade: string;
    /** Share of its life the blade had behind it. */
    wear?: number;
    setting: Setting;
  }[];
};

/**
 * The input of a fit from cells and their events, the same on the server and in the browser, so that both come to the same
 * answer. Only cells cut at the blade depth of the coming cut speak about it. Cells that nobody has graded are left out; without any graded cell the occasion does not matter.
 */
export function fitInputFrom(evidence: Evidence, events: readonly GradeEvent[]): FitInput {
  const standing = new Map<
    string,
    Map<number, { passes: number; grade: GradedCell['figures'][number]['grades'][number]['grade'] }[]>
  >();
  for (const g of currentGrades(events)) {
    const figures = standing.get(g.cell) ?? new Map();
    standing.set(g.cell, figures);
    figures.set(g.figure, [...(figures.get(g.figure) ?? []), { passes: g.passes, grade: g.grade }]);
  }
  const { model, base } = evidence;
  const strength = strengthAxis(model).key;
  const baseSpeed = speedOf(model, base);
  const cells = evidence.cells.flatMap((cell): GradedCell[] => {
    const figures = standing.get(cell.id);
    // A setting of another model is evidence about another axis, another blade depth about another cut.
    if (!figures || cell.setting.model !== model.key || cell.setting.version !== model.version) return [];
    if (depthOf(model, cell.setting) !== depthOf(model, base)) return [];
    const speed = speedOf(model, cell.setting);
    return [
      {
        coupon: cell.cut,
        ...(cell.colour ? { colour: cell.colour } : {}),
        ...(cell.batch ? { batch: cell.batch } : {}),
        blade: cell.blade,
        ...(cell.wear === undefined ? {} : { wear: cell.wear }),
        ...(speed !== undefined && speed > 0 ? { speed } : {}),
        strength: cell.setting.steps[strength]!,
        figures: [...figures]
          .sort(([a], [b]) => a - b)
          .map(([, grades]) => ({ grades: grades.sort((a, b) => a.passes - b.passes) })),
      },
    ];
  });
  return {
    format: 'versipel-fit/1',
    model,
    type: evidence.type,
    wanted: evidence.wanted,
    passes: passesOf(model, base),
    target:
      cells.length > 0
        ? { ...evidence.target, ...(baseSpeed !== undefined && baseSpeed > 0 ? { speed: baseSpeed } : {}) }
        : {},
    cells,
    ...(evidence.around ? { around: evidence.around } : {}),
    seed: 1,
  };
}
