import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { checkLayer, outlineOf } from './check.ts';
import { judge, mendsFor } from './judge.ts';
import { ofFilm } from './faults.ts';
import { layerOfHole, mended, type Mend } from './mend.ts';
import { readArtwork } from './readArtwork.ts';

const svg = (body: string) => `<svg viewBox="0 0 100 100" xmlns="http://www.w3.org/2000/svg">${body}</svg>`;
const film = { line: 1000, gap: 500, growth: 0 };
const after = (text: string, mend: Mend, widthUm = 100_000) => {
  const { svg: said, widthUm: wide } = mended(readArtwork(text), mend, widthUm);
  return { drawing: readArtwork(said), wide };
};
// Three discs in a row, 10 mm and 4 mm apart at 100 mm, the last with two holes.
const discs = svg(
  '<g fill="#204080"><circle cx="12" cy="50" r="12"/><circle cx="46" cy="50" r="12"/><path fill-rule="evenodd" d="M62 30h38v40h-38zM70 40h20v20h-20zM64 32h1v1h-1z"/></g>',
);

describe('a drawing is mended, and judged like any other', () => {
  test('the thinnest outline holds everything in one piece that the check finds no fault with', () => {
    const before = readArtwork(discs);
    const least = outlineOf(before, before.layers[0]!, film, 100_000);
    expect(least.touching).toBe(5000);
    const { drawing, wide } = after(discs, { do: 'outline', by: least.radius, hex: '#f0f0f0', corners: 'round' });
    expect(drawing.layers.map((l) => l.hex)).toEqual(['#f0f0f0', '#204080']);
    // The design is as large as before: the outline stands out on both sides.
    expect(Math.abs(wide - 100_000 - 2 * least.radius)).toBeLessThan(30);
    const check = checkLayer(drawing, drawing.layers[0]!, film, wide);
    expect([check.onePiece, check.faults.filter((f) => f.kind === 'neck' && f.widthUm < 950)]).toEqual([true, []]);
    expect(
      Math.abs(
        drawing.layers[1]!.area * (wide / drawing.width) ** 2 - before.layers[0]!.area * (100_000 / before.width) ** 2,
      ) / 1e6,
    ).toBeLessThan(1);
  });
  test('holes are closed: all, the small ones, the one that was tapped', () => {
    const holes = (mend: Mend) => after(discs, mend).drawing.layers[0]!.holes;
    expect(readArtwork(discs).layers[0]!.holes).toBe(2);
    expect(holes({ do: 'fill', layer: 'l1' })).toBe(0);
    expect(holes({ do: 'fill', layer: 'l1', under: 4 })).toBe(1);
    expect(after(discs, { do: 'fill one', layer: 'l1', x: 0.8, y: 0.5 }).drawing.layers[0]!.holes).toBe(1);
    expect(after(discs, { do: 'fill one', layer: 'l1', x: 0.1, y: 0.5 }).drawing.layers[0]!.holes).toBe(2);
  });
  test('a tap finds the hole it lies in, of the topmost layer; film is none', () => {
    const two = readArtwork(
      svg(
        '<path fill="#aa0000" fill-rule="evenodd" d="M0 0h60v60h-60zM5 5v50h50v-50z"/><path fill="#00aa00" fill-rule="evenodd" d="M10 10h40v40h-40zM20 20v20h20v-20z"/>',
      ),
    );
    const at = (x: number, y: number) => layerOfHole(two, x / 60, y / 60);
    expect([at(30, 30), at(7, 7), at(2, 2), at(15, 15)]).toEqual(['l2', 'l1', undefined, 'l1']);
  });
  test('split along a line, every layer keeps its area, and the halves lie a gap apart', () => {
    const before = readArtwork(discs);
    for (const along of ['level', 'upright'] as const) {
      const { drawing, wide } = after(discs, { do: 'split', along, at: 0.5, gap: 8_000 });
      const area = (d: typeof before, w: number) => (d.layers[0]!.area * (w / d.width) ** 2) / 1e6;
      expect(area(drawing, wide)).toBeCloseTo(area(before, 100_000), 0);
      const high = (wide * drawing.height) / drawing.width;
      const was = (100_000 * before.height) / before.width;
      expect(Math.round(wide - 100_000) + Math.round(high - was)).toBeGreaterThan(7_990);
      expect(Math.round(wide - 100_000) + Math.round(high - was)).toBeLessThan(8_010);
      // Nothing lies in the gap: cut level, all three are in two; cut upright, only the one in the middle is.
      expect(drawing.layers[0]!.pieces).toBe(before.layers[0]!.pieces + (along === 'level' ? 3 : 1));
    }
  });
  test('specks go, pieces stay', () => {
    const specks = svg('<path fill="#204080" d="M0 0h60v60h-60zM80 80h1v1h-1z"/>');
    expect(after(specks, { do: 'specks', layer: 'l1', under: 4 }).drawing.layers[0]!.pieces).toBe(1);
  });
  test('a line that is a tenth too thin is thickened by that tenth', () => {
    const line = svg('<path fill="#204080" d="M0 0h100v0.9h-100z"/>');
    const before = readArtwork(line);
    expect(checkLayer(before, before.layers[0]!, film, 100_000).faults).toHaveLength(1);
    const { drawing, wide } = after(line, { do: 'thicken', layer: 'l1', by: 60 });
    expect(checkLayer(drawing, drawing.layers[0]!, film, wide).faults).toEqual([]);
  });
  test('holes and gaps are opened to the width that is wanted; the outside and what was wide enough stay', () => {
    // A ring with a counter of 1.2 mm, two bars 0.4 mm apart, a hole of 8 mm: 100 mm wide. Puff wants 1 mm and swells by 0.6 mm a side.
    const drawn = svg(
      '<path fill="#204080" fill-rule="evenodd" d="M0 0h20v20h-20zM9.4 9.4v1.2h1.2v-1.2zM30 0h10v40h-10zM40.4 0h10v40h-10zM60 0h40v40h-40zM70 10v8h8v-8z"/>',
    );
    const puff = { line: 1000, gap: 1000, growth: 600 };
    const before = readArtwork(drawn);
    const judged = judge(before, [{ layer: before.layers[0]!, film: puff }], 100_000);
    expect(judged.faults.map((f) => [f.kind, f.widthUm, f.cutUm])).toEqual([
      ['gap', 0, 400],
      ['closes', 0, 1200],
    ]);
    const mends = mendsFor('l1', judged.faults, puff);
    expect(mends).toEqual([{ do: 'open', layer: 'l1', to: 2210 }]);
    const { drawing, wide } = after(drawn, mends[0]!);
    const again = judge(drawing, [{ layer: drawing.layers[0]!, film: puff }], wide);
    expect(again.faults.filter((f) => f.kind === 'closes' || f.kind === 'gap')).toEqual([]);
    // As wide as before, with as many holes and pieces; what was opened cost film, and little of it.
    expect(Math.abs(wide - 100_000)).toBeLessThan(30);
    expect([drawing.layers[0]!.holes, drawing.layers[0]!.pieces]).toEqual([
      before.layers[0]!.holes,
      before.layers[0]!.pieces,
    ]);
    const area = (d: typeof before, w: number) => (d.layers[0]!.area * (w / d.width) ** 2) / 1e6;
    const lost = area(before, 100_000) - area(drawing, wide);
    // The counter takes 2.2² − 1.2² and the gap 40 × 1.8 at most, corners rounded.
    expect(lost).toBeGreaterThan(60);
    expect(lost).toBeLessThan(82);
  });
  test('any holes and gaps, opened, are open: random bars and counters', () => {
    const whole = fc.integer({ min: 3, max: 20 });
    fc.assert(
      fc.property(whole, whole, fc.integer({ min: 2, max: 9 }), (gap, hole, needed) => {
        const [g, h] = [gap / 10, hole / 10];
        const text = svg(
          `<path fill="#204080" fill-rule="evenodd" d="M0 0h30v40h-30zM10 10v${h * 3}h${h}v${-h * 3}zM${30 + g} 0h${70 - g}v40h${-70 + g}z"/>`,
        );
        const film = { line: 300, gap: needed * 200, growth: 100 };
        const before = readArtwork(text);
        const { faults } = judge(before, [{ layer: before.layers[0]!, film }], 100_000);
        const open = mendsFor('l1', faults, film).find((m) => m.do === 'open');
        if (!open) return;
        const { drawing, wide } = after(text, open);
        expect(judge(drawing, [{ layer: drawing.layers[0]!, film }], wide).faults.filter((f) => !ofFilm(f))).toEqual(
          [],
        );
      }),
      { numRuns: 12 },
    );
  });
  test('a gap that is too narrow is closed, one that is wide enough stays, and the outside is where it was', () => {
    const gaps = svg('<path fill="#204080" d="M0 0h30v40h-30zM30.3 0h30v40h-30zM70 0h30v40h-30z"/>');
    const before = readArtwork(gaps);
    expect(before.layers[0]!.pieces).toBe(3);
    const { drawing, wide } = after(gaps, { do: 'close', layer: 'l1', under: 510 });
    expect(drawing.layers[0]!.pieces).toBe(2);
    expect(Math.abs(wide - 100_000)).toBeLessThan(5);
    const area = (d: typeof before, w: number) => (d.layers[0]!.area * (w / d.width) ** 2) / 1e6;
    // The gap itself is 0.3 × 40 mm.
    expect(area(drawing, wide) - area(before, 100_000)).toBeCloseTo(12, 0);
  });
  test('a layer that is not there is refused', () =>
    expect(() => mended(readArtwork(discs), { do: 'specks', layer: 'l9', under: 4 }, 100_000)).toThrow('no layer l9'));
});

describe('the check', () => {
  const check = (text: string, widthUm = 100_000) => {
    const drawing = readArtwork(text);
    return checkLayer(drawing, drawing.layers[0]!, film, widthUm);
  };
  test('a sharp tip of film is told, a blunt one and one of a gap are not', () => {
    const cares = (d: string) => check(svg(`<path fill="#204080" d="${d}"/>`)).cares.filter((c) => c.kind === 'corner');
    expect(cares('M0 45h50L100 50L50 55H0z')).toHaveLength(1);
    expect(cares('M0 20h50L100 50L50 80H0z')).toHaveLength(0);
    expect(cares('M0 0H100V45L50 50L100 55V100H0z')).toHaveLength(0);
  });
  test('a bit that the blade drags along is told', () => {
    expect(check(svg('<path fill="#204080" d="M0 0h60v60h-60zM80 80h1v1h-1z"/>'), 81_000).cares).toEqual([
      expect.objectContaining({ kind: 'loose', widthUm: 1000 }),
    ]);
  });
  test('numbers at a size: a ring is as long, as large and as wide as it is drawn', () => {
    const ring = check(svg('<circle cx="50" cy="50" r="45" fill="none" stroke="#204080" stroke-width="10"/>'), 100_000);
    expect([ring.pieces, ring.holes, ring.onePiece]).toEqual([1, 1, true]);
    expect(ring.lengthUm / 1000).toBeCloseTo(2 * Math.PI * (50 + 40), 0);
    expect(ring.areaMm2).toBeCloseTo(Math.PI * (50 ** 2 - 40 ** 2), -1);
  });
});
