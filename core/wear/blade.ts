import { checked, median } from '../stats/index.ts';
import type { Micrometres } from '../units/index.ts';
import { behaviourOf, vinylTypeKeys, type VinylTypeKey } from '../vinyls/index.ts';

/** Metres of plain film that a blade cuts well, in µm. Common practice, no source. */
export const PLAIN_LIFE: Micrometres = 60_000_000;
/** The share of a life from which on a change is due soon. */
const CHANGE_SOON = 0.85;

export type BladeWear = {
  /** What it has cut, each metre counted as often as its type dulls a blade: metres of plain film, in µm. */
  wornUm: Micrometres;
  /** Share of its life, from 0; over 1 when it is past it. */
  share: number;
  state: 'fresh' | 'soon' | 'over';
};

/**
 * How worn a blade is: metres times the wear factor of what was cut, against its life on plain film.
 * @param runs µm run, by type of vinyl
 * @param beforeUm what it had cut before anybody counted, taken as plain film
 * @example bladeWear({ glitter: 10e6 }, 0, 60e6).wornUm // 25000000
 */
export function bladeWear(
  runs: Readonly<Record<string, number>>,
  beforeUm: Micrometres,
  lifeUm: Micrometres,
): BladeWear {
  checked({ beforeUm, lifeUm }, { beforeUm: { from: 0, to: 1e12 }, lifeUm: { from: 0, to: 1e12, open: 'from' } });
  const known = new Set<string>(vinylTypeKeys);
  const wornUm = Object.entries(runs).reduce(
    (sum, [type, um]) => sum + um * (known.has(type) ? behaviourOf(type as VinylTypeKey).wear : 1),
    beforeUm,
  );
  const share = wornUm / lifeUm;
  return { wornUm, share, state: share >= 1 ? 'over' : share >= CHANGE_SOON ? 'soon' : 'fresh' };
}

/** How far a blade still goes on each of some types, in µm. */
export const lifeLeft = (
  wear: BladeWear,
  lifeUm: Micrometres,
  types: readonly VinylTypeKey[],
): [VinylTypeKey, Micrometres][] =>
  types.map((type) => [type, Math.max(0, lifeUm - wear.wornUm) / behaviourOf(type).wear]);

/** What counts of blades that came off: less than this was changed for another reason than wear. Common practice, no source. */
const learntLifeDefaults = { least: 10_000_000, blades: 2 };

/**
 * How long a person's blades last, by those that came off: the median of what each had cut, in µm of plain film. Nothing is said after one
 * blade, nor of blades that hardly cut.
 * @param wornUm what each blade that came off had cut (`bladeWear`)
 * @example learntLife([41e6, 3e6, 55e6, 47e6]) // { lifeUm: 47000000, blades: 3 }
 */
export function learntLife(wornUm: readonly Micrometres[]): { lifeUm: Micrometres; blades: number } | undefined {
  const { least, blades } = learntLifeDefaults;
  const worn = wornUm.filter((um) => um >= least);
  return worn.length < blades ? undefined : { lifeUm: Math.round(median(worn)), blades: worn.length };
}
