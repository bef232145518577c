export { jobBlankSchema, jobLimits, missing, planSchema, type JobBlank, type Plan } from './plan.ts';
export {
  jobEventSchema,
  outcomes,
  stepKinds,
  type JobEvent,
  type Outcome,
  type StepId,
  type StepKind,
} from './events.ts';
export {
  cellId,
  cutId,
  isEnough,
  pressId,
  runSheet,
  takeId,
  type CutFact,
  type PressPlan,
  type Sheet,
  type SheetStep,
} from './runSheet.ts';
export { rankVinyls, type RankedVinyl, type VinylOffer } from './rankVinyls.ts';
export { filmPiece, filmPieceDefaults, partPaths, type FilmPiece } from './filmPiece.ts';
export { jobInputSchema, jobSheet, type JobInput } from './jobInput.ts';
