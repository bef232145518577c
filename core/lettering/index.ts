export { FontError, openFace, type Face } from './font.ts';
export {
  fitted,
  letterAll,
  lettering,
  letteringDefaults,
  letteringSvg,
  type Lettered,
  type Lettering,
} from './lettering.ts';
