import {
  atStrength,
  limitsOf,
  shortPosition,
  strengthAxis,
  type Axis,
  type CutterModel,
  type Setting,
} from '../controls/index.ts';
import { v5 as uuidv5 } from 'uuid';
import { couponDefaults } from './geometry.ts';
import { layCoupon, type CouponSheet } from './drawCoupon.ts';

const witnessDefaults = {
  /** Side of a mark's frame, µm: small enough for the waste beside any job. */
  frame: 8_000,
  /** One step on an axis of numbers: so much of the strength, and no less than one of its own. Common practice, no source. */
  share: 0.08,
};

/** The strengths of a test mark: the job's own, bracketed by one step either way where the cutter takes a strength for each shape. */
function witnessSteps(axis: Axis, position: number, takesStrength: boolean): number[] {
  if (!takesStrength) return [position];
  const { min, max } = limitsOf(axis);
  const step =
    axis.kind === 'number' && axis.scale === 'log'
      ? Math.max(1, Math.round(position * witnessDefaults.share))
      : axis.kind === 'number'
        ? Math.max(1, Math.round(((max - min) * witnessDefaults.share) / 2.5))
        : 1;
  return [position - step, position, position + step].filter((p) => p >= min && p <= max);
}

export type WitnessMark = { number: number; setting: Setting; shown: string };

/** The id of the cell of a mark beside a cut: known on every device before anybody has said that it was cut. */
export const markCellId = (cut: string, number: number): string => uuidv5(`mark ${number}`, cut);

/** The free film a test mark wants, µm: three marks in a row with the margin of their own. */
export const witnessSize = (): { width: number; height: number } => {
  const { margin, digitGap, digitHeight } = couponDefaults;
  return {
    width: 3 * witnessDefaults.frame + 4 * margin,
    height: witnessDefaults.frame + digitGap + digitHeight + 2 * margin,
  };
};

/** The marks beside a cut at a setting, lightest first. The cells are numbered from 2 on; 1 is the job itself. */
export function marksBeside(model: CutterModel, setting: Setting): WitnessMark[] {
  const axis = strengthAxis(model);
  return witnessSteps(axis, setting.steps[axis.key]!, model.hpgl?.force !== undefined).map((position, i) => ({
    number: i + 2,
    setting: atStrength(model, setting, position),
    shown: shortPosition(axis, position),
  }));
}

/**
 * A test mark for the waste margin of an ordinary job: the coupon's figure, small, in one row. It is a safe place to lift before
 * unloading, and a proof from every job at almost no vinyl.
 */
export function layWitness(
  model: CutterModel,
  setting: Setting,
  cutFrom: 'back' | 'face',
): { marks: WitnessMark[]; sheet: CouponSheet } {
  const marks = marksBeside(model, setting);
  const sheet = layCoupon({
    format: 'versipel-coupon/1',
    model,
    title: 'test mark',
    cutFrom,
    frame: witnessDefaults.frame,
    columns: marks.length,
    cells: marks.map(({ number, setting: s }) => ({ number, setting: s })),
  });
  return { marks, sheet };
}
