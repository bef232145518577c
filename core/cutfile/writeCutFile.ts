import type { CutterModel } from '../controls/index.ts';
import { couponSvg, type CouponSheet } from '../coupon/index.ts';
import { drawingSvg } from './drawingSvg.ts';
import { piecesOf, type CutDrawing } from './piece.ts';
import { writeDxf } from './writeDxf.ts';
import { writeHpgl } from './writeHpgl.ts';

type Kind = {
  type: string;
  draw: (drawing: CutDrawing) => string;
  /** A coupon, where it is more than its drawing. */
  coupon?: (sheet: CouponSheet, model: CutterModel, only?: number) => string;
};

/** The kinds of cut file there are: what each is as a media type, and how it is written. The one table of them. */
const described = {
  svg: { type: 'image/svg+xml; charset=utf-8', draw: drawingSvg, coupon: couponSvg },
  hpgl: { type: 'application/vnd.hp-hpgl', draw: writeHpgl },
  dxf: { type: 'image/vnd.dxf', draw: writeDxf },
} as const satisfies Record<string, Kind>;

export type CutFileKind = keyof typeof described;
const kinds: Record<CutFileKind, Kind> = described;
export const cutFileKinds = Object.keys(kinds) as CutFileKind[];

/** A drawing as a cut file of one kind. */
export const writeDrawing = (kind: CutFileKind, drawing: CutDrawing): string => kinds[kind].draw(drawing);

/** The media type of a kind of cut file. */
export const cutFileType = (kind: CutFileKind): string => kinds[kind].type;

/**
 * A sheet as a cut file of one kind.
 * @param only a cell number, for that cell alone on the same sheet and origin
 */
export function writeCutFile(kind: CutFileKind, sheet: CouponSheet, model: CutterModel, only?: number): string {
  const { draw, coupon } = kinds[kind];
  return coupon ? coupon(sheet, model, only) : draw(piecesOf(sheet, model, only));
}
