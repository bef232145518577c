import { cutMirrored } from '../vinyls/index.ts';
import { z } from 'zod';
import {
  cutterModelSchema,
  formatPosition,
  settingSchema,
  strengthAxis,
  validateSetting,
  type CutterModel,
  type Setting,
} from '../controls/index.ts';
import {
  cutLength,
  couponDefaults,
  figurePaths,
  finestLimits,
  numberPaths,
  type Finest,
  type Path,
} from './geometry.ts';

export const couponInputSchema = z.strictObject({
  format: z.literal('versipel-coupon/1'),
  model: cutterModelSchema,
  title: z.string().max(200).default('coupon'),
  cutFrom: z.enum(['back', 'face']).describe('back: the vinyl lies face down and the sheet is mirrored'),
  cells: z
    .array(z.strictObject({ number: z.int().min(1).max(99), setting: settingSchema }))
    .min(1)
    .max(12),
  frame: z.int().min(4_000).max(40_000).optional().describe('side of each cell’s frame, µm'),
  finest: z
    .strictObject({
      bar: z.int().min(finestLimits.bar.min).max(finestLimits.bar.max),
      gap: z.int().min(finestLimits.gap.min).max(finestLimits.gap.max),
    })
    .optional()
    .describe('finest line and gap of the artwork that will be cut, µm: the figure tests these'),
  columns: z.int().min(1).max(12).optional().describe('cells in a row; about square when left out'),
  over: z
    .strictObject({ width: z.int().positive(), height: z.int().positive() })
    .optional()
    .describe('µm: spread the cells evenly over so much of the mat'),
});
export type CouponInput = z.infer<typeof couponInputSchema>;

type CouponCell = {
  number: number;
  setting: Setting;
  /** Left top corner of the frame on the sheet as it is cut, µm. */
  x: number;
  y: number;
  paths: Path[];
  /** Length of the cut in one pass, µm. */
  length: number;
};

export type CouponSheet = {
  title: string;
  width: number;
  height: number;
  mirrored: boolean;
  frame: number;
  columns: number;
  /** What its figure tests in place of the usual line and gap. */
  finest?: Finest;
  cells: CouponCell[];
};

/** Columns that keep a sheet about square: 6 cells are 3 × 2, 12 are 4 × 3. */
function columnsFor(count: number): number {
  return Math.ceil(Math.sqrt(count));
}

/**
 * Lays the cells of a coupon on a sheet, left to right and top to bottom, each a frame with its figure and its number below.
 * Cut from the back, the whole sheet is mirrored left to right, so that order and numbers read right after it is turned over.
 * Six cells take 44 × 37 mm, within 2 × 2 in. Lengths are whole µm.
 *
 * @throws SettingError or AxisError when a cell's setting does not belong to the model
 */
export function layCoupon(input: CouponInput): CouponSheet {
  const { margin, digitGap, digitHeight } = couponDefaults;
  const frame = input.frame ?? couponDefaults.frame;
  const columns = input.columns ?? columnsFor(input.cells.length);
  const rows = Math.ceil(input.cells.length / columns);
  const cellHeight = frame + digitGap + digitHeight;
  const { over } = input;
  // Spread over the mat, the outer cells lie at its edges.
  const pitch = (room: number | undefined, size: number, count: number) =>
    room === undefined || count < 2
      ? size + margin
      : Math.max(size + margin, Math.floor((room - 2 * margin - size) / (count - 1)));
  const pitchX = pitch(over?.width, frame, columns);
  const pitchY = pitch(over?.height, cellHeight, rows);
  const width = (columns - 1) * pitchX + frame + 2 * margin;
  const height = (rows - 1) * pitchY + cellHeight + 2 * margin;
  const mirrored = cutMirrored(input.cutFrom);
  const turn = (x: number) => (mirrored ? width - x : x);
  const cells = input.cells.map((cell, i): CouponCell => {
    validateSetting(input.model, cell.setting);
    const left = margin + (i % columns) * pitchX;
    const top = margin + Math.floor(i / columns) * pitchY;
    const local = [
      // The number first: it must not lie on waste that has already come loose.
      ...numberPaths(String(cell.number), left, top + frame + digitGap),
      ...figurePaths(frame, input.finest).map((p) => ({
        ...p,
        points: p.points.map(([x, y]) => [left + x, top + y] as const),
      })),
    ];
    const paths = local.map((p) => ({ ...p, points: p.points.map(([x, y]) => [turn(x), y] as const) }));
    return {
      number: cell.number,
      setting: cell.setting,
      x: mirrored ? width - left - frame : left,
      y: top,
      paths,
      length: cutLength(paths),
    };
  });
  const { finest } = input;
  return { title: input.title, width, height, mirrored, frame, columns, ...(finest ? { finest } : {}), cells };
}

/** A path as SVG data, in µm. */
export function pathData(path: Path): string {
  const [first, ...rest] = path.points;
  return `M${first![0]} ${first![1]}${rest.map(([x, y]) => `L${x} ${y}`).join('')}${path.closed ? 'Z' : ''}`;
}

const escapeXml = (text: string) =>
  text
    // XML 1.0 has no place for most control characters.
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' })[c]!);

/** A colour for each cell, far apart in hue, for programs that sort cuts by colour. */
const cellColour = (i: number) => {
  const hue = (i * 137.508) % 360;
  const channel = (n: number) => {
    const k = (n + hue / 30) % 12;
    return Math.round(255 * (0.42 - 0.38 * Math.max(-1, Math.min(k - 3, 9 - k, 1))));
  };
  return `#${[0, 8, 4].map((n) => channel(n).toString(16).padStart(2, '0')).join('')}`;
};

/**
 * The sheet as SVG with real units: width and height in mm, one user unit a micrometre, one named group a cell with its
 * controls as data attributes.
 *
 * @param only a cell number, for a file with that cell alone on the same sheet and origin
 */
export function couponSvg(sheet: CouponSheet, model: CutterModel, only?: number): string {
  const axis = strengthAxis(model);
  const groups = sheet.cells.flatMap((cell, i) => {
    if (only !== undefined && cell.number !== only) return [];
    const controls = model.axes
      .map((a) => `data-${a.key}="${escapeXml(formatPosition(a, cell.setting.steps[a.key]!))}"`)
      .join(' ');
    const label = `cell ${cell.number}, ${axis.word} ${formatPosition(axis, cell.setting.steps[axis.key]!)}`;
    const paths = cell.paths.map((p) => `    <path d="${pathData(p)}"/>`).join('\n');
    return [
      `  <g id="cell-${cell.number}" inkscape:groupmode="layer" inkscape:label="${escapeXml(label)}" data-cell="${cell.number}" ${controls} fill="none" stroke="${cellColour(i)}" stroke-width="100">\n    <title>${escapeXml(label)}</title>\n${paths}\n  </g>`,
    ];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:inkscape="http://www.inkscape.org/namespaces/inkscape" width="${sheet.width / 1000}mm" height="${sheet.height / 1000}mm" viewBox="0 0 ${sheet.width} ${sheet.height}" data-mirrored="${sheet.mirrored}">`,
    `  <title>${escapeXml(sheet.title)}</title>`,
    ...groups,
    '</svg>',
    '',
  ].join('\n');
}
