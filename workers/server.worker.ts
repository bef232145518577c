import { readEvenness, type EvennessQuestion } from '#core/evenness/index.ts';
import { PackError, readPack, type Pack } from '#core/pack/index.ts';
import { planCoupon, type PlanInput } from '#core/planner/index.ts';
import { shelfKeeper, type ShelfAsked } from '#core/transfer/index.ts';
import { fit, type FitInput } from '#core/window/index.ts';

// A thin door for the server's pool of threads: what would hold up its event loop.
export type Asked =
  | { fit: FitInput }
  | { plan: PlanInput }
  | { evenness: EvennessQuestion }
  | { shelf: ShelfAsked }
  | { pack: Uint8Array };

const askShelf = shelfKeeper();

export default function compute(asked: Asked) {
  if ('fit' in asked) return fit(asked.fit);
  if ('shelf' in asked) return askShelf(asked.shelf);
  if ('pack' in asked) return tryPack(asked.pack);
  return 'plan' in asked ? planCoupon(asked.plan) : readEvenness(asked.evenness);
}

/** Errors lose their kind between threads: what is wrong with a pack comes back as a word. */
function tryPack(bytes: Uint8Array): { pack: Pack } | { wrong: string } {
  try {
    return { pack: readPack(bytes) };
  } catch (error) {
    if (error instanceof PackError) return { wrong: error.message };
    throw error;
  }
}
