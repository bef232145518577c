export { isOffPlan, pressedSeconds } from './pressedSeconds.ts';
export { jobBlankSchema, jobLimits, missing, planSchema, takesOf, type JobBlank, type Plan } from './plan.ts';
export { jobEventSchema, type JobEvent, type Outcome, type ShownPress } from './events.ts';
export { shownPresses } from './shownPresses.ts';
export { filmSteps, type FilmStep, type StepKind } from './steps.ts';
export {
  cellId,
  cutId,
  loadsOf,
  recutLoad,
  standingEvents,
  isEnough,
  keptAt,
  layerOfPart,
  pressId,
  runSheet,
  type CutFact,
  type LoadPart,
  type Sheet,
  type SheetStep,
} from './runSheet.ts';
export { pressQueue, type PressQueue, type QueueStep } from './pressQueue.ts';
export { isProposal, rankVinyls, type OfferWord, type RankedVinyl, type VinylOffer } from './rankVinyls.ts';
export { filmOn, tooLarge, type Asked, type Under } from './bed.ts';
export { cornersOf, filmPiece, partPaths, quarterTurned, type FilmPiece } from './filmPiece.ts';
export { placeOnRoll, type FilmArea } from './placeOnRoll.ts';
export { jobInputSchema, jobSheet } from './jobInput.ts';
export {
  causesOf,
  causesTable,
  symptomKeys,
  symptoms,
  type CauseKey,
  type RankedCause,
  type SetSo,
  type Symptom,
  type WrongRecord,
} from './causes.ts';
export { tipsAt, tipSteps } from './tips.ts';
export { statementsTable } from './statements.ts';
