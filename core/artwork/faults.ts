import type { Artwork, ArtLayer } from './artwork.ts';
import type { Narrow } from './narrow.ts';

export const faultDefaults = {
  /** Two lines nearer than this are one cut made twice: a blade's own cut is about as wide, µm. Judgement, no source. */
  oneCut: 150,
};

/** What a vinyl needs of a drawing, µm. */
export type FilmNeeds = {
  /** The narrowest line that weeds. */
  line: number;
  /** The narrowest gap that stays open. */
  gap: number;
  /** How far its edge moves outward when it is pressed: a gap has two edges. */
  growth: number;
};

export type Fault = {
  layer: string;
  kind: 'neck' | 'stroke' | 'gap' | 'closes' | 'twice';
  /** Where it is, shares of the drawing's width and height. */
  x: number;
  y: number;
  /** As wide as it is at this size, and as it must be, µm. A gap is counted after the film has grown. */
  widthUm: number;
  neededUm: number;
  /** As wide as it is cut, before anything grows, µm. */
  cutUm: number;
};

/** What a narrow place must be at least, µm, before the film grows. */
const needed = (place: Narrow, film: FilmNeeds) => (place.of === 'film' ? film.line : film.gap + 2 * film.growth);

/** What a place narrower than `wide` units is: between two wider stretches it joins them, else it is as narrow all over. */
function kindOf(place: Narrow, wide: number, um: number): Fault['kind'] {
  if (place.of === 'film') return place.rise >= wide ? 'neck' : 'stroke';
  if (place.width * um < faultDefaults.oneCut) return 'twice';
  return place.rise >= wide ? 'gap' : 'closes';
}

/** Whether a fault is of the film, which may be made thicker; the others are of what is between it. */
export const ofFilm = ({ kind }: Pick<Fault, 'kind'>): boolean => kind === 'neck' || kind === 'stroke';

const unitUm = (drawing: Pick<Artwork, 'width'>, widthUm: number) => widthUm / drawing.width;

/**
 * What of a layer is too narrow for its vinyl at a size, the worst first.
 * @param widthUm how wide the whole drawing is to be
 */
export function faultsOf(
  drawing: Pick<Artwork, 'width' | 'height'>,
  layer: Pick<ArtLayer, 'id' | 'narrow'>,
  film: FilmNeeds,
  widthUm: number,
): Fault[] {
  const um = unitUm(drawing, widthUm);
  return layer.narrow
    .flatMap((place): Fault[] => {
      const least = needed(place, film);
      const wide = place.width * um;
      if (wide >= least) return [];
      return [
        {
          layer: layer.id,
          kind: kindOf(place, least / um, um),
          x: place.x / drawing.width,
          y: place.y / drawing.height,
          widthUm: Math.round(place.of === 'film' ? wide : Math.max(0, wide - 2 * film.growth)),
          neededUm: place.of === 'film' ? film.line : film.gap,
          cutUm: Math.round(wide),
        },
      ];
    })
    .sort((a, b) => a.widthUm / a.neededUm - b.widthUm / b.neededUm);
}

/** A width of a drawing as somebody could set it, µm; undefined where no size is enough: what has no width gets none by being enlarged. */
const reachable = (um: number): number | undefined => (Number.isFinite(um) ? Math.ceil(um) : undefined);

/**
 * The least width of the whole drawing at which nothing of some layers is too narrow, µm; 0 where nothing is narrow at any size, undefined where
 * no size helps. Widths scale with the drawing, so each place says by itself how wide the drawing must be.
 */
export function troubleFreeUm(
  drawing: Pick<Artwork, 'width' | 'height'>,
  layers: readonly { layer: Pick<ArtLayer, 'narrow'>; film: FilmNeeds }[],
): number | undefined {
  let least = 0;
  for (const { layer, film } of layers)
    for (const place of layer.narrow) least = Math.max(least, (needed(place, film) / place.width) * drawing.width);
  return reachable(least);
}

/** Below this width a piece or a hole of the drawing vanishes whole, µm: those that are narrow all over. Undefined where no size keeps it. */
export function smallestUm(
  drawing: Pick<Artwork, 'width' | 'height'>,
  layers: readonly { layer: Pick<ArtLayer, 'narrow'>; film: FilmNeeds }[],
): number | undefined {
  let least = 0;
  for (const { layer, film } of layers)
    for (const place of layer.narrow)
      if (place.rise <= place.width) least = Math.max(least, (needed(place, film) / place.width) * drawing.width);
  return reachable(least);
}

/**
 * The finest line and gap of a layer at a size, µm: what a coupon must hold for the job to hold as well. Undefined where nothing of the kind is narrow.
 */
export function finestOf(
  drawing: Pick<Artwork, 'width'>,
  { narrow }: Pick<ArtLayer, 'narrow'>,
  widthUm: number,
): { line: number | undefined; gap: number | undefined } {
  const um = unitUm(drawing, widthUm);
  const least = (of: 'film' | 'gap') => {
    const widths = narrow.flatMap((n) => (n.of === of ? [n.width * um] : []));
    return widths.length > 0 ? Math.round(Math.min(...widths)) : undefined;
  };
  return { line: least('film'), gap: least('gap') };
}
