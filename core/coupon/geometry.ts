/** A point in whole micrometres: x to the right, y down, from the top left corner. */
export type Point = readonly [x: number, y: number];
export type Path = { points: Point[]; closed: boolean };

export const couponDefaults = {
  /** Side of the square that is weeded round each figure. */
  frame: 12_000,
  /** Free vinyl round every frame. */
  margin: 2_000,
  /** Height of the number cut beneath each frame. */
  digitHeight: 2_600,
  /** From the frame down to its number. */
  digitGap: 900,
};

/**
 * Strokes of the ten digits on a grid 4 wide and 6 high, drawn for this coupon: single lines, so that a cut number stays
 * readable and takes no weeding.
 */
const strokes: Record<string, (readonly (readonly [number, number])[])[]> = {
  '0': [
    [
      [1, 0],
      [3, 0],
      [4, 1],
      [4, 5],
      [3, 6],
      [1, 6],
      [0, 5],
      [0, 1],
      [1, 0],
    ],
  ],
  '1': [
    [
      [1, 1],
      [2, 0],
      [2, 6],
    ],
  ],
  '2': [
    [
      [0, 1],
      [1, 0],
      [3, 0],
      [4, 1],
      [4, 2],
      [0, 6],
      [4, 6],
    ],
  ],
  '3': [
    [
      [0, 0],
      [4, 0],
      [2, 2.5],
      [3, 2.5],
      [4, 3.5],
      [4, 5],
      [3, 6],
      [1, 6],
      [0, 5],
    ],
  ],
  '4': [
    [
      [3, 6],
      [3, 0],
      [0, 4],
      [4, 4],
    ],
  ],
  '5': [
    [
      [4, 0],
      [0, 0],
      [0, 2.5],
      [3, 2.5],
      [4, 3.5],
      [4, 5],
      [3, 6],
      [0, 6],
    ],
  ],
  '6': [
    [
      [4, 0],
      [2, 0],
      [0, 2.5],
      [0, 5],
      [1, 6],
      [3, 6],
      [4, 5],
      [4, 4],
      [3, 3],
      [0, 3],
    ],
  ],
  '7': [
    [
      [0, 0],
      [4, 0],
      [1.5, 6],
    ],
  ],
  '8': [
    [
      [1, 3],
      [0, 2],
      [0, 1],
      [1, 0],
      [3, 0],
      [4, 1],
      [4, 2],
      [3, 3],
      [1, 3],
      [0, 4],
      [0, 5],
      [1, 6],
      [3, 6],
      [4, 5],
      [4, 4],
      [3, 3],
    ],
  ],
  '9': [
    [
      [4, 3],
      [1, 3],
      [0, 2],
      [0, 1],
      [1, 0],
      [3, 0],
      [4, 1],
      [4, 3.5],
      [2, 6],
      [0, 6],
    ],
  ],
};

const closed = (points: Point[]): Path => ({ points, closed: true });

function circle(cx: number, cy: number, r: number, sides = 48): Path {
  return closed(
    Array.from({ length: sides }, (_, i): Point => {
      const angle = (2 * Math.PI * i) / sides;
      return [Math.round(cx + r * Math.cos(angle)), Math.round(cy + r * Math.sin(angle))];
    }),
  );
}

/** Sizes of the details of the figure, µm: hole across, bar and gap wide. The corner has none. */
export const figureDetails = { hole: 1_600, bar: 800, gap: 500 } as const;

/** The finest line and gap that a figure tests in place of its usual ones, µm: those of the artwork that will really be cut. */
export type Finest = { bar: number; gap: number };
/** How fine and how coarse they may be: finer nobody sees, coarser has no room in the figure. */
export const finestLimits = { bar: { min: 200, max: 1_400 }, gap: { min: 150, max: 900 } };

/**
 * The figure of one cell, in the frame's own coordinates, inner shapes first so that nothing moves before it is cut.
 * Its parts show the faults one by one: a small hole (Ø 1.6 mm), a narrow gap (0.5 mm) between body and bar, a thin bar
 * (0.8 mm), and a sharp corner (about 34°) at the tip. Gap and bar may be those of an artwork instead, µm on a frame of 12 mm.
 */
export function figurePaths(frame: number = couponDefaults.frame, finest: Finest = figureDetails): Path[] {
  const s = frame / 12_000;
  const p = (x: number, y: number): Point => [Math.round(x * s), Math.round(y * s)];
  const [top, bottom] = [8_500 + finest.gap, 8_500 + finest.gap + finest.bar];
  return [
    circle(p(4_000, 0)[0], p(0, 5_600)[1], 800 * s),
    closed([p(2_000, top), p(9_000, top), p(9_000, bottom), p(2_000, bottom)]),
    closed([p(2_000, 3_400), p(6_200, 3_400), p(10_600, 1_400), p(9_000, 5_400), p(9_000, 8_500), p(2_000, 8_500)]),
    closed([p(0, 0), p(12_000, 0), p(12_000, 12_000), p(0, 12_000)]),
  ];
}

/** A number as strokes, its top left corner at (x, y). */
export function numberPaths(text: string, x: number, y: number, height: number = couponDefaults.digitHeight): Path[] {
  const unit = height / 6;
  return [...text].flatMap((digit, i) =>
    (strokes[digit] ?? []).map((line) => ({
      closed: false,
      points: line.map(([dx, dy]): Point => [Math.round(x + (i * 5.5 + dx) * unit), Math.round(y + dy * unit)]),
    })),
  );
}

/** Length of a path in µm. */
export function pathLength(path: Path): number {
  let sum = 0;
  for (let i = 1; i < path.points.length; i++) {
    const [a, b] = [path.points[i - 1]!, path.points[i]!];
    sum += Math.hypot(b[0] - a[0], b[1] - a[1]);
  }
  if (path.closed && path.points.length > 1) {
    const [a, b] = [path.points.at(-1)!, path.points[0]!];
    sum += Math.hypot(b[0] - a[0], b[1] - a[1]);
  }
  return sum;
}

/** Length of all lines that are cut in one pass, whole µm. */
export const cutLength = (paths: readonly Path[]): number => Math.round(paths.reduce((s, p) => s + pathLength(p), 0));

/** Room round a coupon so that it can be cut off its piece and put down by hand, µm. Common practice, no source. */
export const HANDLING = 6_000;

/** The strip a test cut of six squares wants beside a design, µm: three by two, with room to hold it. */
export const couponRoom = (): { width: number; height: number } => {
  const { frame, margin, digitGap, digitHeight } = couponDefaults;
  const square = { width: frame + margin, height: frame + digitGap + digitHeight + margin };
  return { width: 3 * square.width + margin + HANDLING, height: 2 * square.height + margin + HANDLING };
};
