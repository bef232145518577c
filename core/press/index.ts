export {
  anySurface,
  leafletWay,
  overSurface,
  ownSource,
  pressAnswer,
  pressSources,
  type PressAnswer,
  type PressSource,
  type SaidWay,
} from './pressAnswer.ts';
export { isPrinted, pairTrouble, stackTroubles, type Film, type Trouble } from './troubles.ts';
export { laidFilm, pressDefaults, type Laid, type LaidMore } from './laidFilm.ts';
export {
  layerSchools,
  pressDoes,
  pressPurposes,
  type LayerSchool,
  type LayerSource,
  type Meeting,
  type PressStep,
} from './pressSequence.ts';
export { minutes, pressPlan, type PlanFilm, type PressPlan } from './pressPlan.ts';
export { layers, layersInputSchema, meetingOf, type LayersInput } from './layersInput.ts';
export { stackAdvice, type LaidFilm, type StackAdvice } from './stackAdvice.ts';
export {
  beyond,
  evidenceOf,
  pressWords,
  rankRecipes,
  recipeInputSchema,
  recipes,
  recipeStanding,
  sameWay,
  sayHeld,
  sayWay,
  twoClocks,
  type Pressed,
  type PressOutcome,
  type PressWord,
} from './recipe.ts';
export {
  kgFor,
  levelsOf,
  pressureOf,
  rankSources,
  setFor,
  sourceKinds,
  usualLevels,
  warmthOf,
  type HandPressures,
  type HeatChange,
  type HeatSource,
  type Level,
  type PressNeed,
  type RankedSource,
  type SourceKind,
} from './heatSource.ts';
export {
  gridOf,
  gridOfWords,
  readSwatch,
  type Dial,
  type SwatchPoint,
  type SwatchReading,
} from './swatch/readSwatch.ts';
export { dialDefaults, type DialWord } from './swatch/dial.ts';
export { planSwatch } from './swatch/planSwatch.ts';
export {
  bondGrades,
  harmGrades,
  puffGrades,
  puffHarms,
  swatchDefaults,
  type SwatchCell,
  type SwatchGrade,
  type SwatchSeen,
  type Usual,
} from './swatch/swatchModel.ts';
export { readPlaces, type PlacesReading } from './swatch/readPlaces.ts';
export { seenOf, swatch, swatchInputSchema, type SwatchInput, type SwatchResult } from './swatch/swatchInput.ts';
export { applySteps, isStencil, tapeFor, type AppliedFilm, type ApplyStep } from './applySteps.ts';
export { stepNames } from './stepNames.ts';
export { sectionsOf } from './sections.ts';
export { withHabits, type HandHabits } from './handHabits.ts';
