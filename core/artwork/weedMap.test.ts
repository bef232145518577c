import { describe, expect, test } from 'vitest';
import { designs } from './designs.ts';
import { readArtwork } from './readArtwork.ts';
import { holds, ringArea, ringsOfPath } from './rings.ts';
import { innerPieces, peelHints } from './weedMap.ts';

const layersOf = (svg: string) => readArtwork(svg).layers;

test('every hole has its number, each at a place that is waste; from the outside in', () => {
  // A plate with nine holes, one with an island in it.
  const holes = [20, 50, 80].flatMap((y) => [20, 50, 80].map((x) => `M${x - 6} ${y - 6}h12v12h-12z`)).join('');
  const plate = `<svg viewBox="0 0 100 100"><path fill="#204080" fill-rule="evenodd" d="M0 0h100v100h-100z${holes}M47 47h6v6h-6z"/></svg>`;
  for (const layer of [...layersOf(plate), ...designs.flatMap((d) => layersOf(d.svg))]) {
    const pieces = innerPieces(layer.d);
    expect(pieces).toHaveLength(layer.holes);
    const rings = ringsOfPath(layer.d);
    for (const p of pieces) {
      const around = rings.filter((ring) => holds(ring, [p.x, p.y]));
      // As many holes round it as pieces of film: it lies in waste.
      expect(around.reduce((n, ring) => n + Math.sign(ringArea(ring)), 0)).toBe(0);
    }
  }
  const [layer] = layersOf(plate);
  const order = innerPieces(layer!.d);
  // Corners, then sides, then the one in the middle.
  const far = order.map((p) => Math.hypot(p.x - 500_000, p.y - 500_000));
  expect(far).toEqual([...far].sort((a, b) => b - a));
  expect(far.at(-1)).toBeLessThan(60_000);
});

test('a hole like a crescent has its number inside it, not in its middle', () => {
  const moon = `<svg viewBox="0 0 100 100"><path fill="#204080" fill-rule="evenodd" d="M0 0h100v100h-100zM30 20A32 32 0 1 0 30 80A40 40 0 1 1 30 20z"/></svg>`;
  for (const layer of layersOf(moon)) expect(innerPieces(layer.d)).toHaveLength(layer.holes);
});

describe('which way to pull', () => {
  const hints = (body: string) => {
    const drawing = readArtwork(`<svg viewBox="0 0 100 100">${body}</svg>`);
    return peelHints(drawing.layers[0]!, 20_000);
  };
  test.each([0, 30, 90, 135, 200])('out over a point, whichever way it points: turned by %i°', (turn) => {
    // A needle to the right, 11° at its tip, on a block.
    const [hint] = hints(`<path transform="rotate(${turn} 50 50)" d="M20 30V70H50V52L90 50L50 42V30Z"/>`).filter(
      (h) => h.kind === 'point',
    );
    const off = Math.abs(((hint!.way - turn + 540) % 360) - 180);
    expect(off).toBeLessThan(8);
  });
  test.each([0, 45, 120])('along a joint, not across it: turned by %i°', (turn) => {
    const [hint] = hints(
      `<path transform="rotate(${turn} 50 30)" d="M0 0H40V29.5H60V0H100V60H60V30.5H40V60H0Z"/>`,
    ).filter((h) => h.kind === 'joint');
    const off = Math.abs(((hint!.way - turn + 270) % 180) - 90);
    expect(off).toBeLessThan(5);
  });
});
