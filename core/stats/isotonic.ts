/**
 * The nondecreasing sequence nearest to some values in weighted least squares, by pooling neighbours that go the wrong way.
 * Source: Ayer, Brunk, Ewing, Reid & Silverman (1955), pool adjacent violators.
 *
 * @param y values in the order of what they depend on
 * @param weights one each, positive; equal when left out
 * @example isotonic([1, 3, 2, 4]) // [1, 2.5, 2.5, 4]
 */
export function isotonic(y: readonly number[], weights: readonly number[] = y.map(() => 1)): number[] {
  const blocks: { mean: number; weight: number; size: number }[] = [];
  y.forEach((value, i) => {
    blocks.push({ mean: value, weight: weights[i]!, size: 1 });
    while (blocks.length > 1 && blocks.at(-2)!.mean > blocks.at(-1)!.mean) {
      const [b, a] = [blocks.pop()!, blocks.pop()!];
      const weight = a.weight + b.weight;
      blocks.push({ mean: (a.mean * a.weight + b.mean * b.weight) / weight, weight, size: a.size + b.size });
    }
  });
  return blocks.flatMap((b) => Array<number>(b.size).fill(b.mean));
}
