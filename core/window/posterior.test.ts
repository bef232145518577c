import { describe, expect, test } from 'vitest';
import { limitsOf, shippedModel, shippedModels, strengthAxis } from '../controls/index.ts';
import { gradeIndex, gradeWords, type Grade } from '../grades/index.ts';
import { normalCdf, seededRandom } from '../stats/index.ts';
import type { GradedCell } from './cells.ts';
import { logPosterior, parametersFor } from './likelihood.ts';
import { chanceOf, posterior } from './posterior.ts';
import { coldPrior, type Prior } from './prior.ts';

const [marlow, oxbow] = shippedModels as [(typeof shippedModels)[0], (typeof shippedModels)[0]];
const axis = strengthAxis(marlow);
const cell = (strength: number, grade: Grade, coupon = 'a'): GradedCell => ({
  coupon,
  strength,
  figures: [{ grades: [{ passes: 1, grade }] }],
});

/** Random small coupons, as they come: mostly in order, some not. */
function randomCells(seed: number): GradedCell[] {
  const random = seededRandom(seed);
  const centre = 0.3 + 0.3 * random.normal();
  const sigma = 0.05 + 0.1 * random.uniform();
  return Array.from({ length: 3 + Math.floor(random.uniform() * 4) }, () => {
    const load = centre + 0.45 * random.normal();
    const felt = load + sigma * random.normal();
    const edges = [centre - 0.35, centre - 0.2, centre + 0.2, centre + 0.5];
    return cell(
      Math.min(400, Math.max(10, Math.round(100 * Math.exp(load)))),
      gradeWords[edges.filter((e) => felt > e).length]!,
    );
  });
}

/**
 * The same model written down again, plainly, over a dense grid of centre, gap and noise (the other parameters held at their
 * medians by a vanishing spread) and of the coupon's own effect.
 */
function denseGrid(prior: Prior, cells: GradedCell[], at: number[]) {
  const steps = 61;
  const reach = 5;
  const line = (n: number) => Array.from({ length: n }, (_, i) => -reach + (2 * reach * i) / (n - 1));
  const effects =
    prior.effects.coupon > 0
      ? line(17).map((z) => ({ e: (z * 3) / 5, w: Math.exp((-0.5 * (z * 3) ** 2) / 25) }))
      : [{ e: 0, w: 1 }];
  const effectTotal = effects.reduce((s, e) => s + e.w, 0);
  const sums = at.map(() => 0);
  let total = 0;
  let centreSum = 0;
  for (const zc of line(steps))
    for (const zg of line(25))
      for (const zs of line(25)) {
        const centre = prior.centre.mean + prior.centre.sd * zc;
        const gap = prior.cleanGap.median * Math.exp(prior.cleanGap.sdlog * zg);
        const sigma = prior.sigma.median * Math.exp(prior.sigma.sdlog * zs);
        const tau = [
          centre - gap / 2 - prior.hangsGap.median,
          centre - gap / 2,
          centre + gap / 2,
          centre + gap / 2 + prior.scoredGap.median,
        ];
        const upTo = (k: number, u: number) =>
          k < 0 ? 0 : k > 3 ? 1 : (1 - prior.lapse) * normalCdf((tau[k]! - u) / sigma) + (prior.lapse * (k + 1)) / 5;
        let likelihood = 0;
        for (const { e, w } of effects) {
          let product = w / effectTotal;
          for (const c of cells) {
            const u = Math.log(c.strength / 100) + prior.effects.coupon * e;
            const k = gradeIndex[c.figures[0]!.grades[0]!.grade];
            product *= upTo(k, u) - upTo(k - 1, u);
          }
          likelihood += product;
        }
        const weight = likelihood * Math.exp(-0.5 * (zc * zc + zg * zg + zs * zs));
        total += weight;
        centreSum += weight * centre;
        const next = Math.hypot(sigma, prior.effects.coupon);
        at.forEach((s, i) => {
          const u = Math.log(s / 100);
          sums[i]! += weight * (normalCdf((tau[2]! - u) / next) - normalCdf((tau[1]! - u) / next));
        });
      }
  return { clean: sums.map((s) => s / total), centre: centreSum / total };
}

const vanishing = 1e-4;
const pinned = (coupon: number): Prior => {
  const cold = coldPrior(axis, 'glitter');
  return {
    ...cold,
    centre: { mean: 0.3, sd: 0.5 },
    gainSd: vanishing,
    hangsGap: { ...cold.hangsGap, sdlog: vanishing },
    scoredGap: { ...cold.scoredGap, sdlog: vanishing },
    effects: { ...cold.effects, coupon },
  };
};

describe('the posterior', () => {
  test.each(Array.from({ length: 20 }, (_, i) => i))('agrees with a dense grid on random small coupon %i', (seed) => {
    const prior = pinned(seed % 2 ? 0.04 : 0);
    const cells = randomCells(100 + seed);
    const at = [70, 100, 120, 135, 160, 200];
    const grid = denseGrid(prior, cells, at);
    const post = posterior(axis, prior, cells, { seed: 5, draws: 4000 });
    const clean = at.map(
      (s) =>
        post.draws.reduce((sum, d) => sum + chanceOf(d, d.gain * d.loads[s - 10]!, 'clean'), 0) / post.draws.length,
    );
    const centre = post.draws.reduce((s, d) => s + (d.tau[1] + d.tau[2]) / 2, 0) / post.draws.length;
    at.forEach((_, i) => expect(Math.abs(clean[i]! - grid.clean[i]!)).toBeLessThan(0.02));
    expect(Math.abs(centre - grid.centre)).toBeLessThan(0.03);
    expect(post.effectiveSize).toBeGreaterThan(300);
  });

  test.each([
    [6, 'many short coupons'],
    [1000, 'few long ones'],
  ])('of thousands of cells it is what the truth was, and as sure as the sample allows: %i a coupon', (per) => {
    const random = seededRandom(per);
    let day = 0;
    const cells = Array.from({ length: 4000 }, (_, i): GradedCell => {
      if (i % per === 0) day = 0.04 * random.normal();
      const strength = Math.round(60 + 160 * random.uniform());
      const felt = Math.log(strength / 100) + day + 0.07 * random.normal();
      return cell(
        strength,
        gradeWords[[-0.05, 0.1, 0.5, 0.8].filter((t) => felt > t).length]!,
        `c${Math.floor(i / per)}`,
      );
    });
    const post = posterior(axis, coldPrior(axis, 'glitter'), cells, { seed: 1 });
    expect(post.converged).toBe(true);
    const gaps = post.draws.map((d) => (d.tau[2] - d.tau[1]) / d.gain);
    const mean = gaps.reduce((a, b) => a + b, 0) / gaps.length;
    const sd = Math.sqrt(gaps.reduce((s, g) => s + (g - mean) ** 2, 0) / gaps.length);
    expect(Math.abs(mean - 0.4)).toBeLessThan(4 * sd);
    expect(sd).toBeLessThan(0.02);
    // The same as by importance sampling, which takes its time.
    const slow = posterior(axis, coldPrior(axis, 'glitter'), cells.slice(0, 2994), { seed: 1 });
    const quick = slow.draws.map((d) => (d.tau[2] - d.tau[1]) / d.gain);
    expect(Math.abs(quick.reduce((a, b) => a + b, 0) / quick.length - mean)).toBeLessThan(4 * sd);
  });

  test('without cells it is the prior', () => {
    const prior = coldPrior(axis, 'glitter');
    const post = posterior(axis, prior, [], { seed: 3, draws: 2000 });
    const centres = post.draws.map((d) => (d.tau[1] + d.tau[2]) / 2);
    const mean = centres.reduce((a, b) => a + b, 0) / centres.length;
    expect(mean).toBeCloseTo(0.3, 1);
    const sd = Math.sqrt(centres.reduce((s, c) => s + (c - mean) ** 2, 0) / centres.length);
    expect(Math.abs(sd / prior.centre.sd - 1)).toBeLessThan(0.06);
  });
});

describe('the log posterior', () => {
  const passes = (strength: number, ...grades: Grade[]): GradedCell => ({
    coupon: 'b',
    colour: 'gold',
    strength,
    figures: [{ grades: grades.map((grade, i) => ({ passes: i + 1, grade })) }],
  });
  const sets: [string, typeof marlow, GradedCell[]][] = [
    [
      'plain cells',
      marlow,
      [cell(90, 'uncut'), cell(105, 'hangs'), cell(130, 'clean'), cell(160, 'scored'), cell(200, 'through')],
    ],
    [
      'passes and figures',
      marlow,
      [
        passes(90, 'uncut', 'clean', 'scored'),
        {
          ...cell(120, 'clean'),
          figures: [{ grades: [{ passes: 1, grade: 'clean' }] }, { grades: [{ passes: 1, grade: 'hangs' }] }],
        },
      ],
    ],
    ['a dial with two colours', oxbow, [cell(4, 'uncut'), passes(7, 'clean'), cell(10, 'scored', 'c')]],
    ['grades that fall', marlow, [passes(90, 'clean', 'uncut')]],
    [
      'a list, its modifiers, two speeds',
      shippedModel('pellam-leaf', 1)!,
      [
        { ...cell(6, 'uncut'), speed: 2 },
        { ...cell(11, 'hangs'), speed: 8 },
        { ...passes(14, 'hangs', 'clean'), speed: 2 },
        { ...cell(12, 'clean'), speed: 5 },
        cell(19, 'scored'),
      ],
    ],
    [
      'a blade that ages',
      marlow,
      [
        { ...cell(90, 'uncut'), wear: 0.1 },
        { ...cell(120, 'clean'), wear: 0.8, speed: 3 },
        { ...passes(150, 'hangs', 'clean'), wear: 1.4, speed: 5 },
      ],
    ],
  ];
  test.each(sets)('its gradient is its slope: %s', (_, model, cells) => {
    const cold = coldPrior(strengthAxis(model), 'glitter');
    const random = seededRandom(9);
    for (let trial = 0; trial < 10; trial++) {
      // Both ways to say where the window lies.
      const prior: Prior = trial < 5 ? cold : { ...cold, anchor: 'through' };
      const p = parametersFor(strengthAxis(model), prior, cells, { colour: 'gold' });
      const f = logPosterior(p, cells);
      const z = Float64Array.from({ length: p.count }, () => 0.7 * random.normal());
      const gradient = new Float64Array(p.count);
      f(z, gradient);
      for (let i = 0; i < p.count; i++) {
        const h = 1e-5;
        const moved = (by: number) => f(z.map((v, j) => (j === i ? v + by : v)));
        expect(Math.abs((moved(h) - moved(-h)) / (2 * h) - gradient[i]!)).toBeLessThan(
          1e-4 * (1 + Math.abs(gradient[i]!)),
        );
      }
    }
  });

  test('all grades of a cell together are certain', () => {
    const p = parametersFor(axis, coldPrior(axis, 'glitter'), [cell(120, 'clean')]);
    const z = new Float64Array(p.count).fill(0.3);
    const prior = -0.5 * z.reduce((s, v) => s + v * v, 0);
    const total = gradeWords.reduce((s, g) => s + Math.exp(logPosterior(p, [cell(120, g)])(z) - prior), 0);
    expect(total).toBeCloseTo(1, 10);
    // Two passes: every pair of grades, those that fall included (each may be a slip).
    const pairs = gradeWords.flatMap((a) =>
      gradeWords.map((b) => Math.exp(logPosterior(p, [passes(120, a, b)])(z) - prior)),
    );
    expect(pairs.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 10);
  });

  test('an extra pass shares the noise: falling grades are only slips', () => {
    const p = parametersFor(axis, coldPrior(axis, 'glitter'), [cell(120, 'clean')]);
    const z = new Float64Array(p.count);
    const f = (...grades: Grade[]) => Math.exp(logPosterior(p, [passes(110, ...grades)])(z));
    expect(f('hangs', 'clean')).toBeGreaterThan(100 * f('clean', 'hangs'));
  });

  test('figures of one cell count for less than as many cells', () => {
    const p = parametersFor(axis, coldPrior(axis, 'glitter'), [cell(120, 'clean')]);
    const one: GradedCell = {
      ...cell(150, 'clean'),
      figures: Array.from({ length: 4 }, () => ({ grades: [{ passes: 1, grade: 'clean' as const }] })),
    };
    const four = Array.from({ length: 4 }, () => cell(150, 'clean'));
    const z = new Float64Array(p.count);
    const far = z.map((_, i) => (i === 0 ? -0.2 : 0));
    const drop = (cells: GradedCell[]) => logPosterior(p, cells)(z) - logPosterior(p, cells)(far);
    expect(drop([one])).toBeLessThan(drop(four));
  });

  test('the same cells in another order are the same evidence', () => {
    const cells = randomCells(7);
    const p = parametersFor(axis, coldPrior(axis, 'glitter'), cells);
    const z = new Float64Array(p.count).fill(0.2);
    expect(logPosterior(p, [...cells].reverse())(z)).toBeCloseTo(logPosterior(p, cells)(z), 10);
  });
});

test('a cell outside the axis is named', () => {
  expect(() =>
    posterior(axis, coldPrior(axis, 'glitter'), [cell(100, 'clean'), cell(401, 'clean')], { seed: 1 }),
  ).toThrow('cell 2: force position 401 is outside 10 to 400');
  expect(limitsOf(axis).max).toBe(400);
});
