export {
  cellLimits,
  planCoupon,
  planDefaults,
  planInputSchema,
  planModes,
  waysFor,
  type Plan,
  type PlanInput,
  type PlannedCell,
} from './planCoupon.ts';
export { plainWay, type Place, type Way } from './columns.ts';
export { designBatch, worthOfCells, type Design, type Worth } from './design.ts';
export { choosePlace, whyOneMore, worthwhile, WORTH, type WhyOneMore } from './choose.ts';
export { compareWays, type ComparedWay } from './compareWays.ts';
export { decide, decideCells, decideDefaults, type TwoCamps, type Verdict2 } from './decide.ts';
