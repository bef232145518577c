export {
  outcomes,
  sayMissing,
  standing,
  standingInputSchema,
  standings,
  type Outcome,
  type ProofEvidence,
  type Standing,
  type StandingResult,
} from './standing.ts';
export { byOccasion, gradeBetween, isTrialOf, outcomeOf, recipeOf, sayBetween, trialDefaults } from './trials.ts';
export { camps, campsInputSchema, type CampCause, type Camps } from './camps.ts';
