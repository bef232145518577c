export { nextAfter, type Next } from './next.ts';
export {
  answerDefaults,
  answerFor,
  bestKnown,
  small,
  type Answer,
  type Camp,
  type From,
  type Known,
  type Split,
} from './answer.ts';
