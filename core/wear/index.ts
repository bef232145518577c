export { bladeWear, learntLife, learntLifeDefaults, lifeLeft, PLAIN_LIFE, type BladeWear } from './blade.ts';
export { matGrip, type MatGrip } from './mat.ts';
