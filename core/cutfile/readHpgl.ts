import type { Path, Point } from '../coupon/index.ts';
import { HPGL_UNIT } from './writeHpgl.ts';
import { checked } from '../stats/index.ts';

export const readHpglDefaults = {
  /** Largest distance of a flattened arc from the true one, µm. */
  tolerance: 10,
  /** Instructions at most: a file that holds more is refused. */
  most: 500_000,
};

/** HP-GL that cannot be read. `at` counts characters from 0. */
export class HpglError extends Error {
  readonly at: number;
  constructor(message: string, at: number) {
    super(`${message} (character ${at + 1})`);
    this.at = at;
  }
}

/** One pen-down path with what was in force when it was drawn. µm, y upwards as in the file. */
type HpglStroke = {
  path: Path;
  pen: number;
  force?: number;
  speed?: number;
  /** The last comment before it. */
  comment?: string;
};

export type HpglDrawing = {
  strokes: HpglStroke[];
  /** Instructions passed over, and how often. */
  unknown: Record<string, number>;
  /** µm; undefined when nothing is drawn. */
  bounds?: { left: number; bottom: number; right: number; top: number };
};

const NUMBER = /[-+]?(?:\d+(?:\.\d*)?|\.\d+)/y;

type Instruction = { name: string; numbers: number[]; text?: string; at: number };

/** Splits HP-GL into instructions. Text of LB ends at its terminator (ETX, or what DT sets), of CO at its second quote. */
function* hpglInstructions(source: string, most = readHpglDefaults.most): Generator<Instruction> {
  let i = 0;
  let count = 0;
  let terminator = '\u0003';
  while (i < source.length) {
    const c = source[i]!;
    if (c === '\u001b') {
      // Device control, ESC . letter …, ends at the colon where it has numbers; it belongs to the port, not to the drawing.
      const control = /\u001b\.[A-Z@](?:[\d;]*:)?/y; // eslint-disable-line no-control-regex
      control.lastIndex = i;
      const match = control.exec(source);
      i += match ? match[0].length : 1;
      continue;
    }
    if (/[\s;,]/.test(c)) {
      i++;
      continue;
    }
    const at = i;
    const name = source.slice(i, i + 2).toUpperCase();
    if (!/^[A-Z]{2}$/.test(name)) throw new HpglError(`not an HP-GL instruction: "${source.slice(i, i + 8)}"`, i);
    if (++count > most) throw new HpglError(`more than ${most} instructions`, i);
    i += 2;
    if (name === 'LB') {
      const end = source.indexOf(terminator, i);
      if (end < 0) throw new HpglError('a label (LB) is not ended', at);
      yield { name, numbers: [], text: source.slice(i, end), at };
      i = end + 1;
      continue;
    }
    if (name === 'DT') {
      const mark = source[i];
      if (mark !== undefined && mark !== ';') {
        terminator = mark;
        i++;
      } else terminator = '\u0003';
      yield { name, numbers: [], at };
      continue;
    }
    if (name === 'CO') {
      const open = source.indexOf('"', i);
      const close = open < 0 ? -1 : source.indexOf('"', open + 1);
      if (close < 0 || source.slice(i, open).trim() !== '') throw new HpglError('a comment (CO) is not in quotes', at);
      yield { name, numbers: [], text: source.slice(open + 1, close), at };
      i = close + 1;
      continue;
    }
    const numbers: number[] = [];
    for (;;) {
      while (i < source.length && /[\s,]/.test(source[i]!)) i++;
      NUMBER.lastIndex = i;
      const match = NUMBER.exec(source);
      if (!match) break;
      numbers.push(Number(match[0]));
      i += match[0].length;
    }
    if (i < source.length && source[i] !== '\u001b' && !/[;A-Za-z]/.test(source[i]!))
      throw new HpglError(`${name} has something that is no number: "${source.slice(i, i + 8)}"`, i);
    if (source[i] === ';') i++;
    yield { name, numbers, at };
  }
}

/**
 * Reads HP-GL into paths: IN DF PA PR PU PD SP VS FS CO AA AR CI EA ER SC IP. Arcs are flattened within `tolerance`. What is
 * not known is passed over and counted. Source of the instructions: HP 7475A Interfacing and Programming Manual (1984).
 *
 * @throws HpglError on text that is no HP-GL, with its place
 */
export function readHpgl(source: string, options: Partial<typeof readHpglDefaults> = {}): HpglDrawing {
  const { tolerance, most } = checked(
    { ...readHpglDefaults, ...options },
    { tolerance: { from: 0, to: 100_000, open: 'from' }, most: { from: 1, to: 1e7, whole: true } },
  );
  const unknown: Record<string, number> = {};
  const strokes: HpglStroke[] = [];
  let at: [number, number] = [0, 0];
  let down = false;
  let relative = false;
  let pen = 1;
  let force: number | undefined;
  let speed: number | undefined;
  let comment: string | undefined;
  let line: Point[] = [];
  // P1 and P2, and the user units that SC lays over them; none as long as it is undefined.
  const corners = { p1: [0, 0] as [number, number], p2: [10_300, 7_650] as [number, number] };
  let scale: { x: [number, number]; y: [number, number] } | undefined;

  const toPlotter = ([x, y]: [number, number]): [number, number] =>
    scale
      ? [
          corners.p1[0] + ((x - scale.x[0]) * (corners.p2[0] - corners.p1[0])) / (scale.x[1] - scale.x[0]),
          corners.p1[1] + ((y - scale.y[0]) * (corners.p2[1] - corners.p1[1])) / (scale.y[1] - scale.y[0]),
        ]
      : [x, y];
  const micro = (p: [number, number]): Point => {
    const [x, y] = toPlotter(p);
    return [Math.round(x * HPGL_UNIT), Math.round(y * HPGL_UNIT)];
  };
  const finish = () => {
    if (line.length > 1) {
      const [first, last] = [line[0]!, line.at(-1)!];
      const closed = line.length > 3 && first[0] === last[0] && first[1] === last[1];
      strokes.push({
        path: { points: closed ? line.slice(0, -1) : line, closed },
        pen,
        ...(force === undefined ? {} : { force }),
        ...(speed === undefined ? {} : { speed }),
        ...(comment === undefined ? {} : { comment }),
      });
    }
    line = [];
  };
  const to = (p: [number, number]) => {
    if (down && pen > 0) {
      if (line.length === 0) line.push(micro(at));
      line.push(micro(p));
    }
    at = p;
  };
  const arc = (centre: [number, number], degrees: number) => {
    const radius = Math.hypot(at[0] - centre[0], at[1] - centre[1]);
    const size = Math.max(
      1,
      Math.hypot(...(micro([centre[0] + radius, centre[1]]).map((v, k) => v - micro(centre)[k]!) as [number, number])),
    );
    const step = 2 * Math.acos(Math.max(0, 1 - Math.min(1, tolerance / size)));
    const parts = Math.min(2_000, Math.max(4, Math.ceil(Math.abs((degrees * Math.PI) / 180) / Math.max(step, 1e-3))));
    const from = Math.atan2(at[1] - centre[1], at[0] - centre[0]);
    for (let k = 1; k <= parts; k++) {
      const angle = from + (((degrees * Math.PI) / 180) * k) / parts;
      to([centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)]);
    }
  };
  const need = (instruction: Instruction, count: number) => {
    if (instruction.numbers.length < count)
      throw new HpglError(
        `${instruction.name} needs ${count} numbers, has ${instruction.numbers.length}`,
        instruction.at,
      );
  };

  for (const instruction of hpglInstructions(source, most)) {
    const { name, numbers } = instruction;
    switch (name) {
      case 'IN':
      case 'DF':
        finish();
        if (name === 'IN') at = [0, 0];
        down = false;
        relative = false;
        scale = undefined;
        force = speed = comment = undefined;
        break;
      case 'PU':
      case 'PD':
      case 'PA':
      case 'PR': {
        if (name === 'PU') finish();
        if (name === 'PU' || name === 'PD') down = name === 'PD';
        else relative = name === 'PR';
        if (numbers.length % 2 !== 0) throw new HpglError(`${name} has an x without a y`, instruction.at);
        for (let k = 0; k < numbers.length; k += 2) {
          const [x, y] = [numbers[k]!, numbers[k + 1]!];
          to(relative ? [at[0] + x, at[1] + y] : [x, y]);
        }
        break;
      }
      case 'SP':
        finish();
        pen = numbers[0] ?? 0;
        break;
      case 'FS':
        finish();
        force = numbers[0];
        break;
      case 'VS':
        finish();
        speed = numbers[0];
        break;
      case 'CO':
        finish();
        comment = instruction.text;
        break;
      case 'AA':
      case 'AR': {
        need(instruction, 3);
        const [x, y, degrees] = numbers as [number, number, number];
        arc(name === 'AR' ? [at[0] + x, at[1] + y] : [x, y], degrees);
        break;
      }
      case 'CI': {
        need(instruction, 1);
        finish();
        const centre: [number, number] = at;
        const was: boolean = down;
        down = true;
        at = [centre[0] + numbers[0]!, centre[1]];
        arc(centre, 360);
        finish();
        at = centre;
        down = was;
        break;
      }
      case 'EA':
      case 'ER': {
        need(instruction, 2);
        finish();
        const from: [number, number] = at;
        const was: boolean = down;
        const other: [number, number] =
          name === 'ER' ? [from[0] + numbers[0]!, from[1] + numbers[1]!] : [numbers[0]!, numbers[1]!];
        down = true;
        for (const p of [[other[0], from[1]], other, [from[0], other[1]], from] as [number, number][]) to(p);
        finish();
        at = from;
        down = was;
        break;
      }
      case 'IP':
        if (numbers.length >= 4) {
          corners.p1 = [numbers[0]!, numbers[1]!];
          corners.p2 = [numbers[2]!, numbers[3]!];
        }
        break;
      case 'SC':
        if (numbers.length === 0) scale = undefined;
        else {
          need(instruction, 4);
          const [x1, x2, y1, y2] = numbers as [number, number, number, number];
          if (x1 === x2 || y1 === y2) throw new HpglError('SC has no width or no height', instruction.at);
          scale = { x: [x1, x2], y: [y1, y2] };
        }
        break;
      default:
        unknown[name] = (unknown[name] ?? 0) + 1;
    }
  }
  finish();
  const points = strokes.flatMap((s) => s.path.points);
  if (points.length === 0) return { strokes, unknown };
  const bounds = { left: Infinity, bottom: Infinity, right: -Infinity, top: -Infinity };
  for (const [x, y] of points) {
    bounds.left = Math.min(bounds.left, x);
    bounds.right = Math.max(bounds.right, x);
    bounds.bottom = Math.min(bounds.bottom, y);
    bounds.top = Math.max(bounds.top, y);
  }
  return { strokes, unknown, bounds };
}
