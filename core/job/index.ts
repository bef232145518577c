export { isOffPlan, pressedSeconds } from './pressedSeconds.ts';
export { jobBlankSchema, jobLimits, missing, planSchema, takesOf, type JobBlank, type Plan } from './plan.ts';
export { jobEventSchema, outcomes, type JobEvent, type Outcome, type ShownPress } from './events.ts';
export { shownPresses } from './shownPresses.ts';
export { filmSteps, stepKinds, type FilmStep, type StepId, type StepKind } from './steps.ts';
export {
  cellId,
  cutId,
  loadsOf,
  recutId,
  recutLoad,
  standingEvents,
  isEnough,
  keptAt,
  layerOfPart,
  pressId,
  runSheet,
  type CutFact,
  type LoadPart,
  type PressPlan,
  type Sheet,
  type SheetStep,
} from './runSheet.ts';
export { pressQueue, type PressQueue, type QueueStep, type Turn } from './pressQueue.ts';
export { isProposal, rankVinyls, type OfferWord, type RankedVinyl, type VinylOffer } from './rankVinyls.ts';
export { bedOf, filmOn, tooLarge, type Asked, type Bed, type TooLarge, type Under } from './bed.ts';
export {
  cornersOf,
  filmPiece,
  filmPieceDefaults,
  partPaths,
  quarterTurned,
  type FilmPiece,
  type InTheWaste,
} from './filmPiece.ts';
export { layFilm, usedLength, type FilmArea } from './layFilm.ts';
export { jobInputSchema, jobSheet, type JobInput } from './jobInput.ts';
export {
  causes,
  causesOf,
  causesTable,
  symptomKeys,
  symptoms,
  type CauseKey,
  type RankedCause,
  type Remedy,
  type SetSo,
  type Symptom,
  type WrongRecord,
} from './causes.ts';
export { MOST_TIPS, momentsOf, tipsAt, tipSteps, type TipStep } from './tips.ts';
export { statements, statementsTable, type Statement } from './statements.ts';
