import type { CampCause } from '../proof/index.ts';
import type { Translated } from '../transfer/index.ts';
import { curveAt, shownFit, type FitResult, type ShownFit, placeToSet } from '../window/index.ts';

/** Where a number comes from: one's own cells, others on the same cutter model, others on theirs, or the type alone. */
export type From = 'here' | 'others' | 'translated' | 'type';

/** Crafters who set much the same, where others set something else. */
type CampHere = {
  people: number;
  settings: number;
  /** What tells it apart: models, batches or blades. */
  values: string[];
  /** Its number on the cutter on the bench, where it can be said. */
  number: number | undefined;
  /** Whether this very cutter model is one of them. */
  here: boolean;
};
export type Split = { by: CampCause; camps: CampHere[] };
export type Camp = CampHere & { number: number };

/**
 * What to set for a vinyl on the cutter on the bench, now: with the blade that is on it, as worn as it is. Every screen, chart and file
 * that says a number for a bench says this one.
 */
export type Answer = {
  /** The place on the cutter's axis; undefined where crafters fall into two camps, since a middle suits nobody. */
  position: number | undefined;
  from: From | 'kept';
  /** The chance that it comes out as wanted there; undefined where nothing was read. */
  chance: number | undefined;
  /** The number that was kept, where another is to be set now. */
  keptBefore: number | undefined;
  /** Two or more numbers that crafters set, each good for those who set it. */
  camps: Camp[] | undefined;
};

/** All that may say a number on one bench. */
export type Known<Own extends FitResult | ShownFit | undefined = FitResult | ShownFit> = {
  /** What one's own cells say, or the type where there are none. */
  result: Own;
  shared: { result: FitResult | ShownFit } | undefined;
  translated: Translated | undefined;
};

/** One's own cells speak first, then what others found on this model, then what they found on theirs, then the type. */
export function bestKnown<Own extends FitResult | ShownFit | undefined>({
  result,
  shared,
  translated,
}: Known<Own>): { reading: Own | FitResult | ShownFit; from: From } {
  if (result && result.evidence.cells > 0) return { reading: result, from: 'here' };
  if (shared) return { reading: shared.result, from: 'others' };
  return translated ? { reading: translated.shown, from: 'translated' } : { reading: result, from: 'type' };
}

/** As a list has it: small. A chart of a list and the page of a vinyl must come to the same number. */
export const small = (fit: FitResult | ShownFit): ShownFit => ('verdict' in fit ? shownFit(fit) : fit);

export const answerDefaults = {
  /** A kept number stands as long as it comes out this often … */
  holds: { clean: 0.9, through: 0.95 },
  /** … or hardly less often than the best there is. */
  hardlyLess: 0.03,
};

/**
 * One answer from all that is known.
 *
 * - What was kept is the number, as long as one's own cells do not say otherwise: inside the window one place is as good as the next,
 *   and a number that jumps about is no help.
 * - Else one's own cells say it, then others on the same model, then others on theirs, then the type.
 * - Where others fall into camps that nobody can choose between from here, there is no number but theirs.
 */
export function answerFor(known: {
  kept: number | undefined;
  reading: ShownFit | undefined;
  from: From;
  split: Split | undefined;
}): Answer {
  const { kept, reading, from } = known;
  const advised = reading && placeToSet(reading.summary);
  const plain = { keptBefore: undefined, camps: undefined };
  if (kept !== undefined) {
    const chance = reading && curveAt(reading, kept);
    const moved =
      from === 'here' &&
      advised !== undefined &&
      kept !== advised.position &&
      chance! < Math.min(answerDefaults.holds[reading!.wanted], advised.chance - answerDefaults.hardlyLess);
    if (!moved) return { ...plain, position: kept, from: 'kept', chance };
    return { ...plain, position: advised.position, from, chance: advised.chance, keptBefore: kept };
  }
  const camps = from === 'here' || from === 'type' ? undefined : campsOf(known.split, from);
  if (camps) return { ...plain, position: undefined, from, chance: undefined, camps };
  return { ...plain, position: advised?.position, from, chance: advised?.chance };
}

/** The camps nobody can choose between from here: none where one of them cuts with this very model. */
function campsOf(split: Split | undefined, from: From): Camp[] | undefined {
  if (!split || (from === 'others' && split.by === 'model') || split.camps.some((c) => c.here)) return undefined;
  const camps = split.camps.filter((c): c is Camp => c.number !== undefined);
  return new Set(camps.map((c) => c.number)).size > 1 ? camps.sort((a, b) => a.number - b.number) : undefined;
}
