import { checked } from '../stats/index.ts';
import { Factored, type Parameters } from './factored.ts';
import { type MixedData, layout, type Layout } from './mixedLayout.ts';
import { direction, type Step, way } from './searchDirection.ts';
import { dot } from './spd.ts';

export const mixedDefaults = {
  /** Steps before giving up. */
  maxIterations: 80,
  /** Done when a step promises less than this much of the criterion (twice the log likelihood). */
  tolerance: 1e-9,
  /**
   * Near the end the promise of the next step is about the square of this one's: below this, if it was kept, that is the end of a large
   * fit. A small one is taken to its end.
   */
  near: 3e-3,
  /** No standard deviation below this share of the spread of the data: there the criterion is flat. */
  floor: 1e-6,
  /** Of larger data a part is fitted first, to begin near the end. */
  partFrom: { rows: 4_000, unknowns: 100 },
  /** log κ is normal around 0 with this standard deviation. */
  slopeSd: 0.35,
};

export type MixedFit = {
  at: Factored;
  /** Sum of the criterion and what the priors add. */
  objective: number;
  iterations: number;
  converged: boolean;
  /** Information on log κ with what was learnt about it: count × count, and how the unknowns move with each. */
  slopeInformation: Float64Array;
  slopeShift: Float64Array[];
};

/**
 * Restricted maximum likelihood for a mixed model with any number of crossed and nested terms, known error variances beside σ², and
 * slopes that multiply the random part group by group.
 *
 * Sources: Henderson (1950) mixed model equations; Patterson & Thompson (1971) REML; Gilmour, Thompson & Cullis (1995) average
 * information; slopes as Finlay & Wilkinson (1963), scored by Fisher's identity with the uncertainty of what they multiply, so that
 * they are not flattened by it. Each step starts from average information for variances and for slopes, corrected by what the steps
 * before have shown (L-BFGS): in turn they would crawl along the ridge where slopes grow and variances shrink.
 */
export function fitMixed(
  data: MixedData,
  options: Partial<typeof mixedDefaults> & { start?: Parameters } = {},
): MixedFit {
  const { start: _start, ...numbers } = options;
  const o = {
    ...checked(
      { ...mixedDefaults, ...numbers },
      {
        maxIterations: { from: 1, to: 10_000, whole: true },
        tolerance: { from: 0, to: 1, open: 'from' },
        near: { from: 0, to: 1 },
        floor: { from: 0, to: 1, open: 'both' },
        partFrom: undefined,
        slopeSd: { from: 0, to: 10, open: 'from' },
      },
    ),
    start: options.start,
  };
  const n = data.y.length;
  const lay = layout(data);
  const mean = data.y.reduce((s, v) => s + v, 0) / n;
  const spread = Math.max(data.y.reduce((s, v) => s + (v - mean) ** 2, 0) / Math.max(1, n - 1), 1e-12);
  const floor = spread * o.floor ** 2;
  const K = data.random.length;
  const count = data.slopes?.count ?? 0;
  const usual = (k: number) => data.usual?.[k]?.median ?? Math.sqrt(spread / (K + 2));
  let par: Parameters = options.start ?? {
    sd: Float64Array.from({ length: K }, (_, k) => usual(k)),
    residualVariance: usual(K) ** 2,
    slopes: new Float64Array(count).fill(1),
  };
  if (!options.start && n > o.partFrom.rows && lay.dense > o.partFrom.unknowns) par = fitPart(data, lay, o) ?? par;
  const prior = (p: Parameters) =>
    (data.slopes ? p.slopes.reduce((s, v, m) => s + (Math.log(v) / data.slopes!.sd[m]!) ** 2, 0) : 0) +
    (data.usual ?? []).reduce((s, u, k) => {
      const sd = k < K ? p.sd[k]! : Math.sqrt(p.residualVariance);
      return s + (Math.log(sd / u.median) / u.sdlog) ** 2;
    }, 0);

  let at = new Factored(data, lay, par);
  let objective = at.criterion + prior(par);
  let here = direction(at, floor);
  let converged = false;
  let iterations = 0;
  let steps: Step[] = [];
  for (; iterations < o.maxIterations; iterations++) {
    let delta = way(here.gradient, here.newton, steps);
    let promise = dot(delta, here.gradient);
    if (!(promise > 0)) {
      steps = [];
      delta = here.newton(here.gradient);
      promise = dot(delta, here.gradient);
    }
    const gain = promise / 2;
    if (gain < o.tolerance) {
      converged = true;
      break;
    }
    // Slopes go no further at once than can be trusted, and all else goes with them.
    const far = delta.slice(K + 1).reduce((most, v) => Math.max(most, Math.abs(v)), 0);
    let part = far > 0.7 ? 0.7 / far : 1;
    const before = { par, objective, here };
    for (let tries = 0; tries < 12; tries++, part /= 2) {
      const next = here.step(delta, part);
      const there = new Factored(data, lay, next);
      const value = there.criterion + prior(next);
      if (!(value < objective)) continue;
      at = there;
      par = next;
      objective = value;
      break;
    }
    if (objective === before.objective && steps.length > 0) {
      // What was learnt on the way here misleads: once more without it.
      steps = [];
      continue;
    }
    const kept = before.objective - objective;
    const nearEnough = count === 0 && n > o.partFrom.rows && gain < o.near && Math.abs(kept - gain) < 0.05 * gain;
    if (objective === before.objective || nearEnough) {
      // No way down that numbers can tell, or the next step would promise the square of this one.
      converged = gain < o.near;
      break;
    }
    here = direction(at, floor);
    const logs = (p: Parameters) =>
      Float64Array.of(...p.sd.map((v) => 2 * Math.log(v)), Math.log(p.residualVariance), ...p.slopes.map(Math.log));
    const from = logs(before.par);
    const moved = logs(par).map((v, k) => v - from[k]!);
    const bent = here.gradient.map((v, k) => before.here.gradient[k]! - v);
    const sameFree = here.free.length === before.here.free.length;
    if (count === 0 || !sameFree) steps = [];
    else if (dot(moved, bent) > 1e-10 * dot(bent, bent)) steps = [...steps.slice(-7), { moved, bent }];
  }
  const { slopeInformation, slopeShift } = here;
  return { at, objective, iterations, converged, slopeInformation, slopeShift };
}

/** Fits the rows of every fourth level of the largest term that is not grouped. */
function fitPart(data: MixedData, lay: Layout, o: typeof mixedDefaults): Parameters | undefined {
  let by = -1;
  data.random.forEach((r, k) => {
    if (!lay.isGrouped[k] && (by < 0 || r.levels > data.random[by]!.levels)) by = k;
  });
  if (by < 0 || data.random[by]!.levels < 80) return undefined;
  const levelOf = data.random[by]!.index;
  const every = new Int32Array(data.y.length);
  let many = 0;
  for (let i = 0; i < every.length; i++) if (levelOf[i]! % 4 === 0) every[many++] = i;
  const rows = every.subarray(0, many);
  const used = new Set<number>();
  for (const f of data.fixed) for (const i of rows) used.add(f.index[i]!);
  used.delete(-1);
  if (used.size < data.fixedLevels) return undefined;
  const into = <T extends Float64Array | Int32Array>(out: T, a: T): T => {
    for (let r = 0; r < many; r++) out[r] = a[rows[r]!]!;
    return out;
  };
  const pick = (a: Float64Array) => into(new Float64Array(many), a);
  const pickInt = (a: Int32Array) => into(new Int32Array(many), a);
  const part: MixedData = {
    ...data,
    y: pick(data.y),
    ...(data.known ? { known: pick(data.known) } : {}),
    ...(data.share ? { share: pick(data.share) } : {}),
    fixed: data.fixed.map((f) => ({ ...f, index: pickInt(f.index), ...(f.coef ? { coef: pick(f.coef) } : {}) })),
    random: data.random.map((r, k) => {
      const index = pickInt(r.index);
      if (k === by) index.forEach((v, i) => (index[i] = v < 0 ? v : v / 4));
      return {
        levels: k === by ? Math.ceil(r.levels / 4) : r.levels,
        index,
        ...(r.coef ? { coef: pick(r.coef) } : {}),
      };
    }),
    ...(data.slopes
      ? { slopes: { ...data.slopes, index: pickInt(data.slopes.index), offset: pick(data.slopes.offset) } }
      : {}),
  };
  return fitMixed(part, { ...o, tolerance: 0.3 }).at.par;
}
