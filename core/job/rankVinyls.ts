import { colourDistance } from '../artwork/index.ts';
import { overBlank, type Behaviour, type Suits } from '../vinyls/index.ts';

/** A vinyl that could show a layer: what is known of it here. */
export type VinylOffer = {
  id: string;
  hex: string;
  suits: Suits['verdict'];
  /** Whether there is enough of it in stock. */
  inStock: boolean;
  standing: string | undefined;
  /** How much shows through it, whether it rises in the press, and whether it is meant to be printed. */
  opacity: Behaviour['opacity'];
  raised: boolean;
  printed: boolean;
};

/** Where a layer lies: on a blank of this colour, or wholly on the film of another layer; and whether another layer lies on it. */
export type LayerPlace = { blank: string; covered: boolean; onFilm?: boolean };

/** What speaks for a vinyl or against it, a word each: what its layer asks first. */
export type OfferWord =
  'top only' | 'print first' | 'hardly shows' | 'same colour' | 'near colour' | 'other colour' | 'in stock';

export type RankedVinyl<V extends VinylOffer> = V & {
  /** From the colour of the drawing to the one that is seen on the blank, ΔE00. */
  distance: number;
  words: OfferWord[];
};

const rankDefaults = {
  /** Colours nearer than this stand for each other at arm's length, ΔE00. Common practice, no source. */
  near: 20,
  /** Colours nearer than this are the same colour to a crafter, ΔE00. Common practice, no source. */
  same: 10,
  /** A film nearer than this to the colour of its blank is hardly seen on it, ΔE00. Judgement: 10 is "the same red". */
  hidden: 12,
};

const stands: Record<string, number> = { proven: 0, tried: 1, draft: 2, doubted: 3, retired: 4 };
const standing = (o: VinylOffer): number => stands[o.standing ?? ''] ?? 2.5;

function wordsOf(
  o: VinylOffer,
  hex: string,
  at: LayerPlace,
): { words: OfferWord[]; distance: number; against: number[] } {
  const seen = overBlank(o.hex, o.opacity, at.blank).hex;
  const distance = colourDistance(seen, hex);
  const role: OfferWord | undefined = at.covered && o.raised ? 'top only' : o.printed ? 'print first' : undefined;
  const hidden = !at.onFilm && colourDistance(seen, at.blank) < rankDefaults.hidden;
  const colour: OfferWord =
    distance < rankDefaults.same ? 'same colour' : distance < rankDefaults.near ? 'near colour' : 'other colour';
  return {
    distance,
    against: [Number(role !== undefined), Number(hidden), Number(distance >= rankDefaults.near)],
    words: [
      ...(role ? [role] : []),
      ...(hidden ? ['hardly shows' as const] : []),
      colour,
      ...(o.inStock ? ['in stock' as const] : []),
    ],
  };
}

/**
 * Vinyls for one layer, the best first: what the surface takes, what may lie where the layer lies, what is seen on the blank, whether the colour
 * stands for the drawn one at arm's length; then what was tested here, the nearer colour, what is in stock.
 */
export function rankVinyls<V extends VinylOffer>(offers: readonly V[], hex: string, at: LayerPlace): RankedVinyl<V>[] {
  const verdict = { suits: 0, care: 1, not: 2 };
  const close = (d: number) => Number(d >= rankDefaults.same);
  return offers
    .map((offer) => ({ offer, ...wordsOf(offer, hex, at) }))
    .sort((a, b) => {
      const [x, y] = [a.offer, b.offer];
      return (
        verdict[x.suits] - verdict[y.suits] ||
        a.against[0]! - b.against[0]! ||
        a.against[1]! - b.against[1]! ||
        a.against[2]! - b.against[2]! ||
        standing(x) - standing(y) ||
        close(a.distance) - close(b.distance) ||
        Number(y.inStock) - Number(x.inStock) ||
        a.distance - b.distance ||
        (x.id < y.id ? -1 : 1)
      );
    })
    .map(({ offer, distance, words }) => ({ ...offer, distance, words }));
}

/** Whether a vinyl may be proposed unasked: nothing speaks against it, and it is in hand. */
export const isProposal = ({ suits, words, standing: s, inStock }: RankedVinyl<VinylOffer>): boolean =>
  suits !== 'not' &&
  !words.some((w) => w === 'top only' || w === 'print first' || w === 'hardly shows' || w === 'other colour') &&
  (inStock || s === 'proven' || s === 'tried');
