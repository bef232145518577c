export {
  cellLimits,
  planCoupon,
  planDefaults,
  planInputSchema,
  spreadPositions,
  type Plan,
  type PlanInput,
  type PlannedCell,
} from './planCoupon.ts';
