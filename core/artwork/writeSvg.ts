/** The attribute of lines through the waste: they belong to a cut, not to the drawing. */
export const WASTE_LINES = 'data-waste';

/** What is drawn: outlines in a colour. */
type Drawn = { hex: string; d: string };

/**
 * Outlines as an SVG drawing, the lowest first.
 * @param box what is seen of them, in their units
 * @param widthUm how wide it is to be, µm: the file says so; one without says no size
 * @param strips lines that cut the waste of a layer, in its colour: they are cut, and are no part of the drawing when it is read again
 */
export function writeSvg(
  layers: readonly Drawn[],
  { left = 0, top = 0, width, height }: { left?: number; top?: number; width: number; height: number },
  widthUm?: number,
  strips?: Drawn,
): string {
  const mm = (units: number) => Number(((units * widthUm!) / width / 1000).toFixed(3));
  const size = widthUm === undefined ? '' : ` width="${mm(width)}mm" height="${mm(height)}mm"`;
  const paths = layers.map((l) => `<path fill="${l.hex}" d="${l.d}"/>`).join('');
  const lines = strips?.d
    ? `<g ${WASTE_LINES}="strips" fill="none" stroke="${strips.hex}" stroke-width="${width / 2000}"><path d="${strips.d}"/></g>`
    : '';
  return `<svg xmlns="http://www.w3.org/2000/svg"${size} viewBox="${left} ${top} ${width} ${height}">${paths}${lines}</svg>`;
}
