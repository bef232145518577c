export { vinylTypeKeys, vinylTypes, wantedOfType, type VinylType, type VinylTypeKey } from './types.ts';
export { behaviourOf, behaviourTable, saySeconds, type Behaviour, type PressWay } from './behaviour.ts';
export { fabricTraits, type CutSchool, type FabricTrait, type Facts } from './facts.ts';
export {
  behaviourFor,
  heatLimits,
  onlyDifferent,
  overridesSchema,
  peels,
  pressures,
  type Overrides,
} from './overrides.ts';
export {
  besideLeaflet,
  leafletSchema,
  type Beside,
  type Leaflet,
  type LeafletBeside,
  type PeelKind,
} from './leaflet.ts';
export { nameLikeness, sameName } from './likeness.ts';
export { blanks, blankKeys, suitsBlank, type Blank, type BlankKey, type Suits } from './blanks.ts';
