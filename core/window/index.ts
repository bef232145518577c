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
export { chanceOf, gradeChances, posterior, type Draw, type Posterior } from './posterior.ts';
export { summarise, summaryDefaults, windowHalfWidth, type Edge, type Interval, type Summary } from './summary.ts';
export { oneOf, say, timesInHundred, type Verdict } from './sentence.ts';
export { curveAt, shownFit, type ShownFit, type ShownSummary } from './shown.ts';
export { nominalLoad, type NominalLoad } from './load.ts';
