import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { thinShades } from './leanStrip.ts';

describe('thinning the shades of a strip', () => {
  const shades = fc
    .array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 60 })
    .map((strengths) => strengths.map((strength, i) => ({ x: i / (strengths.length - 1), strength })));

  test('no place lies further off the thinned line than an eye sees; both ends stay', () => {
    fc.assert(
      fc.property(shades, (all) => {
        const few = thinShades(all);
        expect(few[0]).toEqual(all[0]);
        expect(few.at(-1)).toEqual(all.at(-1));
        for (const s of all) {
          const j = few.findIndex((f) => f.x >= s.x);
          const [a, b] = [few[Math.max(0, j - 1)]!, few[j]!];
          const share = b.x === a.x ? 0 : (s.x - a.x) / (b.x - a.x);
          expect(Math.abs(a.strength + share * (b.strength - a.strength) - s.strength)).toBeLessThanOrEqual(
            0.05 + 1e-9,
          );
        }
      }),
    );
  });
  test('a straight fade needs two places, a window few', () => {
    const straight = Array.from({ length: 41 }, (_, i) => ({ x: i / 40, strength: i / 40 }));
    expect(thinShades(straight)).toHaveLength(2);
    const window = straight.map(({ x }) => ({ x, strength: Math.max(0, 1 - ((x - 0.5) / 0.2) ** 2) }));
    expect(thinShades(window).length).toBeLessThanOrEqual(12);
  });
});
