import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { TooMany } from './errors.ts';
import { Rates } from './rates.ts';

describe('counting in memory', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  test('so many in a minute, for each key by itself; the next minute counts anew', async () => {
    const rates = new Rates();
    for (let i = 0; i < 3; i++) await rates.count('search', 'a', 3, 1);
    await expect(rates.count('search', 'a', 3, 1)).rejects.toThrow(TooMany);
    await rates.count('search', 'b', 3, 1);
    await rates.count('plan', 'a', 3, 1);
    vi.advanceTimersByTime(60_001);
    await rates.count('search', 'a', 3, 1);
  });

  test('what is too many says how long to wait', async () => {
    const rates = new Rates();
    await rates.count('upload', 'a', 10, 60, 10);
    vi.advanceTimersByTime(45 * 60_000);
    await expect(rates.count('upload', 'a', 10, 60)).rejects.toMatchObject({ minutes: 15 });
  });

  test('20 001 other keys, then an upload: who was refused stays refused', async () => {
    const rates = new Rates();
    for (let i = 0; i < 5; i++) await rates.count('sign-in', 'victim', 5, 1);
    for (let i = 0; i < 20_001; i++) await rates.count('sign-in', `other ${i}`, 5, 1);
    await rates.count('upload', 'stranger', 1e8, 60, 5e6);
    await expect(rates.count('sign-in', 'victim', 5, 1)).rejects.toThrow(TooMany);
  });
});
