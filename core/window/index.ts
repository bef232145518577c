export { fitInputFrom, type Evidence } from './fromEvents.ts';
export {
  countMisplaced,
  fit,
  fitInputSchema,
  FitInputError,
  MODEL_VERSION,
  targetSchema,
  type FitInput,
  type FitResult,
} from './fit.ts';
export {
  aroundDefaults,
  aroundSchema,
  coldPrior,
  PRIOR_VERSION,
  priorDefaults,
  priorFor,
  type Around,
  type Prior,
} from './prior.ts';
export { gradedCellSchema, type GradedCell } from './cells.ts';
export { withPlainLabels } from './plainLabels.ts';
export { gradeChances, posterior, type Draw, type Posterior } from './posterior.ts';
export { placeToSet, summarise, summaryDefaults, windowHalfWidth, type Interval } from './summary.ts';
export { oneOf, say, timesInHundred } from './sentence.ts';
export { curveAt, shownFit, type ShownFit, type ShownSummary } from './shown.ts';
export { nominalLoad } from './load.ts';
