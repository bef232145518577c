import type { Paths64 } from 'clipper2-ts';

/** A closed outline: its points in whole units, the last joined to the first. Turned one way it is a piece, the other way a hole. */
export type Ring = (readonly [x: number, y: number])[];

/** Outlines as Clipper takes them. */
export const toPaths = (rings: readonly Ring[]): Paths64 => rings.map((ring) => ring.map(([x, y]) => ({ x, y })));
/** Outlines as Clipper leaves them. */
export const toRings = (paths: Paths64): Ring[] => paths.map((path) => path.map(({ x, y }) => [x, y] as const));

/** Outlines as SVG path data, relative and in whole units. */
export function pathOfRings(rings: readonly Ring[]): string {
  let d = '';
  for (const ring of rings) {
    let [x, y] = ring[0]!;
    d += `M${x} ${y}l`;
    d += ring
      .slice(1)
      .map(([a, b]) => {
        const step = `${a - x} ${b - y}`;
        [x, y] = [a, b];
        return step;
      })
      .join(' ')
      .replace(/ -/g, '-');
    d += 'z';
  }
  return d;
}

/** The outlines that `pathOfRings` wrote. */
export function ringsOfPath(d: string): Ring[] {
  return d
    .split('M')
    .slice(1)
    .map((text) => {
      const n = (text.match(/-?\d+/g) ?? []).map(Number);
      let [x, y] = [0, 0];
      const ring: [number, number][] = [];
      for (let i = 0; i + 1 < n.length; i += 2) {
        x += n[i]!;
        y += n[i + 1]!;
        ring.push([x, y]);
      }
      return ring;
    });
}

const known = new WeakMap<object, readonly Ring[]>();
/** The outlines of a layer: taken apart once, however often somebody asks while its size is dragged. */
export function ringsOfLayer(layer: { readonly d: string }): readonly Ring[] {
  const rings = known.get(layer) ?? ringsOfPath(layer.d);
  known.set(layer, rings);
  return rings;
}

/** The box round some outlines. */
export function boxOf(rings: readonly Ring[]): { left: number; top: number; right: number; bottom: number } {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings)
    for (const [x, y] of ring) {
      left = Math.min(left, x);
      top = Math.min(top, y);
      right = Math.max(right, x);
      bottom = Math.max(bottom, y);
    }
  return { left, top, right, bottom };
}

/** Signed area of an outline, in square units. */
export function ringArea(ring: Ring): number {
  let sum = 0;
  for (let i = 0; i < ring.length; i++) {
    const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!];
    sum += p[0] * q[1] - q[0] * p[1];
  }
  return sum / 2;
}

/** Whether a point lies within an outline. */
export function holds(ring: Ring, [x, y]: readonly [number, number]): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[ax, ay], [bx, by]] = [ring[i]!, ring[j]!];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Where an outline crosses a level line. */
export function crossings(ring: Ring, y: number): number[] {
  const at: number[] = [];
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[ax, ay], [bx, by]] = [ring[i]!, ring[j]!];
    if (ay > y !== by > y) at.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
  }
  return at;
}
