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
  figurePaths,
  HANDLING,
  pathLength,
  type Path,
  type Point,
} from './geometry.ts';
export { layWitness, markCellId, marksBeside, witnessSize, witnessSteps, type WitnessMark } from './witness.ts';
