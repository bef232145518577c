import type { Job } from './useSheet.ts';

/** A press as it was shown, in a line: what an outcome is kept with. */
export const recipeOf = (p: Job['press'][number]): string =>
  [p.does, p.heat, p.seconds, p.pressure, p.peel].join(' ').slice(0, 200);
