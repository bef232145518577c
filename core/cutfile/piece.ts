import { passesOf, sayStrength, strengthAxis, type CutterModel, type Setting } from '../controls/index.ts';
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
 * Lines to cut at one setting. Force and speed are given where the model takes them from a file, and only then are passes repeated in it:
 * elsewhere the operator sets them.
 */
export function pieceAt(number: number, name: string, paths: Path[], model: CutterModel, setting: Setting): CutPiece {
  const axis = strengthAxis(model);
  const shown = (key: string | undefined) => {
    const a = model.axes.find((x) => x.key === key);
    return a?.kind === 'number' ? Number((setting.steps[a.key]! * a.step).toPrecision(9)) : undefined;
  };
  const [force, speed] = [shown(model.hpgl?.force), shown(model.hpgl?.speed)];
  return {
    number,
    label: `${name}, ${sayStrength(axis, setting.steps[axis.key]!)}`,
    paths,
    ...(force === undefined ? {} : { force }),
    ...(speed === undefined ? {} : { speed }),
    passes: model.hpgl ? passesOf(model, setting) : 1,
  };
}

/**
 * The pieces of a coupon in the order they are cut.
 * @param only a cell number, for that cell alone on the same sheet and origin
 */
export function piecesOf(sheet: CouponSheet, model: CutterModel, only?: number): CutDrawing {
  const pieces = sheet.cells
    .filter((c) => only === undefined || c.number === only)
    .map((cell) => pieceAt(cell.number, `cell ${cell.number}`, cell.paths, model, cell.setting));
  return { width: sheet.width, height: sheet.height, pieces };
}
