import { checked } from '../stats/index.ts';
import { cholesky, inverse, multiply, multiplySparse, solve } from './spd.ts';

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

/** Something that varies over rows with one of its levels each. */
export type Random = {
  levels: number;
  /** Level of every row, −1 for none. */
  index: Int32Array;
  /** Coefficient of every row before its slope; 1 when left out. */
  coef?: Float64Array;
};
/** A column set without spread: one coefficient to be estimated a level. */
export type Fixed = { index: Int32Array; coef?: Float64Array; sloped?: boolean };

/**
 * y = Σ fixed + κ·(offset + Σ random) + ε, Var ε = σ²·share + known. Without slopes κ is 1.
 */
export type MixedData = {
  y: Float64Array;
  /** Known variance of each row (the square of its standard error). */
  known?: Float64Array;
  /** Multiple of σ² each row has; 1 when left out. */
  share?: Float64Array;
  fixed: Fixed[];
  fixedLevels: number;
  random: Random[];
  slopes?: { count: number; index: Int32Array; offset: Float64Array; sd: Float64Array };
  /** Where little is known a standard deviation is drawn to its usual size: log-normal, one a random term and one for σ. */
  usual?: { median: number; sdlog: number }[];
};

/** What each row says about the unknowns, sorted so that the most numerous ones are solved for group by group. */
type Layout = {
  n: number;
  /** Unknowns that remain after the groups are solved for: fixed first, then the other random terms. */
  dense: number;
  denseFrom: number[];
  isGrouped: boolean[];
  order: Int32Array;
  starts: Int32Array;
  sizes: Int32Array;
  supports: Int32Array[];
  /** Slots of a row: fixed ones, then random ones. Position within its group, or within the group's support; −1 for none. */
  slots: number;
  place: Int32Array;
  /** The unknown each slot of a row stands for; −1 for none. Dense ones come first, then those of each group. */
  columns: Int32Array;
  offsets: Int32Array;
  /** Where a grouped unknown is: its group, its place there. */
  groupOf: Int32Array[];
  placeOf: Int32Array[];
  /** Random term of each unknown; −1 for fixed ones. */
  term: Int32Array;
  /** Where a group's own unknowns, and they with its support, begin in `Blocks`; at the end how long these are. */
  lFrom: Int32Array;
  tFrom: Int32Array;
  /** Coefficient of every slot of every row before slopes. */
  value: Float64Array;
  /** Where all rows weigh alike and all coefficients are 1: how often unknowns meet, once and for all. */
  met: (Blocks & { dense: Float64Array }) | undefined;
};
/** Group by group: what stands among its own unknowns (lower triangle of size × size), and between them and its support. */
type Blocks = { l: Float64Array; t: Float64Array };
const blocks = (lay: Pick<Layout, 'lFrom' | 'tFrom'>): Blocks => ({
  l: new Float64Array(lay.lFrom.at(-1)!),
  t: new Float64Array(lay.tFrom.at(-1)!),
});

/** Whether rows differ in nothing but what they name. */
const isPlain = (data: MixedData): boolean =>
  !data.known && !data.share && !data.slopes && [...data.fixed, ...data.random].every((r) => !r.coef);

function layout(data: MixedData): Layout {
  const n = data.y.length;
  const { random, fixed } = data;
  // Group by one term and all that is nested in it: what remains should be few.
  let best = { cost: Infinity, by: -1, within: [] as number[] };
  const totals = random.reduce((s, r) => s + r.levels, data.fixedLevels);
  for (let t = 0; t < random.length; t++) {
    const within = random.flatMap((r, k) => (k !== t && nested(r, random[t]!) ? [k] : []));
    const sizes = new Int32Array(random[t]!.levels).fill(1);
    for (const k of within) {
      const parent = parents(random[k]!, random[t]!);
      for (const p of parent) if (p >= 0) sizes[p]!++;
    }
    const dense = totals - random[t]!.levels - within.reduce((s, k) => s + random[k]!.levels, 0);
    const rows = new Int32Array(random[t]!.levels);
    for (const g of random[t]!.index) if (g >= 0) rows[g]!++;
    // Multiplications: the groups' shares of what remains, and what remains.
    let cost = dense ** 3 / 2;
    sizes.forEach((size, g) => (cost += size * (size + 8) * Math.min(dense, 2 * rows[g]! + data.fixed.length) ** 2));
    if (cost < best.cost) best = { cost, by: t, within };
  }
  const grouped = best.by < 0 ? [] : [best.by, ...best.within];
  const isGrouped = random.map((_, k) => grouped.includes(k));
  const groups = best.by < 0 ? 0 : random[best.by]!.levels;

  const denseFrom: number[] = [];
  let dense = data.fixedLevels;
  random.forEach((r, k) => {
    denseFrom.push(isGrouped[k] ? -1 : dense);
    if (!isGrouped[k]) dense += r.levels;
  });

  // Place of each grouped unknown in its group.
  const groupOf = random.map((r) => new Int32Array(r.levels).fill(-1));
  const placeOf = random.map((r) => new Int32Array(r.levels).fill(-1));
  const sizes = new Int32Array(groups + 1);
  if (best.by >= 0) {
    for (let g = 0; g < groups; g++) {
      groupOf[best.by]![g] = g;
      placeOf[best.by]![g] = 0;
      sizes[g] = 1;
    }
    for (const k of best.within) {
      const parent = parents(random[k]!, random[best.by]!);
      parent.forEach((g, level) => {
        // A level nobody has stays outside, with its prior.
        if (g < 0) return;
        groupOf[k]![level] = g;
        placeOf[k]![level] = sizes[g]!++;
      });
    }
  }
  // Rows by group; those that belong to none come last.
  const groupOfRow = (i: number) => {
    const g = best.by < 0 ? -1 : random[best.by]!.index[i]!;
    return g < 0 ? groups : g;
  };
  const starts = new Int32Array(groups + 2);
  for (let i = 0; i < n; i++) starts[groupOfRow(i) + 1]!++;
  for (let g = 0; g <= groups; g++) starts[g + 1]! += starts[g]!;
  const order = new Int32Array(n);
  const next = starts.slice();
  for (let i = 0; i < n; i++) order[next[groupOfRow(i)]!++] = i;

  const offsets = new Int32Array(groups + 2);
  offsets[0] = dense;
  for (let g = 0; g <= groups; g++) offsets[g + 1] = offsets[g]! + sizes[g]!;

  const slots = fixed.length + random.length;
  const place = new Int32Array(n * slots).fill(-1);
  const columns = new Int32Array(n * slots).fill(-1);
  const supports: Int32Array[] = [];
  const seen = new Int32Array(dense).fill(-1);
  const at = new Int32Array(dense);
  for (let g = 0; g <= groups; g++) {
    const support: number[] = [];
    for (let o = starts[g]!; o < starts[g + 1]!; o++) {
      const i = order[o]!;
      for (let s = 0; s < slots; s++) {
        const k = s - fixed.length;
        const level = k < 0 ? fixed[s]!.index[i]! : random[k]!.index[i]!;
        if (level < 0) continue;
        if (k >= 0 && isGrouped[k]) {
          place[i * slots + s] = placeOf[k]![level]!;
          columns[i * slots + s] = offsets[g]! + placeOf[k]![level]!;
        } else {
          const column = k < 0 ? level : denseFrom[k]! + level;
          if (seen[column] !== g) {
            seen[column] = g;
            at[column] = support.length;
            support.push(column);
          }
          place[i * slots + s] = at[column]!;
          columns[i * slots + s] = column;
        }
      }
    }
    // In order, so that what a group touches lies along memory.
    const sorted = Int32Array.from(support).sort();
    const moved = new Int32Array(support.length);
    sorted.forEach((column, k) => (moved[at[column]!] = k));
    for (let o = starts[g]!; o < starts[g + 1]!; o++)
      for (let s = 0; s < slots; s++) {
        const k = s - fixed.length;
        const row = order[o]! * slots + s;
        if (place[row]! >= 0 && !(k >= 0 && isGrouped[k])) place[row] = moved[place[row]!]!;
      }
    supports.push(sorted);
  }
  const term = new Int32Array(offsets[groups + 1]!).fill(-1);
  random.forEach((r, k) => {
    for (let level = 0; level < r.levels; level++)
      if (!isGrouped[k]) term[denseFrom[k]! + level] = k;
      else if (groupOf[k]![level]! >= 0) term[offsets[groupOf[k]![level]!]! + placeOf[k]![level]!] = k;
  });
  const lFrom = new Int32Array(groups + 2);
  const tFrom = new Int32Array(groups + 2);
  for (let g = 0; g <= groups; g++) {
    lFrom[g + 1] = lFrom[g]! + sizes[g]! ** 2;
    tFrom[g + 1] = tFrom[g]! + sizes[g]! * supports[g]!.length;
  }
  const value = new Float64Array(n * slots);
  for (let s = 0; s < slots; s++) {
    const { index, coef } = s < fixed.length ? fixed[s]! : random[s - fixed.length]!;
    for (let i = 0; i < n; i++) if (index[i]! >= 0) value[i * slots + s] = coef ? coef[i]! : 1;
  }
  const lay: Layout = {
    n,
    dense,
    denseFrom,
    isGrouped,
    order,
    starts,
    sizes,
    supports,
    slots,
    place,
    columns,
    offsets,
    groupOf,
    placeOf,
    term,
    lFrom,
    tFrom,
    value,
    met: undefined,
  };
  if (isPlain(data)) {
    lay.met = { ...blocks(lay), dense: new Float64Array(dense * dense) };
    meet(lay, fixed.length, new Float64Array(n).fill(1), value, lay.met.dense, lay.met);
  }
  return lay;
}

/** W′·R⁻¹·W, added up: among the dense unknowns (lower triangle of `S`), and group by group. */
function meet(
  lay: Layout,
  fixedSlots: number,
  weight: Float64Array,
  value: Float64Array,
  S: Float64Array,
  { l, t }: Blocks,
): void {
  const { slots, dense, place, order } = lay;
  for (let g = 0; g < lay.sizes.length; g++) {
    const support = lay.supports[g]!;
    const s = lay.sizes[g]!;
    const d = support.length;
    const [ownFrom, withFrom] = [lay.lFrom[g]!, lay.tFrom[g]!];
    const end = lay.starts[g + 1]!;
    for (let o = lay.starts[g]!; o < end; o++) {
      const base = order[o]! * slots;
      const w = weight[order[o]!]!;
      for (let p = 0; p < slots; p++) {
        const a = place[base + p]!;
        if (a < 0) continue;
        const va = w * value[base + p]!;
        const pGrouped = p >= fixedSlots && lay.isGrouped[p - fixedSlots]!;
        for (let q = 0; q <= p; q++) {
          const b = place[base + q]!;
          if (b < 0) continue;
          const v = va * value[base + q]!;
          const qGrouped = q >= fixedSlots && lay.isGrouped[q - fixedSlots]!;
          if (pGrouped) {
            if (qGrouped) l[ownFrom + (a > b ? a * s + b : b * s + a)]! += v;
            else t[withFrom + a * d + b]! += v;
          } else if (qGrouped) t[withFrom + b * d + a]! += v;
          else {
            const ca = support[a]!;
            const cb = support[b]!;
            S[ca > cb ? ca * dense + cb : cb * dense + ca]! += ca === cb && p !== q ? 2 * v : v;
          }
        }
      }
    }
  }
}

/** Whether every level of `inner` is met with one level of `outer` only, and never without. */
function nested(inner: Random, outer: Random): boolean {
  const parent = new Int32Array(inner.levels).fill(-1);
  for (let i = 0; i < inner.index.length; i++) {
    const level = inner.index[i]!;
    if (level < 0) continue;
    const above = outer.index[i]!;
    if (above < 0 || (parent[level]! >= 0 && parent[level] !== above)) return false;
    parent[level] = above;
  }
  return true;
}
function parents(inner: Random, outer: Random): Int32Array {
  const parent = new Int32Array(inner.levels).fill(-1);
  for (let i = 0; i < inner.index.length; i++) if (inner.index[i]! >= 0) parent[inner.index[i]!] = outer.index[i]!;
  return parent;
}

export type Parameters = {
  /** Standard deviation of each random term. */
  sd: Float64Array;
  residualVariance: number;
  slopes: Float64Array;
};

/** A fit at given parameters: everything that follows from one factorisation. */
export class Factored {
  readonly data: MixedData;
  readonly lay: Layout;
  readonly par: Parameters;
  /** Criterion: −2 restricted log likelihood (without the slopes' own prior). */
  readonly criterion: number;
  /** Fixed effects, and random effects on their own scale. */
  readonly fixed: Float64Array;
  readonly effects: Float64Array[];
  readonly fitted: Float64Array;
  /** 1 / Var ε of every row. */
  readonly weight: Float64Array;
  /** Coefficient of every slot of every row, and what it is multiplied by for unknowns of unit spread. */
  private readonly value: Float64Array;
  private readonly scale: Float64Array;
  private readonly factors: Blocks;
  private readonly denseFactor: Float64Array;
  private inv: Float64Array | undefined;
  private products: { g: Float64Array; h: Float64Array } | undefined;

  constructor(data: MixedData, lay: Layout, par: Parameters) {
    this.data = data;
    this.lay = lay;
    this.par = par;
    const { n, slots, dense, supports, sizes } = lay;
    const { y, fixed, random, known, share, slopes } = data;
    const weight = (this.weight = new Float64Array(n));
    let logR = 0;
    if (lay.met) {
      weight.fill(1 / par.residualVariance);
      logR = n * Math.log(par.residualVariance);
    } else
      for (let i = 0; i < n; i++) {
        const r = par.residualVariance * (share ? share[i]! : 1) + (known ? known[i]! : 0);
        weight[i] = 1 / r;
        logR += Math.log(r);
      }
    const y0 = y.slice();
    this.value = lay.value;
    if (slopes) {
      const value = (this.value = lay.value.slice());
      const sloped = Array.from({ length: slots }, (_, s) => s >= fixed.length || fixed[s]!.sloped === true);
      for (let i = 0; i < n; i++) {
        const g = slopes.index[i]!;
        const slope = g >= 0 ? par.slopes[g]! : 1;
        y0[i]! -= slope * slopes.offset[i]!;
        for (let s = 0; s < slots; s++) if (sloped[s]) value[i * slots + s]! *= slope;
      }
    }
    const scale = (this.scale = Float64Array.from(lay.term, (k) => (k < 0 ? 1 : par.sd[k]!)));

    const S = new Float64Array(dense * dense);
    const { l, t } = (this.factors = blocks(lay));
    if (!lay.met) meet(lay, fixed.length, weight, this.value, S, this.factors);
    // Random unknowns are of unit spread: what they meet is scaled, and each has its 1 on the diagonal.
    const from = lay.met ?? { dense: S, l, t };
    const w = lay.met && n > 0 ? weight[0]! : 1;
    for (let i = 0; i < dense; i++) {
      const v = w * scale[i]!;
      for (let j = 0, at = i * dense; j <= i; j++, at++) S[at] = v * scale[j]! * from.dense[at]!;
      if (i >= data.fixedLevels) S[i * dense + i]! += 1;
    }
    let logDet = 0;
    for (let g = 0; g < sizes.length; g++) {
      const s = sizes[g]!;
      if (s === 0) continue;
      const support = supports[g]!;
      const d = support.length;
      const [lFrom, tFrom, own] = [lay.lFrom[g]!, lay.tFrom[g]!, lay.offsets[g]!];
      for (let a = 0; a < s; a++) {
        const v = w * scale[own + a]!;
        const row = lFrom + a * s;
        for (let b = 0; b <= a; b++) l[row + b] = v * scale[own + b]! * from.l[row + b]!;
        l[row + a]! += 1;
        for (let k = 0, at = tFrom + a * d; k < d; k++, at++) t[at] = v * scale[support[k]!]! * from.t[at]!;
      }
      if (s === 1) {
        logDet += Math.log(l[lFrom]!);
        l[lFrom] = Math.sqrt(l[lFrom]!);
      } else logDet += cholesky(l.subarray(lFrom, lFrom + s * s), s);
      // T = L⁻¹·B, row by row along the support.
      for (let a = 0; a < s; a++) {
        const row = tFrom + a * d;
        for (let c = 0; c < a; c++) {
          const v = l[lFrom + a * s + c]!;
          for (let k = 0, at = tFrom + c * d; k < d; k++, at++) t[row + k]! -= v * t[at]!;
        }
        const v = l[lFrom + a * s + a]!;
        for (let k = 0; k < d; k++) t[row + k]! /= v;
        takeAway(S, dense, support, t, row);
      }
    }
    logDet += cholesky(S, dense);
    this.denseFactor = S;
    const solution = this.solveRows(y0);
    this.fixed = solution.slice(0, data.fixedLevels);
    this.effects = random.map((r, k) =>
      Float64Array.from({ length: r.levels }, (_, level) => par.sd[k]! * (solution[this.column(k, level)] ?? 0)),
    );
    const resid = this.residual(y0, solution);
    let quad = 0;
    this.fitted = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      quad += weight[i]! * y0[i]! * resid[i]!;
      this.fitted[i] = y[i]! - resid[i]!;
    }
    this.criterion = logR + logDet + quad + (n - data.fixedLevels) * Math.log(2 * Math.PI);
  }

  /** Number of unknowns: dense ones first, then those of each group. */
  get unknowns(): number {
    return this.lay.offsets[this.lay.offsets.length - 1]!;
  }
  /** Where an unknown of a random term stands; −1 for a level no row has. */
  column(term: number, level: number): number {
    const { isGrouped, denseFrom, groupOf, placeOf, offsets } = this.lay;
    if (!isGrouped[term]) return denseFrom[term]! + level;
    const g = groupOf[term]![level]!;
    return g < 0 ? -1 : offsets[g]! + placeOf[term]![level]!;
  }

  /** W′·R⁻¹·q. */
  project(q: Float64Array): Float64Array {
    const out = new Float64Array(this.unknowns);
    for (let i = 0; i < this.lay.n; i++) this.gather(i, this.weight[i]! * q[i]!, out);
    return this.scaled(out);
  }
  /** Adds v times the coefficients of a row; they still want `scaled`. */
  gather(i: number, v: number, out: Float64Array): void {
    const { slots, columns } = this.lay;
    for (let at = i * slots, end = at + slots; at < end; at++)
      if (columns[at]! >= 0) out[columns[at]!]! += v * this.value[at]!;
  }
  scaled(b: Float64Array): Float64Array {
    for (let j = 0; j < b.length; j++) b[j]! *= this.scale[j]!;
    return b;
  }

  /**
   * C·b for right-hand sides over all unknowns, in place. Several at once go by the inverse, which is then needed anyhow; so does one
   * where it is there, as a single row touches few of the unknowns.
   */
  solveColumns(...bs: Float64Array[]): void {
    const { sizes, dense } = this.lay;
    if (bs.length === 0) return;
    for (let g = 0; g < sizes.length; g++) if (sizes[g]! > 0) for (const b of bs) this.into(g, b);
    if (bs.length > 1) multiply(this.denseInverse, dense, bs);
    else if (this.inv) multiplySparse(this.inv, dense, bs[0]!);
    else solve(this.denseFactor, dense, bs[0]!.subarray(0, dense));
    for (let g = 0; g < sizes.length; g++) if (sizes[g]! > 0) for (const b of bs) this.back(g, b);
  }
  /** Forward substitution of one group's unknowns, and what they take from the dense ones. */
  private into(g: number, b: Float64Array): void {
    const { l, t } = this.factors;
    const s = this.lay.sizes[g]!;
    const support = this.lay.supports[g]!;
    const d = support.length;
    const from = this.lay.offsets[g]!;
    const [own, beside] = [this.lay.lFrom[g]!, this.lay.tFrom[g]!];
    for (let a = 0; a < s; a++) {
      let sum = b[from + a]!;
      for (let c = 0; c < a; c++) sum -= l[own + a * s + c]! * b[from + c]!;
      const v = (b[from + a] = sum / l[own + a * s + a]!);
      if (v !== 0) for (let k = 0; k < d; k++) b[support[k]!]! -= t[beside + a * d + k]! * v;
    }
  }
  /** Back substitution of one group's unknowns from the dense ones. */
  private back(g: number, b: Float64Array): void {
    const { l, t } = this.factors;
    const s = this.lay.sizes[g]!;
    const support = this.lay.supports[g]!;
    const d = support.length;
    const from = this.lay.offsets[g]!;
    const [own, beside] = [this.lay.lFrom[g]!, this.lay.tFrom[g]!];
    for (let a = 0; a < s; a++) {
      let sum = 0;
      for (let k = 0; k < d; k++) sum += t[beside + a * d + k]! * b[support[k]!]!;
      b[from + a]! -= sum;
    }
    for (let a = s - 1; a >= 0; a--) {
      const v = (b[from + a] = b[from + a]! / l[own + a * s + a]!);
      for (let c = 0; c < a; c++) b[from + c]! -= l[own + a * s + c]! * v;
    }
  }

  /** C·W′·R⁻¹·q: what the unknowns would be if the rows read q. */
  private solveRows(q: Float64Array): Float64Array {
    const b = this.project(q);
    this.solveColumns(b);
    return b;
  }
  /** q − W·β. */
  private residual(q: Float64Array, beta: Float64Array): Float64Array {
    const { n, slots, columns } = this.lay;
    const { value } = this;
    const by = this.scaled(beta.slice());
    const out = new Float64Array(n);
    for (let i = 0, at = 0; i < n; i++) {
      let sum = q[i]!;
      for (let s = 0; s < slots; s++, at++) {
        const column = columns[at]!;
        if (column >= 0) sum -= value[at]! * by[column]!;
      }
      out[i] = sum;
    }
    return out;
  }

  private get denseInverse(): Float64Array {
    return (this.inv ??= inverse(this.denseFactor, this.lay.dense));
  }
  /** Per group, as in `Blocks`: G = S⁻¹T′ on its support, H = T·S⁻¹·T′. */
  private get groupProducts() {
    if (this.products) return this.products;
    const { sizes, supports, dense, lFrom, tFrom } = this.lay;
    const inv = this.denseInverse;
    const { t } = this.factors;
    const column = new Float64Array(dense);
    const { l: h, t: gMat } = blocks(this.lay);
    for (let g = 0; g < sizes.length; g++) {
      const s = sizes[g]!;
      const support = supports[g]!;
      const d = support.length;
      const [own, beside] = [lFrom[g]!, tFrom[g]!];
      for (let a = 0; a < s; a++) {
        spread(inv, dense, support, t, beside + a * d, column);
        for (let k = 0; k < d; k++) gMat[beside + k * s + a] = column[k]!;
        for (let b = 0; b < s; b++) {
          let sum = 0;
          for (let k = 0; k < d; k++) sum += t[beside + b * d + k]! * column[k]!;
          h[own + b * s + a] = sum;
        }
      }
    }
    return (this.products = { g: gMat, h });
  }

  /** Diagonal of C for one unknown of a random term of unit spread: 1 where no row has it. */
  variance(term: number, level: number): number {
    const { isGrouped, denseFrom, groupOf, placeOf, sizes, dense } = this.lay;
    if (!isGrouped[term]) {
      const j = denseFrom[term]! + level;
      return this.denseInverse[j * dense + j]!;
    }
    const g = groupOf[term]![level]!;
    if (g < 0) return 1;
    const s = sizes[g]!;
    const own = this.lay.lFrom[g]!;
    const { h } = this.groupProducts;
    if (s === 1) return (1 + h[own]!) / this.factors.l[own]! ** 2;
    const t = new Float64Array(s);
    t[placeOf[term]![level]!] = 1;
    this.groupForward(g, t);
    let sum = 0;
    for (let a = 0; a < s; a++) {
      sum += t[a]! * t[a]!;
      for (let b = 0; b < s; b++) sum += t[a]! * h[own + a * s + b]! * t[b]!;
    }
    return sum;
  }
  private groupForward(g: number, x: Float64Array): void {
    const { l } = this.factors;
    const own = this.lay.lFrom[g]!;
    const s = x.length;
    for (let a = 0; a < s; a++) {
      let sum = x[a]!;
      for (let c = 0; c < a; c++) sum -= l[own + a * s + c]! * x[c]!;
      x[a] = sum / l[own + a * s + a]!;
    }
  }

  /**
   * Quadratic forms of every row: w′Cw, and with slopes h′Ch and w′Ch, where h is what the slope multiplies (times the slope).
   */
  rowForms(): { leverage: Float64Array; sloped: Float64Array } {
    const { n, slots, place, columns, supports, sizes, starts, order, dense, lFrom, tFrom } = this.lay;
    const f = this.data.fixed.length;
    const inv = this.denseInverse;
    const leverage = new Float64Array(n);
    const sloped = new Float64Array(n);
    const withSlopes = this.data.slopes !== undefined;
    const value = new Float64Array(slots);
    supports.forEach((support, g) => {
      const s = sizes[g]!;
      const { g: gMat, h } = this.groupProducts;
      const [inner, beside] = [lFrom[g]!, tFrom[g]!];
      const t = new Float64Array(s);
      const u = new Float64Array(s);
      for (let o = starts[g]!; o < starts[g + 1]!; o++) {
        const i = order[o]!;
        const base = i * slots;
        for (let p = 0; p < slots; p++)
          value[p] = columns[base + p]! < 0 ? 0 : this.value[base + p]! * this.scale[columns[base + p]!]!;
        t.fill(0);
        for (let p = f; p < slots; p++)
          if (place[base + p]! >= 0 && this.lay.isGrouped[p - f]) t[place[base + p]!]! += value[p]!;
        if (s > 0) this.groupForward(g, t);
        // u = (I + H)·t
        let own = 0;
        for (let a = 0; a < s; a++) {
          let sum = t[a]!;
          for (let b = 0; b < s; b++) sum += h[inner + a * s + b]! * t[b]!;
          u[a] = sum;
          own += sum * t[a]!;
        }
        let all = own;
        let fixedPart = 0;
        for (let p = 0; p < slots; p++) {
          if (place[base + p]! < 0 || (p >= f && this.lay.isGrouped[p - f])) continue;
          const k = place[base + p]!;
          const row = support[k]! * dense;
          let sum = 0;
          for (let q = 0; q < slots; q++) {
            if (place[base + q]! < 0 || (q >= f && this.lay.isGrouped[q - f])) continue;
            sum += inv[row + support[place[base + q]!]!]! * value[q]!;
          }
          let mixed = 0;
          for (let a = 0; a < s; a++) mixed += gMat[beside + k * s + a]! * t[a]!;
          all += value[p]! * (sum - 2 * mixed);
          // Cov(w′β, unsloped fixed part)
          if (withSlopes && p < f && !this.data.fixed[p]!.sloped) fixedPart += value[p]! * (sum - mixed);
        }
        leverage[i] = all;
        sloped[i] = all - fixedPart;
      }
    });
    return { leverage, sloped };
  }

  /**
   * Mean and variance of a row that may have been seen or not.
   * @param parts coefficients by fixed column and by level of random terms, on their own scale; a level −1 has its prior
   */
  predict(
    fixed: readonly [column: number, coef: number][],
    random: readonly [term: number, level: number, coef: number][],
  ): { mean: number; variance: number; solved: Float64Array } {
    const b = new Float64Array(this.unknowns);
    let mean = 0;
    let variance = 0;
    for (const [column, coef] of fixed) {
      b[column]! += coef;
      mean += coef * this.fixed[column]!;
    }
    for (const [term, level, coef] of random) {
      const sd = this.par.sd[term]!;
      const column = level < 0 ? -1 : this.column(term, level);
      if (column < 0) variance += (coef * sd) ** 2;
      else {
        b[column]! += coef * sd;
        mean += coef * this.effects[term]![level]!;
      }
    }
    const row = b.slice();
    this.solveColumns(b);
    for (let j = 0; j < b.length; j++) variance += b[j]! * row[j]!;
    return { mean, variance, solved: b };
  }
}

/** S −= t·t′ on the rows and columns of a support, lower triangle; t begins at `from`. */
function takeAway(S: Float64Array, dense: number, support: Int32Array, t: Float64Array, from: number): void {
  for (let b = 0; b < support.length; b++) {
    const row = support[b]! * dense;
    const v = t[from + b]!;
    for (let c = 0; c <= b; c++) S[row + support[c]!]! -= v * t[from + c]!;
  }
}

/** out = A·t on the rows and columns of a support; A symmetric, each pair read once; t begins at `from`. */
function spread(
  A: Float64Array,
  dense: number,
  support: Int32Array,
  t: Float64Array,
  from: number,
  out: Float64Array,
): void {
  const d = support.length;
  for (let k = 0; k < d; k++) out[k] = 0;
  for (let k = 0; k < d; k++) {
    const row = support[k]! * dense;
    const v = t[from + k]!;
    let sum = A[row + support[k]!]! * v;
    for (let m = 0; m < k; m++) {
      const x = A[row + support[m]!]!;
      sum += x * t[from + m]!;
      out[m]! += x * v;
    }
    out[k]! += sum;
  }
}

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

/** The step that average information advises, for variances and for slopes, and what it promises. */
function direction(at: Factored, floor: number) {
  const { data, lay, par, weight } = at;
  const { n } = lay;
  const K = data.random.length;
  // Rows that weigh alike need no leverage each: together it is what all unknowns have been told.
  const plain = lay.met !== undefined;
  const { leverage, sloped } = plain ? { leverage: undefined, sloped: undefined } : at.rowForms();
  const resid = data.y.map((v, i) => v - at.fitted[i]!);
  const py = resid.map((v, i) => v * weight[i]!);

  // Score of each variance (of twice the log likelihood, falling side up): what it should lose.
  const score = new Float64Array(K + 1);
  let told = data.fixedLevels;
  const working: Float64Array[] = [];
  for (let k = 0; k < K; k++) {
    const r = data.random[k]!;
    const v = Math.max(par.sd[k]! ** 2, 1e-300);
    let trace = 0;
    let square = 0;
    for (let level = 0; level < r.levels; level++) {
      trace += 1 - at.variance(k, level);
      square += at.effects[k]![level]! ** 2 / v;
    }
    score[k] = (square - trace) / v;
    told += trace;
    if (plain) continue;
    const q = new Float64Array(n);
    const { index, coef } = r;
    const share = at.effects[k]!.map((e) => e / v);
    for (let i = 0; i < n; i++) {
      if (index[i]! < 0) continue;
      const g = data.slopes?.index[i] ?? -1;
      q[i] = (coef ? coef[i]! : 1) * (g < 0 ? 1 : par.slopes[g]!) * share[index[i]!]!;
    }
    working.push(q);
  }
  const residual = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const m = data.share?.[i] ?? 1;
    score[K]! += m * (py[i]! ** 2 - weight[i]! + (leverage ? weight[i]! ** 2 * leverage[i]! : 0));
    residual[i] = m * py[i]!;
  }
  if (plain && n > 0) score[K]! += weight[0]! * told;
  working.push(residual);
  const variances = Float64Array.from({ length: K + 1 }, (_, k) => (k < K ? par.sd[k]! ** 2 : par.residualVariance));
  // Slopes are scored on their logarithm. What moves with one is its rows' own mean, and what others borrow from them.
  const { slopes } = data;
  const count = slopes?.count ?? 0;
  const slopeScore = new Float64Array(count);
  const slopeInformation = new Float64Array(count * count);
  const asked = plain ? [] : working.map((q) => at.project(q));
  const byModel = Array.from({ length: count }, () => new Float64Array(at.unknowns));
  if (slopes) {
    for (let i = 0; i < n; i++) {
      const g = slopes.index[i]!;
      if (g < 0) continue;
      let unsloped = 0;
      for (const f of data.fixed)
        if (!f.sloped && f.index[i]! >= 0) unsloped += (f.coef?.[i] ?? 1) * at.fixed[f.index[i]!]!;
      const part = at.fitted[i]! - unsloped;
      const v = weight[i]! * part;
      slopeScore[g]! += v * resid[i]! - weight[i]! * sloped![i]!;
      slopeInformation[g * count + g]! += v * part;
      at.gather(i, v, byModel[g]!);
    }
    byModel.forEach((z) => at.scaled(z));
  }
  // q′Pq = q′R⁻¹q − z′Cz with z = W′R⁻¹q: everything is solved for at once, and no row is gone over again.
  const solved = [...asked, ...byModel].map((z) => z.slice());
  at.solveColumns(...solved);
  const slopeShift = solved.slice(asked.length);
  if (slopes) {
    for (let a = 0; a < count; a++)
      for (let b = 0; b <= a; b++) {
        const v = dot(byModel[a]!, slopeShift[b]!);
        slopeInformation[a * count + b]! -= v;
        if (a !== b) slopeInformation[b * count + a] = slopeInformation[a * count + b]!;
      }
    for (let g = 0; g < count; g++) {
      const precision = 1 / slopes.sd[g]! ** 2;
      slopeInformation[g * count + g]! += precision;
      slopeScore[g]! -= Math.log(par.slopes[g]!) * precision;
    }
  }

  // On the scale of logarithms: what the criterion loses with each, and what is known of how that changes.
  const size = K + 1;
  const gradient = new Float64Array(size + count);
  for (let k = 0; k <= K; k++) gradient[k] = score[k]! * variances[k]!;
  for (let g = 0; g < count; g++) gradient[size + g] = 2 * slopeScore[g]!;
  const information = plain ? plainInformation(at, py) : averageInformation(working, weight, asked, solved);
  for (let a = 0; a < size; a++)
    for (let b = 0; b < size; b++) information[a * size + b]! *= variances[a]! * variances[b]!;
  data.usual?.forEach(({ median, sdlog }, k) => {
    gradient[k]! -= Math.log(Math.sqrt(variances[k]!) / median) / sdlog ** 2;
    information[k * size + k]! += 1 / (2 * sdlog ** 2);
  });
  const slopeFactor = slopeInformation.slice();
  cholesky(slopeFactor, count);
  // A variance that lies on the floor and wants lower stays.
  const free = [...variances.keys()].filter((k) => variances[k]! > floor * 1.0001 || gradient[k]! > 0);
  /** Average information as a first guess of how the gradient answers: variances and slopes each for themselves. */
  const newton = (g: Float64Array): Float64Array => {
    const out = new Float64Array(size + count);
    out.set(boxed(information, g, free, size));
    const x = g.slice(size).map((v) => v / 2);
    solve(slopeFactor, count, x);
    out.set(x, size);
    return out;
  };
  const step = (delta: Float64Array, part: number): Parameters => {
    const next = variances.map((v, k) => Math.max(floor, v * growth(part * delta[k]!)));
    return {
      sd: next.slice(0, K).map(Math.sqrt),
      residualVariance: next[K]!,
      slopes: par.slopes.map((v, g) => v * Math.exp(part * delta[size + g]!)),
    };
  };
  return { gradient, free, newton, step, slopeInformation, slopeShift };
}

/**
 * q′·P·q of every pair of working vectors: average information of their variances, as twice the log likelihood falls.
 * @param asked W′R⁻¹q of each
 * @param solved C·W′R⁻¹q of each
 */
function averageInformation(
  working: readonly Float64Array[],
  weight: Float64Array,
  asked: readonly Float64Array[],
  solved: readonly Float64Array[],
): Float64Array {
  const size = working.length;
  const information = new Float64Array(size * size);
  for (let a = 0; a < size; a++) {
    const weighted = working[a]!.map((v, i) => v * weight[i]!);
    for (let b = 0; b <= a; b++)
      information[a * size + b] = information[b * size + a] = dot(working[b]!, weighted) - dot(asked[a]!, solved[b]!);
  }
  return information;
}

/**
 * The same where rows weigh alike, without going over them: the working vector of a term is W·c with c its effects over its variance,
 * so that q′Pq = c′(I − C)c; that of σ² is the weighted residual, whose W′ is the effects themselves.
 */
function plainInformation(at: Factored, py: Float64Array): Float64Array {
  const { data, par, weight } = at;
  const K = data.random.length;
  const size = K + 1;
  const w = weight[0] ?? 0;
  const effects = new Float64Array(at.unknowns);
  const solvedEffects = new Float64Array(at.unknowns);
  const columns = data.random.map((r, k) => {
    const c = new Float64Array(at.unknowns);
    const sd = Math.max(par.sd[k]!, 1e-150);
    for (let level = 0; level < r.levels; level++) {
      const column = at.column(k, level);
      if (column >= 0) c[column] = at.effects[k]![level]! / sd ** 3;
    }
    return c;
  });
  const solved = columns.map((c) => c.slice());
  at.solveColumns(...solved);
  for (let k = 0; k < K; k++)
    for (let j = 0; j < effects.length; j++) {
      effects[j]! += par.sd[k]! ** 2 * columns[k]![j]!;
      solvedEffects[j]! += par.sd[k]! ** 2 * solved[k]![j]!;
    }
  const information = new Float64Array(size * size);
  const put = (a: number, b: number, v: number) => (information[a * size + b] = information[b * size + a] = v);
  for (let a = 0; a < K; a++) {
    for (let b = 0; b <= a; b++) put(a, b, dot(columns[a]!, columns[b]!) - dot(columns[a]!, solved[b]!));
    put(K, a, w * dot(effects, solved[a]!));
  }
  put(K, K, w * dot(py, py) - w * w * dot(effects, solvedEffects));
  return information;
}

/** A variance that should grow by e^d grows by 1 + d: near its end the same, and it can come close to 0 at once. */
const growth = (d: number) => 1 + Math.min(7, Math.max(-0.999, d));

/**
 * The way to go from the gradient, what a first guess makes of it, and the steps before (two-loop recursion of L-BFGS; Nocedal &
 * Wright 2006, algorithm 7.4). Slopes and variances pull at each other along a ridge, which the guess does not know.
 */
function way(gradient: Float64Array, newton: (g: Float64Array) => Float64Array, steps: readonly Step[]): Float64Array {
  const q = gradient.slice();
  const shares = new Float64Array(steps.length);
  for (let j = steps.length - 1; j >= 0; j--) {
    const { moved, bent } = steps[j]!;
    shares[j] = dot(moved, q) / dot(moved, bent);
    for (let k = 0; k < q.length; k++) q[k]! -= shares[j]! * bent[k]!;
  }
  const r = newton(q);
  steps.forEach(({ moved, bent }, j) => {
    const share = shares[j]! - dot(bent, r) / dot(moved, bent);
    for (let k = 0; k < r.length; k++) r[k]! += share * moved[k]!;
  });
  return r;
}
type Step = { moved: Float64Array; bent: Float64Array };

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/**
 * The step of the variances by their information; one that would go below 0 is held just above, and the others are solved for again.
 */
function boxed(information: Float64Array, gradient: Float64Array, free: readonly number[], size: number): Float64Array {
  const delta = new Float64Array(size);
  let open = [...free];
  while (open.length > 0) {
    const m = open.length;
    const l = new Float64Array(m * m);
    const x = new Float64Array(m);
    open.forEach((a, i) => {
      x[i] = gradient[a]!;
      for (const b of free) if (!open.includes(b)) x[i]! -= information[a * size + b]! * delta[b]!;
      open.forEach((b, j) => (l[i * m + j] = information[a * size + b]!));
      l[i * m + i] = l[i * m + i]! * (1 + 1e-9) + 1e-12;
    });
    if (Number.isNaN(cholesky(l, m)))
      open.forEach((a, i) => (x[i] = x[i]! / Math.max(information[a * size + a]!, 1e-12)));
    else solve(l, m, x);
    open.forEach((a, i) => (delta[a] = Math.max(-0.999, x[i]!)));
    const held = open.filter((_, i) => x[i]! < -0.999);
    if (held.length === 0) break;
    open = open.filter((a) => !held.includes(a));
  }
  return delta;
}
