import { limitsOf, modifiersOf, positionsOf, type Axis } from '../controls/index.ts';
import type { ShownSummary } from '../window/index.ts';

export type Domain = { from: number; to: number };

/**
 * The stretch of an axis worth showing: where the edges may lie, with air for the cells round them. Cells tried far out, on
 * the first coupon, do not shrink the window to a sliver; planned ones are always in the picture. A dial and a list are shown whole.
 */
export function stripDomain(
  axis: Axis,
  summaries: readonly ShownSummary[],
  tried: readonly number[],
  planned: readonly number[] = [],
): Domain {
  const { min, max } = limitsOf(axis);
  if (axis.kind !== 'number' || max - min <= 24 || summaries.length + tried.length + planned.length === 0)
    return { from: min, to: max };
  const places: number[] = [];
  for (const s of summaries) {
    // An edge nobody knows should not stretch the picture over the whole axis.
    const width = Math.max(s.edges.high.at - s.edges.low.at, s.edges.low.at * 0.12);
    const from = Math.max(s.edges.low.interval.low, s.edges.low.at - 2.5 * width) - width;
    const to = Math.min(s.edges.high.interval.high, s.edges.high.at + 2.5 * width) + width;
    places.push(from, to, s.best.position, ...tried.filter((t) => t > from - width && t < to + width));
  }
  if (places.length === 0) places.push(...tried);
  places.push(...planned);
  const low = Math.min(...places);
  const high = Math.max(...places);
  const air = Math.max(2, (high - low) * 0.04);
  return { from: Math.max(min, Math.floor(low - air)), to: Math.min(max, Math.ceil(high + air)) };
}

/** Share of the strip's width, 0 to 1, at which a position lies. */
export const stripX = (domain: Domain, position: number): number =>
  Math.min(1, Math.max(0, (position - domain.from) / (domain.to - domain.from)));

export type Shade = { x: number; strength: number };

/**
 * How strongly the clean zone shows along the strip: full where the chance of the wanted result is near its best, fading to
 * nothing as it falls, so that unsure edges are wide fades; pale as a whole while even the best place is a guess.
 */
export function stripShades(axis: Axis, summary: ShownSummary, domain: Domain): Shade[] {
  const { positions, mean } = summary.curve;
  const top = Math.max(summary.best.chance, 1e-6);
  const whole = Math.min(1, 0.3 + 0.7 * Math.max(0, (top - 0.2) / 0.68));
  const smooth = (t: number) => {
    const c = Math.min(1, Math.max(0, t));
    return c * c * (3 - 2 * c);
  };
  const at = (position: number): number => {
    let i = positions.findIndex((p) => p >= position);
    if (i < 0) i = positions.length - 1;
    const j = Math.max(0, i - 1);
    const span = positions[i]! - positions[j]!;
    return span === 0 ? mean[i]! : mean[j]! + ((mean[i]! - mean[j]!) * (position - positions[j]!)) / span;
  };
  const strengthAt = (position: number) =>
    Number((whole * smooth((at(Math.min(position, positions.at(-1)!)) / top - 0.3) / 0.62)).toFixed(3));
  // Entries of a list stand apart: each keeps its own shade up to its neighbours.
  if (axis.kind === 'list')
    return positionsOf(axis).flatMap((p) =>
      [p - 0.5, p + 0.5].map((edge) => ({ x: stripX(domain, edge), strength: strengthAt(p) })),
    );
  const marks = Array.from({ length: 41 }, (_, i) => domain.from + ((domain.to - domain.from) * i) / 40);
  return marks.map((position) => ({ x: stripX(domain, position), strength: strengthAt(position) }));
}

/** Where too little ends and too much begins, for the ground under the clean zone: the best place. */
export const stripSplit = (summary: ShownSummary, domain: Domain): number => stripX(domain, summary.best.position);

/** Round places for the scale: whole stops of a dial, entries of a list with their normal modifier, or steps of 1, 2 or 5 times a power of ten; about `count` of them. */
export function stripTicks(axis: Axis, domain: Domain, count = 7): number[] {
  if (axis.kind === 'dial') {
    const perStop = axis.halves ? 2 : 1;
    return positionsOf(axis).filter((p) => p % perStop === 0 && p >= domain.from && p <= domain.to);
  }
  if (axis.kind === 'list') {
    const each = modifiersOf(axis);
    return positionsOf(axis).filter((p) => p % each === (axis.modifier?.normal ?? 0));
  }
  const rough = (domain.to - domain.from) / count;
  const power = 10 ** Math.floor(Math.log10(Math.max(rough, 1)));
  const step = Math.max(1, [1, 2, 5, 10].map((m) => m * power).find((s) => s >= rough) ?? 10 * power);
  const ticks: number[] = [];
  for (let t = Math.ceil(domain.from / step) * step; t <= domain.to; t += step) ticks.push(t);
  return ticks;
}
