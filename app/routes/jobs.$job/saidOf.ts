import type { Job } from './useSheet.ts';

type Press = Job['press'][number];

/** What is said of the film that a press takes its figures of: its source, and what one's own hands change. */
export const saidOf = (job: Job, press: Press): Job['pressPlan']['said'][number] | undefined =>
  job.pressPlan.said.find((s) => (press.layers.length > 0 ? press.layers[0] === s.layer : press.by === s.source));
