import { Clipper, ClipType, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import type { ArtLayer, Artwork } from './artwork.ts';
import { faultDefaults } from './faults.ts';
import type { Narrow } from './narrow.ts';
import { outlineDefaults } from './outline.ts';
import { knockOut } from './pairs.ts';
import {
  boxOf,
  holds,
  pathOfRings,
  ringArea,
  ringsOfLayer,
  ringsOfPath,
  toPaths,
  toRings,
  type Ring,
} from './rings.ts';
import { readArtwork } from './readArtwork.ts';
import { writeSvg } from './writeSvg.ts';

/** What can be done to a drawing so that it cuts and weeds. Lengths in µm at the size it is wanted in, areas in mm². */
export type Mend =
  /** A layer below everything, as far round it as `by`: what lies on it is held together. */
  | { do: 'outline'; by: number; hex: string; corners: 'round' | 'mitred' }
  /** Closes holes of a layer: all, or those under an area. */
  | { do: 'fill'; layer: string; under?: number | undefined }
  /** Closes the one hole that a point lies in, shares of the drawing. */
  | { do: 'fill one'; layer: string; x: number; y: number }
  /** Takes away pieces of a layer under an area. */
  | { do: 'specks'; layer: string; under: number }
  /** Closes gaps of a layer that are narrower than this. */
  | { do: 'close'; layer: string; under: number }
  /** Opens what lies between the film of a layer, holes and gaps, to this width where it is narrower; what is wide enough stays as it is drawn. */
  | { do: 'open'; layer: string; to: number }
  /** Makes a layer thicker on both sides. */
  | { do: 'thicken'; layer: string; by: number }
  /** Cuts the shape of an upper layer out of a lower one, so that they lie side by side and overlap by so much. */
  | { do: 'knock out'; lower: string; upper: string; choke: number }
  /** Takes a layer away. */
  | { do: 'remove'; layer: string }
  /** Splits everything along a line, level or upright, at a share of the height or width, and moves the halves so far apart. */
  | { do: 'split'; along: 'level' | 'upright'; at: number; gap: number };

export const mendDefaults = {
  /** A hole or a speck is small under this area, mm²: a square of 2 mm. Judgement, no source. */
  small: 4,
};

const pathsOf = (d: string): Paths64 => toPaths(ringsOfPath(d));

/**
 * A drawing mended, as SVG text: read again like any other, so that what is shown after is what is cut. The drawing before it stays as it
 * was: whoever kept it goes back to it.
 *
 * @param mends what is done, one after the other, each at the layers as they were read
 * @param widthUm how wide the whole drawing is to be: what is done is measured at that size
 * @returns the text, and the width that keeps everything in it as large as it was
 * @throws RangeError for a layer that is not there
 */
export function mended(artwork: Artwork, mend: Mend, widthUm: number): { svg: string; widthUm: number } {
  const um = widthUm / artwork.width;
  const layers = artwork.layers.map(({ hex, d }) => ({ hex, d }));
  const change = (id: string, work: (paths: Paths64, layer: ArtLayer) => Paths64) => {
    const i = artwork.layers.findIndex((l) => l.id === id);
    if (i < 0) throw new RangeError(`there is no layer ${id}`);
    layers[i] = {
      hex: layers[i]!.hex,
      d: pathOfRings(toRings(work(pathsOf(layers[i]!.d), artwork.layers[i]!))),
    };
  };
  const unitArea = (mm2: number) => (mm2 * 1e6) / (um * um);
  const inflate = (paths: Paths64, by: number, join = JoinType.Round) =>
    Clipper.inflatePaths(paths, by / um, join, EndType.Polygon, 2, Math.max(1, outlineDefaults.arc / um));
  switch (mend.do) {
    case 'outline': {
      const all = Clipper.booleanOp(
        ClipType.Union,
        artwork.layers.flatMap((l) => pathsOf(l.d)),
        null,
        FillRule.NonZero,
      );
      const rim = inflate(all, mend.by, mend.corners === 'mitred' ? JoinType.Miter : JoinType.Round);
      layers.unshift({ hex: freeColour(artwork, mend.hex), d: pathOfRings(toRings(rim)) });
      break;
    }
    case 'fill': {
      const most = mend.under === undefined ? Infinity : unitArea(mend.under);
      change(mend.layer, (paths) => paths.filter((p) => Clipper.area(p) > 0 || -Clipper.area(p) >= most));
      break;
    }
    case 'fill one': {
      const [x, y] = [mend.x * artwork.width, mend.y * artwork.height];
      change(mend.layer, (paths) => {
        const hole = holeIn(toRings(paths), x, y);
        return paths.filter((_, i) => i !== hole);
      });
      break;
    }
    case 'specks': {
      const most = unitArea(mend.under);
      change(mend.layer, (paths) => paths.filter((p) => Clipper.area(p) < 0 || Clipper.area(p) >= most));
      break;
    }
    case 'close':
      // Grown by half of it and shrunk again: what met stays joined (closing, Serra, Image Analysis and Mathematical Morphology, 1982).
      change(mend.layer, (paths) => inflate(inflate(paths, mend.under / 2), -mend.under / 2));
      break;
    case 'open':
      change(mend.layer, (paths, layer) =>
        opened(paths, layer.narrow, [faultDefaults.oneCut / um, mend.to / um], outlineDefaults.arc / um),
      );
      break;
    case 'thicken':
      change(mend.layer, (paths) => inflate(paths, mend.by));
      break;
    case 'knock out': {
      const upper = artwork.layers.find((l) => l.id === mend.upper);
      if (!upper) throw new RangeError(`there is no layer ${mend.upper}`);
      change(mend.lower, (paths) => knockOut(paths, pathsOf(upper.d), mend.choke / um));
      break;
    }
    case 'remove':
      change(mend.layer, () => []);
      break;
    case 'split':
      for (const { id } of artwork.layers) change(id, (paths) => split(paths, artwork, mend, mend.gap / um));
  }
  const shown = layers.filter((l) => l.d !== '');
  const box = boxOf(shown.flatMap((l) => ringsOfPath(l.d)));
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  return {
    svg: writeSvg(shown, { left: box.left, top: box.top, width, height }),
    widthUm: Math.round(width * um),
  };
}

/**
 * Film with its narrow gaps opened: what is narrower than wanted of the waste is found as what no disc of that width fits into (top-hat: Serra,
 * Image Analysis and Mathematical Morphology, 1982), and grows on both sides by half of what its narrowest place lacks. The outside of the
 * film, and every gap that is wide enough, stays where it is.
 * @param narrow the narrow places of the layer, as they were found
 * @param widths in units: below the first two lines are one cut and stay so; a gap is to be as wide as the second
 * @param arc how far a curve may be off, units
 */
function opened(film: Paths64, narrow: readonly Narrow[], widths: readonly [number, number], arc: number): Paths64 {
  const [from, to] = widths;
  const places = narrow.filter((n) => n.of === 'gap' && n.width < to && n.width >= from);
  if (places.length === 0) return film;
  const grown = (paths: Paths64, by: number) =>
    Clipper.inflatePaths(paths, by, JoinType.Round, EndType.Polygon, 2, Math.max(1, arc));
  const { left, top, right, bottom } = boxOf(toRings(film));
  const far = 2 * to;
  const round: Paths64 = [
    [
      { x: left - far, y: top - far },
      { x: right + far, y: top - far },
      { x: right + far, y: bottom + far },
      { x: left - far, y: bottom + far },
    ],
  ];
  const waste = Clipper.booleanOp(ClipType.Difference, round, film, FillRule.NonZero);
  const wide = grown(grown(waste, -to / 2), to / 2);
  const tight = toRings(Clipper.booleanOp(ClipType.Difference, waste, wide, FillRule.NonZero));
  const away = places.flatMap((place): Paths64 => {
    const stretch = tight.filter((ring) => ringArea(ring) > 0 && holds(ring, [place.x, place.y]));
    const disc = discOf(place.x, place.y, to / 2 + arc, arc);
    return [disc, ...grown(toPaths(stretch), (to - place.width) / 2 + arc)];
  });
  const all = Clipper.booleanOp(ClipType.Union, away, null, FillRule.NonZero);
  return Clipper.booleanOp(ClipType.Difference, film, all, FillRule.NonZero);
}

/** A disc as an outline, no further off it than `arc`. */
function discOf(x: number, y: number, r: number, arc: number): Paths64[number] {
  const n = Math.max(12, Math.ceil(Math.PI / Math.acos(Math.max(0.5, 1 - arc / r))));
  return Array.from({ length: n }, (_, i) => ({
    x: Math.round(x + r * Math.cos((2 * Math.PI * i) / n)),
    y: Math.round(y + r * Math.sin((2 * Math.PI * i) / n)),
  }));
}

/**
 * A drawing mended in several ways, one after the other; read again after each, as whoever looks at it would.
 * @throws RangeError for a layer that is not there, ArtworkError where nothing is left
 */
export function mendedAll(
  artwork: Artwork,
  mends: readonly Mend[],
  widthUm: number,
): { svg: string; artwork: Artwork; widthUm: number } {
  let now = { svg: writeSvg(artwork.layers, artwork), artwork, widthUm };
  for (const mend of mends) {
    const after = mended(now.artwork, mend, now.widthUm);
    now = { ...after, artwork: readArtwork(after.svg) };
  }
  return now;
}

/** Outlines cut along a line, what is right of it or below moved away. */
function split(
  paths: Paths64,
  { width, height }: Pick<Artwork, 'width' | 'height'>,
  { along, at }: Extract<Mend, { do: 'split' }>,
  gap: number,
): Paths64 {
  const far = 4 * (width + height);
  const [x, y] = along === 'upright' ? [Math.round(at * width), -far] : [-far, Math.round(at * height)];
  const beyond = [
    [
      { x, y },
      { x: x + 2 * far, y },
      { x: x + 2 * far, y: y + 2 * far },
      { x, y: y + 2 * far },
    ],
  ];
  const cut = (how: ClipType) => Clipper.booleanOp(how, paths, beyond, FillRule.NonZero);
  const by = Math.round(gap);
  return [
    ...cut(ClipType.Difference),
    ...Clipper.translatePaths(cut(ClipType.Intersection), along === 'upright' ? by : 0, along === 'upright' ? 0 : by),
  ];
}

/** The smallest hole that a point lies in, where that point is waste; undefined where it lies in none. */
function holeIn(rings: readonly Ring[], x: number, y: number): number | undefined {
  const around = rings.flatMap((ring, i) => (holds(ring, [x, y]) ? [{ i, area: ringArea(ring) }] : []));
  const nearest = around.sort((a, b) => Math.abs(a.area) - Math.abs(b.area))[0];
  return nearest && nearest.area < 0 ? nearest.i : undefined;
}

/**
 * The layer in which a point lies in a hole, the topmost first; undefined where it lies in none.
 * @param x share of the drawing's width, y of its height
 */
export function layerOfHole(artwork: Artwork, x: number, y: number): string | undefined {
  const at = [x * artwork.width, y * artwork.height] as const;
  return artwork.layers.findLast((l) => holeIn(ringsOfPath(l.d), ...at) !== undefined)?.id;
}

/** A colour that no layer has, as near as can be to the one asked for: layers of one colour would be one. */
function freeColour(artwork: Artwork, hex: string): string {
  let n = parseInt(hex.slice(1), 16);
  const taken = new Set(artwork.layers.map((l) => l.hex));
  for (;;) {
    const said = `#${n.toString(16).padStart(6, '0')}`;
    if (!taken.has(said)) return said;
    n = n === 0xffffff ? 0 : n + 1;
  }
}

/** Holes of a layer that are small at a size, and pieces that are: how many would go. */
export function smallOf(
  artwork: Pick<Artwork, 'width'>,
  layer: Pick<ArtLayer, 'd'>,
  widthUm: number,
): { holes: number; specks: number } {
  const um = widthUm / artwork.width;
  const most = (mendDefaults.small * 1e6) / (um * um);
  const areas = ringsOfLayer(layer).map(ringArea);
  return {
    holes: areas.filter((a) => a < 0 && -a < most).length,
    specks: areas.filter((a) => a > 0 && a < most).length,
  };
}
