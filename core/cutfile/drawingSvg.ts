import type { CutDrawing } from './piece.ts';

/** A drawing as SVG at true size, thin lines, one group a piece. µm in, mm out. */
export function drawingSvg(drawing: CutDrawing): string {
  const mm = (um: number) => Number((um / 1000).toFixed(3));
  const groups = drawing.pieces.map((p) => {
    const d = p.paths
      .map(({ points, closed }) => `M${points.map(([x, y]) => `${mm(x)} ${mm(y)}`).join('L')}${closed ? 'Z' : ''}`)
      .join('');
    return `<g id="piece-${p.number}" fill="none" stroke="#000" stroke-width="0.1"><path d="${d}"/></g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(drawing.width)}mm" height="${mm(drawing.height)}mm" viewBox="0 0 ${mm(drawing.width)} ${mm(drawing.height)}">${groups.join('')}</svg>\n`;
}
