export {
  outcomes,
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
