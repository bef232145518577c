import type { ArtLayer } from './artwork.ts';
import { boxOf, ringArea, type Ring } from './rings.ts';

const delicateDefaults = {
  /** A corner of film sharper than this lifts with the waste, degrees. Judgement, no source. */
  corner: 22,
  /** Pieces larger than a square with this side are not small at any size, units: 8 mm of a design 100 mm wide. */
  bit: 80_000,
  /** At most so many of each are kept. */
  kept: 200,
};

/** Sharp corners and small pieces of film. Units in, units out. */
export function delicateOf(rings: readonly Ring[]): Pick<ArtLayer, 'tips' | 'bits'> {
  const { corner, bit, kept } = delicateDefaults;
  const tips: ArtLayer['tips'] = [];
  const bits: ArtLayer['bits'] = [];
  for (const ring of rings) {
    const side = Math.sqrt(Math.max(0, ringArea(ring)));
    if (side > 0 && side < bit) bits.push({ ...middleOf(ring), side: Math.round(side) });
    for (let i = 0; i < ring.length; i++) {
      const [a, b, c] = [ring[(i + ring.length - 1) % ring.length]!, ring[i]!, ring[(i + 1) % ring.length]!];
      const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
      // Film lies to the left of the way: a turn to the left by almost half a circle is a tip of it.
      const turn = (Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy) * 180) / Math.PI;
      if (turn > 180 - corner) {
        // Half way between the sides, away from them.
        const [u, v] = [Math.hypot(ux, uy) || 1, Math.hypot(vx, vy) || 1];
        const out = (Math.atan2(uy / u - vy / v, ux / u - vx / v) * 180) / Math.PI;
        tips.push({ x: b[0], y: b[1], degrees: Math.round(180 - turn), out: Math.round(out) });
      }
    }
  }
  return {
    tips: tips.sort((p, q) => p.degrees - q.degrees).slice(0, kept),
    bits: bits.sort((p, q) => p.side - q.side).slice(0, kept),
  };
}

/** The middle of the box round an outline. */
function middleOf(ring: Ring): { x: number; y: number } {
  const { left, top, right, bottom } = boxOf([ring]);
  return { x: Math.round((left + right) / 2), y: Math.round((top + bottom) / 2) };
}
