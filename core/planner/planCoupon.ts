import { z } from 'zod';
import {
  atStrength,
  cutterModelSchema,
  passesOf,
  shortPosition,
  settingSchema,
  startingSetting,
  strengthAxis,
  validateSetting,
  type Setting,
} from '../controls/index.ts';
import { vinylTypeKeys } from '../vinyls/index.ts';
import { coldPrior, fitInputSchema, gradedCellSchema, posterior } from '../window/index.ts';
import { plainWay } from './columns.ts';
import { designBatch } from './design.ts';

export const planDefaults = { cells: 6 };

/** Fewest and most cells of one coupon. */
export const cellLimits = { min: 3, max: 12 };

export const planInputSchema = z.strictObject({
  format: z.literal('versipel-plan/1'),
  model: cutterModelSchema,
  type: z.enum(vinylTypeKeys),
  cells: z.array(gradedCellSchema).max(20000).default([]).describe('what has been graded already'),
  wanted: z.enum(['clean', 'through']).default('clean').describe('through: the piece is to fall out of its carrier'),
  target: fitInputSchema.shape.target,
  count: z.int().min(cellLimits.min).max(cellLimits.max).default(planDefaults.cells),
  base: settingSchema.optional().describe('controls other than strength; the maker’s start when left out'),
  seed: z.int().default(1),
});
export type PlanInput = z.infer<typeof planInputSchema>;

export type PlannedCell = { number: number; position: number; shown: string; setting: Setting };
export type Plan = {
  format: 'versipel-plan-result/1';
  cells: PlannedCell[];
  /** Whether anything had been graded before. */
  reason: 'cold' | 'narrowed';
  asked: number;
  /**
   * Chance of the wanted result at the best place as things stand, and as it is expected once these cells are graded. Plans made
   * before this was told have none.
   */
  expected?: { now: number; after: number };
};

/**
 * Plans the next coupon: cells where they are expected to teach most about the choice (`designBatch`), lightest first.
 *
 * @throws RangeError when a cell, or the base setting, does not belong to the model
 */
export function planCoupon(input: PlanInput): Plan {
  const axis = strengthAxis(input.model);
  const base = input.base ? validateSetting(input.model, input.base) : startingSetting(input.model);
  const post = posterior(axis, coldPrior(axis, input.type), input.cells, { seed: input.seed, target: input.target });
  const passes = passesOf(input.model, base);
  const { wanted, seed } = input;
  const way = { ...plainWay, passes };
  const design = designBatch(post, { count: input.count, wanted, ways: [way], seed });
  const round = (chance: number) => Number(chance.toFixed(3));
  return {
    format: 'versipel-plan-result/1',
    cells: design.cells.map(({ position }, i) => ({
      number: i + 1,
      position,
      shown: shortPosition(axis, position),
      setting: atStrength(input.model, base, position),
    })),
    reason: input.cells.length === 0 ? 'cold' : 'narrowed',
    asked: input.count,
    expected: { now: round(design.chance.now), after: round(design.chance.after) },
  };
}
