import { limitsOf, listPlace, modifiersOf, type Axis } from '../controls/index.ts';
import { gradeIndex } from '../grades/index.ts';
import { gaussHermite, normalBetween, normalDensity } from '../stats/index.ts';
import type { GradedCell } from './cells.ts';
import { nominalLoad } from './load.ts';
import type { EffectKind, Prior } from './prior.ts';

/** Places of the parameters that every cutter has; a dial's increments or a list's levels, γ and the effects of occasions come after. */
export const at = { centre: 0, gain: 1, hangsGap: 2, cleanGap: 3, scoredGap: 4, sigma: 5, passes: 6 } as const;
const FIXED = 7;
const GRADES = 5;

/** Gauss–Hermite rule for the expectation over a standard normal variable. */
const hermiteRule = (n: number) =>
  gaussHermite(n).map(({ x, w }) => ({ x: x * Math.SQRT2, w: w / Math.sqrt(Math.PI) }));
const hermite9 = hermiteRule(9);
const hermite5 = hermiteRule(5);

type Seen = { passes: number; grade: number };
type Row = {
  position: number;
  faster: number;
  worn: number;
  effects: number[];
  figures: Seen[][];
  /** The one grade of the one figure, where that is all there is. */
  plain: Seen | undefined;
  weight: number;
};
/** The rows of one coupon, or of several that came out alike. */
type Sheet = { rows: Row[]; weight: number };

/** An occasion with an effect of its own among the parameters. Coupons are not: there are many, and they are integrated out. */
type Effect = { kind: Exclude<EffectKind, 'coupon'>; level: string };
export const sharedKinds = ['colour', 'batch', 'blade', 'cutter'] as const;

/** The parameters of one fit: their prior, and how they make a load. */
export type Parameters = {
  axis: Axis;
  prior: Prior;
  count: number;
  mean: Float64Array;
  sd: Float64Array;
  /** Where the increments of a dial begin, and how many there are (0 for number axes). */
  dial: { start: number; count: number };
  /** Where the levels of a list begin and how many there are; its modifiers' increments follow (0 for other axes). */
  list: { start: number; entries: number; increments: number; normal: number };
  /** Place of log γ where speeds differ, or −1; and the speed that γ is counted from. */
  speed: { at: number; from: number };
  /** Place of log ω where the blade's age differs, or −1; and the share of its life that ω is counted from. */
  wear: { at: number; from: number };
  effects: Effect[];
  effectStart: number;
};

/**
 * Kinds of occasion that differ within the evidence, or between it and the cut asked about. A kind with a single level
 * everywhere cannot be told from the vinyl itself and is left out.
 */
function effectsOf(cells: readonly GradedCell[], target: Partial<Record<EffectKind, string>>): Effect[] {
  const effects: Effect[] = [];
  for (const kind of sharedKinds) {
    const levels = new Set(cells.map((c) => c[kind] ?? ''));
    const differs = levels.size > 1 || (levels.size === 1 && !levels.has(target[kind] ?? ''));
    if (differs) for (const level of [...levels].sort()) effects.push({ kind, level });
  }
  return effects;
}

/** What the coming cut is made on, how fast, and how much of its life the blade has behind it. */
export type Target = Partial<Record<EffectKind, string>> & { speed?: number | undefined; wear?: number | undefined };

export function parametersFor(axis: Axis, prior: Prior, cells: readonly GradedCell[], target: Target = {}): Parameters {
  const { min, max } = limitsOf(axis);
  const dialCount = axis.kind === 'dial' ? max - min : 0;
  const list =
    axis.kind === 'list'
      ? {
          start: FIXED,
          entries: axis.entries.length,
          increments: modifiersOf(axis) - 1,
          normal: axis.modifier?.normal ?? 0,
        }
      : { start: FIXED, entries: 0, increments: 0, normal: 0 };
  const shape = dialCount + list.entries + list.increments;
  const from = target.speed ?? cells.find((c) => c.speed !== undefined)?.speed ?? 1;
  const speeds = cells.some((c) => c.speed !== undefined && c.speed !== from);
  const freshness = target.wear ?? cells.find((c) => c.wear !== undefined)?.wear ?? 0;
  const ages = cells.some((c) => c.wear !== undefined && c.wear !== freshness);
  const effects = effectsOf(cells, target);
  const speedAt = FIXED + shape;
  const wearAt = speedAt + (speeds ? 1 : 0);
  const effectStart = wearAt + (ages ? 1 : 0);
  const count = effectStart + effects.length;
  const mean = new Float64Array(count);
  const sd = new Float64Array(count);
  const set = (i: number, m: number, s: number) => {
    mean[i] = m;
    sd[i] = s;
  };
  set(at.centre, prior.centre.mean, prior.centre.sd);
  set(at.gain, 0, prior.gainSd);
  set(at.hangsGap, Math.log(prior.hangsGap.median), prior.hangsGap.sdlog);
  set(at.cleanGap, Math.log(prior.cleanGap.median), prior.cleanGap.sdlog);
  set(at.scoredGap, Math.log(prior.scoredGap.median), prior.scoredGap.sdlog);
  set(at.sigma, Math.log(prior.sigma.median), prior.sigma.sdlog);
  set(at.passes, Math.log(prior.passes.median), prior.passes.sdlog);
  for (let i = 0; i < dialCount; i++) set(FIXED + i, 0, prior.dialSd);
  for (let i = 0; i < list.entries; i++) set(FIXED + i, 0, prior.entrySd);
  for (let i = 0; i < list.increments; i++)
    set(FIXED + list.entries + i, Math.log(prior.modifier.median), prior.modifier.sdlog);
  if (speeds) set(speedAt, Math.log(prior.speed.median), prior.speed.sdlog);
  if (ages) set(wearAt, Math.log(prior.wear.median), prior.wear.sdlog);
  effects.forEach((e, i) => set(effectStart + i, 0, prior.effects[e.kind]));
  return {
    axis,
    prior,
    count,
    mean,
    sd,
    dial: { start: FIXED, count: dialCount },
    list,
    speed: { at: speeds ? speedAt : -1, from },
    wear: { at: ages ? wearAt : -1, from: freshness },
    effects,
    effectStart,
  };
}

/** Parameters on their own scale from whitened ones (standard normal under the prior). */
export function unwhiten(p: Parameters, z: ArrayLike<number>, theta = new Float64Array(p.count)): Float64Array {
  for (let i = 0; i < p.count; i++) theta[i] = p.mean[i]! + p.sd[i]! * z[i]!;
  return theta;
}

/** Cut points τ₀ … τ₃ of one draw: gaps about the centre of the clean window, or down from where the vinyl is cut through. */
export function cutPoints(p: Parameters, theta: ArrayLike<number>): [number, number, number, number] {
  const gap = Math.exp(theta[at.cleanGap]!);
  const scored = Math.exp(theta[at.scoredGap]!);
  const tau2 = p.prior.anchor === 'through' ? theta[at.centre]! - scored : theta[at.centre]! + gap / 2;
  const tau1 = tau2 - gap;
  return [tau1 - Math.exp(theta[at.hangsGap]!), tau1, tau2, tau2 + scored];
}

/** Whether the loads of an axis are the same for every draw. */
export const hasFixedLoads = (p: Parameters): boolean => p.dial.count === 0 && p.list.entries === 0;

/** Log load of every position, before the gain, for one draw of the parameters. Number axes do not depend on the draw. */
export function loadsOf(p: Parameters, theta: ArrayLike<number>): Float64Array {
  const { min, max } = limitsOf(p.axis);
  const nominal = nominalLoad(p.axis);
  const loads = new Float64Array(max - min + 1);
  if (p.axis.kind === 'list') {
    // A level for each entry about the one its maker gives it; the modifiers in order, each a little more than the last.
    const { start, entries, increments, normal } = p.list;
    const offsets = [0];
    for (let i = 0; i < increments; i++) offsets.push(offsets[i]! + Math.exp(theta[start + entries + i]!));
    for (let i = 0; i < loads.length; i++) {
      const { entry, modifier } = listPlace(p.axis, i);
      const level = nominal.at(entry * (increments + 1) + normal) + theta[start + entry]!;
      loads[i] = level + offsets[modifier]! - offsets[normal]!;
    }
    return loads;
  }
  if (p.dial.count === 0) {
    for (let i = 0; i < loads.length; i++) loads[i] = nominal.at(min + i);
    return loads;
  }
  // Cumulative log-normal increments, scaled so that the whole dial keeps its span.
  let total = 0;
  for (let i = 0; i < p.dial.count; i++) {
    total += Math.exp(theta[p.dial.start + i]!);
    loads[i + 1] = total;
  }
  for (let i = 0; i < loads.length; i++) loads[i] = (nominal.span * loads[i]!) / total + nominal.at(min);
  return loads;
}

function sheetsOf(p: Parameters, cells: readonly GradedCell[]): Sheet[] {
  const place = new Map(p.effects.map((e, i) => [`${e.kind} ${e.level}`, p.effectStart + i]));
  const coupons = new Map<string, Map<string, Row>>();
  for (const cell of cells) {
    const effects = sharedKinds.flatMap((kind) => place.get(`${kind} ${cell[kind] ?? ''}`) ?? []);
    const figures = cell.figures.map((f) =>
      [...f.grades].sort((a, b) => a.passes - b.passes).map((g) => ({ passes: g.passes, grade: gradeIndex[g.grade] })),
    );
    const faster = p.speed.at < 0 || cell.speed === undefined ? 0 : Math.log(cell.speed / p.speed.from);
    const worn = p.wear.at < 0 || cell.wear === undefined ? 0 : cell.wear - p.wear.from;
    const key = JSON.stringify([cell.strength, faster, worn, effects, figures]);
    const rows = coupons.get(cell.coupon) ?? new Map<string, Row>();
    coupons.set(cell.coupon, rows);
    const row = rows.get(key);
    if (row) row.weight++;
    else {
      const plain = figures.length === 1 && figures[0]!.length === 1 ? figures[0]![0] : undefined;
      rows.set(key, { position: cell.strength, faster, worn, effects, figures, plain, weight: 1 });
    }
  }
  const sheets = new Map<string, Sheet>();
  for (const rows of coupons.values()) {
    const key = [...rows]
      .map(([k, row]) => `${k}*${row.weight}`)
      .sort()
      .join('|');
    const sheet = sheets.get(key);
    if (sheet) sheet.weight++;
    else sheets.set(key, { rows: [...rows.values()], weight: 1 });
  }
  return [...sheets.values()];
}

/** A latent bound (τ_k − u)/σ that a chance leans on: the cut point k after so many passes. */
type Bound = { k: number; passes: number; coefficient: number };

/**
 * Value at a whitened point; writes its gradient, and on request the sum over coupons of the outer products of their scores, which
 * estimates the information that the cells add to the prior's unit matrix (row by row, count × count).
 */
export type LogPosterior = (z: Float64Array, gradient?: Float64Array, scores?: Float64Array) => number;

/**
 * Log posterior of the whitened parameters, with its gradient.
 *
 * P(Y ≤ k) = (1 − λ)·Φ((τ_k − u)/σ) + λ(k + 1)/5 with u = b·g(s) + β·log(passes) − γ·log(speed) − ω·wear + effects and
 * τ₁,₂ = centre ∓ gap/2. Passes over one figure share its noise, so its grades bound one and the same latent number and
 * can only rise; each may be a slip on its own. Figures of one cell share a cell effect and cells of one coupon a coupon
 * effect, both integrated by quadrature, so that many coupons do not mean many parameters.
 */
export function logPosterior(p: Parameters, cells: readonly GradedCell[]): LogPosterior {
  const sheets = sheetsOf(p, cells);
  const { min } = limitsOf(p.axis);
  const { lapse, cellShare } = p.prior;
  const { sd } = p;
  const couponSd = p.prior.effects.coupon;
  const occasions = couponSd > 0 ? hermite5 : [{ x: 0, w: 1 }];
  const logs = new Float64Array(occasions.length);
  const logWeights = occasions.map((node) => Math.log(node.w));
  const theta = new Float64Array(p.count);
  const nodeGradients = occasions.map(() => new Float64Array(p.count));
  const common = Math.sqrt(cellShare);
  const own = Math.sqrt(1 - cellShare);
  const slip = lapse / GRADES;
  const { span, at: nominalAt } = nominalLoad(p.axis);
  const lowest = nominalAt(min);
  const fixedLoads = hasFixedLoads(p) ? loadsOf(p, theta) : undefined;
  const anchored = p.prior.anchor === 'through';

  const score = new Float64Array(p.count);

  return (z, gradient, scores) => {
    scores?.fill(0);
    unwhiten(p, z, theta);
    let sum = 0;
    for (let i = 0; i < p.count; i++) {
      sum -= 0.5 * z[i]! * z[i]!;
      if (gradient) gradient[i] = -z[i]!;
    }
    const gain = Math.exp(theta[at.gain]!);
    const hangs = Math.exp(theta[at.hangsGap]!);
    const gap = Math.exp(theta[at.cleanGap]!);
    const scored = Math.exp(theta[at.scoredGap]!);
    const sigma = Math.exp(theta[at.sigma]!);
    const beta = Math.exp(theta[at.passes]!);
    const gamma = p.speed.at < 0 ? 0 : Math.exp(theta[p.speed.at]!);
    const omega = p.wear.at < 0 ? 0 : Math.exp(theta[p.wear.at]!);
    const tau = cutPoints(p, theta);
    const loads = fixedLoads ?? loadsOf(p, theta);

    const dialShares = new Float64Array(p.dial.count);
    if (gradient && p.dial.count > 0) {
      let total = 0;
      for (let i = 0; i < p.dial.count; i++) total += dialShares[i] = Math.exp(theta[p.dial.start + i]!);
      for (let i = 0; i < p.dial.count; i++) dialShares[i]! /= total;
    }

    /** Adds what one bound contributes to the gradient of a row's log chance. */
    const lean = (row: Row, load: number, u: number, k: number, passes: number, c: number, into: Float64Array) => {
      const more = passes > 1 ? Math.log(passes) : 0;
      into[at.centre]! += c * sd[at.centre]!;
      if (k === 0) into[at.hangsGap]! -= c * hangs * sd[at.hangsGap]!;
      if (anchored) {
        if (k <= 1) into[at.cleanGap]! -= c * gap * sd[at.cleanGap]!;
        if (k <= 2) into[at.scoredGap]! -= c * scored * sd[at.scoredGap]!;
      } else {
        into[at.cleanGap]! += ((k <= 1 ? -c : c) * gap * sd[at.cleanGap]!) / 2;
        if (k === 3) into[at.scoredGap]! += c * scored * sd[at.scoredGap]!;
      }
      into[at.sigma]! -= c * (tau[k]! - u - beta * more) * sd[at.sigma]!;
      into[at.gain]! -= c * gain * load * sd[at.gain]!;
      if (passes > 1) into[at.passes]! -= c * beta * more * sd[at.passes]!;
      if (row.faster !== 0) into[p.speed.at]! += c * gamma * row.faster * sd[p.speed.at]!;
      if (row.worn !== 0) into[p.wear.at]! += c * omega * row.worn * sd[p.wear.at]!;
      for (let i = 0; i < row.effects.length; i++) into[row.effects[i]!]! -= c * sd[row.effects[i]!]!;
      if (p.axis.kind === 'list') {
        const { start, entries, increments, normal } = p.list;
        const { entry, modifier } = listPlace(p.axis, row.position);
        into[start + entry]! -= c * gain * sd[start + entry]!;
        for (let i = 0; i < increments; i++) {
          const counts = (i < modifier ? 1 : 0) - (i < normal ? 1 : 0);
          const j = start + entries + i;
          if (counts !== 0) into[j]! -= c * gain * counts * Math.exp(theta[j]!) * sd[j]!;
        }
      }
      const below = (load - lowest) / span;
      for (let i = 0; i < p.dial.count; i++) {
        const j = p.dial.start + i;
        into[j]! -= c * gain * span * dialShares[i]! * ((i < row.position - min ? 1 : 0) - below) * sd[j]!;
      }
    };

    /** Log chance of one row when the coupon lies `occasion` heavier than usual; adds its gradient to `into`. */
    const rowLog = (row: Row, occasion: number, into: Float64Array | undefined): number => {
      const load = loads[row.position - min]!;
      let u = gain * load - gamma * row.faster - omega * row.worn + occasion;
      for (const e of row.effects) u += theta[e]!;
      if (row.plain) {
        // One figure with one grade, as nearly all are: no slips to sort out, nothing to integrate.
        const { passes, grade } = row.plain;
        const less = passes > 1 ? u + beta * Math.log(passes) : u;
        const a = grade === 0 ? -Infinity : (tau[grade - 1]! - less) / sigma;
        const b = grade === 4 ? Infinity : (tau[grade]! - less) / sigma;
        const chance = Math.max(slip + (1 - lapse) * normalBetween(a, b), 1e-300);
        if (into) {
          const c = (row.weight * (1 - lapse)) / chance / sigma;
          if (grade > 0) lean(row, load, u, grade - 1, passes, -c * normalDensity(a), into);
          if (grade < 4) lean(row, load, u, grade, passes, c * normalDensity(b), into);
        }
        return row.weight * Math.log(chance);
      }
      return manyGrades(row, load, u, into);
    };

    /** The same for a row with several figures, or several grades of one: slips sorted out, the cell's own effect integrated. */
    const manyGrades = (row: Row, load: number, u: number, into: Float64Array | undefined): number => {
      const bound = (k: number, passes: number) =>
        k < 0 ? -Infinity : k > 3 ? Infinity : (tau[k]! - u - (passes > 1 ? beta * Math.log(passes) : 0)) / sigma;
      const bounds: Bound[] = [];
      /** Chance of one figure's grades when the cell effect moves every bound by `shift` and narrows the noise by `narrow`. */
      const figureChance = (seen: Seen[], shift: number, narrow: number, leaning: Bound[] | undefined): number => {
        let chance = 0;
        // Every subset of the grades may be the ones that were not slips.
        for (let subset = 0; subset < 1 << seen.length; subset++) {
          let low = -Infinity;
          let high = Infinity;
          let weight = 1;
          let lowAt = -1;
          let highAt = -1;
          for (let i = 0; i < seen.length; i++) {
            const { passes, grade } = seen[i]!;
            if (!(subset & (1 << i))) {
              weight *= slip;
              continue;
            }
            weight *= 1 - lapse;
            const bottom = bound(grade - 1, passes);
            if (bottom > low) {
              low = bottom;
              lowAt = i;
            }
            const top = bound(grade, passes);
            if (top < high) {
              high = top;
              highAt = i;
            }
          }
          if (weight === 0 || low >= high) continue;
          const a = (low - shift) / narrow;
          const b = (high - shift) / narrow;
          chance += weight * normalBetween(a, b);
          if (!leaning) continue;
          const lower = seen[lowAt];
          const upper = seen[highAt];
          if (lower)
            leaning.push({
              k: lower.grade - 1,
              passes: lower.passes,
              coefficient: (-weight * normalDensity(a)) / narrow,
            });
          if (upper)
            leaning.push({ k: upper.grade, passes: upper.passes, coefficient: (weight * normalDensity(b)) / narrow });
        }
        return chance;
      };

      let chance: number;
      if (row.figures.length === 1) {
        chance = figureChance(row.figures[0]!, 0, 1, into && bounds);
      } else {
        chance = 0;
        for (const node of hermite9) {
          const parts = row.figures.map((seen) => {
            const leaning: Bound[] = [];
            return { chance: figureChance(seen, common * node.x, own, into && leaning), leaning };
          });
          const product = parts.reduce((prod, part) => prod * part.chance, node.w);
          chance += product;
          if (into && product > 0)
            for (const part of parts)
              for (const b of part.leaning) bounds.push({ ...b, coefficient: (b.coefficient * product) / part.chance });
        }
      }
      // A likelihood of zero can only come from underflow, since every answer may be a slip.
      chance = Math.max(chance, 1e-300);
      if (into)
        for (const { k, passes, coefficient } of bounds)
          lean(row, load, u, k, passes, (row.weight * coefficient) / chance / sigma, into);
      return row.weight * Math.log(chance);
    };

    for (const sheet of sheets) {
      let top = -Infinity;
      for (let q = 0; q < occasions.length; q++) {
        const into = gradient && nodeGradients[q]!.fill(0);
        let log = logWeights[q]!;
        for (const row of sheet.rows) log += rowLog(row, couponSd * occasions[q]!.x, into);
        logs[q] = log;
        if (log > top) top = log;
      }
      let total = 0;
      for (let q = 0; q < logs.length; q++) total += Math.exp(logs[q]! - top);
      sum += sheet.weight * (top + Math.log(total));
      if (!gradient) continue;
      score.fill(0);
      for (let q = 0; q < logs.length; q++) {
        const share = Math.exp(logs[q]! - top) / total;
        const from = nodeGradients[q]!;
        for (let i = 0; i < p.count; i++) score[i]! += share * from[i]!;
      }
      for (let i = 0; i < p.count; i++) gradient[i]! += sheet.weight * score[i]!;
      if (scores)
        for (let i = 0; i < p.count; i++)
          for (let j = 0; j < p.count; j++) scores[i * p.count + j]! += sheet.weight * score[i]! * score[j]!;
    }
    return sum;
  };
}
