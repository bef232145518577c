import { Clipper, type Paths64 } from 'clipper2-ts';
import { delicateOf } from './delicate.ts';
import { narrowPlaces } from './narrow.ts';
import { pathOfRings } from './rings.ts';
import type { ArtLayer } from './artwork.ts';

/** Outlines measured, with their narrow places. Pieces are turned so that their area is positive, holes the other way, as a union leaves them. */
export function layerOf(id: string, hex: string, paths: Paths64): ArtLayer {
  const b = Clipper.getBoundsPaths(paths);
  const rings = paths.map((p) => p.map(({ x, y }): [number, number] => [x, y]));
  const turned = paths.map((p) => Clipper.area(p));
  let length = 0;
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!];
      length += Math.hypot(q[0] - p[0], q[1] - p[1]);
    }
  return {
    id,
    hex,
    d: pathOfRings(rings),
    pieces: turned.filter((a) => a > 0).length,
    holes: turned.filter((a) => a < 0).length,
    length: Math.round(length),
    area: Math.round(turned.reduce((s, a) => s + a, 0)),
    box: { x: b.left, y: b.top, width: b.right - b.left, height: b.bottom - b.top },
    narrow: narrowPlaces(rings),
    ...delicateOf(rings),
  };
}
