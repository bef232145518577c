import type { CutDrawing } from './piece.ts';

/** Standard colours of DXF that show on white and on black, in turn: red, green, blue, magenta, cyan. */
const COLOURS = [1, 3, 5, 6, 4];

/** Text of a DXF layer name: R12 allows letters, digits, $, - and _, 31 of them. */
const layerName = (number: number) => `CELL_${number}`;

/**
 * A drawing as DXF release 12 (AC1009): one layer a piece, each path a POLYLINE, millimetres, y upwards from the lower left
 * corner of the sheet. R12 has no place for units: read it as millimetres.
 * Source: AutoCAD Release 12 Customization Manual (1992), chapter 11.
 */
export function writeDxf(drawing: CutDrawing): string {
  const out: string[] = [];
  const put = (...pairs: [number, string | number][]) => {
    for (const [code, value] of pairs) out.push(String(code).padStart(3), String(value));
  };
  const mm = (um: number) => (um / 1000).toFixed(4);
  put([0, 'SECTION'], [2, 'HEADER'], [9, '$ACADVER'], [1, 'AC1009']);
  put([9, '$EXTMIN'], [10, mm(0)], [20, mm(0)], [30, mm(0)]);
  put([9, '$EXTMAX'], [10, mm(drawing.width)], [20, mm(drawing.height)], [30, mm(0)]);
  put([0, 'ENDSEC']);
  put([0, 'SECTION'], [2, 'TABLES']);
  put([0, 'TABLE'], [2, 'LTYPE'], [70, 1]);
  put([0, 'LTYPE'], [2, 'CONTINUOUS'], [70, 0], [3, 'Solid line'], [72, 65], [73, 0], [40, '0.0'], [0, 'ENDTAB']);
  put([0, 'TABLE'], [2, 'LAYER'], [70, drawing.pieces.length]);
  drawing.pieces.forEach((piece, i) =>
    put([0, 'LAYER'], [2, layerName(piece.number)], [70, 0], [62, COLOURS[i % COLOURS.length]!], [6, 'CONTINUOUS']),
  );
  put([0, 'ENDTAB'], [0, 'ENDSEC']);
  put([0, 'SECTION'], [2, 'ENTITIES']);
  for (const piece of drawing.pieces) {
    const layer = layerName(piece.number);
    for (const { points, closed } of piece.paths) {
      if (points.length < 2) continue;
      put([0, 'POLYLINE'], [8, layer], [66, 1], [70, closed ? 1 : 0], [10, '0.0'], [20, '0.0'], [30, '0.0']);
      for (const [x, y] of points)
        put([0, 'VERTEX'], [8, layer], [10, mm(x)], [20, mm(drawing.height - y)], [30, '0.0']);
      put([0, 'SEQEND'], [8, layer]);
    }
  }
  put([0, 'ENDSEC'], [0, 'EOF']);
  return `${out.join('\r\n')}\r\n`;
}
