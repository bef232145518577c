import type { ClosedPath, WasteLine } from '../artwork/index.ts';
import type { Path } from '../coupon/index.ts';
import { couponRoom, witnessSize } from '../coupon/index.ts';
import type { Behaviour } from '../vinyls/index.ts';

export const filmPieceDefaults = {
  /** Free film round the design: it is trimmed a bit larger. µm. Common practice, no source. */
  margin: 10_000,
  /** Between two copies of it. */
  gap: 6_000,
  /** Round a piece that is taped down on four sides. */
  tape: 20_000,
  /** A mat that takes 12 in cuts 11: so much is kept free on each side. */
  matEdge: 12_700,
  /** A test mark that nobody asked for may make the film larger by this share. Common practice, no source. */
  markShare: 0.1,
};

export type FilmBox = { x: number; y: number; width: number; height: number };

/** What is cut in the waste beside the design, where somebody wants it. */
export type InTheWaste = {
  /** A test mark: the place to lift before unloading, and a proof from every job. 'cheap': unless it costs more than a tenth of the film. */
  mark?: boolean | 'cheap' | undefined;
  /** A frame round everything, so that the waste comes off in one. */
  frame?: boolean | undefined;
  /** Room for a test cut in its corner, so that one piece of film is trimmed for both; not where the film is turned or goes without a mat. */
  test?: boolean | undefined;
  /** Lines that cut the waste into strips a hand can hold. */
  lines?: boolean | undefined;
};

/** A piece of film to trim for one part, µm: its size, and where each copy of the design lies on it from the left top corner. */
export type FilmPiece = {
  width: number;
  height: number;
  copies: { x: number; y: number }[];
  /** Where the test mark is cut. */
  mark?: FilmBox;
  /** Where the squares of a test cut go. */
  test?: FilmBox;
  /** The frame that is cut round everything. */
  frame?: FilmBox;
  /** Lines that cut the waste into strips. */
  lines?: readonly WasteLine[];
  /** Why it is larger than the design with its margin. */
  because: ('tape' | 'lead' | 'mark' | 'test' | 'shortest')[];
  /** Whether it is laid under the blade a quarter turned: its left edge is at the top there. */
  turned: boolean;
  /** Larger than what lies under the blade, and how many copies lie there at once. */
  over?: { fits: number };
};

type Film = Pick<Behaviour, 'mat' | 'bond' | 'leadUm' | 'minLengthUm'>;
/** Where a design may lie, µm; see `Bed`. */
type Room = { widthUm: number; lengthUm: number | undefined };

/**
 * The piece of film for so many copies of one layer, in rows across what lies under the blade; a quarter turned where only so it fits. A film
 * without a mat is longer by its lead, one that is taped down has a border. A test mark goes where a row has a place free, else below the last
 * one. Source: common practice, no published source.
 *
 * @param design width and height of the layer on its own, µm
 */
export function filmPiece(
  design: { width: number; height: number },
  copies: number,
  film: Film,
  room: Room,
  waste: InTheWaste = {},
): FilmPiece {
  if (waste.mark === 'cheap') {
    const [bare, marked] = [false, true].map((mark) => filmPiece(design, copies, film, room, { ...waste, mark }));
    const area = (piece: FilmPiece) => piece.width * piece.height;
    const cheap =
      area(marked!) <= area(bare!) * (1 + filmPieceDefaults.markShare) &&
      marked!.over?.fits === bare!.over?.fits &&
      marked!.turned === bare!.turned;
    return cheap ? marked! : bare!;
  }
  const upright = inRows(design, copies, film, room, waste, false);
  if (!upright.over) return upright;
  const { widthUm, lengthUm = Infinity } = room;
  const turned = inRows(design, copies, film, { widthUm: lengthUm, lengthUm: widthUm }, waste, true);
  return !turned.over || turned.over.fits > upright.over.fits ? turned : upright;
}

/** Copies in rows that run as a hand holds the film; `turned` says that it goes under the blade with its left edge first. */
function inRows(
  design: { width: number; height: number },
  copies: number,
  film: Film,
  room: Room,
  waste: InTheWaste,
  turned: boolean,
): FilmPiece {
  const { gap } = filmPieceDefaults;
  const taped = film.bond === 'glue';
  const margin = taped ? filmPieceDefaults.tape : filmPieceDefaults.margin;
  const across = Math.max(1, Math.min(copies, Math.floor((room.widthUm + gap) / (design.width + gap))));
  const rows = Math.ceil(copies / across);
  // What the rollers want is said of the whole piece, its margins included.
  const lead = film.mat === 'none' ? Math.max(0, film.leadUm - 2 * margin) : 0;
  const squares = waste.test && !turned && film.mat !== 'none' ? couponRoom() : undefined;
  const [left, top] = turned ? [margin + lead, margin] : [margin, margin + lead + (squares?.height ?? 0)];
  const inRow = across * design.width + (across - 1) * gap;
  const rowsEnd = top + rows * design.height + (rows - 1) * gap;
  const size = waste.mark ? witnessSize() : undefined;
  const free = copies % across === 0 ? 0 : inRow - (copies % across) * (design.width + gap);
  const beside = size !== undefined && free >= size.width && design.height >= size.height;
  const mark = size && {
    x: beside ? left + inRow - size.width : left,
    y: beside ? rowsEnd - size.height : rowsEnd,
    ...size,
  };
  const below = mark && !beside ? mark.height : 0;
  const plain = {
    width: left + Math.max(inRow, size?.width ?? 0, squares?.width ?? 0) + margin,
    height: rowsEnd + below + margin,
  };
  // Along the rollers it has a least length.
  const width = turned ? Math.max(plain.width, film.minLengthUm) : plain.width;
  const height = turned ? plain.height : Math.max(plain.height, film.minLengthUm);
  const inset = margin / 2;
  const fits = fitting(design, room, across, below + (squares?.height ?? 0));
  return {
    width,
    height,
    ...(mark ? { mark } : {}),
    ...(squares ? { test: { x: margin, y: margin, ...squares } } : {}),
    ...(waste.frame
      ? {
          frame: {
            x: left - margin + inset,
            y: top - margin + inset,
            width: width - (left - margin) - 2 * inset,
            height: height - (top - margin) - 2 * inset,
          },
        }
      : {}),
    copies: Array.from({ length: copies }, (_, i) => ({
      x: left + (i % across) * (design.width + gap),
      y: top + Math.floor(i / across) * (design.height + gap),
    })),
    because: [
      ...(taped ? (['tape'] as const) : []),
      ...(lead > 0 ? (['lead'] as const) : []),
      ...(mark && !beside ? (['mark'] as const) : []),
      ...(squares ? (['test'] as const) : []),
      ...(width > plain.width || height > plain.height ? (['shortest'] as const) : []),
    ],
    turned,
    ...(fits < copies ? { over: { fits } } : {}),
  };
}

/** How many copies lie there at once, `across` in a row, with so much kept for the test mark. */
function fitting(
  design: { width: number; height: number },
  { widthUm, lengthUm = Infinity }: Room,
  across: number,
  below: number,
): number {
  const { gap } = filmPieceDefaults;
  if (design.width > widthUm) return 0;
  const rows = Math.floor((lengthUm - below + gap) / (design.height + gap));
  return rows === Infinity ? Infinity : Math.max(0, rows) * across;
}

/** The same path on a piece of film that is laid a quarter turned: what was left is at the top. */
export const quarterTurned = (path: Path, { height }: Pick<FilmPiece, 'height'>): Path => ({
  ...path,
  points: path.points.map(([x, y]) => [height - y, x] as const),
});

/** The corners of a box, turned as a piece is. */
export const cornersOf = ({ x, y, width, height }: FilmBox): [number, number][] => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];

/**
 * Every line to cut of a part: its design once for each copy, or to each copy its own, on the piece of film as it lies; the lines through the
 * waste, and the frame round it.
 */
export function partPaths(
  designs: readonly (readonly ClosedPath[])[],
  film: Pick<FilmPiece, 'copies' | 'frame' | 'lines'>,
): Path[] {
  const paths = film.copies.flatMap(({ x, y }, i) =>
    designs[designs.length === 1 ? 0 : i]!.map((p): Path => ({
      closed: true,
      points: p.points.map(([a, b]) => [a + x, b + y] as const),
    })),
  );
  // Waste after the design: what is cut loose first moves under the blade.
  for (const line of film.lines ?? []) paths.push({ closed: false, points: [...line] });
  if (!film.frame) return paths;
  paths.push({ closed: true, points: cornersOf(film.frame) });
  return paths;
}
