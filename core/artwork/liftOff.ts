import type { ArtLayer, Artwork } from './artwork.ts';
import { finestOf, type FilmNeeds } from './faults.ts';
import { boxOf, crossings, ringArea, ringsOfLayer, type Ring } from './rings.ts';
import type { WeedTime } from './weedTime.ts';

/**
 * What lifting a design off whole costs, minutes, and how often it goes wrong. Common practice, no source: an intricate piece took three
 * minutes of cutting and two of poking against an hour and fifty of weeding. The chances are judgement.
 */
const liftOffDefaults = {
  /** Cutting through takes a pass more: minutes a metre. */
  cutting: 0.4,
  /** To lift it off the mat, and to scrape the mat after. */
  lifting: 2,
  scraping: 2,
  /** An inner piece that hangs is poked out: so many of them hang, and a poke takes so long. */
  hangs: 0.25,
  poke: 0.06,
  /** A piece that is placed by hand. */
  place: 0.75,
  /** Chance that it tears where its thinnest joint is wide (from `strong` times the least line on), narrower, or below the least line. */
  tears: { wide: 0.05, narrow: 0.25, thin: 0.6 },
  strong: 2,
  /** A film that hardly holds on its carrier comes off with it more easily: the chance is so much larger. */
  loose: 1.5,
  /** So many pieces can be placed by hand, if each is at least as large as a square with this side, µm. */
  few: 6,
  large: 25_000,
};

export type LiftOff = {
  do: 'weed' | 'lift';
  /** Expected minutes of either way, a second try included; undefined where a way is none. */
  minutes: { weed: number; lift: number | undefined };
  /** What speaks for it: one piece, a few large ones, or none of both. */
  because: 'one piece' | 'few large pieces' | 'many pieces';
  /** Chance that it tears when it is lifted whole. */
  tears: number;
  /** The edge to begin at: there most of its film hangs together. */
  from: 'top' | 'right' | 'bottom' | 'left';
};

/**
 * Whether a layer is weeded as usual, or cut right through its carrier and lifted off whole.
 *
 * @param weed how long weeding takes
 * @param tack how well the film holds on its carrier
 * @param fewPresses whether the blank bears few presses: then a few large pieces are worth placing by hand
 */
export function liftOff(
  drawing: Pick<Artwork, 'width'>,
  layer: Pick<ArtLayer, 'd' | 'pieces' | 'holes' | 'length' | 'narrow'>,
  film: Pick<FilmNeeds, 'line'>,
  widthUm: number,
  weed: Pick<WeedTime, 'minutes'>,
  { tack = 'medium', fewPresses = false }: { tack?: 'low' | 'medium' | 'high'; fewPresses?: boolean } = {},
): LiftOff {
  const d = liftOffDefaults;
  const um = widthUm / drawing.width;
  const rings = ringsOfLayer(layer);
  const sides = rings.flatMap((ring) => (ringArea(ring) > 0 ? [Math.sqrt(ringArea(ring)) * um] : []));
  const because =
    layer.pieces === 1
      ? 'one piece'
      : layer.pieces <= d.few && sides.every((s) => s >= d.large)
        ? 'few large pieces'
        : 'many pieces';
  const thinnest = finestOf(drawing, layer, widthUm).line ?? Infinity;
  const joints =
    thinnest >= d.strong * film.line ? d.tears.wide : thinnest >= film.line ? d.tears.narrow : d.tears.thin;
  const tears = Math.min(0.9, joints * (tack === 'low' ? d.loose : 1));
  const once =
    (d.cutting * layer.length * um) / 1e6 +
    d.lifting +
    d.scraping +
    d.hangs * d.poke * layer.holes +
    (layer.pieces > 1 ? d.place * layer.pieces : 0);
  // Torn, it is cut and lifted again.
  const lift = because === 'many pieces' ? undefined : once / (1 - tears);
  const pays = because === 'one piece' || fewPresses;
  return {
    do: lift !== undefined && pays && (fewPresses || lift < weed.minutes) ? 'lift' : 'weed',
    minutes: { weed: weed.minutes, lift: lift === undefined ? undefined : Number(lift.toFixed(2)) },
    because,
    tears: Number(tears.toFixed(2)),
    from: strongest(rings),
  };
}

/** The side along which most film lies: each is looked at along a line a tenth in. */
function strongest(rings: readonly Ring[]): LiftOff['from'] {
  const { left, top, right, bottom } = boxOf(rings);
  const [w, h] = [right - left, bottom - top];
  const turned = rings.map((ring): Ring => ring.map(([x, y]) => [y, x] as const));
  // Off the round numbers that corners lie on.
  const inset = 0.1 + 1e-4;
  const held: Record<LiftOff['from'], number> = {
    bottom: filmAlong(rings, bottom - inset * h) / w,
    top: filmAlong(rings, top + inset * h) / w,
    left: filmAlong(turned, left + inset * w) / h,
    right: filmAlong(turned, right - inset * w) / h,
  };
  return (Object.keys(held) as LiftOff['from'][]).reduce((a, b) => (held[b] > held[a] + 1e-9 ? b : a));
}

/** How much film lies along a level line. */
function filmAlong(rings: readonly Ring[], y: number): number {
  const at = rings.flatMap((ring) => crossings(ring, y)).sort((a, b) => a - b);
  let film = 0;
  for (let i = 0; i + 1 < at.length; i += 2) film += at[i + 1]! - at[i]!;
  return film;
}
