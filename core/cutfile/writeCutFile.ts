import type { CutterModel } from '../controls/index.ts';
import { couponSvg, type CouponSheet } from '../coupon/index.ts';
import { piecesOf } from './piece.ts';
import { writeDxf } from './writeDxf.ts';
import { writeHpgl } from './writeHpgl.ts';

type Writer = { type: string; write: (sheet: CouponSheet, model: CutterModel, only?: number) => string };

/** The kinds of cut file there are: what each is as a media type, and how it is written. The one table of them. */
const kinds = {
  svg: { type: 'image/svg+xml; charset=utf-8', write: couponSvg },
  hpgl: {
    type: 'application/vnd.hp-hpgl',
    write: (sheet, model, only) => writeHpgl(piecesOf(sheet, model, only)),
  },
  dxf: { type: 'image/vnd.dxf', write: (sheet, model, only) => writeDxf(piecesOf(sheet, model, only)) },
} as const satisfies Record<string, Writer>;

export type CutFileKind = keyof typeof kinds;
export const cutFileKinds = Object.keys(kinds) as CutFileKind[];

/** The media type of a kind of cut file. */
export const cutFileType = (kind: CutFileKind): string => kinds[kind].type;

/**
 * A sheet as a cut file of one kind.
 * @param only a cell number, for that cell alone on the same sheet and origin
 */
export const writeCutFile = (kind: CutFileKind, sheet: CouponSheet, model: CutterModel, only?: number): string =>
  kinds[kind].write(sheet, model, only);
