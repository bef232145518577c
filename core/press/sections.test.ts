import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sectionDefaults, sectionsOf } from './sections.ts';

const mm = (w: number, h: number) => ({ widthUm: w * 1000, heightUm: h * 1000 });
const plate = (w: number, l: number) => ({ widthUm: w * 1000, lengthUm: l * 1000 });

describe('a design that is larger than the plate', () => {
  it('is pressed in one where it fits, either way round', () => {
    expect(sectionsOf(mm(200, 100), plate(230, 230))).toBe(1);
    expect(sectionsOf(mm(210, 100), plate(110, 220))).toBe(1);
  });
  it('in parts that overlap by a finger, fewer where the plate is turned', () => {
    // 203 mm under an iron of 110: two parts, that meet with 17 mm to spare.
    expect(sectionsOf(mm(203, 100), plate(110, 110))).toBe(2);
    expect(sectionsOf(mm(208, 110), plate(110, 110))).toBe(2);
    expect(sectionsOf(mm(209, 110), plate(110, 110))).toBe(3);
    expect(sectionsOf(mm(300, 120), plate(130, 90))).toBe(4);
  });
  it('so many cover it with their overlaps, and one fewer along an edge does not', () => {
    const side = fc.integer({ min: 20_000, max: 600_000 });
    fc.assert(
      fc.property(side, side, side, side, (w, h, a, b) => {
        const n = sectionsOf({ widthUm: w, heightUm: h }, { widthUm: a, lengthUm: b });
        const o = sectionDefaults.overlapUm;
        // Lengths that k parts cover along an edge.
        const reach = (k: number, one: number) => k * one - (k - 1) * o;
        const covers = (m: number, k: number, x: number, y: number) => reach(m, x) >= w && reach(k, y) >= h;
        const ways = (of: number) =>
          Array.from({ length: of }, (_, i) => i + 1)
            .filter((m) => of % m === 0)
            .flatMap((m) => [covers(m, of / m, a, b), covers(m, of / m, b, a)]);
        expect(ways(n).some(Boolean)).toBe(true);
        for (let fewer = 1; fewer < Math.min(n, 40); fewer++) expect(ways(fewer).some(Boolean)).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
});
