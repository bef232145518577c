import { cutMirrored } from '#core/vinyls/index.ts';
import { useEffect, useMemo, useState } from 'react';
import { innerPieces } from '#core/artwork/index.ts';
import type { Job, JobLayer } from './useSheet.ts';

/** An inner piece on the film as it lies, µm from its left top corner. */
export type Numbered = { n: number; x: number; y: number; r: number };

/** More numbers than these hide the film; the count goes on without them. */
const MOST = 150;

/** The inner pieces of a part as they lie, every copy of them, and which were counted off: that outlives a reload. */
export function useLifted(job: Job, layer: JobLayer, key: string) {
  const { film, shapes } = layer;
  const mirrored = cutMirrored(layer.lies.cutFrom, job.plan.design!.mirrored);
  const pieces = useMemo(() => {
    const inner = shapes.map(({ d }) => innerPieces(d));
    const largest = 0.018 * Math.max(film.width, film.height);
    let n = 0;
    return film.copies.flatMap((copy, c) => {
      const at = shapes.length === 1 ? 0 : c;
      const { box, scale } = shapes[at]!;
      return inner[at]!.map((p): Numbered => {
        const [x, y] = [(p.x - box.x) * scale, (p.y - box.y) * scale];
        return {
          n: ++n,
          x: copy.x + (mirrored ? box.width * scale - x : x),
          y: copy.y + y,
          // Small in small pieces, but never too small to read.
          r: Math.min(largest, Math.max(0.4 * largest, 0.35 * Math.sqrt(p.area) * scale)),
        };
      });
    });
  }, [film, shapes, mirrored]);
  const [lifted, setLifted] = useState<ReadonlySet<number>>(new Set());
  const kept = `versipel_lifted ${key}`;
  useEffect(() => {
    try {
      setLifted(new Set(JSON.parse(sessionStorage.getItem(kept) ?? '[]') as number[]));
    } catch {
      // Nothing was kept that can be read: counting begins anew.
    }
  }, [kept]);
  const toggle = (n: number) => {
    const now = new Set(lifted);
    if (!now.delete(n)) now.add(n);
    setLifted(now);
    sessionStorage.setItem(kept, JSON.stringify([...now]));
  };
  return {
    pieces: pieces.slice(0, MOST),
    lifted,
    toggle,
    next: pieces.find((p) => !lifted.has(p.n))?.n,
    all: pieces.length,
  };
}
