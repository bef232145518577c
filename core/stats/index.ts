export { normalBetween, normalCdf, normalDensity, normalQuantile } from './normal.ts';
export { seededRandom, seedFromText, type Random } from './random.ts';
export { maximise, type Maximum, type Objective } from './maximise.ts';
export { ordinalRegression, type OrdinalFit, type OrdinalOptions } from './ordinalRegression.ts';
export { quantile } from './quantile.ts';
