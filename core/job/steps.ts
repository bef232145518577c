/** What a step is about, never its place in the list. */
export const stepKinds = ['trim', 'mat', 'cut', 'lift', 'weed', 'press', 'apply', 'wash'] as const;
export type StepKind = (typeof stepKinds)[number];
export type StepId = `${StepKind}/${string}`;
