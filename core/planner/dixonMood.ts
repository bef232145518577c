/**
 * Mean and standard deviation of a threshold from an up-and-down test: each trial one step lower after a hit, one higher after a
 * miss. Source: Dixon & Mood (1948), A method for obtaining and analyzing sensitivity data, J. Am. Stat. Assoc. 43, 109–126.
 *
 * @param trials level as a whole number of steps from the first, and whether it responded
 * @param step size of one step
 * @returns mean counted from level 0; sd NaN where the paper's formula does not hold (its M under 0.3)
 * @throws RangeError without trials
 */
export function dixonMood(
  trials: readonly { level: number; hit: boolean }[],
  step: number,
): { mean: number; sd: number } {
  const hits = trials.filter((t) => t.hit);
  const misses = trials.filter((t) => !t.hit);
  if (hits.length === 0 || misses.length === 0) {
    if (trials.length === 0) throw new RangeError('invalid trials; there are none');
    // One-sided: the best that can be said is half a step beyond the last level.
    const last = trials.at(-1)!;
    return { mean: (last.level + (last.hit ? -0.5 : 0.5)) * step, sd: NaN };
  }
  // The rarer kind is worked with; levels count from its lowest.
  const rarer = hits.length < misses.length ? hits : misses;
  const lowest = Math.min(...rarer.map((t) => t.level));
  const n = rarer.length;
  const a = rarer.reduce((s, t) => s + (t.level - lowest), 0);
  const b = rarer.reduce((s, t) => s + (t.level - lowest) ** 2, 0);
  const m = (n * b - a * a) / (n * n);
  return {
    mean: (lowest + a / n + (rarer === hits ? -0.5 : 0.5)) * step,
    sd: m > 0.3 ? 1.62 * step * (m + 0.029) : NaN,
  };
}
