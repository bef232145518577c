import { limitsOf, speedOf, startingSetting, strengthAxis } from '../controls/index.ts';
import { gradeChances, posterior, priorFor, type Draw } from '../window/index.ts';
import { choosePlace } from './choose.ts';
import { waysFor, type PlanInput } from './planCoupon.ts';

const compareDefaults = {
  /** What a scored or cut carrier costs beside not being clean: it tears on weeding, and the mat wears. */
  damage: 0.25,
  /** What it costs to take twice as long; half as long is gained. */
  time: 0.005,
};

/** One way of cutting, at the strength that is best for it. */
export type ComparedWay = {
  passes: number;
  /** The number shown for speed, where it is one that was asked about. */
  speed?: number;
  position: number;
  /** Chance of the wanted result. */
  chance: number;
  /** Chance that the carrier is scored or cut through. */
  damaged: number;
  /** How long it takes against one pass at the standing speed. */
  time: number;
  /** Whether it is the one to take, all weighed. */
  chosen: boolean;
};

/**
 * Two light passes against one heavy, slow against fast: each way at its best strength, with what it does to the carrier and how long it
 * takes. Chosen is the highest chance less the cost of damage and time.
 */
export function compareWays(input: PlanInput): ComparedWay[] {
  const { model, wanted } = input;
  const axis = strengthAxis(model);
  const base = input.base ?? startingSetting(model);
  const post = posterior(axis, priorFor(axis, input.type, wanted, input.around), input.cells, {
    seed: input.seed,
    target: input.target,
  });
  const { min } = limitsOf(axis);
  const shown = speedOf(model, base);
  // One thing changed at a time: a table of all with all is read by nobody.
  const ways = [waysFor(model, base, []), ...input.also.map((role) => waysFor(model, base, [role]).slice(1))].flat();
  const rows = ways.map((way) => {
    const { place, chance } = choosePlace(post, wanted, [way]);
    const { position } = place;
    const damageOf = (d: Draw) => {
      const load = d.gain * d.loads[position - min]! + d.beta * Math.log(way.passes) - d.gamma * way.faster;
      const [, , , scored, through] = gradeChances(d, load);
      return scored! + through!;
    };
    const damaged = post.draws.reduce((s, d) => s + damageOf(d), 0) / post.draws.length;
    const time = way.passes / Math.exp(way.faster);
    return { way, position, chance, damaged, time };
  });
  const value = (r: (typeof rows)[number]) =>
    r.chance -
    (wanted === 'clean' ? compareDefaults.damage * r.damaged : 0) -
    compareDefaults.time * Math.log2(r.time / rows[0]!.time);
  const best = rows.reduce((a, b) => (value(b) > value(a) + 1e-4 ? b : a));
  const round = (v: number) => Number(v.toFixed(3));
  return rows
    .map((r) => ({
      passes: r.way.passes,
      ...(shown !== undefined && input.also.includes('speed')
        ? { speed: Number((shown * Math.exp(r.way.faster)).toPrecision(6)) }
        : {}),
      position: r.position,
      chance: round(r.chance),
      damaged: round(r.damaged),
      time: r.time,
      chosen: r === best,
    }))
    .sort((a, b) => a.passes - b.passes || (a.speed ?? 0) - (b.speed ?? 0));
}
