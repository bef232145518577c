import type { Care, Fault, LayerCheck } from '#core/artwork/index.ts';

/** A place of the drawing that is pointed at: a fault, or something to take care of. Shares of the drawing's width and height. */
export type Mark = {
  n: number;
  layer: string;
  x: number;
  y: number;
  fault: Fault | undefined;
  care: Care | undefined;
};

/** More marks than these hide the drawing; the words say how many there are. */
export const MOST_MARKS = 40;

/** Everything to point at, the worst first, numbered. */
export function marksOf(checks: readonly LayerCheck[]): Mark[] {
  const faults = checks
    .flatMap(({ faults: list }) => list)
    .sort((a, b) => a.widthUm / a.neededUm - b.widthUm / b.neededUm)
    .map((fault) => ({ layer: fault.layer, x: fault.x, y: fault.y, fault, care: undefined }));
  const cares = checks.flatMap(({ layer, cares: list }) =>
    list.map((care) => ({ layer, x: care.x, y: care.y, fault: undefined, care })),
  );
  return [...faults, ...cares].map((m, i) => ({ ...m, n: i + 1 }));
}
