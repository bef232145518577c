import type { Artwork, ArtLayer } from './artwork.ts';
import { ringsOfPath } from './rings.ts';

/** A closed line to cut, µm, x to the right, y down. */
export type ClosedPath = { points: (readonly [number, number])[]; closed: true };

/** How large one layer is by itself when the whole drawing is so wide, µm. */
export function layerSize(
  drawing: Pick<Artwork, 'width'>,
  { box }: Pick<ArtLayer, 'box'>,
  widthUm: number,
): { width: number; height: number } {
  const um = widthUm / drawing.width;
  return { width: Math.round(box.width * um), height: Math.round(box.height * um) };
}

/**
 * The lines to cut of one layer at a size, from the left top corner of its own piece of film.
 *
 * @param margin free film round it, µm
 * @param mirrored whether the lines are turned left to right (`cutMirrored`)
 * @returns the paths with the width and height of the piece, µm
 */
export function cutPaths(
  drawing: Pick<Artwork, 'width'>,
  layer: Pick<ArtLayer, 'd' | 'box'>,
  { widthUm, margin, mirrored }: { widthUm: number; margin: number; mirrored: boolean },
): { paths: ClosedPath[]; width: number; height: number } {
  const um = widthUm / drawing.width;
  const { x: left, y: top } = layer.box;
  const size = layerSize(drawing, layer, widthUm);
  const [width, height] = [size.width + 2 * margin, size.height + 2 * margin];
  const paths = ringsOfPath(layer.d).map((ring): ClosedPath => {
    const points = ring.map(([x, y]): readonly [number, number] => {
      const [px, py] = [Math.round((x - left) * um) + margin, Math.round((y - top) * um) + margin];
      return [mirrored ? width - px : px, py];
    });
    return { points, closed: true };
  });
  return { paths, width, height };
}
