export { FontError, openFace } from './font.ts';
export { letterAll, lettering, letteringSvg } from './lettering.ts';
