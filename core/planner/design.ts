import { positionsOf } from '../controls/index.ts';
import { quickNormalCdf, seededRandom, type Random } from '../stats/index.ts';
import { priorDefaults, type Interval, type Posterior } from '../window/index.ts';
import { chancesAt, columnsOf, meanOf, plainWay, type Columns, type Place, type Way } from './columns.ts';

const designDefaults = {
  /** Draws of the posterior that outcomes are imagined with. */
  draws: 256,
  /** Imagined outcomes of the cells chosen so far that a further cell is weighed under. */
  paths: 32,
  /** Places a cell may go to, at most; more are thinned evenly in load. */
  places: 48,
  /** Cells of one coupon that are expected to cut right through, at most: they hurt the mat. */
  through: 1.6,
  /** Where nearly every draw says the same of a place, a cell teaches nothing. */
  certain: 0.975,
  /** Places looked at for the final choice, at most, for each way of cutting. */
  choices: 64,
  /** What a unit of log load beyond what falls out for sure costs where through is wanted: it goes into the mat. */
  excess: 0.3,
  /** What it is worth to know that nothing works on this cutter as it stands: one changes the blade or the mat and stops wasting film. */
  giveUp: 0.75,
  seed: 1,
};

export type DesignOptions = { count: number; wanted: 'clean' | 'through'; ways?: readonly Way[] } & Partial<
  typeof designDefaults
>;
type Settled = Required<Omit<DesignOptions, 'count'>>;

/** What cells are worth before they are cut. */
export type Worth = {
  /**
   * Value of the best place as things stand: chance of a clean cut, or of falling out less what too much of it costs; at least that of
   * giving up.
   */
  now: number;
  /** The same as it is expected once the cells are graded. */
  after: number;
  /** Both without giving up: what the operator gets. */
  chance: { now: number; after: number };
  /** Where the best place lies, in log load: how wide its 90 % interval is now, and is expected to be. */
  spread: { now: number; after: number };
  /** The same as stretches of the axis for the first way; the later one laid about the middle of the first. */
  place: { now: Interval; after: Interval };
};
export type Design = Worth & {
  /** Lightest first; a place may stand twice where noise is what is unknown. */
  cells: Place[];
};

const kindsOf = (wanted: 'clean' | 'through') => (wanted === 'clean' ? 3 : 2);

/**
 * Chances of what the choice hangs on at some loads, kind by kind: too little, clean, too much; or not through, through. A slip
 * of the tap is part of it.
 */
function heardAt(c: Columns, loads: Float64Array, wanted: 'clean' | 'through'): Float64Array {
  const { n, tau, sigma } = c;
  const { lapse } = priorDefaults;
  const table = new Float64Array(n * kindsOf(wanted));
  for (let s = 0; s < n; s++) {
    const u = loads[s]!;
    if (wanted === 'through') {
      const not = quickNormalCdf((tau[3][s]! - u) / sigma[s]!);
      table[s] = (1 - lapse) * not + lapse * 0.8;
      table[n + s] = (1 - lapse) * (1 - not) + lapse * 0.2;
      continue;
    }
    const low = quickNormalCdf((tau[1][s]! - u) / sigma[s]!);
    const high = quickNormalCdf((tau[2][s]! - u) / sigma[s]!);
    table[s] = (1 - lapse) * low + lapse * 0.4;
    table[n + s] = (1 - lapse) * (high - low) + lapse * 0.2;
    table[2 * n + s] = (1 - lapse) * (1 - high) + lapse * 0.4;
  }
  return table;
}

/** At most so many of a list that is in order of load, evenly in load: on a log axis the heavy positions lie closer together than the light ones. */
const thinned = <T extends { heft: number }>(list: readonly T[], most: number): T[] => {
  if (list.length <= most) return [...list];
  const kept: T[] = [];
  const [from, to] = [list[0]!.heft, list.at(-1)!.heft];
  let at = 0;
  for (let i = 0; i < most; i++) {
    while (at < list.length - 1 && list[at]!.heft < from + ((to - from) * i) / (most - 1) - 1e-12) at++;
    if (list[at] !== kept.at(-1)) kept.push(list[at]!);
  }
  return kept;
};

const lightestFirst = (post: Posterior, c: Columns, way: Way) =>
  positionsOf(post.axis)
    .map((position) => ({ position, heft: c.heft({ position, way }) }))
    .sort((a, b) => a.heft - b.heft || a.position - b.position);

type Candidate = Place & { heft: number; table: Float64Array; through: number };

/** Places worth asking about: those where something may change, thinned evenly in load. */
function candidatesFor(post: Posterior, c: Columns, o: Settled): Candidate[] {
  const each = Math.max(8, Math.floor(o.places / Math.sqrt(o.ways.length)));
  return o.ways.flatMap((way): Candidate[] => {
    const place = (position: number): Candidate => {
      const loads = c.loads({ position, way });
      const heft = meanOf(loads);
      const through = meanOf(chancesAt(c, loads, 'through'));
      return { position, way, heft, table: heardAt(c, loads, o.wanted), through };
    };
    const byHeft = lightestFirst(post, c, way);
    const surest = ({ table }: Candidate) =>
      Math.max(...Array.from({ length: kindsOf(o.wanted) }, (_, k) => meanOf(table.subarray(k * c.n, (k + 1) * c.n))));
    // Looked at coarsely first: where does anything change?
    const coarse = thinned(byHeft, 2 * each).map((p) => place(p.position));
    const open = coarse.filter((p) => surest(p) < o.certain);
    if (open.length < 3) return thinned(coarse, each);
    const [from, to] = [open[0]!.heft, open.at(-1)!.heft];
    const inside = byHeft.filter((p) => p.heft >= from - 1e-12 && p.heft <= to + 1e-12);
    const known = new Map(coarse.map((p) => [p.position, p]));
    return thinned(inside, each).map((p) => known.get(p.position) ?? place(p.position));
  });
}

/** Gives every path an outcome of a cell, drawn from what that path expects, and weighs its draws by it. */
function imagine(weights: Float64Array[], table: Float64Array, kinds: number, random: Random): void {
  const n = table.length / kinds;
  // One in each slice of the unit interval, in mixed order: all outcomes come up as often as they should.
  const marks = weights.map((_, i) => (i + random.uniform()) / weights.length);
  for (let i = marks.length - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [marks[i], marks[j]] = [marks[j]!, marks[i]!];
  }
  for (let path = 0; path < weights.length; path++) {
    const w = weights[path]!;
    let mark = marks[path]!;
    let kind = kinds - 1;
    for (let k = 0; k < kinds; k++) {
      let mean = 0;
      for (let s = 0; s < n; s++) mean += w[s]! * table[k * n + s]!;
      if (mark < mean) {
        kind = k;
        break;
      }
      mark -= mean;
    }
    let total = 0;
    for (let s = 0; s < n; s++) total += w[s] = w[s]! * table[kind * n + s]!;
    for (let s = 0; s < n; s++) w[s]! /= total;
  }
}

/** The 5th, 50th and 95th hundredth of a weighted list, its values in rising order of `order`. */
function quantilesOf(values: Float64Array, order: readonly number[], w: Float64Array): [number, number, number] {
  const marks = [0.05, 0.5, 0.95];
  const found: number[] = [];
  let sum = 0;
  for (const s of order) {
    sum += w[s]!;
    while (found.length < 3 && sum >= marks[found.length]!) found.push(values[s]!);
  }
  while (found.length < 3) found.push(values[order.at(-1)!]!);
  return found as [number, number, number];
}

/** Place of a load on the axis by the mean of the draws, between two steps; held within it. */
function placeOf(post: Posterior, c: Columns, way: Way, load: number): number {
  const list = lightestFirst(post, c, way);
  const above = list.findIndex((p) => p.heft >= load);
  if (above < 0) return list.at(-1)!.position;
  if (above === 0) return list[0]!.position;
  const [a, b] = [list[above - 1]!, list[above]!];
  return Number((a.position + ((load - a.heft) / (b.heft - a.heft)) * (b.position - a.position)).toFixed(2));
}

/** What the imagined outcomes are worth: the value of the best place now, and on average at the best place of each of them. */
function worthOf(post: Posterior, c: Columns, o: Settled, weights: readonly Float64Array[]): Worth {
  const { n, tau, sigma } = c;
  const rows = o.ways.flatMap((way) =>
    thinned(lightestFirst(post, c, way), Math.ceil(o.choices / Math.sqrt(o.ways.length))).map(({ position }) => {
      const loads = c.loads({ position, way });
      const row = chancesAt(c, loads, o.wanted);
      if (o.wanted === 'through')
        for (let s = 0; s < n; s++) row[s]! -= o.excess * Math.max(0, loads[s]! - tau[3][s]! - SURE * sigma[s]!);
      return row;
    }),
  );
  const best = (w: Float64Array) => {
    let most = -Infinity;
    for (const row of rows) {
      let sum = 0;
      for (let s = 0; s < n; s++) sum += row[s]! * w[s]!;
      if (sum > most) most = sum;
    }
    return most;
  };
  const flat = new Float64Array(n).fill(1 / n);
  const average = new Float64Array(n);
  for (const w of weights) for (let s = 0; s < n; s++) average[s]! += w[s]! / weights.length;
  const sought = Float64Array.from(sigma, (sd, s) =>
    o.wanted === 'clean' ? (tau[1][s]! + tau[2][s]!) / 2 : tau[3][s]! + SURE * sd,
  );
  const order = Array.from(sought.keys()).sort((a, b) => sought[a]! - sought[b]!);
  const mean = (of: (w: Float64Array) => number) => weights.reduce((sum, w) => sum + of(w), 0) / weights.length;
  const bests = weights.map(best);
  const [now, pooled] = [best(flat), best(average)];
  // Gains are counted on the same paths, so that what the sampling of paths adds falls out of their difference.
  const gain = (floor: number) =>
    Math.max(0, bests.reduce((sum, b) => sum + Math.max(floor, b), 0) / bests.length - Math.max(floor, pooled));
  const floored = Math.max(o.giveUp, now);
  const [low, middle, high] = quantilesOf(sought, order, flat);
  const later = mean((w) => {
    const [from, , to] = quantilesOf(sought, order, w);
    return to - from;
  });
  const at = (load: number) => placeOf(post, c, o.ways[0]!, load);
  return {
    now: floored,
    after: floored + gain(o.giveUp),
    chance: { now, after: now + gain(-Infinity) },
    spread: { now: high - low, after: later },
    place: {
      now: { low: at(low), high: at(high) },
      after: { low: at(Math.max(low, middle - later / 2)), high: at(Math.min(high, middle + later / 2)) },
    },
  };
}
/** Φ⁻¹(0.95): through is asked for 95 times in 100. */
const SURE = 1.6448536269514722;

const settle = ({ ways = [plainWay], ...options }: Omit<DesignOptions, 'count'>): Settled => ({
  ...designDefaults,
  ...options,
  ways,
});
const freshPaths = (o: Settled, n: number) => Array.from({ length: o.paths }, () => new Float64Array(n).fill(1 / n));

/** What cells at given places are worth, before they are cut. */
export function worthOfCells(post: Posterior, cells: readonly Place[], options: Omit<DesignOptions, 'count'>): Worth {
  const o = settle(options);
  const random = seededRandom(o.seed);
  const c = columnsOf(post, o.draws);
  const weights = freshPaths(o, c.n);
  for (const cell of cells) imagine(weights, heardAt(c, c.loads(cell), o.wanted), kindsOf(o.wanted), random);
  return worthOf(post, c, o, weights);
}

const plogp = (p: number) => (p > 1e-12 ? p * Math.log(p) : 0);

/** What a cell tells, in nats, when draws have these weights. */
function gainUnder(w: Float64Array, table: Float64Array, noise: Float64Array, kinds: number): number {
  const n = w.length;
  let gain = 0;
  for (let k = 0; k < kinds; k++) {
    let mean = 0;
    const from = k * n;
    for (let s = 0; s < n; s++) mean += w[s]! * table[from + s]!;
    gain -= plogp(mean);
  }
  for (let s = 0; s < n; s++) gain -= w[s]! * noise[s]!;
  return gain;
}

/**
 * Chooses the cells of the next coupon as a batch: each cell is the one that is expected to tell most about what the choice hangs
 * on, given what the cells before it may come out as. The gain of a cell is the mutual information between its outcome and the
 * parameters, H(mean over draws) − mean over draws of H, under weights that carry imagined outcomes of the cells already chosen.
 * Outcomes are told apart only as far as they matter (too little, clean, too much). A cell is a strength and a way of cutting (passes,
 * speed); lightest first.
 *
 * Sources: expected information of an experiment, Lindley (1956); greedy batches by imagined outcomes, as in BatchBALD (Kirsch,
 * van Amersfoort & Gal 2019), whose joint entropy is sampled here; information over draws of a posterior, Houlsby et al. (2011).
 */
export function designBatch(post: Posterior, options: DesignOptions): Design {
  const { count, ...rest } = options;
  const o = settle(rest);
  const random = seededRandom(o.seed);
  const c = columnsOf(post, o.draws);
  const { n } = c;
  const kinds = kindsOf(o.wanted);
  const candidates = candidatesFor(post, c, o);
  // How uncertain the outcome is when the draw is known.
  const noise = candidates.map(({ table }) => {
    const h = new Float64Array(n);
    for (let s = 0; s < n; s++) for (let k = 0; k < kinds; k++) h[s]! -= plogp(table[k * n + s]!);
    return h;
  });
  const weights = freshPaths(o, n);
  const chosen: number[] = [];
  // A neighbour tells as much as the same place again, and more if the model is a little wrong; where there are fewer places than cells,
  // the noise is what is left to learn.
  const often = Math.ceil(count / candidates.length);
  const used = new Uint8Array(candidates.length);
  let throughSoFar = 0;
  const allowance = o.wanted === 'through' ? Infinity : o.through;
  for (let cell = 0; cell < count; cell++) {
    let best = -1;
    let bestGain = -Infinity;
    const looked = cell === 0 ? weights.slice(0, 1) : weights;
    for (let i = 0; i < candidates.length; i++) {
      const { table, through } = candidates[i]!;
      if (used[i]! >= often || throughSoFar + through > allowance) continue;
      let gain = 0;
      for (let path = 0; path < looked.length; path++) gain += gainUnder(looked[path]!, table, noise[i]!, kinds);
      if (gain > bestGain + 1e-12) {
        bestGain = gain;
        best = i;
      }
    }
    if (best < 0) best = mildest(candidates, used);
    used[best]!++;
    chosen.push(best);
    throughSoFar += candidates[best]!.through;
    imagine(weights, candidates[best]!.table, kinds, random);
  }
  const cells = chosen
    .map((i) => candidates[i]!)
    .sort((a, b) => a.heft - b.heft || a.position - b.position)
    .map(({ position, way }) => ({ position, way }));
  return { cells, ...worthOf(post, c, o, weights) };
}

/** The place least likely to be cut through, among those used least. */
function mildest(candidates: readonly Candidate[], used: Uint8Array): number {
  const least = Math.min(...used);
  let best = used.indexOf(least);
  candidates.forEach((p, i) => {
    if (used[i] === least && p.through < candidates[best]!.through) best = i;
  });
  return best;
}
