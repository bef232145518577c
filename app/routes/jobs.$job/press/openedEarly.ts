/** What is said when the press is closed: opened early it is closed for the rest, on the part it stands at. */
export const closing = (step: { part: number; rest?: number | undefined }) => ({
  kind: 'start' as const,
  ...(step.rest === undefined ? {} : { part: Math.max(1, step.part), rest: step.rest }),
});

/** How long one that was opened early was closed, s. */
export const closedFor = (seconds: number | undefined, rest: number | undefined): number =>
  Math.max(0, Math.round((seconds ?? 0) - (rest ?? 0)));
