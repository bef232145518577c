import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { quotas } from '#work/base/quotas.ts';
import { TooMany } from '#work/base/errors.ts';
import type { Person } from './person.ts';
import { countBytes, countEvents, countRows } from './limits.ts';

describe('what one address adds within the hour', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const { rows, bytes } = quotas.perHourOfAddress;

  test('rows of anything, and no more; another address goes on; the next hour begins anew', async () => {
    await countRows('a', rows);
    await expect(countRows('a')).rejects.toThrow(TooMany);
    await countRows('b');
    vi.advanceTimersByTime(3_600_001);
    await countRows('a');
  });

  test('an event is a row', async () => {
    const person = { id: 'p' } as Person;
    await countRows('c', rows - 50);
    await countEvents(person, 'c', 50);
    await expect(countEvents(person, 'c', 1)).rejects.toThrow(TooMany);
    await countEvents(person, 'd', 1);
  });

  test('bytes, and no more', async () => {
    for (let sent = 0; sent + 1e6 <= bytes; sent += 1e6) await countBytes('e', 1e6);
    await expect(countBytes('e', 1e6)).rejects.toThrow(TooMany);
    await countBytes('f', 1e6);
  });
});
