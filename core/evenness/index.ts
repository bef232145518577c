export {
  evennessDefaults,
  fitEvenness,
  zoneOf,
  type Evenness,
  type EvennessInput,
  type PlaceFound,
} from './fitEvenness.ts';
