import { describe, expect, test } from 'vitest';
import { wilson } from './index.ts';

describe('the score interval', () => {
  // Newcombe (1998), Statistics in Medicine 17, 857–872, table I, method 3 (score without continuity correction), four digits; from memory.
  test.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i', (hits, n, low, high) => {
    const interval = wilson(hits, n);
    expect(interval.low).toBeCloseTo(low, 4);
    expect(interval.high).toBeCloseTo(high, 4);
  });
  test('is mirrored, and refuses what is no proportion', () => {
    expect(wilson(20, 20).low).toBeCloseTo(1 - wilson(0, 20).high, 12);
    expect(() => wilson(3, 2)).toThrow('invalid hits; not in [0, 2]: 3');
    expect(() => wilson(0, 0)).toThrow('invalid n');
    expect(() => wilson(1, 2, 1)).toThrow('invalid level');
  });
});
