export { bladeWear, learntLife, lifeLeft, PLAIN_LIFE, type BladeWear } from './blade.ts';
export { matGrip, type MatGrip } from './mat.ts';
