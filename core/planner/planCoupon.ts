import { z } from 'zod';
import {
  atStrength,
  cutterModelSchema,
  limitsOf,
  passesOf,
  positionsOf,
  shortPosition,
  settingSchema,
  startingSetting,
  strengthAxis,
  validateSetting,
  type Axis,
  type Setting,
} from '../controls/index.ts';
import { quantile } from '../stats/index.ts';
import { vinylTypeKeys } from '../vinyls/index.ts';
import { coldPrior, fitInputSchema, gradedCellSchema, posterior, type Draw, type Posterior } from '../window/index.ts';
import { designBatch, worthOfCells } from './design.ts';

export const planDefaults = { cells: 6 };

/**
 * Share of the prior that the cells of a coupon are spread over, from below. The rest lies above the highest cell: a cell that
 * cuts the mat costs more than one that is not through, and the next coupon can go higher.
 */
const REACH = 0.8;

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
  /** Why these: spread over where the window may lie, or where they are expected to teach most. */
  reason: 'cold' | 'narrowed';
  asked: number;
  /**
   * Chance of the wanted result at the best place as things stand, and as it is expected once these cells are graded. Plans made
   * before this was told have none.
   */
  expected?: { now: number; after: number };
};

/**
 * Spreads positions by the quantiles of where the two edges of the clean window may lie, low to high, every position at most
 * once. Where two fall on one step the later moves on; a dial with fewer positions than cells gets each once.
 *
 * @param edges sorted draws of the edges, as positions that need not be whole
 * @returns at most `count` positions in rising order
 */
export function spreadPositions(axis: Axis, edges: ArrayLike<number>, count: number): number[] {
  const { min, max } = limitsOf(axis);
  const n = Math.min(count, max - min + 1);
  const wanted = Array.from({ length: n }, (_, i) => quantile(edges, (REACH * (i + 0.5)) / n));
  const positions = wanted.map((w) => Math.min(max, Math.max(min, Math.round(w))));
  for (let i = 1; i < n; i++) positions[i] = Math.max(positions[i]!, positions[i - 1]! + 1);
  positions[n - 1] = Math.min(positions[n - 1]!, max);
  for (let i = n - 2; i >= 0; i--) positions[i] = Math.min(positions[i]!, positions[i + 1]! - 1);
  return positions;
}

/**
 * Positions in the order of the load they are believed to give, lightest first. On numbers and dials that is their own order;
 * on a list the evidence may have moved an entry past its neighbour.
 */
function byLoad(post: Posterior): number[] {
  const heft = (p: number) => post.draws.reduce((s, d) => s + d.loads[p]!, 0);
  const all = positionsOf(post.axis);
  if (post.axis.kind !== 'list') return all;
  const known = new Map(all.map((p) => [p, heft(p)]));
  return all.sort((a, b) => known.get(a)! - known.get(b)! || a - b);
}

/**
 * Draws of what the next coupon is to find, as places in the order of load, sorted: both edges τ₁ and τ₂ of "clean", or the
 * load from which 95 of 100 fall out. May lie beyond the axis by interpolation at its ends.
 *
 * @param extra log load that the passes of the coming cut add, for a draw
 */
function edgeDraws(post: Posterior, wanted: 'clean' | 'through', extra: (beta: number) => number): Float64Array {
  const { min } = limitsOf(post.axis);
  const order = byLoad(post).map((p) => p - min);
  const sought = (d: Draw) => (wanted === 'clean' ? [d.tau[1], d.tau[2]] : [d.tau[3], d.tau[3] + 1.645 * d.sigma]);
  const places = new Float64Array(post.draws.length * 2);
  post.draws.forEach((d, i) =>
    sought(d).forEach((tau, e) => {
      const load = (tau - extra(d.beta)) / d.gain;
      const loads = order.map((p) => d.loads[p]!);
      let k = 0;
      while (k < loads.length - 2 && loads[k + 1]! < load) k++;
      const step = loads[k + 1]! - loads[k]!;
      // Within one draw of a list a neighbour may be lighter: then the place itself is as near as it gets.
      places[2 * i + e] = min + k + (step > 1e-9 ? (load - loads[k]!) / step : 0);
    }),
  );
  return places.sort();
}

/**
 * Plans the next coupon. A first one is spread by what is believed about the edges of the clean window; once cells are graded, the
 * next ones lie where they are expected to teach most about the choice (`designBatch`).
 * Source of the spacing: prior quantiles, common practice for a first sensitivity test (Dixon & Massey 1969, ch. 19).
 *
 * @throws RangeError when a cell, or the base setting, does not belong to the model
 */
export function planCoupon(input: PlanInput): Plan {
  const axis = strengthAxis(input.model);
  const base = input.base ? validateSetting(input.model, input.base) : startingSetting(input.model);
  const post = posterior(axis, coldPrior(axis, input.type), input.cells, { seed: input.seed, target: input.target });
  const passes = passesOf(input.model, base);
  const { wanted, seed } = input;
  let positions: number[];
  let expected: { now: number; after: number };
  if (input.cells.length === 0) {
    const edges = edgeDraws(post, wanted, (beta) => beta * Math.log(passes));
    const order = byLoad(post);
    const { min } = limitsOf(axis);
    positions = spreadPositions(axis, edges, input.count).map((rank) => order[rank - min]!);
    expected = worthOfCells(post, positions, { wanted, passes, seed });
  } else {
    const design = designBatch(post, { count: input.count, wanted, passes, seed });
    positions = design.positions;
    expected = { now: design.now, after: design.after };
  }
  const round = (chance: number) => Number(chance.toFixed(3));
  return {
    format: 'versipel-plan-result/1',
    cells: positions.map((position, i) => ({
      number: i + 1,
      position,
      shown: shortPosition(axis, position),
      setting: atStrength(input.model, base, position),
    })),
    reason: input.cells.length === 0 ? 'cold' : 'narrowed',
    asked: input.count,
    expected: { now: round(expected.now), after: round(expected.after) },
  };
}
