import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { ShownFit } from '../window/index.ts';
import { answerDefaults, answerFor, type From, type Split } from './index.ts';

/** A reading that is best at `best`, and falls off on both sides. */
const reading = (best: number, chance = 0.97, width = 20): ShownFit => {
  const positions = Array.from({ length: 21 }, (_, i) => best - 100 + 10 * i);
  return {
    wanted: 'clean',
    sentence: '',
    evidence: { cells: 6, coupons: 1, grades: { uncut: 1, hangs: 1, clean: 2, scored: 1, through: 1 } },
    summary: {
      curve: { positions, mean: positions.map((p) => chance * Math.exp(-(((p - best) / width / 3) ** 2))) },
      window: null,
      edges: null,
      best: { position: best, chance },
      recommended: { position: best, chance },
    } as unknown as ShownFit['summary'],
  };
};
const camps = (...numbers: (number | undefined)[]): Split => ({
  by: 'camps',
  camps: numbers.map((number) => ({ people: 3, settings: 3, values: [], number, here: false })),
});
const ask = (known: Partial<Parameters<typeof answerFor>[0]>) =>
  answerFor({ kept: undefined, reading: undefined, from: 'type', split: undefined, ...known });

describe('what to set', () => {
  test('nothing known says nothing; else what is advised', () => {
    expect(ask({}).position).toBeUndefined();
    for (const from of ['here', 'others', 'translated', 'type'] as From[])
      expect(ask({ from, reading: reading(140) })).toMatchObject({ position: 140, from, chance: 0.97 });
  });
  test('what was kept stands as long as it is as good', () => {
    expect(ask({ from: 'here', kept: 142, reading: reading(140) })).toMatchObject({ position: 142, from: 'kept' });
    // Where nothing is as good as that, hardly less than the best will do.
    expect(ask({ from: 'here', kept: 142, reading: reading(140, 0.7) })).toMatchObject({ position: 142 });
  });
  test('what was kept gives way to one’s own cells, and is named once', () => {
    const answer = ask({ from: 'here', kept: 190, reading: reading(140) });
    expect(answer).toMatchObject({ position: 140, from: 'here', keptBefore: 190 });
  });
  test('nobody else’s cells move a kept number', () => {
    for (const from of ['others', 'translated', 'type'] as From[])
      expect(ask({ from, kept: 190, reading: reading(140) })).toMatchObject({ position: 190, keptBefore: undefined });
  });
  test('two camps have no middle; one’s own cells or a kept number choose', () => {
    const split = camps(177, 97);
    const two = ask({ from: 'translated', reading: reading(140), split });
    expect(two.position).toBeUndefined();
    expect(two.camps!.map((c) => c.number)).toEqual([97, 177]);
    expect(ask({ from: 'here', reading: reading(140), split }).position).toBe(140);
    expect(ask({ from: 'translated', kept: 97, reading: reading(140), split }).position).toBe(97);
  });
  test('camps that come to one number here, or of which one cuts with this model, leave one number', () => {
    expect(ask({ from: 'translated', reading: reading(140), split: camps(97, 97) }).position).toBe(140);
    expect(ask({ from: 'translated', reading: reading(140), split: camps(97, undefined) }).position).toBe(140);
    const mine = camps(97, 177);
    mine.camps[0]!.here = true;
    expect(ask({ from: 'others', reading: reading(140), split: mine }).position).toBe(140);
  });
  test('there is one number or camps, never both; and it is the kept one or the advised one', () => {
    fc.assert(
      fc.property(
        fc.option(fc.integer({ min: 10, max: 400 }), { nil: undefined }),
        fc.integer({ min: 60, max: 300 }),
        fc.double({ min: 0.3, max: 0.99, noNaN: true }),
        fc.constantFrom<From>('here', 'others', 'translated', 'type'),
        fc.boolean(),
        (kept, best, chance, from, two) => {
          const a = ask({ kept, from, reading: reading(best, chance), split: two ? camps(90, 180) : undefined });
          expect((a.position === undefined) === (a.camps !== undefined)).toBe(true);
          if (a.position !== undefined) expect([kept, best]).toContain(a.position);
          if (a.keptBefore !== undefined) expect(a.chance!).toBeGreaterThan(answerDefaults.hardlyLess);
        },
      ),
    );
  });
});
