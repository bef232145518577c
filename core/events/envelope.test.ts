import fc from 'fast-check';
import { expect, test } from 'vitest';
import { z } from 'zod';
import { envelope, madeAt, onceInOrder, standingOf } from './envelope.ts';

type Said = { id: string; device: string; deviceAt: string; back?: string };
const said = (n: number, at: number, back?: number): Said => ({
  id: `0190a000-0000-7000-8000-${String(n).padStart(12, '0')}`,
  device: '5b0f9f0e-6c1f-4c2e-9d52-0d2f6d8f1a11',
  deviceAt: new Date(Date.UTC(2026, 0) + at * 1000).toISOString(),
  ...(back === undefined ? {} : { back: said(back, 0).id }),
});

test('what stands does not depend on the order in which events arrived, nor on repeats', () => {
  const event = fc.tuple(fc.nat(12), fc.nat(4), fc.option(fc.nat(12), { nil: undefined }));
  fc.assert(
    fc.property(
      fc.uniqueArray(event, { selector: ([n]) => n }),
      fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })),
      (list, luck) => {
        const events = list.map(([n, at, back]) => said(n, at, back));
        const shuffled = [...events, ...events.slice(0, 3)]
          .map((e) => [luck.next().value, e] as const)
          .sort((a, b) => a[0] - b[0])
          .map(([, e]) => e);
        expect(standingOf(shuffled, (e) => e.back)).toEqual(standingOf(events, (e) => e.back));
      },
    ),
  );
});

test('clocks decide, then ids; what is taken back is gone, and so is the word that took it', () => {
  expect(onceInOrder([said(2, 5), said(1, 5), said(3, 1), said(2, 5)]).map((e) => e.id.at(-1))).toEqual([
    '3',
    '1',
    '2',
  ]);
  expect(standingOf([said(4, 9, 1), said(1, 5), said(2, 6)], (e) => e.back).map((e) => e.id.at(-1))).toEqual(['2']);
});

test('an id tells when it was made: the example of RFC 9562, A.6', () => {
  expect(madeAt('017F22E2-79B0-7CC3-98C4-DC0C0C07398F')).toBe(Date.parse('2022-02-22T14:22:22.00-05:00'));
});

test('a clock of another century, or of no hour, is refused', () => {
  const one = z.strictObject(envelope);
  expect(one.safeParse(said(1, 0)).success).toBe(true);
  for (const deviceAt of ['2201-01-01T00:00:00Z', '2026-01-01T25:00:00Z', '1969-12-31T23:59:59Z', 'yesterday'])
    expect(one.safeParse({ ...said(1, 0), deviceAt }).success).toBe(false);
});
