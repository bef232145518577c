export { vinylTypeKeys, vinylTypes, wantedOfType, type VinylType, type VinylTypeKey } from './types.ts';
export { behaviourOf, behaviourTable, saySeconds, type Behaviour, type PressWay } from './behaviour.ts';
