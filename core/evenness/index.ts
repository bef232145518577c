export { evennessInputSchema, fitEvenness, zoneOf, type Evenness } from './fitEvenness.ts';
export { readEvenness, type EvennessQuestion } from './readEvenness.ts';
