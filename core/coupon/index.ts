export { couponInputSchema, couponSvg, layCoupon, pathData, type CouponInput, type CouponSheet } from './drawCoupon.ts';
export {
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
export { layWitness, markCellId, marksBeside, witnessSize } from './witness.ts';
