import { expect, test } from 'vitest';
import { Kept } from './kept.ts';

test('made once while it is kept; the least used goes; what is too large is not kept; a failure is not', async () => {
  const kept = new Kept<string>({ bytes: 40, size: (s) => s.length });
  let made = 0;
  const make = (text: string) => () => {
    made++;
    return Promise.resolve(text);
  };
  await Promise.all([kept.get('a', make('0123456789')), kept.get('a', make('0123456789'))]);
  expect(made).toBe(1);
  for (const key of ['b', 'c', 'd']) await kept.get(key, make('0123456789'));
  await kept.get('a', make('again'));
  await kept.get('e', make('0123456789'));
  expect(made).toBe(5);
  // b was used longest ago.
  await kept.get('a', make('x'));
  expect(made).toBe(5);
  await kept.get('b', make('0123456789'));
  expect(made).toBe(6);
  await kept.get('large', make('x'.repeat(30)));
  await kept.get('large', make('x'.repeat(30)));
  expect(made).toBe(8);
  await expect(kept.get('bad', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
  expect(await kept.get('bad', make('good'))).toBe('good');
});
