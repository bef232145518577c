import { limitsOf, listPlace, startOf, type Axis, type ListAxis } from '#core/controls/index.ts';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import type { Random } from '#core/stats/index.ts';

/** A list's entries are not quite as heavy as their maker says: each is off by a little of its own. */
function entryLoad(axis: ListAxis, position: number): number {
  const { entry, modifier } = listPlace(axis, position);
  return axis.entries[entry]!.load * 0.95 + 0.05 * Math.sin(7 * entry) + 0.17 * modifier;
}

/**
 * What a cell of the demo comes out as: a hidden film cut with a little noise. It knows nothing of the product's model; the
 * numbers of the axis become a load by a rule of its own.
 */
export function cutByHand(
  axis: Axis,
  position: number,
  truth: { centre: number; gap: number; sigma: number },
  bias: number,
  random: Random,
): Grade {
  const { min, max } = limitsOf(axis);
  const start = startOf(axis);
  const load =
    axis.kind === 'number' && axis.scale === 'log'
      ? Math.log(position / start)
      : axis.kind === 'list'
        ? entryLoad(axis, position) - entryLoad(axis, start)
        : (2.3 * (position - start)) / (max - min) + 0.12 * Math.sin(position);
  const felt = load + bias + truth.sigma * random.normal();
  const low = truth.centre - truth.gap / 2;
  const high = truth.centre + truth.gap / 2;
  const edges = [low - 0.16, low, high, high + 0.3];
  return gradeWords[edges.filter((e) => felt > e).length]!;
}
