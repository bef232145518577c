import { z } from 'zod';
import { limitsOf, shippedModels, strengthAxis } from '#core/controls/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { planCoupon } from '#core/planner/index.ts';
import { seededRandom } from '#core/stats/index.ts';
import { coldPrior, posterior, summarise, windowHalfWidth, type Draw, type GradedCell } from '#core/window/index.ts';

/**
 * Is what it says true? Truths are drawn from the prior, a first coupon is planned and cut on each, the reading's stated chance is
 * set against the true one, and its intervals against the true edges.
 */
export const casesSchema = z.object({
  format: z.literal('versipel-calibration-cases/1'),
  cases: z.array(z.object({ id: z.string(), model: z.string(), coupons: z.int().min(1).max(4), seed: z.int() })),
});
type Cases = z.infer<typeof casesSchema>;

export function makeCases(seed: number, each: number): Cases {
  return {
    format: 'versipel-calibration-cases/1',
    cases: [1, 2].flatMap((coupons) =>
      Array.from({ length: each }, (_, i) => ({
        id: `${coupons} coupons ${i}`,
        model: 'marlow-24',
        coupons,
        seed: seed * 100_000 + coupons * 10_000 + i,
      })),
    ),
  };
}

type Group = {
  n: number;
  stated: number;
  true: number;
  covered: number;
  edges: number;
  deciles: { n: number; stated: number; true: number }[];
};

export function run(cases: Cases, seed: number): Record<string, Group> {
  const groups: Record<string, Group> = {};
  for (const c of cases.cases) {
    const model = shippedModels.find((m) => m.key === c.model);
    if (!model) throw new Error(`case ${c.id}: no such model: ${c.model}`);
    const axis = strengthAxis(model);
    const { min, max } = limitsOf(axis);
    const prior = coldPrior(axis, 'glitter');
    const random = seededRandom(c.seed + seed);
    // A truth drawn from the prior itself; its next cut meets the same small differences between days as the model expects.
    const [truth] = posterior(axis, prior, [], { seed: c.seed, draws: 1, points: 64 }).draws as [Draw];
    const own = Math.sqrt(Math.max(1e-6, truth.sigma ** 2 - prior.effects.coupon ** 2));
    const cells: GradedCell[] = [];
    for (let k = 0; k < c.coupons; k++) {
      const plan = planCoupon({
        format: 'versipel-plan/1',
        model,
        type: 'glitter',
        cells,
        wanted: 'clean',
        target: {},
        mode: 'new',
        also: [],
        count: 6,
        seed: 1,
      });
      const day = prior.effects.coupon * random.normal();
      for (const { position } of plan.cells) {
        const felt = truth.gain * truth.loads[position - min]! + day + own * random.normal();
        const slip = random.uniform() < prior.lapse;
        const grade = slip ? Math.floor(random.uniform() * 5) : truth.tau.filter((t) => felt > t).length;
        cells.push({
          coupon: `day ${k}`,
          strength: position,
          figures: [{ grades: [{ passes: 1, grade: gradeWords[grade]! }] }],
        });
      }
    }
    const summary = summarise(posterior(axis, prior, cells, { seed: 1 }), 1, 'clean');
    const single = summarise({ axis, draws: [truth], effectiveSize: 1, rounds: 1, converged: true }, 1, 'clean', {
      curvePoints: max - min + 1,
    });
    const at = summary.best.position;
    const place = single.curve.positions.indexOf(at);
    const actual = single.curve.mean[place]!;
    const group = (groups[`${c.coupons} coupon${c.coupons > 1 ? 's' : ''} of 6`] ??= {
      n: 0,
      stated: 0,
      true: 0,
      covered: 0,
      edges: 0,
      deciles: Array.from({ length: 10 }, () => ({ n: 0, stated: 0, true: 0 })),
    });
    const decile = group.deciles[Math.min(9, Math.floor(summary.best.chance * 10))]!;
    for (const g of [group, decile]) {
      g.stated = (g.stated * g.n + summary.best.chance) / (g.n + 1);
      g.true = (g.true * g.n + actual) / (g.n + 1);
      g.n++;
    }
    // Edges count where the truth has a window that lies within the axis.
    const half = windowHalfWidth(truth.tau[2] - truth.tau[1], truth.sigma, 0.9);
    const edge = single.edges;
    if (Number.isFinite(half) && edge.low.at > min && edge.high.at < max)
      for (const side of ['low', 'high'] as const) {
        group.edges++;
        const { low, high } = summary.edges[side].interval;
        if (edge[side].at >= low && edge[side].at <= high) group.covered++;
      }
  }
  return groups;
}

export function table(groups: Record<string, Group>): string {
  const lines: string[] = [];
  for (const [name, g] of Object.entries(groups)) {
    lines.push(
      `${name}: ${g.n} cases; stated ${g.stated.toFixed(3)}, true ${g.true.toFixed(3)}; 90 % intervals of the edges hold ${((100 * g.covered) / Math.max(1, g.edges)).toFixed(1)} % of ${g.edges}`,
    );
    g.deciles.forEach((d, i) => {
      if (d.n > 0)
        lines.push(
          `  stated ${(i / 10).toFixed(1)}–${((i + 1) / 10).toFixed(1)}: ${String(d.n).padStart(5)} cases, stated ${d.stated.toFixed(3)}, true ${d.true.toFixed(3)}`,
        );
    });
  }
  return lines.join('\n');
}
