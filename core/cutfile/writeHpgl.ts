import type { CutDrawing, CutPiece } from './piece.ts';

/** One plotter unit: 1/40 mm. Source: HP-GL, HP 7475A Interfacing and Programming Manual (1984), chapter 3. */
export const HPGL_UNIT = 25;

/** A number as HP-GL takes it: no exponent, at most four decimals. */
const plain = (value: number) => Number(value.toFixed(4)).toString();

/**
 * Text for a comment: plain ASCII in double quotes, without what would end it. Everything else becomes "?".
 * Source: HP-GL/2, CO "…" (HP PCL 5 Technical Reference Manual, part II). Programs that know no CO pass over it.
 */
export const hpglComment = (text: string): string =>
  `CO"${text
    .replace(/½/g, '.5')
    .replace(/−/g, '-')
    .replace(/[^ !#-~]|[";]/g, '?')
    .slice(0, 240)}";`;

/** The instructions of one piece: its speed and force, then its paths, pen up between them, as often as it has passes. */
export function hpglOfPiece(piece: CutPiece, height: number): string {
  const at = ([x, y]: readonly [number, number]) =>
    `${Math.round(x / HPGL_UNIT)},${Math.round((height - y) / HPGL_UNIT)}`;
  const once = piece.paths
    .filter((p) => p.points.length > 0)
    .map(({ points, closed }) => {
      const rest = [...points.slice(1), ...(closed ? [points[0]!] : [])];
      return `PU${at(points[0]!)};${rest.length > 0 ? `PD${rest.map(at).join(',')};` : 'PD;'}PU;`;
    })
    .join('\n');
  return [
    ...(piece.speed === undefined ? [] : [`VS${plain(piece.speed)};`]),
    ...(piece.force === undefined ? [] : [`FS${plain(piece.force)};`]),
    ...Array.from({ length: piece.passes }, () => once),
  ].join('\n');
}

/**
 * A drawing as HP-GL, in plotter units of 1/40 mm, y upwards from the lower left corner of the sheet. Force goes out as FS in
 * grams and speed as VS before each piece, where the pieces state them: common practice on cutters, no published source (on
 * the HP 7550A FS was one of eight force levels).
 */
export function writeHpgl(drawing: CutDrawing): string {
  const pieces = drawing.pieces.map((p) => `${hpglComment(p.label)}\n${hpglOfPiece(p, drawing.height)}`);
  return `IN;PA;SP1;\n${pieces.join('\n')}\nPU0,0;SP0;\n`;
}
