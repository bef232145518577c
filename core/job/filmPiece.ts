import type { ClosedPath } from '../artwork/index.ts';
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
};

/** A piece of film to trim for one part, µm: its size, and where each copy of the design lies on it from the left top corner. */
export type FilmPiece = {
  width: number;
  height: number;
  copies: { x: number; y: number }[];
  /** Why it is larger than the design with its margin. */
  because: ('tape' | 'lead' | 'shortest')[];
  /** Whether it is wider than the mat takes. */
  tooWide: boolean;
};

/**
 * The piece of film for so many copies of one layer, in rows across the mat. A film without a mat is longer by its lead, one that is
 * taped down has a border. Source: common practice, no published source.
 *
 * @param design width and height of the layer on its own, µm
 * @param matWidth of the mat, or of the roll where there is none
 */
export function filmPiece(
  design: { width: number; height: number },
  copies: number,
  film: Pick<Behaviour, 'mat' | 'bond' | 'leadUm' | 'minLengthUm'>,
  matWidth: number,
): FilmPiece {
  const { gap, matEdge } = filmPieceDefaults;
  const taped = film.bond === 'glue';
  const margin = taped ? filmPieceDefaults.tape : filmPieceDefaults.margin;
  const room = matWidth - 2 * matEdge;
  const across = Math.max(1, Math.min(copies, Math.floor((room + gap) / (design.width + gap))));
  const rows = Math.ceil(copies / across);
  const width = across * design.width + (across - 1) * gap + 2 * margin;
  const plain = rows * design.height + (rows - 1) * gap + 2 * margin;
  const lead = film.mat === 'none' ? film.leadUm : 0;
  const height = Math.max(plain + lead, film.minLengthUm);
  return {
    width,
    height,
    copies: Array.from({ length: copies }, (_, i) => ({
      x: margin + (i % across) * (design.width + gap),
      y: margin + lead + Math.floor(i / across) * (design.height + gap),
    })),
    because: [
      ...(taped ? (['tape'] as const) : []),
      ...(lead > 0 ? (['lead'] as const) : []),
      ...(height > plain + lead ? (['shortest'] as const) : []),
    ],
    tooWide: design.width > room,
  };
}

/** Every line to cut of a part: its design once for each copy, on the piece of film as it lies. */
export function partPaths(design: readonly ClosedPath[], copies: FilmPiece['copies']): ClosedPath[] {
  return copies.flatMap(({ x, y }) =>
    design.map((p): ClosedPath => ({ closed: true, points: p.points.map(([a, b]) => [a + x, b + y] as const) })),
  );
}
