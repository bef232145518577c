import { checked, type Range } from '../stats/index.ts';

const matDefaults = {
  /** Loads until a fresh mat hardly holds. */
  loads: 40,
  /** What a wash brings back of what was there after the wash before. */
  wash: 0.9,
  /** Under this share of its grip small pieces begin to move. */
  weak: 0.4,
};

export type MatGrip = { share: number; advice: 'good' | 'wash' | 'replace' };

const AMOUNT: Range = { from: 0, to: 1e6 };

/**
 * What is left of a mat's grip: it falls evenly with every load, and each wash brings back a little less.
 * Common practice, no published source: a starting point until a mat has been watched.
 *
 * @throws RangeError for what is no number of loads or washes
 */
export function matGrip(loads: number, washes: number): MatGrip {
  checked({ loads, washes }, { loads: AMOUNT, washes: AMOUNT });
  const top = matDefaults.wash ** washes;
  const share = top * Math.max(0, 1 - loads / matDefaults.loads);
  if (share >= matDefaults.weak) return { share, advice: 'good' };
  return { share, advice: top * matDefaults.wash >= matDefaults.weak + 0.1 ? 'wash' : 'replace' };
}
