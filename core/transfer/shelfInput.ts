import { z } from 'zod';

export const shelfDefaults = {
  /**
   * What standard deviations usually are, in log load: where a shelf is small they are drawn there. Common practice, no source; the
   * same sizes as in the prior of a coupon.
   */
  usual: {
    type: { median: 0.25, sdlog: 0.5 },
    vinyl: { median: 0.12, sdlog: 0.5 },
    batch: { median: 0.06, sdlog: 0.5 },
    cutter: { median: 0.12, sdlog: 0.5 },
    blade: { median: 0.08, sdlog: 0.5 },
    entry: { median: 0.22, sdlog: 0.5 },
    residual: { median: 0.06, sdlog: 0.5 },
  },
  /** log κ about 0. A model on which fewer vinyls than `slopeVinyls` were cut is held closer to 1. */
  slopeSd: 0.35,
  slopeVinyls: 4,
  slopeSdFew: 0.12,
  /** A kitchen scale under a tip repeats within this much, in log grams. */
  scaleSd: 0.04,
  /** An entry this many standard deviations from what all others say of it is wild: it is shown, and weighs less. */
  wild: 4,
  /** What a step must promise, in twice the log likelihood, to be taken: less makes no difference to anybody. */
  tolerance: 1e-2,
  /** So often at most the fit is done again with what it found wild weighing less. */
  rounds: 6,
  /** A model's own σ is drawn to that of all models as if by this many rows. */
  ownSigma: 20,
  level: 0.9,
};

const key = z.string().min(1).max(200);
const about = {
  model: key,
  cutter: key.optional(),
  blade: key.optional(),
  type: key,
  vinyl: key.optional(),
  batch: key.optional(),
};
const settingRow = z.strictObject({
  ...about,
  cutter: key,
  vinyl: key,
  entry: key.optional().describe('on a list of materials: which one, for each has a level of its own'),
  z: z.number().min(-20).max(20).describe("centre of the window on the model's own axis, in nominal log load"),
  se: z.number().min(0).max(10).describe('its standard error, same unit'),
  step: z.number().min(0).max(10).default(0).describe('width of one step of the axis there, same unit'),
  kind: key.optional().describe('what sort of blade it was cut with, where that may tell schools apart'),
  person: key.optional().describe('whose it is, for counting crafters'),
  foreign: z
    .number()
    .min(1)
    .max(100)
    .default(1)
    .describe('how many times larger the variance of what comes from elsewhere is taken'),
});
const scaleRow = z.strictObject({
  model: key,
  cutter: key,
  blade: key.optional(),
  z: z.number().min(-20).max(20),
  grams: z.number().positive().max(5000),
});
const wantedRow = z.strictObject(about);

export const shelfInputSchema = z.strictObject({
  format: z.literal('versipel-shelf/1'),
  settings: z.array(settingRow).max(200_000),
  scales: z.array(scaleRow).max(20_000).default([]),
  predict: z.array(wantedRow).max(100_000).default([]),
  level: z.number().gt(0).lt(1).default(shelfDefaults.level),
});
export type ShelfInput = z.infer<typeof shelfInputSchema>;
export type ShelfSetting = z.infer<typeof settingRow>;
export type ShelfScale = z.infer<typeof scaleRow>;
export type ShelfWanted = z.infer<typeof wantedRow>;

export const TERMS = ['type', 'vinyl', 'batch', 'cutter', 'blade', 'entry'] as const;
export type Term = (typeof TERMS)[number];
/** A vinyl wants load; a cutter, a blade and a place on a list give it. */
export const SIGN: Record<Term, 1 | -1> = { type: 1, vinyl: 1, batch: 1, cutter: -1, blade: -1, entry: -1 };
