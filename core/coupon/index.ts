export {
  columnsFor,
  couponInputSchema,
  couponSvg,
  layCoupon,
  pathData,
  type CouponCell,
  type CouponInput,
  type CouponSheet,
} from './drawCoupon.ts';
export {
  couponDefaults,
  cutLength,
  figureDetails,
  finestLimits,
  figurePaths,
  HANDLING,
  couponRoom,
  pathLength,
  type Finest,
  type Path,
  type Point,
} from './geometry.ts';
export { layWitness, markCellId, marksBeside, witnessSize, witnessSteps, type WitnessMark } from './witness.ts';
