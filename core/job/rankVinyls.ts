import { colourDistance } from '../artwork/index.ts';
import type { Suits } from '../vinyls/index.ts';

/** A vinyl that could show a layer: what is known of it here. */
export type VinylOffer = {
  id: string;
  hex: string;
  suits: Suits['verdict'];
  /** Whether there is enough of it in stock. */
  inStock: boolean;
  standing: string | undefined;
};
export type RankedVinyl<V extends VinylOffer> = V & { distance: number };

const stands: Record<string, number> = { proven: 0, tried: 1, draft: 2, doubted: 3, retired: 4 };

export const rankDefaults = {
  /** Colours nearer than this stand for each other at arm's length, ΔE00. Common practice, no source. */
  near: 20,
};

/**
 * Vinyls for one layer, the best first: what the surface takes, then what is in stock and proven, then the nearer colour. Only colours that
 * stand for each other at arm's length are in the first rows; others follow by colour.
 */
export function rankVinyls<V extends VinylOffer>(offers: readonly V[], hex: string): RankedVinyl<V>[] {
  const verdict = { suits: 0, care: 1, not: 2 };
  const far = (d: number) => (d <= rankDefaults.near ? 0 : 1);
  return offers
    .map((o) => ({ ...o, distance: colourDistance(o.hex, hex) }))
    .sort(
      (a, b) =>
        verdict[a.suits] - verdict[b.suits] ||
        far(a.distance) - far(b.distance) ||
        Number(b.inStock) - Number(a.inStock) ||
        (stands[a.standing ?? ''] ?? 2.5) - (stands[b.standing ?? ''] ?? 2.5) ||
        a.distance - b.distance ||
        (a.id < b.id ? -1 : 1),
    );
}
