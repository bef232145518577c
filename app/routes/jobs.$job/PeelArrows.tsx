import { cutMirrored } from '#core/vinyls/index.ts';
import type { Job, JobLayer } from './useSheet.ts';

/** Which way waste is pulled at its delicate places: out over points, along thin joints. µm from the left top corner of the film. */
export function PeelArrows({ job, layer }: { job: Job; layer: JobLayer }) {
  const { film, shapes } = layer;
  const mirrored = cutMirrored(layer.lies.cutFrom, job.plan.design!.mirrored);
  const long = 0.035 * Math.max(film.width, film.height);
  return film.copies.flatMap((copy, c) => {
    const { box, scale, hints } = shapes[shapes.length === 1 ? 0 : c]!;
    return hints.map((hint, i) => {
      const [x, y] = [(hint.x - box.x) * scale, (hint.y - box.y) * scale];
      const way = mirrored ? 180 - hint.way : hint.way;
      const at = `translate(${copy.x + (mirrored ? box.width * scale - x : x)} ${copy.y + y}) rotate(${way}) scale(${long / 10})`;
      // Out over a point; along a joint either way.
      const d =
        hint.kind === 'point' ? 'M-7 0H6M3-2.6L7 0L3 2.6' : 'M-6 0H6M3.4-2.2L7 0L3.4 2.2M-3.4-2.2L-7 0L-3.4 2.2';
      return <path key={`${c} ${i}`} className="peel-way" d={d} transform={at} data-peel={hint.kind} />;
    });
  });
}
