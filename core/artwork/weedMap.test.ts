import { expect, test } from 'vitest';
import { designs } from './designs.ts';
import { readArtwork } from './readArtwork.ts';
import { holds, ringArea, ringsOfPath } from './rings.ts';
import { innerPieces } from './weedMap.ts';

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
