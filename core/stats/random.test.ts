import { expect, test } from 'vitest';
import { seededRandom, seedFromText } from './random.ts';

test('the same seed gives the same numbers', () => {
  const [a, b] = [seededRandom(7), seededRandom(7)];
  expect(Array.from({ length: 50 }, () => a.uniform())).toEqual(Array.from({ length: 50 }, () => b.uniform()));
});

test('neighbouring seeds have nothing in common', () => {
  // Simulated cases are numbered: their first numbers must be as good as independent. |r| of 2 000 pairs is under 0.1.
  const seeds = Array.from({ length: 2000 }, (_, i) => 710_000 + i);
  for (let draw = 0; draw < 6; draw++) {
    const values = seeds.map((s) => {
      const random = seededRandom(s);
      for (let i = 0; i < draw; i++) random.uniform();
      return random.uniform();
    });
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    expect(Math.abs(mean - 0.5)).toBeLessThan(0.03);
    const variance = values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length;
    expect(Math.abs(variance * 12 - 1)).toBeLessThan(0.1);
    for (const lag of [1, 2, 7]) {
      const r =
        values.slice(lag).reduce((s, v, i) => s + (v - mean) * (values[i]! - mean), 0) /
        (values.length - lag) /
        variance;
      expect(Math.abs(r)).toBeLessThan(0.1);
    }
  }
});

test('normal numbers have mean 0 and spread 1, and lie inside the open interval’s reach', () => {
  const random = seededRandom(11);
  const values = Array.from({ length: 20_000 }, () => random.normal());
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  expect(Math.abs(mean)).toBeLessThan(0.03);
  expect(Math.abs(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length - 1)).toBeLessThan(0.04);
  expect(values.every(Number.isFinite)).toBe(true);
});

test('text makes a seed, and other text another', () => {
  expect(seedFromText('ember red')).toBe(seedFromText('ember red'));
  expect(seedFromText('ember red')).not.toBe(seedFromText('ember rod'));
});
