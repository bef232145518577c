import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faultsOf, smallestUm, troubleFreeUm } from './faults.ts';
import { readArtwork } from './readArtwork.ts';

const art = (body: string, view = '0 0 100 100') => readArtwork(`<svg viewBox="${view}">${body}</svg>`);
const film = (line: number, gap: number, growth = 0) => ({ line, gap, growth });
/** Two blocks with a bridge of some width between them, turned by some degrees. */
const dumbbell = (w: number, turn: number) =>
  art(
    `<path transform="rotate(${turn} 50 30)" d="M0 0H40V${30 - w / 2}H60V0H100V60H60V${30 + w / 2}H40V60H0Z"/>`,
    '-40 -60 180 180',
  );

describe('narrow places', () => {
  it('a planted neck is found within 0.1 mm on a design 250 mm wide, whichever way it lies', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 28 }), fc.integer({ min: 0, max: 90 }), (tenths, turn) => {
        const w = tenths / 10;
        const drawing = dumbbell(w, turn);
        const layer = drawing.layers[0]!;
        const neck = layer.narrow.find((n) => n.of === 'film')!;
        // The drawing is 250 mm on its longer side; what was drawn 100 units long is known by its area.
        const unit = Math.sqrt(layer.area / (4800 + 20 * w));
        expect(Math.abs(neck.width / unit - w) * (250 / (1_000_000 / unit))).toBeLessThan(0.1);
        expect(neck.rise).toBeGreaterThan(neck.width * 1.5);
      }),
      { numRuns: 25 },
    );
  });

  it('two lines nearer than a blade is wide are one line cut twice; made larger they are a gap', () => {
    const drawing = art('<path d="M0 0H50V40H0ZM50.1 0H100V40H50.1Z"/>');
    const at = (widthUm: number) => faultsOf(drawing, drawing.layers[0]!, film(300, 500), widthUm).map((f) => f.kind);
    expect(at(100_000)).toEqual(['twice']);
    expect(at(300_000)).toEqual(['gap']);
    expect(at(600_000)).toEqual([]);
  });

  it('a neck between two notches that point at each other is as wide as they are apart', () => {
    const drawing = art('<path d="M0 0H40L50 29.4L60 0H100V60H60L50 30.6L40 60H0Z"/>');
    expect(drawing.layers[0]!.narrow[0]).toMatchObject({ of: 'film' });
    expect(drawing.layers[0]!.narrow[0]!.width / 10_000).toBeCloseTo(1.2, 1);
  });

  it.each([
    ['a hexagon', '<polygon points="50,0 93,25 93,75 50,100 7,75 7,25"/>'],
    ['a square', '<rect width="80" height="80"/>'],
    ['a disc', '<circle cx="50" cy="50" r="40"/>'],
    ['a spike', '<path d="M0 0H100V50H55L50 100L45 50H0Z"/>'],
    ['a star with sharp tips', '<path d="M50 0L58 40L100 50L58 60L50 100L42 60L0 50L42 40Z"/>'],
  ])('%s has none: a convex tip is no fault', (_, body) => {
    expect(art(body).layers[0]!.narrow.filter((n) => n.of === 'film')).toEqual([]);
  });

  it('a ring is one thin line, an arm that ends blind is one, a dot is a speck', () => {
    const ring = art('<circle cx="50" cy="50" r="40" fill="none" stroke="#f00" stroke-width="2"/>').layers[0]!;
    expect(ring.narrow.filter((n) => n.of === 'film')).toHaveLength(1);
    expect((ring.narrow[0]!.width / 1_000_000) * 82).toBeCloseTo(2, 1);
    const arm = art('<path d="M0 0H50V29H90V31H50V60H0Z"/>').layers[0]!;
    expect(arm.narrow).toHaveLength(1);
    expect(arm.narrow[0]!.rise).toBe(arm.narrow[0]!.width);
    const dot = art('<circle cx="30" cy="30" r="25"/><circle cx="90" cy="30" r="1"/>').layers[0]!;
    expect(dot.narrow).toHaveLength(1);
    expect((dot.narrow[0]!.width / 1_000_000) * 86).toBeCloseTo(2, 1);
  });

  it('a gap between two pieces is one, and a hole that closes', () => {
    const gap = art('<rect width="49.5" height="60"/><rect x="50.5" width="49.5" height="60"/>').layers[0]!;
    expect(gap.narrow.map((n) => n.of)).toEqual(['gap']);
    expect(gap.narrow[0]!.width).toBeCloseTo(10_000, -2);
    const hole = art('<path fill-rule="evenodd" d="M0 0H100V60H0ZM50 30h2v2h-2z"/>').layers[0]!;
    expect(hole.narrow).toHaveLength(1);
    expect(hole.narrow[0]!.width).toBeCloseTo(20_000, -3);
    expect(hole.narrow[0]!.rise).toBe(hole.narrow[0]!.width);
  });
});

describe('faults at a size', () => {
  const drawing = art(
    '<path d="M0 0H40V29H60V0H100V60H60V31H40V60H0Z"/><rect x="0" y="70" width="49.6" height="20"/><rect x="50.4" y="70" width="49.6" height="20"/>',
  );
  const layer = drawing.layers[0]!;

  it('another vinyl flips a fault, and growth closes a gap', () => {
    // 200 mm wide: the neck is 4 mm, the gap 1.6 mm.
    expect(faultsOf(drawing, layer, film(3_000, 1_000), 200_000)).toEqual([]);
    expect(faultsOf(drawing, layer, film(5_000, 1_000), 200_000).map((f) => f.kind)).toEqual(['neck']);
    const grown = faultsOf(drawing, layer, film(3_000, 1_000, 500), 200_000);
    expect(grown.map((f) => f.kind)).toEqual(['gap']);
    expect(grown[0]!.widthUm).toBeCloseTo(600, -2);
  });

  it('at the least width without trouble there is none, a hair below there is', () => {
    const needs = film(3_000, 1_000, 200);
    const least = troubleFreeUm(drawing, [{ layer, film: needs }])!;
    expect(faultsOf(drawing, layer, needs, least + 1)).toEqual([]);
    expect(faultsOf(drawing, layer, needs, least * 0.99)).not.toEqual([]);
  });

  it('nothing vanishes where nothing is narrow all over; a speck does below its size', () => {
    expect(smallestUm(drawing, [{ layer, film: film(1_000, 500) }])).toBe(0);
    const dot = art('<circle cx="30" cy="30" r="25"/><circle cx="90" cy="30" r="1"/>');
    expect(smallestUm(dot, [{ layer: dot.layers[0]!, film: film(1_000, 500) }])).toBeCloseTo(43_000, -3);
  });
});
