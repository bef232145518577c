import { passesOf, sayStrength, strengthAxis, type CutterModel } from '../controls/index.ts';
import type { CouponSheet, Path } from '../coupon/index.ts';

/** What is cut at one setting: a cell of a coupon, or a whole drawing. */
export type CutPiece = {
  /** 1, 2, 3 …: names layers and files. */
  number: number;
  /** In the cutter's own words: "cell 3, force 122". */
  label: string;
  /** µm, x to the right, y down, from the top left corner of the sheet. */
  paths: Path[];
  /** Grams on the tip, where the cutter takes them from the file. */
  force?: number;
  /** The number that goes out as VS, where the cutter takes it. */
  speed?: number;
  /** How often the paths are run. */
  passes: number;
};

/** A drawing ready for a cutter. Lengths in µm. */
export type CutDrawing = { width: number; height: number; pieces: CutPiece[] };

/**
 * The pieces of a coupon in the order they are cut. Force and speed are given where the model takes them from a file, and only
 * then are passes repeated in it: elsewhere the operator sets them.
 *
 * @param only a cell number, for that cell alone on the same sheet and origin
 */
export function piecesOf(sheet: CouponSheet, model: CutterModel, only?: number): CutDrawing {
  const axis = strengthAxis(model);
  const shown = (key: string | undefined, steps: Record<string, number>) => {
    const a = model.axes.find((x) => x.key === key);
    return a?.kind === 'number' ? Number((steps[a.key]! * a.step).toPrecision(9)) : undefined;
  };
  const pieces = sheet.cells
    .filter((c) => only === undefined || c.number === only)
    .map((cell): CutPiece => {
      const force = shown(model.hpgl?.force, cell.setting.steps);
      const speed = shown(model.hpgl?.speed, cell.setting.steps);
      return {
        number: cell.number,
        label: `cell ${cell.number}, ${sayStrength(axis, cell.setting.steps[axis.key]!)}`,
        paths: cell.paths,
        ...(force === undefined ? {} : { force }),
        ...(speed === undefined ? {} : { speed }),
        passes: model.hpgl ? passesOf(model, cell.setting) : 1,
      };
    });
  return { width: sheet.width, height: sheet.height, pieces };
}
