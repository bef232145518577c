import type { ClosedPath, WasteLine } from '../artwork/index.ts';
import type { Path } from '../coupon/index.ts';
import { witnessSize } from '../coupon/index.ts';
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
  /** The frame that is cut round everything. */
  frame?: FilmBox;
  /** Lines that cut the waste into strips. */
  lines?: readonly WasteLine[];
  /** Why it is larger than the design with its margin. */
  because: ('tape' | 'lead' | 'mark' | 'shortest')[];
  /** Whether it is wider than the mat takes. */
  tooWide: boolean;
};

/**
 * The piece of film for so many copies of one layer, in rows across the mat. A film without a mat is longer by its lead, one that is
 * taped down has a border. A test mark goes where a row has a place free, else below the last one. Source: common practice, no published
 * source.
 *
 * @param design width and height of the layer on its own, µm
 * @param matWidth of the mat, or of the roll where there is none
 */
export function filmPiece(
  design: { width: number; height: number },
  copies: number,
  film: Pick<Behaviour, 'mat' | 'bond' | 'leadUm' | 'minLengthUm'>,
  matWidth: number,
  waste: InTheWaste = {},
): FilmPiece {
  if (waste.mark === 'cheap') {
    const area = (mark: boolean) => {
      const piece = filmPiece(design, copies, film, matWidth, { ...waste, mark });
      return piece.width * piece.height;
    };
    const mark = area(true) <= area(false) * (1 + filmPieceDefaults.markShare);
    return filmPiece(design, copies, film, matWidth, { ...waste, mark });
  }
  const { gap, matEdge } = filmPieceDefaults;
  const taped = film.bond === 'glue';
  const margin = taped ? filmPieceDefaults.tape : filmPieceDefaults.margin;
  const room = matWidth - 2 * matEdge;
  const across = Math.max(1, Math.min(copies, Math.floor((room + gap) / (design.width + gap))));
  const rows = Math.ceil(copies / across);
  // What the rollers want is said of the whole piece, its margins included.
  const lead = film.mat === 'none' ? Math.max(0, film.leadUm - 2 * margin) : 0;
  const rowsEnd = margin + lead + rows * design.height + (rows - 1) * gap;
  const inRow = across * design.width + (across - 1) * gap;
  const size = waste.mark ? witnessSize() : undefined;
  const free = copies % across === 0 ? 0 : inRow - (copies % across) * (design.width + gap);
  const beside = size !== undefined && free >= size.width && design.height >= size.height;
  const mark = size && {
    x: beside ? margin + inRow - size.width : margin,
    y: beside ? rowsEnd - size.height : rowsEnd,
    ...size,
  };
  const width = Math.max(inRow, size?.width ?? 0) + 2 * margin;
  const plain = (mark && !beside ? rowsEnd + mark.height : rowsEnd) + margin;
  const height = Math.max(plain, film.minLengthUm);
  const inset = margin / 2;
  return {
    width,
    height,
    ...(mark ? { mark } : {}),
    ...(waste.frame
      ? { frame: { x: inset, y: lead + inset, width: width - 2 * inset, height: height - lead - 2 * inset } }
      : {}),
    copies: Array.from({ length: copies }, (_, i) => ({
      x: margin + (i % across) * (design.width + gap),
      y: margin + lead + Math.floor(i / across) * (design.height + gap),
    })),
    because: [
      ...(taped ? (['tape'] as const) : []),
      ...(lead > 0 ? (['lead'] as const) : []),
      ...(mark && !beside ? (['mark'] as const) : []),
      ...(height > plain ? (['shortest'] as const) : []),
    ],
    tooWide: design.width > room,
  };
}

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
