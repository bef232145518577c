export { normalBetween, normalCdf, normalDensity, normalQuantile } from './normal.ts';
export { seededRandom, seedFromText, type Random } from './random.ts';
export { maximise, type Maximum, type Objective } from './maximise.ts';
export { ordinalRegression, type OrdinalFit, type OrdinalOptions } from './ordinalRegression.ts';
export { median, quantile } from './quantile.ts';
export { wilson } from './wilson.ts';
export { isotonic } from './isotonic.ts';
export { theilSen } from './theilSen.ts';
export { monotoneCubic } from './monotoneCubic.ts';
