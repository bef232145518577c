import { z } from 'zod';
import type { Axis } from '../controls/index.ts';
import { vinylTypes, type VinylTypeKey } from '../vinyls/index.ts';
import { MODIFIER_LOAD, nominalLoad } from './load.ts';

/** Raise when any default below changes: old posterior rows keep the version they were made with. */
export const PRIOR_VERSION = 'p3';

/**
 * What is believed before any cell is graded. Loads are natural logs of grams, arbitrary until a cutter is calibrated.
 * Sources: common practice (no published source) for the medians; the spreads are set wide enough that simulated coupons
 * from TRADE-like values fall inside them.
 */
export const priorDefaults = {
  /** Centre of the clean window: sd as a share of the axis, in log load. */
  centreShare: 0.25,
  /** log b, the gain of the axis, about 0. */
  gainSd: 0.35,
  /** τ₁ − τ₀: from uncut to hanging on. */
  hangsGap: { median: 0.15, sdlog: 0.5 },
  /** τ₂ − τ₁: from just through to just scored. The median belongs to the vinyl type. */
  cleanGap: { median: 0.42, sdlog: 0.35 },
  /** τ₃ − τ₂: from scored to through. */
  scoredGap: { median: 0.3, sdlog: 0.5 },
  /** Noise of one cut. Without this prior six well separated cells would drive it to zero, which is false certainty. */
  sigma: { median: 0.07, sdlog: 0.45 },
  /** β: load gained by each doubling of passes is β·log 2. */
  passes: { median: 0.3, sdlog: 0.5 },
  /** Log increments between neighbouring positions of a dial, shrunk towards equal. */
  dialSd: 0.25,
  /** An entry of a list against the load its maker gives it. */
  entrySd: 0.22,
  /** What one step of a list's modifier adds. */
  modifier: { median: MODIFIER_LOAD, sdlog: 0.4 },
  /** γ: load lost as the blade goes e times faster. */
  speed: { median: 0.08, sdlog: 0.6 },
  /** ω: load lost over the life of a blade. */
  wear: { median: 0.15, sdlog: 0.6 },
  /** Share of the noise that figures of one cell have in common. */
  cellShare: 0.5,
  /** Chance of a slip: one wrong tap must not rule. */
  lapse: 0.02,
  /** What differs from one occasion to the next, sd in log load. */
  effects: { coupon: 0.04, colour: 0.08, batch: 0.06, blade: 0.08, cutter: 0.12 },
};

type LogNormalPrior = { median: number; sdlog: number };
export type EffectKind = keyof (typeof priorDefaults)['effects'];

export type Prior = {
  /** What the centre is of: the clean window (τ₁ + τ₂)/2, which it is unless said otherwise, or τ₃, where the vinyl is cut through. */
  anchor?: 'clean' | 'through';
  centre: { mean: number; sd: number };
  gainSd: number;
  hangsGap: LogNormalPrior;
  cleanGap: LogNormalPrior;
  scoredGap: LogNormalPrior;
  sigma: LogNormalPrior;
  passes: LogNormalPrior;
  dialSd: number;
  entrySd: number;
  modifier: LogNormalPrior;
  speed: LogNormalPrior;
  wear: LogNormalPrior;
  cellShare: number;
  lapse: number;
  effects: Record<EffectKind, number>;
};

/** The cold prior of a vinyl type on an axis: the maker's place for plain vinyl, shifted by the type, a quarter of the range wide. */
export function coldPrior(axis: Axis, type: VinylTypeKey): Prior {
  const { centreShare, ...rest } = priorDefaults;
  const { load, gap } = vinylTypes[type];
  return {
    ...rest,
    centre: { mean: load, sd: nominalLoad(axis).span * centreShare },
    cleanGap: { ...rest.cleanGap, median: gap },
  };
}

export const aroundDefaults = {
  /** Another cutter of the model and another blade, together: sd in log load. */
  sd: 0.16,
  /** log b, where a number of the same axis is known to work. */
  gainSd: 0.15,
};

export const aroundSchema = z
  .strictObject({
    position: z.int().describe('where somebody else has it, on this very axis'),
    sd: z.number().positive().max(3).default(aroundDefaults.sd).describe('how far off it may be, in log load'),
  })
  .describe('somebody else’s number that is taken as a starting point');
export type Around = z.infer<typeof aroundSchema>;

/** The prior of a vinyl type, laid round somebody else's number where there is one. */
export function priorFor(axis: Axis, type: VinylTypeKey, wanted: 'clean' | 'through', around?: Around): Prior {
  const cold = coldPrior(axis, type);
  if (!around) return cold;
  const load = nominalLoad(axis).at(around.position);
  return {
    ...cold,
    gainSd: aroundDefaults.gainSd,
    ...(wanted === 'through'
      ? // The lightest sure place lies 1.6 σ above the cut point.
        { anchor: 'through' as const, centre: { mean: load - 1.645 * cold.sigma.median, sd: around.sd } }
      : { centre: { mean: load, sd: around.sd } }),
  };
}
