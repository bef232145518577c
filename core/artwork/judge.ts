import type { ArtLayer, Artwork } from './artwork.ts';
import { faultDefaults, faultsOf, ofFilm, smallestUm, troubleFreeUm, type Fault, type FilmNeeds } from './faults.ts';
import type { Mend } from './mend.ts';

/** A layer of a drawing in the film it is cut from. */
export type FilmedLayer = { layer: Pick<ArtLayer, 'id' | 'narrow'>; film: FilmNeeds };

/** Whether a drawing cuts and weeds at one size in its films. Lengths in µm. */
export type Judgement = {
  /** Each layer with what of it is too narrow, the worst first. */
  layers: { layer: string; faults: Fault[] }[];
  /** Everything that is too narrow, the worst first. */
  faults: Fault[];
  /** From which width of the drawing on nothing is too narrow: 0 where nothing ever is, undefined where no size helps. */
  free: number | undefined;
  /** Below which width a piece or a hole vanishes; undefined where no size keeps it. */
  smallest: number | undefined;
};

/**
 * Will this drawing cut and weed at this size? The one answer: every page and paper asks here.
 * @param widthUm how wide the whole drawing is to be
 */
export function judge(
  drawing: Pick<Artwork, 'width' | 'height'>,
  layers: readonly FilmedLayer[],
  widthUm: number,
): Judgement {
  const judged = layers.map(({ layer, film }) => ({
    layer: layer.id,
    faults: faultsOf(drawing, layer, film, widthUm),
  }));
  return {
    layers: judged,
    faults: judged.flatMap((j) => j.faults).sort((a, b) => a.widthUm / a.neededUm - b.widthUm / b.neededUm),
    free: troubleFreeUm(drawing, layers),
    smallest: smallestUm(drawing, layers),
  };
}

/** A mended place has so much more than it needs, µm: outlines are in whole units. */
const SPARE = 10;

/** How wide a gap is drawn so that it stays open in a film, µm. */
export const openTo = (film: FilmNeeds): number => film.gap + 2 * film.growth + SPARE;

/** What makes a layer thick enough and its gaps wide enough, with the drawing as wide as before; [] where nothing is wrong with it. */
export function mendsFor(layer: string, faults: readonly Fault[], film: FilmNeeds): Mend[] {
  const short = Math.max(0, ...faults.filter(ofFilm).map((f) => f.neededUm - f.widthUm));
  return [
    ...(short > 0 ? [{ do: 'thicken' as const, layer, by: (short + SPARE) / 2 }] : []),
    // Two lines on each other are joined: opened, they would be a slit that nobody drew.
    ...(faults.some((f) => f.kind === 'twice')
      ? [{ do: 'close' as const, layer, under: faultDefaults.oneCut + SPARE }]
      : []),
    ...(faults.some((f) => !ofFilm(f) && f.kind !== 'twice') ? [{ do: 'open' as const, layer, to: openTo(film) }] : []),
  ];
}
