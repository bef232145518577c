export {
  outcomes,
  sayMissing,
  standing,
  standingDefaults,
  standingInputSchema,
  standings,
  type Outcome,
  type ProofEvidence,
  type Standing,
  type StandingInput,
  type StandingResult,
} from './standing.ts';
export { byOccasion, gradeBetween, isTrialOf, outcomeOf, recipeOf, sayBetween, trialDefaults } from './trials.ts';
export { camps, campDefaults, campsInputSchema, type CampCause, type Camps, type CampsInput } from './camps.ts';
