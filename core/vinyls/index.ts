export { whatFollows } from './whatFollows.ts';
export { cutMirrored, vinylTypeKeys, vinylTypes, wantedOfType, type VinylTypeKey } from './types.ts';
export {
  behaviourOf,
  fullPress,
  fullWays,
  otherPresses,
  saySeconds,
  type Behaviour,
  type PressWay,
  supports,
  type Support,
} from './behaviour.ts';
export { fabricTraits } from './facts.ts';
export { handSchools, handTopics, type HandTopic } from './schools.ts';
export {
  behaviourFor,
  heatLimits,
  oldOverridesSchema,
  onlyDifferent,
  overridesSchema,
  peels,
  pressWaySchema,
  pressures,
  type Overrides,
} from './overrides.ts';
export { besideLeaflet, leafletSchema, washes, type Beside, type Leaflet, type LeafletBeside } from './leaflet.ts';
export { nameLikeness, sameName } from './likeness.ts';
export { contrastOf, overBlank, seenRange, type SeenRange } from './overBlank.ts';
export { blanks, blankKeys, suitsBlank, type Blank, type BlankKey, type Suits } from './blanks.ts';
export { bases, moments, typeTips, unloadTip, type Basis, type Moment, type Tip } from './tips.ts';
