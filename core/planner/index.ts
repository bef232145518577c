export {
  cellLimits,
  planCoupon,
  planDefaults,
  planInputSchema,
  planModes,
  type Plan,
  type PlanInput,
} from './planCoupon.ts';
export { plainWay, type Way } from './columns.ts';
export { designBatch, worthOfCells } from './design.ts';
export { choosePlace, whyOneMore, type WhyOneMore } from './choose.ts';
export { compareWays, type ComparedWay } from './compareWays.ts';
export { decide, decideCells, decideDefaults, type TwoCamps, type Verdict2 } from './decide.ts';
