export { checksum } from './checksum.ts';
export { parseGuarded } from './guard.ts';
export { PackError } from './packError.ts';
export { pseudonym } from './pseudonym.ts';
export { checkPack, readPack, sealPack, writePack } from './readPack.ts';
export {
  openLicences,
  formatFor,
  PACK_MEDIA_TYPE,
  packBodySchema,
  packConfirmationSchema,
  packVersionSchema,
  packLimits,
  packSchema,
  type Pack,
  type PackBody,
  type PackCard,
  type PackConfirmation,
  type PackVersion,
  type PackVinyl,
} from './schema.ts';
