/** What took how long, ms, beside a floor that did nothing else in the same run. */
export type Figure = {
  median: number;
  p95: number;
  floorMedian: number;
  floorP95: number;
  ratioMedian: number;
  ratioP95: number;
};

const quantileOf = (times: number[], p: number) =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * p))]!;
/** Times of something beside those of its floor, ms; the ratio is what is compared between machines. */
export const figure = (times: number[], floor: number[]): Figure => {
  const round = (n: number) => Number(n.toFixed(2));
  const [median, p95] = [quantileOf(times, 0.5), quantileOf(times, 0.95)];
  const [floorMedian, floorP95] = [quantileOf(floor, 0.5), quantileOf(floor, 0.95)];
  return {
    median: round(median),
    p95: round(p95),
    floorMedian: round(floorMedian),
    floorP95: round(floorP95),
    ratioMedian: round(median / floorMedian),
    ratioP95: round(p95 / floorP95),
  };
};

/** How long some work took, ms. */
export async function timed(work: () => Promise<unknown>): Promise<number> {
  const from = performance.now();
  await work();
  return performance.now() - from;
}
