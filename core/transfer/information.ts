import { dot } from './spd.ts';
import { Factored } from './factored.ts';

/**
 * q′·P·q of every pair of working vectors: average information of their variances, as twice the log likelihood falls.
 * @param asked W′R⁻¹q of each
 * @param solved C·W′R⁻¹q of each
 */
export function averageInformation(
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
export function plainInformation(at: Factored, py: Float64Array): Float64Array {
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
