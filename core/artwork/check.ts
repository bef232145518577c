import { Clipper, ClipType, FillRule } from 'clipper2-ts';
import type { ArtLayer, Artwork } from './artwork.ts';
import { layerOf } from './layerOf.ts';
import { faultsOf, type Fault, type FilmNeeds } from './faults.ts';
import { leastMitred, leastOutline, scaled, type Joint, type LeastOutline } from './outline.ts';
import { ringsOfPath, toPaths } from './rings.ts';
import { weedingLines, type WeedingLines } from './weedingLines.ts';
import { weedTime, type WeededPart, type WeedTime } from './weedTime.ts';

const checkDefaults = {
  /** A piece whose area is under that of a square so many lines wide is dragged along by the blade. Judgement, no source. */
  loose: 2,
  /** Film round a layer whose waste is cut into strips, µm: it is trimmed a bit larger. Common practice, no source. */
  round: 10_000,
};

/** A place that asks for care but is no fault: a sharp corner, a piece so small that the blade drags it along. µm, shares of the drawing. */
export type Care = { kind: 'corner' | 'loose'; x: number; y: number; degrees?: number; widthUm?: number };

/** What is to be said of one layer in one vinyl at one size. Lengths in µm, areas in mm². */
export type LayerCheck = {
  layer: string;
  hex: string;
  bounds: { x: number; y: number; width: number; height: number };
  areaMm2: number;
  pieces: number;
  holes: number;
  lengthUm: number;
  faults: Fault[];
  cares: Care[];
  onePiece: boolean;
  weed: WeedTime;
};

/**
 * Will this layer cut and weed in this vinyl at this size? Everything narrow was found once, when the drawing was read; another size or
 * another vinyl costs a filter.
 *
 * @param widthUm how wide the whole drawing is to be
 * @param slow how much slower the vinyl weeds than plain film
 * @param weeded parts whose weeding was timed
 */
export function checkLayer(
  drawing: Pick<Artwork, 'width' | 'height'>,
  layer: ArtLayer,
  film: FilmNeeds,
  widthUm: number,
  slow = 1,
  weeded: readonly WeededPart[] = [],
): LayerCheck {
  const um = widthUm / drawing.width;
  const faults = faultsOf(drawing, layer, film, widthUm);
  const { x, y, width, height } = layer.box;
  return {
    layer: layer.id,
    hex: layer.hex,
    bounds: { x: x * um, y: y * um, width: width * um, height: height * um },
    areaMm2: (layer.area * um * um) / 1e6,
    pieces: layer.pieces,
    holes: layer.holes,
    lengthUm: layer.length * um,
    faults,
    cares: caresOf(drawing, layer, film, um),
    onePiece: layer.pieces === 1,
    weed: weedTime(
      { holes: layer.holes, pieces: layer.pieces, metres: (layer.length * um) / 1e6, narrow: faults.length, slow },
      weeded,
    ),
  };
}

/** Sharp corners and bits that the blade drags along, at a size. */
function caresOf(
  drawing: Pick<Artwork, 'width' | 'height'>,
  { tips, bits }: Pick<ArtLayer, 'tips' | 'bits'>,
  film: FilmNeeds,
  um: number,
): Care[] {
  const at = (p: { x: number; y: number }) => ({ x: p.x / drawing.width, y: p.y / drawing.height });
  const loose = bits.filter((b) => b.side * um < checkDefaults.loose * film.line);
  return [
    ...loose.map((b): Care => ({ kind: 'loose', ...at(b), widthUm: Math.round(b.side * um) })),
    ...tips.map((t): Care => ({ kind: 'corner', ...at(t), degrees: t.degrees })),
  ];
}

/** The thinnest outline of a layer at a size, see `leastOutline`. In µm from the left top corner of the drawing. */
export function outlineOf(
  drawing: Pick<Artwork, 'width'>,
  layer: Pick<ArtLayer, 'd' | 'narrow'>,
  film: Pick<FilmNeeds, 'line'>,
  widthUm: number,
  pieces = 1,
): LeastOutline {
  const um = widthUm / drawing.width;
  const thin = layer.narrow.flatMap((n): Joint[] =>
    n.of === 'film' && n.width * um < film.line
      ? [{ x: Math.round(n.x * um), y: Math.round(n.y * um), width: Math.round(n.width * um) }]
      : [],
  );
  return leastOutline(scaled(ringsOfPath(layer.d), um), film.line, thin, pieces);
}

/**
 * The thinnest outline below everything, of all layers as one: round, and how far out one with mitred corners has to be. In µm from the left
 * top corner of the drawing.
 */
export function outlineOfAll(
  drawing: Artwork,
  line: number,
  widthUm: number,
): Omit<LeastOutline, 'rings'> & { mitred: number } {
  const paths = drawing.layers.flatMap(({ d }) => toPaths(ringsOfPath(d)));
  const all = layerOf('all', '#000000', Clipper.booleanOp(ClipType.Union, paths, null, FillRule.NonZero));
  const { radius, touching, joints } = outlineOf(drawing, all, { line }, widthUm);
  const mitred = leastMitred(scaled(ringsOfPath(all.d), widthUm / drawing.width), line, radius);
  return { radius, touching, joints, mitred };
}

/** Lines that cut the waste of each layer into strips a hand can hold, on a film a bit larger than it; µm from the left top corner of the drawing. */
export function wasteOf(drawing: Artwork, widthUm: number): Record<string, WeedingLines> {
  const um = widthUm / drawing.width;
  const round = checkDefaults.round;
  return Object.fromEntries(
    drawing.layers.map(({ id, d, box }) => [
      id,
      weedingLines(scaled(ringsOfPath(d), um), {
        x: box.x * um - round,
        y: box.y * um - round,
        width: box.width * um + 2 * round,
        height: box.height * um + 2 * round,
      }),
    ]),
  );
}
