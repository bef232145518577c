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
export { couponDefaults, figureDetails, figurePaths, pathLength, type Path, type Point } from './geometry.ts';
export { layWitness, witnessSteps, type WitnessMark } from './witness.ts';
