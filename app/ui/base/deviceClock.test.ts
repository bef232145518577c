import { expect, test } from 'vitest';
import { deviceClock } from './deviceClock.ts';

const START = Date.parse('2026-05-04T09:00:00.000Z');

test('what is said in one millisecond keeps its order, by time and by id', () => {
  const next = deviceClock(() => START);
  const said = Array.from({ length: 200 }, next);
  const byTime = said.toSorted((a, b) => Date.parse(a.deviceAt) - Date.parse(b.deviceAt));
  expect(byTime).toEqual(said);
  expect(new Set(said.map((s) => s.deviceAt)).size).toBe(200);
  expect(said.toSorted((a, b) => (a.id < b.id ? -1 : 1))).toEqual(said);
});

test('time that goes on is told as it is; a clock that is put back an hour is followed', () => {
  const times = [START, START + 5, START + 4, START + 3_000, START - 3_600_000];
  const next = deviceClock(() => times.shift()!);
  expect(Array.from({ length: 5 }, () => Date.parse(next().deviceAt) - START)).toEqual([0, 5, 6, 3_000, -3_600_000]);
});
