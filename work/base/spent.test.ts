import { expect, test } from 'vitest';
import { Spent } from './spent.ts';

test('what was used fades, is added up for each, and is forgotten by nobody else’s use', () => {
  const spent = new Spent(60);
  spent.add('a', 10, 0);
  expect(spent.of('a', 0)).toBe(10);
  expect(spent.of('a', 60_000)).toBeCloseTo(10 / Math.E, 9);
  spent.add('a', 5, 60_000);
  expect(spent.of('a', 60_000)).toBeCloseTo(10 / Math.E + 5, 9);
  for (let i = 0; i < 6_000; i++) spent.add(`other ${i}`, 0.5, 60_000);
  expect(spent.of('a', 60_000)).toBeCloseTo(10 / Math.E + 5, 9);
  // After a quarter of an hour there is nothing left to know.
  spent.add('b', 1, 1_000_000);
  expect(spent.of('other 5', 1_000_000)).toBeLessThan(0.001);
});
