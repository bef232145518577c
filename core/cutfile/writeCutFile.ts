import type { CutterModel } from '../controls/index.ts';
import { couponSvg, type CouponSheet } from '../coupon/index.ts';
import { piecesOf } from './piece.ts';
import { writeDxf } from './writeDxf.ts';
import { writeHpgl } from './writeHpgl.ts';

export const cutFileKinds = ['svg', 'hpgl', 'dxf'] as const;
export type CutFileKind = (typeof cutFileKinds)[number];

/**
 * A sheet as a cut file of one kind.
 * @param only a cell number, for that cell alone on the same sheet and origin
 */
export function writeCutFile(kind: CutFileKind, sheet: CouponSheet, model: CutterModel, only?: number): string {
  if (kind === 'svg') return couponSvg(sheet, model, only);
  const pieces = piecesOf(sheet, model, only);
  return kind === 'hpgl' ? writeHpgl(pieces) : writeDxf(pieces);
}
