import { z } from 'zod';
import {
  atStrength,
  axisOfRole,
  cutterModelSchema,
  formatPosition,
  limitsOf,
  passesOf,
  positionsOf,
  shortPosition,
  settingSchema,
  speedOf,
  startingSetting,
  strengthAxis,
  validateSetting,
  type CutterModel,
  type Setting,
} from '../controls/index.ts';
import { quantile } from '../stats/index.ts';
import { vinylTypeKeys, type VinylTypeKey } from '../vinyls/index.ts';
import {
  aroundSchema,
  fitInputSchema,
  gradedCellSchema,
  posterior,
  priorFor,
  type Interval,
  type Posterior,
} from '../window/index.ts';
import type { Way } from './columns.ts';
import { decideCells, type TwoCamps } from './decide.ts';
import { designBatch, worthOfCells, type Design } from './design.ts';

export const planDefaults = {
  cells: 6,
  /** Cells where much is known already: a card of somebody else, a blade that has not cut it. */
  few: 3,
  /** Passes that a coupon tries beside one, at most. */
  passes: 3,
};

/** Fewest and most cells of one coupon. */
export const cellLimits = { min: 3, max: 12 };

/**
 * Why a coupon is cut: nothing is known; somebody else's number is tried here; what is known was found with another blade, colour or on
 * another day; crafters fall into two camps, and it is to be decided which number works here; or the same cell all over the mat, to see
 * how evenly the cutter presses.
 */
export const planModes = ['new', 'check', 'retune', 'decide', 'even'] as const;

export const planInputSchema = z.strictObject({
  format: z.literal('versipel-plan/1'),
  model: cutterModelSchema,
  type: z.enum(vinylTypeKeys),
  cells: z.array(gradedCellSchema).max(20000).default([]).describe('what has been graded already'),
  wanted: z.enum(['clean', 'through']).default('clean').describe('through: the piece is to fall out of its carrier'),
  target: fitInputSchema.shape.target,
  around: aroundSchema.optional(),
  mode: z.enum(planModes).default('new'),
  camps: z
    .tuple([z.int(), z.int()])
    .optional()
    .describe('for mode decide: the numbers of two camps, as places on the axis'),
  also: z
    .array(z.enum(['passes', 'speed']))
    .max(2)
    .default([])
    .describe('controls that the cells try beside the strength'),
  count: z.int().min(cellLimits.min).max(cellLimits.max).default(planDefaults.cells),
  base: settingSchema.optional().describe('controls other than strength; the maker’s start when left out'),
  seed: z.int().default(1),
});
export type PlanInput = z.infer<typeof planInputSchema>;

type PlannedCell = { number: number; position: number; shown: string; setting: Setting };
export type Plan = {
  format: 'versipel-plan-result/1';
  cells: PlannedCell[];
  /** Whether anything had been graded before. */
  reason: 'cold' | 'narrowed';
  asked: number;
  /** What the plan was asked for; older plans do not say. */
  mode?: (typeof planModes)[number];
  /** The controls it was planned with, where its cells try others beside the strength. */
  base?: Setting;
  /** Somebody else's number that it is laid round. */
  around?: { position: number; sd: number };
  /** The numbers of two camps that it decides between. */
  camps?: TwoCamps;
  /**
   * Chance of the wanted result at the best place as things stand, and as it is expected once these cells are graded. Plans made
   * before this was told have none.
   */
  expected?: { now: number; after: number };
  /** Where the best place lies, 90 times in 100: as things stand, and how closely it should be known then. Not on lists. */
  place?: { now: Interval; after: Interval };
};

/** What a coupon may try beside the strength: passes from one up; the speed that is set, half of it and twice. */
export function waysFor(
  model: CutterModel,
  base: Setting,
  also: readonly ('passes' | 'speed')[],
): (Way & { steps: Record<string, number> })[] {
  const passes = axisOfRole(model, 'passes');
  const speed = axisOfRole(model, 'speed');
  const standing = passesOf(model, base);
  const shown = speedOf(model, base);
  const passCounts =
    also.includes('passes') && passes
      ? [
          ...new Set([
            standing,
            ...Array.from({ length: Math.min(planDefaults.passes, limitsOf(passes).max) }, (_, i) => i + 1),
          ]),
        ]
      : [standing];
  const speeds =
    also.includes('speed') && speed?.kind === 'number' && shown !== undefined && shown > 0
      ? [
          ...new Set(
            [shown, shown / 2, shown * 2].map((v) =>
              Math.min(speed.max, Math.max(speed.min, Math.round(v / speed.step))),
            ),
          ),
        ]
      : [undefined];
  return passCounts.flatMap((count) =>
    speeds.map((position) => ({
      passes: count,
      faster: position === undefined ? 0 : Math.log((position * (speed as { step: number }).step) / shown!),
      steps: {
        ...(passes ? { [passes.key]: count } : {}),
        ...(position === undefined ? {} : { [speed!.key]: position }),
      },
    })),
  );
}

/**
 * One place for all cells: where too little and enough are as likely, since there a little more or less force shows at once. It is looked
 * for among the places as they are believed in, lighter where through would do as well.
 */
function evenDesign(post: Posterior, wanted: 'clean' | 'through', way: Way, count: number, seed: number): Design {
  const edge = wanted === 'clean' ? 1 : 3;
  const load = quantile(Float64Array.from(post.draws, (d) => d.tau[edge]).sort(), 0.5);
  const { min } = limitsOf(post.axis);
  const away = (position: number) =>
    Math.abs(
      post.draws.reduce((s, d) => s + d.gain * d.loads[position - min]! + d.beta * Math.log(way.passes), 0) /
        post.draws.length -
        load,
    );
  const position = positionsOf(post.axis).reduce((a, b) => (away(b) < away(a) ? b : a));
  const cells = Array.from({ length: count }, () => ({ position, way }));
  return { cells, ...worthOfCells(post, cells, { wanted, ways: [way], seed }) };
}

/** Cells that tell which of two camps' numbers works here. */
function decideDesign(
  post: Posterior,
  type: VinylTypeKey,
  camps: TwoCamps,
  { wanted, way, count, seed }: { wanted: 'clean' | 'through'; way: Way; count: number; seed: number },
): Design {
  const { min, max } = limitsOf(post.axis);
  for (const position of camps)
    if (position < min || position > max)
      throw new RangeError(`camps: ${position} is no place of ${post.axis.word}; it has ${min} to ${max}`);
  const cells = decideCells({ axis: post.axis, type, camps, wanted, count, seed }).map((position) => ({
    position,
    way,
  }));
  return { cells, ...worthOfCells(post, cells, { wanted, ways: [way], seed }) };
}

/**
 * Plans the next coupon: cells where they are expected to teach most about the choice (`designBatch`), lightest first.
 *
 * @throws RangeError when a cell, or the base setting, does not belong to the model
 */
export function planCoupon(input: PlanInput): Plan {
  const { model, wanted, seed, also, around, mode } = input;
  const axis = strengthAxis(model);
  const base = input.base ? validateSetting(model, input.base) : startingSetting(model);
  const post = posterior(axis, priorFor(axis, input.type, wanted, around), input.cells, {
    seed,
    target: input.target,
    learnable: true,
  });
  const ways = waysFor(model, base, also);
  const design =
    mode === 'even'
      ? evenDesign(post, wanted, ways[0]!, input.count, seed)
      : mode === 'decide' && input.camps
        ? decideDesign(post, input.type, input.camps, { wanted, way: ways[0]!, count: input.count, seed })
        : designBatch(post, { count: input.count, wanted, ways, seed });
  const round = (chance: number) => Number(chance.toFixed(3));
  return {
    format: 'versipel-plan-result/1',
    cells: design.cells.map(({ position, way }, i) => {
      const setting = atStrength(model, base, position);
      const { steps } = way as (typeof ways)[number];
      const differs = also.flatMap((role) => {
        const a = axisOfRole(model, role)!;
        if (!a || steps[a.key] === undefined) return [];
        return role === 'passes'
          ? steps[a.key]! > 1
            ? [`×${steps[a.key]}`]
            : []
          : [`${a.word} ${formatPosition(a, steps[a.key]!)}`];
      });
      return {
        number: i + 1,
        position,
        shown: [shortPosition(axis, position), ...differs].join(' '),
        setting: validateSetting(model, { ...setting, steps: { ...setting.steps, ...steps } }),
      };
    }),
    reason: input.cells.length === 0 ? 'cold' : 'narrowed',
    asked: input.count,
    mode,
    ...(also.length > 0 ? { base } : {}),
    ...(around ? { around: { position: around.position, sd: around.sd } } : {}),
    expected: { now: round(design.chance.now), after: round(design.chance.after) },
    ...(axis.kind === 'list' ? {} : { place: design.place }),
  };
}
