import type { CanvasElement, TableCell } from 'pdfmake/interfaces';
import { listDomain, rowDomain, stripShades, stripSplit, stripX, type Domain } from '#core/strip/index.ts';
import { saySeconds, cutMirrored } from '#core/vinyls/index.ts';
import type { Chart, ChartRow } from '#work/answer/chart.ts';
import type { Standing } from '#core/proof/index.ts';
import { words } from '../../messages/index.ts';
import { sayAnswer } from '../../ui/answer/sayAnswer.ts';
import type { Paper } from '#workers/paper.ts';
import { heatOf } from '../../ui/base/format.ts';
import { sayFollows, saySource } from '../../ui/vinyls/sayPress.ts';
import { cut, MM, pdf, runs } from './pdf.server.ts';

export const chartPapers = { a4: [297, 210], letter: [279.4, 215.9] } as const;
export type ChartPaper = keyof typeof chartPapers;

const GREEN = '#0f7a66';
const MUTED = '#5d6167';

/** The window strip on paper: lines where it is not through, dots where the carrier is scored, solid where it is clean. */
function strip(chart: Chart, row: ChartRow, list: Domain, width: number): CanvasElement[] {
  const axis = chart.cutters[0]!.axis;
  const domain = rowDomain(axis, row.result!, list);
  const { summary } = row.result!;
  const height = 13;
  const split = stripSplit(summary, domain) * width;
  const parts: CanvasElement[] = [
    { type: 'rect', x: 0, y: 4, w: split, h: height, color: '#dde1e7' },
    { type: 'rect', x: split, y: 4, w: width - split, h: height, color: '#f1c26d' },
  ];
  for (let x = 3; x < split - 1; x += 5)
    parts.push({
      type: 'line',
      x1: x,
      y1: 4 + height,
      x2: Math.min(split, x + 4),
      y2: 4,
      lineWidth: 0.5,
      lineColor: '#7f8ca3',
    });
  for (let x = split + 3; x < width - 1; x += 5)
    for (const y of [8, 13]) parts.push({ type: 'ellipse', x, y, r1: 0.7, r2: 0.7, color: '#a5641a' });
  const shades = stripShades(axis, summary, domain);
  for (let i = 0; i + 1 < shades.length; i++) {
    const [a, b] = [shades[i]!, shades[i + 1]!];
    const strength = (a.strength + b.strength) / 2;
    if (strength > 0.02)
      parts.push({
        type: 'rect',
        x: a.x * width,
        y: 4,
        w: Math.max(0.2, (b.x - a.x) * width + 0.2),
        h: height,
        color: GREEN,
        fillOpacity: Math.min(1, strength),
      });
  }
  if (row.mark !== undefined) {
    const x = stripX(domain, row.mark) * width;
    parts.push({ type: 'line', x1: x, y1: 1, x2: x, y2: height + 7, lineWidth: 1.6, lineColor: '#20242b' });
  }
  return parts;
}

function cutterCell(row: ChartRow, chart: Chart, c: number): TableCell {
  const { answer, parts } = row.cells[c]!;
  const axis = chart.cutters[c]!.axis;
  const said = sayAnswer(axis, answer);
  if (said === undefined) return { text: words.chart.unknown, color: MUTED };
  const rest = parts.filter((p) => p.key !== axis.key).map((p) => `${p.word} ${p.value}`);
  return {
    stack: [
      runs(said, { bold: true, fontSize: said.length > 8 ? 9.5 : 14 }),
      ...(rest.length > 0 ? [runs(rest.join(', '), { fontSize: 7.5 })] : []),
      { text: answer.camps ? words.chart.camps : words.chart.from[answer.from], fontSize: 7, color: MUTED },
    ],
  };
}

/** The edge of the sign by its standing, on a square of 9 points: as swatches have it. */
const corners: Record<Standing, number[][]> = {
  draft: [
    [0, 0],
    [9, 0],
    [9, 9],
    [0, 9],
  ],
  retired: [
    [0, 0],
    [9, 0],
    [9, 9],
    [0, 9],
  ],
  tried: [
    [0, 0],
    [6.5, 0],
    [9, 2.5],
    [9, 9],
    [0, 9],
  ],
  proven: [
    [0, 0],
    [6, 0],
    [9, 3],
    [9, 9],
    [0, 9],
  ],
  doubted: [
    [0, 0],
    [6, 0],
    [6.6, 1],
    [7.6, 1.2],
    [7.9, 2.4],
    [9, 3],
    [9, 9],
    [0, 9],
  ],
};

/** The sign of a standing with its word. */
const standingLine = (standing: Standing): TableCell => ({
  columns: [
    {
      width: 13,
      canvas: [
        {
          type: 'polyline',
          closePath: true,
          lineWidth: 0.8,
          lineColor: '#20242b',
          points: corners[standing].map(([x, y]) => ({ x: x!, y: y! })),
          ...(standing === 'proven' ? { color: GREEN } : {}),
        },
        ...(standing === 'tried'
          ? [
              {
                type: 'polyline' as const,
                lineWidth: 0.6,
                lineColor: '#20242b',
                points: [
                  { x: 6.5, y: 0 },
                  { x: 6.5, y: 2.5 },
                  { x: 9, y: 2.5 },
                ],
              },
            ]
          : []),
      ],
    },
    { width: '*', text: words.cardStanding[standing], fontSize: 8 },
  ],
});

function pressCell(row: ChartRow, unit: 'C' | 'F'): TableCell {
  const t = words.chart;
  const { said } = row.press;
  const way = said?.way;
  if (!way) return { text: t.noPress[row.behaviour.bond], color: MUTED };
  return {
    stack: [
      // A heat is never torn over two lines.
      ...(heatOf(way, unit) ?? [t.leafletHeat]).map((heat, i) => ({ text: heat, bold: i === 0, noWrap: true })),
      { text: [saySeconds(way.seconds), way.pressure].filter(Boolean).join(', ') },
      { text: t.peel(way.peel), fontSize: 8 },
      { text: saySource(said), fontSize: 8, bold: true },
      ...(row.press.overSurface ? [{ text: row.press.overSurface, fontSize: 8 }] : []),
      ...sayFollows(way, unit).map((text) => ({ text, fontSize: 8 })),
    ],
  };
}

/**
 * The wall chart on paper, landscape: a row a vinyl, the heading on every page, each row whole, a code that opens the card as it is
 * then.
 */
export function chartPdf(
  chart: Chart,
  options: { paper: ChartPaper; origin: string; date: string; unit: 'C' | 'F' },
): Promise<Uint8Array> {
  const t = words.chart;
  const [pageWidth, pageHeight] = chartPapers[options.paper];
  const first = chart.cutters[0];
  const domain =
    first &&
    listDomain(
      first.axis,
      chart.rows.map((r) => r.result),
    );
  const stripWidth = chart.cutters.length > 2 ? 82 : 120;
  const head = (text: string): TableCell => runs(text, { bold: true, fontSize: 8.5, color: MUTED }) as TableCell;
  const body: TableCell[][] = [
    [
      head(t.columns.vinyl),
      ...(first ? [head(`${t.columns.window}, ${cut(first.name, 24)}`)] : []),
      ...chart.cutters.map((c) => head(cut(c.name, 30))),
      head(t.columns.lies),
      head(t.columns.press),
      head(t.columns.card),
    ],
    ...chart.rows.map((row): TableCell[] => [
      {
        columns: [
          {
            width: 15,
            canvas: [
              {
                type: 'rect',
                x: 0,
                y: 1,
                w: 10,
                h: 24,
                r: 2,
                color: row.hex ?? '#b9b2a3',
                lineColor: '#8b8577',
                lineWidth: 0.5,
              },
            ],
          },
          {
            width: '*',
            stack: [
              runs(cut([row.brand, row.name].filter(Boolean).join(' '), 70), { bold: true, fontSize: 10 }),
              runs(row.typeWord, { fontSize: 8 }),
              ...(row.standing ? [standingLine(row.standing as Standing)] : []),
            ],
          },
        ],
      } as TableCell,
      ...(first
        ? [
            row.result && domain
              ? ({ canvas: strip(chart, row, domain, stripWidth), margin: [0, 2, 0, 0] } as TableCell)
              : { text: t.unknown, color: MUTED },
          ]
        : []),
      ...chart.cutters.map((_, c) => cutterCell(row, chart, c)),
      {
        stack: [
          { text: cutMirrored(row.behaviour.cutFrom) ? t.mirror : t.noMirror, bold: true },
          { text: row.behaviour.side },
          { text: row.behaviour.mat === 'none' ? t.matless : t.mat[row.behaviour.mat], fontSize: 8 },
        ],
      },
      pressCell(row, options.unit),
      { qr: `${options.origin}/vinyls/${row.id}`, fit: 44, eccLevel: 'L' } as TableCell,
    ]),
  ];
  const definition: Paper['definition'] = {
    pageSize: { width: pageWidth * MM, height: pageHeight * MM },
    pageMargins: [26, 44, 26, 30],
    info: { title: t.title },
    header: {
      margin: [26, 18, 26, 0],
      columns: [
        { text: `${words.product} · ${t.title}`, bold: true, fontSize: 12 },
        { text: t.made(options.date), alignment: 'right', color: MUTED },
      ],
    },
    content: [
      {
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: [
            '*',
            ...(first ? [stripWidth] : []),
            ...chart.cutters.map(() => [130, 112, 78][chart.cutters.length - 1]!),
            82,
            92,
            46,
          ],
          body,
        },
        layout: 'ruled',
      },
    ],
  };
  return pdf({
    definition,
    foot: { says: t.foot, page: t.page('{page}', '{pages}'), color: MUTED, margin: [26, 6, 26, 0] },
  });
}
