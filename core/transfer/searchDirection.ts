import { cholesky, solve, dot } from './spd.ts';
import { Factored, type Parameters } from './factored.ts';
import { plainInformation, averageInformation } from './information.ts';

/** The step that average information advises, for variances and for slopes, and what it promises. */
export function direction(at: Factored, floor: number) {
  const { data, lay, par, weight } = at;
  const { n } = lay;
  const K = data.random.length;
  // Rows that weigh alike need no leverage each: together it is what all unknowns have been told.
  const plain = lay.met !== undefined;
  const { leverage, sloped } = plain ? { leverage: undefined, sloped: undefined } : at.rowForms();
  const resid = data.y.map((v, i) => v - at.fitted[i]!);
  const py = resid.map((v, i) => v * weight[i]!);

  // Score of each variance (of twice the log likelihood, falling side up): what it should lose.
  const score = new Float64Array(K + 1);
  let told = data.fixedLevels;
  const working: Float64Array[] = [];
  for (let k = 0; k < K; k++) {
    const r = data.random[k]!;
    const v = Math.max(par.sd[k]! ** 2, 1e-300);
    let trace = 0;
    let square = 0;
    for (let level = 0; level < r.levels; level++) {
      trace += 1 - at.variance(k, level);
      square += at.effects[k]![level]! ** 2 / v;
    }
    score[k] = (square - trace) / v;
    told += trace;
    if (plain) continue;
    const q = new Float64Array(n);
    const { index, coef } = r;
    const share = at.effects[k]!.map((e) => e / v);
    for (let i = 0; i < n; i++) {
      if (index[i]! < 0) continue;
      const g = data.slopes?.index[i] ?? -1;
      q[i] = (coef ? coef[i]! : 1) * (g < 0 ? 1 : par.slopes[g]!) * share[index[i]!]!;
    }
    working.push(q);
  }
  const residual = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const m = data.share?.[i] ?? 1;
    score[K]! += m * (py[i]! ** 2 - weight[i]! + (leverage ? weight[i]! ** 2 * leverage[i]! : 0));
    residual[i] = m * py[i]!;
  }
  if (plain && n > 0) score[K]! += weight[0]! * told;
  working.push(residual);
  const variances = Float64Array.from({ length: K + 1 }, (_, k) => (k < K ? par.sd[k]! ** 2 : par.residualVariance));
  // Slopes are scored on their logarithm. What moves with one is its rows' own mean, and what others borrow from them.
  const { slopes } = data;
  const count = slopes?.count ?? 0;
  const slopeScore = new Float64Array(count);
  const slopeInformation = new Float64Array(count * count);
  const asked = plain ? [] : working.map((q) => at.project(q));
  const byModel = Array.from({ length: count }, () => new Float64Array(at.unknowns));
  if (slopes) {
    for (let i = 0; i < n; i++) {
      const g = slopes.index[i]!;
      if (g < 0) continue;
      let unsloped = 0;
      for (const f of data.fixed)
        if (!f.sloped && f.index[i]! >= 0) unsloped += (f.coef?.[i] ?? 1) * at.fixed[f.index[i]!]!;
      const part = at.fitted[i]! - unsloped;
      const v = weight[i]! * part;
      slopeScore[g]! += v * resid[i]! - weight[i]! * sloped![i]!;
      slopeInformation[g * count + g]! += v * part;
      at.gather(i, v, byModel[g]!);
    }
    byModel.forEach((z) => at.scaled(z));
  }
  // q′Pq = q′R⁻¹q − z′Cz with z = W′R⁻¹q: everything is solved for at once, and no row is gone over again.
  const solved = [...asked, ...byModel].map((z) => z.slice());
  at.solveColumns(...solved);
  const slopeShift = solved.slice(asked.length);
  if (slopes) {
    for (let a = 0; a < count; a++)
      for (let b = 0; b <= a; b++) {
        const v = dot(byModel[a]!, slopeShift[b]!);
        slopeInformation[a * count + b]! -= v;
        if (a !== b) slopeInformation[b * count + a] = slopeInformation[a * count + b]!;
      }
    for (let g = 0; g < count; g++) {
      const precision = 1 / slopes.sd[g]! ** 2;
      slopeInformation[g * count + g]! += precision;
      slopeScore[g]! -= Math.log(par.slopes[g]!) * precision;
    }
  }

  // On the scale of logarithms: what the criterion loses with each, and what is known of how that changes.
  const size = K + 1;
  const gradient = new Float64Array(size + count);
  for (let k = 0; k <= K; k++) gradient[k] = score[k]! * variances[k]!;
  for (let g = 0; g < count; g++) gradient[size + g] = 2 * slopeScore[g]!;
  const information = plain ? plainInformation(at, py) : averageInformation(working, weight, asked, solved);
  for (let a = 0; a < size; a++)
    for (let b = 0; b < size; b++) information[a * size + b]! *= variances[a]! * variances[b]!;
  data.usual?.forEach(({ median, sdlog }, k) => {
    gradient[k]! -= Math.log(Math.sqrt(variances[k]!) / median) / sdlog ** 2;
    information[k * size + k]! += 1 / (2 * sdlog ** 2);
  });
  const slopeFactor = slopeInformation.slice();
  cholesky(slopeFactor, count);
  // A variance that lies on the floor and wants lower stays.
  const free = [...variances.keys()].filter((k) => variances[k]! > floor * 1.0001 || gradient[k]! > 0);
  /** Average information as a first guess of how the gradient answers: variances and slopes each for themselves. */
  const newton = (g: Float64Array): Float64Array => {
    const out = new Float64Array(size + count);
    out.set(boxed(information, g, free, size));
    const x = g.slice(size).map((v) => v / 2);
    solve(slopeFactor, count, x);
    out.set(x, size);
    return out;
  };
  const step = (delta: Float64Array, part: number): Parameters => {
    const next = variances.map((v, k) => Math.max(floor, v * growth(part * delta[k]!)));
    return {
      sd: next.slice(0, K).map(Math.sqrt),
      residualVariance: next[K]!,
      slopes: par.slopes.map((v, g) => v * Math.exp(part * delta[size + g]!)),
    };
  };
  return { gradient, free, newton, step, slopeInformation, slopeShift };
}

/** A variance that should grow by e^d grows by 1 + d: near its end the same, and it can come close to 0 at once. */
const growth = (d: number) => 1 + Math.min(7, Math.max(-0.999, d));

/**
 * The way to go from the gradient, what a first guess makes of it, and the steps before (two-loop recursion of L-BFGS; Nocedal &
 * Wright 2006, algorithm 7.4). Slopes and variances pull at each other along a ridge, which the guess does not know.
 */
export function way(
  gradient: Float64Array,
  newton: (g: Float64Array) => Float64Array,
  steps: readonly Step[],
): Float64Array {
  const q = gradient.slice();
  const shares = new Float64Array(steps.length);
  for (let j = steps.length - 1; j >= 0; j--) {
    const { moved, bent } = steps[j]!;
    shares[j] = dot(moved, q) / dot(moved, bent);
    for (let k = 0; k < q.length; k++) q[k]! -= shares[j]! * bent[k]!;
  }
  const r = newton(q);
  steps.forEach(({ moved, bent }, j) => {
    const share = shares[j]! - dot(bent, r) / dot(moved, bent);
    for (let k = 0; k < r.length; k++) r[k]! += share * moved[k]!;
  });
  return r;
}
export type Step = { moved: Float64Array; bent: Float64Array };

/**
 * The step of the variances by their information; one that would go below 0 is held just above, and the others are solved for again.
 */
function boxed(information: Float64Array, gradient: Float64Array, free: readonly number[], size: number): Float64Array {
  const delta = new Float64Array(size);
  let open = [...free];
  while (open.length > 0) {
    const m = open.length;
    const l = new Float64Array(m * m);
    const x = new Float64Array(m);
    open.forEach((a, i) => {
      x[i] = gradient[a]!;
      for (const b of free) if (!open.includes(b)) x[i]! -= information[a * size + b]! * delta[b]!;
      open.forEach((b, j) => (l[i * m + j] = information[a * size + b]!));
      l[i * m + i] = l[i * m + i]! * (1 + 1e-9) + 1e-12;
    });
    if (Number.isNaN(cholesky(l, m)))
      open.forEach((a, i) => (x[i] = x[i]! / Math.max(information[a * size + a]!, 1e-12)));
    else solve(l, m, x);
    open.forEach((a, i) => (delta[a] = Math.max(-0.999, x[i]!)));
    const held = open.filter((_, i) => x[i]! < -0.999);
    if (held.length === 0) break;
    open = open.filter((a) => !held.includes(a));
  }
  return delta;
}
