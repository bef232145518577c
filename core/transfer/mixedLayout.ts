/** Something that varies over rows with one of its levels each. */
type Random = {
  levels: number;
  /** Level of every row, −1 for none. */
  index: Int32Array;
  /** Coefficient of every row before its slope; 1 when left out. */
  coef?: Float64Array;
};
/** A column set without spread: one coefficient to be estimated a level. */
type Fixed = { index: Int32Array; coef?: Float64Array; sloped?: boolean };

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
export type Layout = {
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

/** Whether rows differ in nothing but what they name. */
const isPlain = (data: MixedData): boolean =>
  !data.known && !data.share && !data.slopes && [...data.fixed, ...data.random].every((r) => !r.coef);

export function layout(data: MixedData): Layout {
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
export function meet(
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

/** Group by group: what stands among its own unknowns (lower triangle of size × size), and between them and its support. */
export type Blocks = { l: Float64Array; t: Float64Array };
export const blocks = (lay: Pick<Layout, 'lFrom' | 'tFrom'>): Blocks => ({
  l: new Float64Array(lay.lFrom.at(-1)!),
  t: new Float64Array(lay.tFrom.at(-1)!),
});
