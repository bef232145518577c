export { vinylTypeKeys, vinylTypes, type VinylType, type VinylTypeKey } from './types.ts';
