import fc from 'fast-check';
import { expect, test } from 'vitest';
import { normalBetween, normalCdf, normalDensity, normalQuantile } from './normal.ts';
import { quickNormalCdf } from './quickNormalCdf.ts';

// Abramowitz & Stegun (1964), Handbook of Mathematical Functions, table 26.1 (P(x) to 15 digits).
test.each([
  [0, 0.5],
  [0.5, 0.691462461274013],
  [1, 0.841344746068543],
  [1.5, 0.933192798731142],
  [2, 0.97724986805182],
  [3, 0.99865010196837],
])('Φ(%d) as tabled', (x, p) => {
  expect(normalCdf(x)).toBeCloseTo(p, 14);
  expect(normalCdf(-x)).toBeCloseTo(1 - p, 14);
});

test('keeps its digits far out', () => {
  // Abramowitz & Stegun (1964), table 26.2: −log10 Q(5) = 6.54265, −log10 Q(10) = 23.11805.
  expect(-Math.log10(normalCdf(-5))).toBeCloseTo(6.54265, 5);
  expect(-Math.log10(normalCdf(-10))).toBeCloseTo(23.11805, 5);
  expect(normalCdf(-Infinity)).toBe(0);
  expect(normalCdf(Infinity)).toBe(1);
  expect(normalBetween(9, 10)).toBeGreaterThan(0);
  expect(normalBetween(2, 1)).toBe(0);
});

test('quantile undoes distribution', () => {
  fc.assert(
    fc.property(fc.double({ min: 1e-12, max: 1 - 1e-12, noNaN: true }), (p) => {
      expect(Math.abs(normalCdf(normalQuantile(p)) - p)).toBeLessThan(1e-12);
    }),
  );
  expect(() => normalQuantile(1.2)).toThrow('invalid probability; not in [0, 1]: 1.2');
});

test('density is the slope of the distribution', () => {
  for (const z of [-4, -1.3, 0, 0.6, 2.2])
    expect((normalCdf(z + 1e-5) - normalCdf(z - 1e-5)) / 2e-5).toBeCloseTo(normalDensity(z), 8);
});

test('the quick one is within 5·10⁻⁷ of the exact one, everywhere', () => {
  for (let z = -9; z <= 9; z += 0.00137) expect(Math.abs(quickNormalCdf(z) - normalCdf(z))).toBeLessThan(5e-7);
  expect([quickNormalCdf(-Infinity), quickNormalCdf(Infinity)]).toEqual([0, 1]);
});
