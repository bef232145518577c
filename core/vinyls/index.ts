export { vinylTypeKeys, vinylTypes, wantedOfType, type VinylType, type VinylTypeKey } from './types.ts';
