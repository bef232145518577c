/** What is drawn: outlines in a colour. */
type Drawn = { hex: string; d: string };

/**
 * Outlines as an SVG drawing, the lowest first.
 * @param box what is seen of them, in their units
 * @param widthUm how wide it is to be, µm: the file says so; one without says no size
 */
export function writeSvg(
  layers: readonly Drawn[],
  { left = 0, top = 0, width, height }: { left?: number; top?: number; width: number; height: number },
  widthUm?: number,
): string {
  const mm = (units: number) => Number(((units * widthUm!) / width / 1000).toFixed(3));
  const size = widthUm === undefined ? '' : ` width="${mm(width)}mm" height="${mm(height)}mm"`;
  const paths = layers.map((l) => `<path fill="${l.hex}" d="${l.d}"/>`).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg"${size} viewBox="${left} ${top} ${width} ${height}">${paths}</svg>`;
}
