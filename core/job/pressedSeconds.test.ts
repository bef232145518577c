import { expect, test } from 'vitest';
import { jobEventSchema, type JobEvent } from './events.ts';
import { isOffPlan, pressedSeconds } from './pressedSeconds.ts';

const id = (n: number) => `01a22271-20d9-7664-9cf0-${String(n).padStart(12, '0')}`;
let made = 0;
const at = (kind: 'start' | 'opened' | 'pause' | 'done', s: number, more: object = {}): JobEvent =>
  jobEventSchema.parse({
    id: id(++made),
    job: id(1),
    step: `press/${id(2)}`,
    attempt: 1,
    rev: 1,
    device: '4b1f7e0e-0f0a-4d57-8a0c-3f6c0b6f5a01',
    deviceAt: new Date(1_790_000_000_000 + s * 1000).toISOString(),
    kind,
    ...more,
  });

test('from closing to opening, the rest of one opened early with it, the mean of parts', () => {
  expect(pressedSeconds([at('start', 0), at('opened', 15)])).toBe(15);
  expect(
    pressedSeconds([at('start', 0), at('opened', 4), at('start', 9, { part: 1, rest: 11 }), at('opened', 20)]),
  ).toBe(15);
  expect(pressedSeconds([at('start', 0), at('start', 16, { part: 2 }), at('opened', 30)])).toBe(15);
  // Began anew after it was interrupted.
  expect(pressedSeconds([at('start', 0), at('pause', 3), at('start', 60), at('opened', 75)])).toBe(15);
});
test('undefined where nobody opened it by the clock; two clocks where another device did', () => {
  expect(pressedSeconds([])).toBeUndefined();
  expect(pressedSeconds([at('start', 0), at('done', 40)])).toBeUndefined();
  const other = { device: '4b1f7e0e-0f0a-4d57-8a0c-3f6c0b6f5a02' };
  expect(pressedSeconds([at('start', 0), at('opened', 15, other)])).toBe('two clocks');
});
test('more than three seconds or a quarter off says nothing for the plan', () => {
  expect([12, 18, 19].map((s) => isOffPlan(s, 15))).toEqual([false, false, true]);
  expect([4, 8].map((s) => isOffPlan(s, 8))).toEqual([true, false]);
  expect(isOffPlan(23, 30)).toBe(false);
  expect(isOffPlan(undefined, 15)).toBe(false);
});
