import { cholesky, inverse, multiply, multiplySparse, solve } from './spd.ts';
import { type Layout, type MixedData, meet, type Blocks, blocks } from './mixedLayout.ts';

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
        downdate(S, dense, support, t, row);
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

/** Rank-one downdate: S −= t·t′ on the rows and columns of a support, lower triangle; t begins at `from`. */
function downdate(S: Float64Array, dense: number, support: Int32Array, t: Float64Array, from: number): void {
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
