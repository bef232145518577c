export { oneHeat, pairTrouble, stackTroubles, type Film, type Trouble } from './troubles.ts';
export { layerSchools, pressDefaults, pressSteps, type LayerSchool, type PressStep } from './pressSteps.ts';
export { stackAdvice, type LaidFilm, type StackAdvice } from './stackAdvice.ts';
