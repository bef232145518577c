import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { z } from 'zod';
import { shippedModels, strengthAxis } from '#core/controls/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { maximise, seededRandom, type Random } from '#core/stats/index.ts';
import { coldPrior, gradedCellSchema, type GradedCell } from '#core/window/index.ts';
import { importanceSample } from '#core/window/importanceSample.ts';
import { at, logPosterior, parametersFor, unwhiten } from '#core/window/likelihood.ts';

/**
 * Compares ways to read a coupon: how far each is from a long reference run, and what it costs against one evaluation of the
 * log posterior in the same run.
 */
export const casesSchema = z.object({
  format: z.literal('versipel-inference-cases/1'),
  cases: z.array(z.object({ id: z.string(), group: z.string(), model: z.string(), cells: z.array(gradedCellSchema) })),
});
type Case = z.infer<typeof casesSchema>['cases'][number];

/** Random coupons: in order, thin, contradicting, over several days, on a dial. */
export function makeCases(seed: number, each: number): z.infer<typeof casesSchema> {
  const random = seededRandom(seed);
  const cases: Case[] = [];
  const groups = {
    ordinary: [6, 0.06, 1],
    thin: [3, 0.08, 1],
    noisy: [8, 0.25, 1],
    'three coupons': [12, 0.07, 3],
    dial: [6, 0.07, 1],
  } as const;
  for (const [group, [count, sigma, coupons]] of Object.entries(groups))
    for (let i = 0; i < each; i++) {
      const centre = 0.3 + 0.4 * random.normal();
      const cells = Array.from({ length: count }, (_, k): GradedCell => {
        const load = centre + 0.5 * random.normal();
        const felt = load + sigma * random.normal();
        const edges = [centre - 0.36, centre - 0.21, centre + 0.21, centre + 0.5];
        const strength = group === 'dial' ? Math.round(7 + (load / 2.5) * 16) : Math.round(100 * Math.exp(load));
        const limit = group === 'dial' ? [0, 16] : [10, 400];
        return {
          coupon: `c${k % coupons}`,
          strength: Math.min(limit[1]!, Math.max(limit[0]!, strength)),
          figures: [{ grades: [{ passes: 1, grade: gradeWords[edges.filter((e) => felt > e).length]! }] }],
        };
      });
      cases.push({ id: `${group} ${i}`, group, model: group === 'dial' ? 'oxbow-dial' : 'marlow-24', cells });
    }
  return { format: 'versipel-inference-cases/1', cases };
}

type Draws = Float64Array[];
type Problem = { d: number; f: (z: Float64Array) => number; p: ReturnType<typeof parametersFor> };

/** Elliptical slice sampling (Murray, Adams & MacKay 2010) under a standard normal prior. */
function ellipticalSlice({ d, f }: Problem, random: Random, steps: number, keep: number, start: Float64Array): Draws {
  const likelihood = (z: Float64Array) => f(z) + 0.5 * z.reduce((s, v) => s + v * v, 0);
  let z = start;
  let now = likelihood(z);
  const draws: Draws = [];
  for (let step = 0; step < steps; step++) {
    const other = Float64Array.from({ length: d }, () => random.normal());
    const floor = now + Math.log(random.uniform());
    let angle = 2 * Math.PI * random.uniform();
    let low = angle - 2 * Math.PI;
    let high = angle;
    for (;;) {
      const next = z.map((v, i) => v * Math.cos(angle) + other[i]! * Math.sin(angle));
      const value = likelihood(next);
      if (value > floor) {
        z = next;
        now = value;
        break;
      }
      if (angle < 0) low = angle;
      else high = angle;
      angle = low + (high - low) * random.uniform();
    }
    if (step % Math.ceil(steps / keep) === 0) draws.push(z);
  }
  return draws;
}

const symmetric = (m: Matrix) => Matrix.add(m, m.transpose()).mul(0.5);

const methods: Record<string, (problem: Problem, random: Random) => Draws> = {
  'Laplace alone': ({ d, f }, random) => {
    const top = maximise((x, g) => (f as (z: Float64Array, g: Float64Array) => number)(x, g), new Float64Array(d), {
      tolerance: 1e-8,
    });
    const root = new CholeskyDecomposition(symmetric(new CholeskyDecomposition(top.information).solve(Matrix.eye(d))))
      .lowerTriangularMatrix;
    return Array.from({ length: 1000 }, () => {
      const e = Matrix.columnVector(Array.from({ length: d }, () => random.normal()));
      return Float64Array.from(root.mmul(e).to1DArray(), (v, i) => v + top.x[i]!);
    });
  },
  'prior, weighted': ({ d, f }, random) =>
    importanceSample(f, new Float64Array(d), Matrix.eye(d), random, { points: 6000, rounds: 1 }).draws,
  'elliptical slice, 4000 steps': (problem, random) =>
    ellipticalSlice(problem, random, 4000, 1000, new Float64Array(problem.d)),
  'adaptive importance (chosen)': ({ d, f }, random) => {
    const top = maximise((x, g) => (f as (z: Float64Array, g: Float64Array) => number)(x, g), new Float64Array(d), {
      tolerance: 1e-8,
    });
    return importanceSample(f, top.x, top.information, random).draws;
  },
};

/** Mean and sd of the centre, mean log gap and mean log noise: what the answers hang on, in units of the reference's sd. */
function moments({ p }: Problem, draws: Draws): number[] {
  const theta = draws.map((z) => unwhiten(p, z));
  const mean = (i: number) => theta.reduce((s, t) => s + t[i]!, 0) / theta.length;
  const sd = (i: number) => Math.sqrt(theta.reduce((s, t) => s + (t[i]! - mean(i)) ** 2, 0) / theta.length);
  return [mean(at.centre), mean(at.cleanGap), mean(at.sigma), sd(at.centre), sd(at.cleanGap), sd(at.sigma)];
}

export function run(cases: z.infer<typeof casesSchema>, seed: number) {
  const groups: Record<
    string,
    Record<string, { error: number; worst: number; evaluations: number; ms: number; n: number }>
  > = {};
  for (const c of cases.cases) {
    const model = shippedModels.find((m) => m.key === c.model);
    if (!model) throw new Error(`case ${c.id}: no such model: ${c.model}`);
    const axis = strengthAxis(model);
    const p = parametersFor(axis, coldPrior(axis, 'glitter'), c.cells);
    const problem: Problem = { d: p.count, f: logPosterior(p, c.cells), p };
    const reference = moments(
      problem,
      ellipticalSlice(problem, seededRandom(seed + 1), 20_000, 10_000, new Float64Array(p.count)),
    );
    const probe = new Float64Array(p.count).fill(0.1);
    const began = performance.now();
    for (let i = 0; i < 2000; i++) problem.f(probe);
    const one = (performance.now() - began) / 2000;
    for (const [name, method] of Object.entries(methods)) {
      const from = performance.now();
      const draws = method(problem, seededRandom(seed));
      const ms = performance.now() - from;
      const got = moments(problem, draws);
      // Means in sds of the reference, spreads as a ratio.
      const errors = got.map((g, i) =>
        i < 3 ? Math.abs(g - reference[i]!) / reference[i + 3]! : Math.abs(g / reference[i]! - 1),
      );
      const error = Math.max(...errors);
      const cell = ((groups[c.group] ??= {})[name] ??= { error: 0, worst: 0, evaluations: 0, ms: 0, n: 0 });
      cell.n++;
      cell.error += (error - cell.error) / cell.n;
      cell.worst = Math.max(cell.worst, error);
      cell.evaluations += (ms / one - cell.evaluations) / cell.n;
      cell.ms += (ms - cell.ms) / cell.n;
    }
  }
  return groups;
}

export function table(groups: ReturnType<typeof run>): string {
  const lines = ['group             method                          mean error  worst error  evaluations      ms'];
  for (const [group, list] of Object.entries(groups))
    for (const [name, m] of Object.entries(list))
      lines.push(
        `${group.padEnd(18)}${name.padEnd(32)}${m.error.toFixed(3).padStart(9)}${m.worst.toFixed(3).padStart(13)}${Math.round(m.evaluations).toString().padStart(13)}${m.ms.toFixed(0).padStart(8)}`,
      );
  return lines.join('\n');
}
