import type { Column, Content, TableCell } from 'pdfmake/interfaces';
import type { Paper } from '#workers/paper.ts';
import { words } from '../../messages/index.ts';
import { cut, MM, pdf, runs } from './pdf.server.ts';

/** Sheets of labels, in mm: plain grids as such sheets are sold, and single labels off a roll. */
export const labelPapers = {
  a4: { page: [210, 297], grid: [3, 7], label: [63.5, 38.1], margin: [7.2, 15.1], gap: 2.5 },
  letter: { page: [215.9, 279.4], grid: [3, 10], label: [66.7, 25.4], margin: [4.8, 12.7], gap: 3.2 },
  single: { page: [62, 29], grid: [1, 1], label: [62, 29], margin: [0, 0], gap: 0 },
} as const;
export type LabelPaper = keyof typeof labelPapers;

export type Label = {
  vinyl: string;
  colour: string;
  /** Batch, and where the type is said. */
  line: string;
  size: string;
  /** How it is pressed on plain cloth, and whose figures they are, in one line; empty where nothing is pressed. */
  press: string;
  /** Which side of it the carrier is called. */
  carrier: string;
  code: string;
  address: string;
};

/** Made anew each time: the layout writes into what it is given. */
const arrow = (): Column => ({
  canvas: [
    { type: 'line', x1: 4, y1: 0, x2: 4, y2: 7, lineWidth: 1.4 },
    {
      type: 'polyline',
      points: [
        { x: 0.5, y: 4 },
        { x: 4, y: 8 },
        { x: 7.5, y: 4 },
      ],
      lineWidth: 1.4,
    },
  ],
  width: 11,
});

function draw(label: Label, width: number, height: number): TableCell {
  const qr = Math.min(height - 12, 66);
  const tight = height < 90;
  const small = tight ? 7 : 8.5;
  return {
    margin: [6, 5, 2, 0],
    columns: [
      { qr: label.address, fit: qr, width: qr, eccLevel: 'M' },
      {
        width: width - qr - 14,
        stack: [
          runs(cut(label.vinyl, tight ? 24 : 34), { bold: true, fontSize: tight ? 8.5 : 9.5 }),
          runs(cut(label.colour, 34), { bold: true, fontSize: small }),
          runs(cut(label.line, 40), { fontSize: small }),
          ...(tight
            ? [runs(`${label.size} · ${label.code}`, { fontSize: small, bold: true })]
            : [runs(label.size, { fontSize: small }), runs(label.code, { fontSize: small, bold: true })]),
          ...(label.press ? [runs(cut(label.press, 28), { fontSize: 7 })] : []),
          { columns: [arrow(), runs(label.carrier, { fontSize: small })], margin: [0, tight ? 0 : 2, 0, 0] },
        ],
      },
    ],
  } as TableCell;
}

/**
 * Identity labels on a sheet, or one a page.
 * @param skip labels of the first sheet that are gone already
 */
export function labelsPdf(labels: readonly Label[], paper: LabelPaper, skip: number): Promise<Uint8Array> {
  const { page, grid, label, margin, gap } = labelPapers[paper];
  const [columns, rows] = grid;
  const [width, height] = [label[0] * MM, label[1] * MM];
  const cells: TableCell[] = [
    ...Array.from({ length: Math.min(skip, columns * rows - 1) }, (): TableCell => ({ text: '' })),
    ...labels.map((l) => draw(l, width, height)),
  ];
  const content: Content[] = [];
  for (let at = 0; at < cells.length; at += columns * rows) {
    const sheet = cells.slice(at, at + columns * rows);
    const lines: TableCell[][] = [];
    for (let i = 0; i < sheet.length; i += columns) {
      const line = sheet.slice(i, i + columns);
      // Between two labels lies the gap of the sheet.
      lines.push(
        Array.from({ length: 2 * columns - 1 }, (_, k) => (k % 2 ? { text: '' } : (line[k / 2] ?? { text: '' }))),
      );
    }
    content.push({
      table: {
        widths: Array.from({ length: 2 * columns - 1 }, (_, k) => (k % 2 ? gap * MM : width)),
        // A page of one label must not spill over by a rounding.
        heights: rows === 1 ? height - 2 : height,
        body: lines,
      },
      layout: 'bare',
      ...(at > 0 ? { pageBreak: 'before' as const } : {}),
    });
  }
  const definition: Paper['definition'] = {
    pageSize: { width: page[0] * MM, height: page[1] * MM },
    pageMargins: [margin[0] * MM, margin[1] * MM, 0, 0],
    info: { title: words.stock.labels },
    content,
  };
  return pdf({ definition });
}
