import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { translate } from '#core/transfer/index.ts';

type Fit = {
  terms: string[];
  y: number[];
  levels: Record<string, string[]>;
  sd: number[];
  residual: number[];
  criterion: number[];
  intercept: number[];
  interceptError: number[];
  fitted: number[];
  effects: Record<string, { names: string[]; values: number[] }>;
};
/** Fits of R's lme4, made by fixtures/mixed.R. */
const fits = JSON.parse(readFileSync(new URL('fixtures/mixed.json', import.meta.url), 'utf8')) as Record<string, Fit>;
const rowsOf = (f: Fit) => f.y.map((_, i) => Object.fromEntries(f.terms.map((t) => [t, f.levels[t]![i]!])));
const fitOf = (f: Fit, terms = f.terms) => {
  const rows = rowsOf(f);
  return translate({
    scale: 'linear',
    terms,
    observations: rows.map((r, i) => ({ ...r, value: f.y[i]! })),
    predict: rows,
    level: 0.9,
  });
};

describe('crossed and nested mixed model against published data', () => {
  /** Criterion, standard deviations and predictions. */
  const alike = (f: Fit) => {
    const mine = fitOf(f);
    const sigma = f.residual[0]!;
    expect(mine.converged).toBe(true);
    expect(Math.abs(mine.criterion - f.criterion[0]!) / Math.abs(f.criterion[0]!)).toBeLessThan(1e-6);
    f.terms.forEach((t, k) =>
      expect(Math.abs(mine.variances[t]!.sd - f.sd[k]!)).toBeLessThan(1e-3 * Math.max(f.sd[k]!, sigma)),
    );
    expect(Math.abs(mine.residual.sd - sigma)).toBeLessThan(1e-3 * sigma);
    mine.predictions.forEach((p, i) => expect(Math.abs(p.value - f.fitted[i]!)).toBeLessThan(1e-3));
    return mine;
  };
  const isMadeUp = (name: string) => name.startsWith('made up');

  test.each(Object.keys(fits).filter(isMadeUp))('%s as lme4 fits it', (name) => void alike(fits[name]!));

  test.each(Object.keys(fits).filter((name) => !isMadeUp(name)))('%s as lme4 fits it', (name) => {
    const f = fits[name]!;
    const mine = alike(f);
    expect(Math.abs(mine.intercept.effect - f.intercept[0]!)).toBeLessThan(1e-6 * Math.abs(f.intercept[0]!));
    expect(Math.abs(mine.intercept.se - f.interceptError[0]!)).toBeLessThan(2e-3 * f.interceptError[0]!);
    for (const t of f.terms)
      f.effects[t]!.names.forEach((n, i) =>
        // lme4 names a cask within its batch "cask:batch" only where it was nested by formula; here levels are compound already.
        expect(Math.abs(mine.effects[t]![n]!.effect - f.effects[t]!.values[i]!)).toBeLessThan(2e-3),
      );
  });

  test('Penicillin as printed: plate 0.847, sample 1.932, residual 0.550 (Davies & Goldsmith 1972; Bates 2010, lme4, section 2.1)', () => {
    const { variances, residual } = fitOf(fits.penicillin!);
    expect(variances.plate!.sd).toBeCloseTo(0.847, 3);
    expect(variances.sample!.sd).toBeCloseTo(1.932, 3);
    expect(residual.sd).toBeCloseTo(0.55, 3);
  });

  test('the order of the terms does not matter', () => {
    const [a, b] = [fitOf(fits.pastes!), fitOf(fits.pastes!, ['sample', 'batch'])];
    expect(b.criterion).toBeCloseTo(a.criterion, 5);
    expect(b.variances.batch!.sd).toBeCloseTo(a.variances.batch!.sd, 3);
  });
});
