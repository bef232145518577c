export {
  anySurface,
  leafletWay,
  overSurface,
  ownSource,
  pressAnswer,
  type PressAnswer,
  type SaidWay,
} from './pressAnswer.ts';
export { isPrinted, stackTroubles, type Trouble } from './troubles.ts';
export { laidFilm, pressDefaults } from './laidFilm.ts';
export {
  layerSchools,
  pressDoes,
  pressPurposes,
  type LayerSchool,
  type Meeting,
  type PressStep,
} from './pressSequence.ts';
export { minutes, pressPlan, type PlanFilm, type PressPlan } from './pressPlan.ts';
export { layers, layersInputSchema, meetingOf } from './layersInput.ts';
export { stackAdvice, type LaidFilm } from './stackAdvice.ts';
export {
  beyond,
  pressWords,
  rankRecipes,
  recipeInputSchema,
  recipes,
  recipeStanding,
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
  type HeatSource,
  type Level,
  type RankedSource,
  type SourceKind,
} from './heatSource.ts';
export { gridOf, gridOfWords, readSwatch, type Dial } from './swatch/readSwatch.ts';
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
export { readPlaces } from './swatch/readPlaces.ts';
export { swatch, swatchInputSchema, type SwatchInput, type SwatchResult } from './swatch/swatchInput.ts';
export { applySteps, isStencil, type AppliedFilm } from './applySteps.ts';
export { stepNames } from './stepNames.ts';
export { sectionsOf } from './sections.ts';
export { withHabits, type HandHabits } from './handHabits.ts';
