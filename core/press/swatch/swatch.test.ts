import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../stats/index.ts';
import { planSwatch } from './planSwatch.ts';
import { readPlaces } from './readPlaces.ts';
import { gridOf, readSwatch } from './readSwatch.ts';
import { swatch, swatchInputSchema } from './swatchInput.ts';
import type { SwatchCell, SwatchGrade, SwatchSeen } from './swatchModel.ts';

const usual = { heat: 150_000, seconds: 15 };
const grid = gridOf(130_000, 175_000);
const cell = (c: number, seconds: number): SwatchCell => ({ heat: c * 1000, seconds });
/** A film that bonds from a dose of −0.5 on and suffers from 0.8 on, log time at 150 °C. */
const truth = (c: SwatchCell): { bond: SwatchGrade; harm: SwatchGrade } => {
  const dose = (beta: number) => Math.log(c.seconds / 15) + (beta * (c.heat - 150_000)) / 10_000;
  const [b, h] = [dose(0.35), dose(0.55)];
  return { bond: b > -0.5 ? 2 : b > -0.85 ? 1 : 0, harm: h < 0.8 ? 0 : h < 1.1 ? 1 : 2 };
};

describe('the two faces of a swatch against R', () => {
  const made = JSON.parse(
    readFileSync(new URL('../../../tests/published/fixtures/swatch.json', import.meta.url), 'utf8'),
  ) as {
    heat: number[];
    time: number[];
  } & Record<
    'bond' | 'harm',
    { y: SwatchGrade[]; coefficients: number[]; standardErrors: number[]; thresholds: number[]; logLikelihood: number }
  >;
  it('what thirty cells say lies near what R makes of all four hundred', () => {
    const seen = made.heat.slice(0, 30).map((h, i): SwatchSeen => ({
      heat: 150_000 + h * 10_000,
      seconds: 15 * Math.exp(made.time[i]!),
      bond: made.bond.y[i]!,
      harm: made.harm.y[i]!,
    }));
    const read = readSwatch(seen, usual, grid, { draws: 6000 });
    const phi = (x: number) => {
      const t = 1 / (1 + 0.2316419 * Math.abs(x));
      const tail =
        0.3989422804 *
        Math.exp((-x * x) / 2) *
        t *
        (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
      return x > 0 ? 1 - tail : tail;
    };
    let off = 0;
    for (const p of read.grid) {
      const [time, heat] = [Math.log(p.seconds / 15), (p.heat - 150_000) / 10_000];
      const at = (w: 'bond' | 'harm') => made[w].coefficients[0]! * time + made[w].coefficients[1]! * heat;
      off +=
        Math.abs(p.bonded - (1 - phi(made.bond.thresholds[1]! - at('bond')))) +
        Math.abs(p.unharmed - phi(made.harm.thresholds[0]! - at('harm')));
    }
    expect(off / (2 * read.grid.length)).toBeLessThan(0.06);
  });
});

describe('reading and planning', () => {
  it('says nothing before anything was pressed, and where it is safe after two cards', () => {
    expect(readSwatch([], usual, grid)).toMatchObject({ verdict: 'more', recipe: undefined });
    let seen: SwatchSeen[] = [];
    for (let card = 0; card < 2; card++) {
      const next = planSwatch(seen, usual, grid, readSwatch(seen, usual, grid), { seed: 4 });
      expect(next.length).toBeLessThanOrEqual(6);
      // The press changes its heat once a card.
      expect(new Set(next.map((c) => c.heat)).size).toBeLessThanOrEqual(2);
      for (const c of next) expect(grid).toContainEqual(c);
      seen = [...seen, ...next.map((c) => ({ ...c, ...truth(c) }))];
    }
    const { verdict, recipe } = readSwatch(seen, usual, grid);
    expect(verdict).toBe('enough');
    expect(truth(recipe!)).toEqual({ bond: 2, harm: 0 });
  });
  it('a film that suffers before it bonds has no recipe', () => {
    const seen = [5, 10, 15, 20, 30].flatMap((s) =>
      [140, 160].map((c): SwatchSeen => ({ ...cell(c, s), bond: s > 18 ? 2 : 0, harm: s > 12 ? 2 : 0 })),
    );
    expect(readSwatch(seen.concat(seen.slice(0, 4)), usual, grid)).toMatchObject({
      verdict: 'none',
      recipe: undefined,
    });
  });
  it('more time or heat never bonds less or harms less, whatever was seen', () => {
    const random = seededRandom(3);
    for (let k = 0; k < 10; k++) {
      const seen = Array.from({ length: 6 }, (): SwatchSeen => ({
        ...grid[Math.floor(random.uniform() * grid.length)]!,
        bond: Math.floor(random.uniform() * 3) as SwatchGrade,
        harm: Math.floor(random.uniform() * 3) as SwatchGrade,
      }));
      const { grid: read } = readSwatch(seen, usual, grid, { draws: 400 });
      for (const p of read)
        for (const q of read)
          if (q.heat >= p.heat && q.seconds >= p.seconds) {
            expect(q.bonded).toBeGreaterThanOrEqual(p.bonded - 1e-9);
            expect(q.unharmed).toBeLessThanOrEqual(p.unharmed + 1e-9);
          }
    }
  });
  it('what the wash showed counts instead of what the peel showed; puff is read by its own words', () => {
    const F = (degrees: number) => ({ degrees, unit: 'F' as const });
    const ask = (more: object) =>
      swatch(
        swatchInputSchema.parse({
          format: 'versipel-swatch/1',
          usual: { heat: F(305), seconds: 15 },
          range: { from: 270, to: 350, unit: 'F' },
          ...more,
        }),
      );
    const first = ask({});
    expect(first.next).toHaveLength(6);
    const at = { heat: F(305), seconds: 15, harm: 'fine' };
    const [held, washed] = [
      ask({ cells: [{ ...at, bond: 'bonded' }] }),
      ask({ cells: [{ ...at, bond: 'bonded', washed: 'not bonded' }] }),
    ];
    const chance = (r: typeof held) => r.region.find((p) => p.celsius === 150 && p.seconds === 15)!.bonded;
    expect(chance(washed)).toBeLessThan(chance(held) - 0.3);
    const puff = ask({ film: 'puff', cells: [{ ...at, bond: 'raised', harm: 'wrinkled' }] });
    const fine = (r: typeof held) => r.region.find((p) => p.celsius === 150 && p.seconds === 15)!.unharmed;
    expect(fine(puff)).toBeLessThan(fine(held) - 0.3);
    const problem = (more: object) =>
      swatchInputSchema.safeParse({
        format: 'versipel-swatch/1',
        usual: { heat: F(305), seconds: 15 },
        range: { from: 270, to: 350, unit: 'F' },
        ...more,
      }).error!.issues[0]!;
    expect(problem({ film: 'puff', cells: [{ ...at, bond: 'bonded' }] })).toMatchObject({ path: ['cells', 0, 'bond'] });
    expect(problem({ range: { from: 350, to: 270, unit: 'F' } }).message).toMatch(/above/);
  });
});

describe('the same swatch in nine places', () => {
  const B: SwatchGrade = 2;
  it('a corner that did not bond is the cool one; the middle strip still presses evenly', () => {
    const read = readPlaces([0, 1, 1, B, B, B, B, B, B], cell(150, 15), usual);
    expect(read.coolest).toMatchObject({ row: 0, column: 0 });
    expect(read.uneven).toBeGreaterThan(5);
    expect(read.even).toEqual({ columns: 3, rows: 1 });
  });
  it('nine alike are even; what nobody looked at is not known', () => {
    const even = readPlaces(
      Array.from({ length: 9 }, () => B),
      cell(150, 15),
      usual,
    );
    expect(even).toMatchObject({ uneven: 0, even: { columns: 3, rows: 3 } });
    const unknown = readPlaces([undefined, B, B, B, B, B, B, B, B], cell(150, 15), usual);
    expect(unknown.places[0]!.sd).toBeGreaterThan(unknown.places[4]!.sd);
    expect(() => readPlaces([B], cell(150, 15), usual)).toThrow(/nine/);
  });
});
