export {
  evennessDefaults,
  evennessInputSchema,
  fitEvenness,
  zoneOf,
  type Evenness,
  type EvennessInput,
  type PlaceFound,
} from './fitEvenness.ts';
export { readEvenness, type EvennessQuestion } from './readEvenness.ts';
