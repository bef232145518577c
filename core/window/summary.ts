import { limitsOf, positionsOf, type Axis } from '../controls/index.ts';
import { gradeWords, type Grade } from '../grades/index.ts';
import { checked, normalBetween, quantile, SHARE } from '../stats/index.ts';
import { chanceOf, gradeChances, type Draw, type Posterior } from './posterior.ts';

export const summaryDefaults = {
  /** A window is where the chance of a clean cut is at least this. */
  windowChance: 0.9,
  /** "Through" is recommended at the lowest setting with at least this chance. */
  throughChance: 0.95,
  /** Credible intervals hold this much. */
  credible: 0.9,
  /** Places of the curve at most; the recommended one is always among them. */
  curvePoints: 61,
};

export type Interval = { low: number; high: number };
/** An edge of the window, as positions that may lie between two steps. */
type Edge = { at: number; interval: Interval };

export type Summary = {
  curve: { positions: number[]; mean: number[]; low: number[]; high: number[] };
  /** Steps where the chance is high enough; null when there are none. */
  window: { low: number; high: number } | null;
  /** On a list, whose entries need not lie in order: the places within the window, lightest first. */
  inside?: number[];
  /** Where too little turns into enough and enough into too much: edges of the window, or of "clean or not" when there is none. */
  edges: { low: Edge; high: Edge };
  /** Chance that a window exists at all within the axis. */
  windowExists: number;
  /** What to set; null only when through is wanted and no setting is sure enough. */
  recommended: { position: number; chance: number; interval: Interval; grades: Record<Grade, number> } | null;
  best: { position: number; chance: number };
};

/** What to set: the recommended place, or the best there is where none is sure enough. */
export const placeToSet = ({
  recommended,
  best,
}: {
  recommended: Summary['best'] | null;
  best: Summary['best'];
}): Summary['best'] => recommended ?? best;

/** Half the width of the band of loads in which P(clean) ≥ chance, for a gap and noise; NaN when there is none. */
export function windowHalfWidth(gap: number, sigma: number, chance: number): number {
  const p = (h: number) => normalBetween((-gap / 2 - h) / sigma, (gap / 2 - h) / sigma);
  if (p(0) < chance) return NaN;
  let low = 0;
  let high = gap / 2 + 4 * sigma;
  for (let i = 0; i < 30; i++) {
    const mid = (low + high) / 2;
    if (p(mid) >= chance) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}

/** Position, not rounded, at which a draw reaches a load; held within the axis. */
function positionAt(axis: Axis, draw: Draw, load: number): number {
  const { min, max } = limitsOf(axis);
  const { loads, gain } = draw;
  load /= gain;
  if (load <= loads[0]!) return min;
  if (load >= loads[loads.length - 1]!) return max;
  let low = 0;
  let high = loads.length - 1;
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (loads[mid]! <= load) low = mid;
    else high = mid;
  }
  return min + low + (load - loads[low]!) / (loads[high]! - loads[low]!);
}

/** The place whose load comes nearest to one. */
function nearest(draw: Draw, load: number): number {
  let best = 0;
  draw.loads.forEach((l, i) => {
    if (Math.abs(draw.gain * l - load) < Math.abs(draw.gain * draw.loads[best]! - load)) best = i;
  });
  return best;
}

const round = (value: number) => Number(value.toPrecision(6));

function interval(values: ArrayLike<number>, credible: number): Interval {
  return { low: round(quantile(values, (1 - credible) / 2)), high: round(quantile(values, (1 + credible) / 2)) };
}

function edge(values: number[], credible: number): Edge {
  const list = Float64Array.from(values).sort();
  return { at: round(quantile(list, 0.5)), interval: interval(list, credible) };
}

/**
 * What a posterior says about one number of passes: the curve, the window or its absence, and what to set.
 *
 * *Clean*: the position with the highest mean P(clean), the lower one on a tie. *Through*: the lowest position with mean
 * P(through) ≥ 0.95. Intervals of edges come from the draws that have the edge within their own window.
 */
export function summarise(
  post: Posterior,
  passes: number,
  wanted: 'clean' | 'through',
  options: Partial<typeof summaryDefaults> = {},
): Summary {
  const { windowChance, throughChance, credible, curvePoints } = checked(
    { ...summaryDefaults, ...options },
    { windowChance: SHARE, throughChance: SHARE, credible: SHARE, curvePoints: { from: 2, to: 2000, whole: true } },
  );
  if (!(passes >= 1)) throw new RangeError(`invalid passes; not in [1, ∞): ${passes}`);
  const { axis, draws } = post;
  const { min, max } = limitsOf(axis);
  const n = draws.length;
  const added = draws.map((d) => (passes > 1 ? d.beta * Math.log(passes) : 0));
  const chancesAt = (position: number) =>
    Float64Array.from(draws, (d, i) => chanceOf(d, d.gain * d.loads[position - min]! + added[i]!, wanted)).sort();
  const meanAt: number[] = [];
  for (let position = min; position <= max; position++) {
    let sum = 0;
    for (let i = 0; i < n; i++)
      sum += chanceOf(draws[i]!, draws[i]!.gain * draws[i]!.loads[position - min]! + added[i]!, wanted);
    meanAt.push(sum / n);
  }

  let best = 0;
  meanAt.forEach((m, i) => {
    if (m > meanAt[best]! + 1e-9) best = i;
  });
  const enough = wanted === 'clean' ? windowChance : throughChance;
  const inside = meanAt.flatMap((m, i) => (m >= enough ? [i] : []));
  const window = inside.length > 0 ? { low: min + inside[0]!, high: min + inside.at(-1)! } : null;
  if (axis.kind === 'list') {
    const heft = new Map(inside.map((i) => [i, draws.reduce((s, d) => s + d.gain * d.loads[i]!, 0)]));
    inside.sort((a, b) => heft.get(a)! - heft.get(b)!);
  }
  const chosen = wanted === 'clean' ? best : (inside[0] ?? -1);

  const lows: number[] = [];
  const highs: number[] = [];
  let exists = 0;
  draws.forEach((d, i) => {
    if (axis.kind === 'list') {
      // Entries need not lie in the order of their loads: the edges are the outermost places that will do.
      const good = positionsOf(axis).filter((p) => chanceOf(d, d.gain * d.loads[p]! + added[i]!, wanted) >= enough);
      if (good.length === 0) return;
      exists++;
      lows.push(good[0]!);
      highs.push(good.at(-1)!);
      return;
    }
    if (wanted === 'through') {
      const place = positionAt(axis, d, d.tau[3] + 1.6448536269514722 * d.sigma - added[i]!);
      lows.push(place);
      highs.push(max);
      if (place < max) exists++;
      return;
    }
    const half = windowHalfWidth(d.tau[2] - d.tau[1], d.sigma, windowChance);
    if (Number.isNaN(half)) return;
    const centre = (d.tau[1] + d.tau[2]) / 2 - added[i]!;
    if (centre + half < d.gain * d.loads[0]! || centre - half > d.gain * d.loads[d.loads.length - 1]!) return;
    exists++;
    lows.push(positionAt(axis, d, centre - half));
    highs.push(positionAt(axis, d, centre + half));
  });
  // Too few draws with a window: show where clean begins and ends instead.
  const crossings = lows.length < n * 0.05;
  const place = (d: Draw, load: number) => (axis.kind === 'list' ? nearest(d, load) : positionAt(axis, d, load));
  const edges = crossings
    ? {
        low: edge(
          draws.map((d, i) => place(d, d.tau[1] - added[i]!)),
          credible,
        ),
        high: edge(
          draws.map((d, i) => place(d, d.tau[2] - added[i]!)),
          credible,
        ),
      }
    : { low: edge(lows, credible), high: edge(highs, credible) };

  const gradesAt = (index: number): Record<Grade, number> => {
    const sums = [0, 0, 0, 0, 0];
    draws.forEach((d, i) =>
      gradeChances(d, d.gain * d.loads[index]! + added[i]!).forEach((g, k) => (sums[k]! += g / n)),
    );
    return Object.fromEntries(gradeWords.map((g, k) => [g, round(sums[k]!)])) as Record<Grade, number>;
  };

  const stride = Math.max(1, Math.ceil((max - min) / (curvePoints - 1)));
  const positions = new Set<number>([min + best, max]);
  if (chosen >= 0) positions.add(min + chosen);
  for (let position = min; position <= max; position += stride) positions.add(position);
  // Every step of the neighbourhood that matters, as far as the budget of points goes.
  const nearFrom = Math.max(min, Math.floor(edges.low.interval.low));
  const nearTo = Math.min(max, Math.ceil(edges.high.interval.high));
  const nearStride = Math.max(1, Math.ceil((nearTo - nearFrom) / (curvePoints - 1)));
  for (let position = nearFrom; position <= nearTo; position += nearStride) positions.add(position);
  const list = [...positions].sort((a, b) => a - b);
  const curve: Summary['curve'] = { positions: list, mean: [], low: [], high: [] };
  for (const position of list) {
    const band = interval(chancesAt(position), credible);
    curve.mean.push(round(meanAt[position - min]!));
    curve.low.push(band.low);
    curve.high.push(band.high);
  }

  return {
    curve,
    window,
    ...(axis.kind === 'list' && window ? { inside: inside.map((i) => min + i) } : {}),
    edges,
    windowExists: round(exists / n),
    recommended:
      chosen < 0
        ? null
        : {
            position: min + chosen,
            chance: round(meanAt[chosen]!),
            interval: interval(chancesAt(min + chosen), credible),
            grades: gradesAt(chosen),
          },
    best: { position: min + best, chance: round(meanAt[best]!) },
  };
}
