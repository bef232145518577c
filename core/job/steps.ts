/** What a step is about, never its place in the list. */
export const stepKinds = ['trim', 'mat', 'cut', 'lift', 'weed', 'press', 'apply', 'wash'] as const;
/** Those at a film before anything is pressed or laid. */
export const filmSteps = ['trim', 'mat', 'cut', 'lift', 'weed'] as const satisfies StepKind[];
export type FilmStep = (typeof filmSteps)[number];
export type StepKind = (typeof stepKinds)[number];
export type StepId = `${StepKind}/${string}`;
