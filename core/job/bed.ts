import type { Behaviour } from '../vinyls/index.ts';
import { filmPiece, filmPieceDefaults, type FilmPiece, type InTheWaste } from './filmPiece.ts';

/** What lies under the blade: a mat, and how wide the cutter cuts where somebody says. µm */
export type Under = { mat: { widthUm: number; lengthUm: number }; usableUm: number | undefined };

/** Where a design may lie, µm: its edges, and the margin of the film, are outside of it. A roll has no length that ends it. */
export type Bed = { widthUm: number; lengthUm: number | undefined; by: 'mat' | 'cutter' | 'roll' };

/**
 * Where a film is cut: on the mat, or as wide as its roll; never wider than the cutter cuts.
 * Source: common practice, no published source (a mat that takes 12 in cuts 11).
 */
export function bedOf(film: Pick<Behaviour, 'mat' | 'rollUm'>, { mat, usableUm = Infinity }: Under): Bed {
  const edges = 2 * filmPieceDefaults.matEdge;
  const matless = film.mat === 'none';
  const free = (matless ? (film.rollUm ?? mat.widthUm) : mat.widthUm) - edges;
  return {
    widthUm: Math.min(free, usableUm),
    lengthUm: matless ? undefined : mat.lengthUm - edges,
    by: usableUm < free ? 'cutter' : matless ? 'roll' : 'mat',
  };
}

/** Why a layer does not go under the blade at once, and what would help. */
export type TooLarge = {
  by: Bed['by'];
  bed: Bed;
  /** How many copies of it lie there at once; 0: not even one. */
  fits: number;
  /** In how many rounds all of them are cut; undefined where not even one fits. */
  rounds: number | undefined;
  /** At this share of its size one fits; undefined where one fits. */
  share: number | undefined;
  /** The mats on which all of it fits. */
  mats: string[];
};

/** The film of a layer as somebody asks for it. */
export type Asked = {
  /** Width and height of the layer on its own, µm. */
  design: { width: number; height: number };
  copies: number;
  film: Pick<Behaviour, 'mat' | 'rollUm' | 'bond' | 'leadUm' | 'minLengthUm'>;
  waste?: InTheWaste;
};

/** The film of a layer on what lies under the blade. */
export const filmOn = ({ design, copies, film, waste }: Asked, under: Under): FilmPiece =>
  filmPiece(design, copies, film, bedOf(film, under), waste);

/**
 * Whether a layer is larger than what lies under the blade, however it is turned, and what decides that; undefined where it fits.
 * @param others further mats that could be laid, by id
 */
export function tooLarge(
  asked: Asked,
  under: Under,
  others: readonly { id: string; widthUm: number; lengthUm: number }[] = [],
): TooLarge | undefined {
  const { over } = filmOn(asked, under);
  if (!over) return undefined;
  const { design, copies, film } = asked;
  const bed = bedOf(film, under);
  const { widthUm: w, lengthUm: l = Infinity } = bed;
  return {
    by: bed.by,
    bed,
    fits: over.fits,
    rounds: over.fits > 0 ? Math.ceil(copies / over.fits) : undefined,
    share:
      over.fits > 0
        ? undefined
        : Math.max(Math.min(w / design.width, l / design.height), Math.min(w / design.height, l / design.width)),
    mats: film.mat === 'none' ? [] : others.filter((mat) => !filmOn(asked, { ...under, mat }).over).map(({ id }) => id),
  };
}
