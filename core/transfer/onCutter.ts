import {
  limitsOf,
  listPlace,
  positionsOf,
  sayStrength,
  startingSetting,
  strengthAxis,
  type CutterModel,
} from '../controls/index.ts';
import { vinylTypes, type VinylTypeKey } from '../vinyls/index.ts';
import {
  nominalLoad,
  priorDefaults,
  shownFit,
  summaryDefaults,
  type ShownFit,
  windowHalfWidth,
} from '../window/index.ts';
import { shelfModel } from './evidence.ts';
import { chanceOff } from './rank.ts';
import type { Basis, Shelf } from './shelf.ts';
import type { ShelfWanted } from './shelfInput.ts';

/** A number translated to a cutter, in its own steps, with what a strip needs. */
export type Translated = {
  basis: Extract<Basis, 'vinyl and cutter' | 'vinyl' | 'type'>;
  position: number;
  /** The 90 % interval of the place, in steps of the cutter. */
  low: number;
  high: number;
  /** Chance of a cut as wanted at that place. */
  chance: number;
  /** Load of one cutter's place as the model has it: where a card's own number would lie, `slope` times its distance. */
  z: number;
  slope: number;
  /** Standard deviation of the place, in log load. */
  sd: number;
  crafters: number;
  models: number;
  /** How far this cutter lies from the middle of its model: 0.07 gives 7 % more load for the same number. */
  offset: number;
  offsetSd: number;
  shown: ShownFit;
};

/**
 * Brings the shelf's prediction onto the axis of a cutter: the nearest place, its interval, the chance it comes out as wanted.
 * Undefined where nothing can be said; `why` then says what is missing.
 */
export function translateTo(
  shelf: Shelf,
  model: CutterModel,
  on: { cutter: string; blade?: string | undefined },
  vinyl: { vinyl: string; type: VinylTypeKey },
  wanted: 'clean' | 'through',
): Translated | { basis: 'not comparable' | 'nothing'; crafters: number; models: number } {
  const axis = strengthAxis(model);
  const id = shelfModel(model, startingSetting(model));
  const asked: ShelfWanted = {
    model: id,
    cutter: on.cutter,
    ...(on.blade === undefined ? {} : { blade: on.blade }),
    ...vinyl,
  };
  const said = shelf.predict(asked);
  if (said.z === undefined || said.basis === 'not comparable' || said.basis === 'nothing')
    return {
      basis: said.basis === 'not comparable' ? 'not comparable' : 'nothing',
      crafters: said.crafters,
      models: said.models,
    };
  const load = nominalLoad(axis);
  const slope = shelf.slopeOf(id);
  // Entries of a list were found lighter or heavier than they are called.
  const at = (position: number) =>
    load.at(position) + (axis.kind === 'list' ? slope * shelf.entryOf(id, String(listPlace(axis, position).entry)) : 0);
  const places = positionsOf(axis);
  const nearest = (z: number) =>
    places.reduce((best, p) => (Math.abs(at(p) - z) < Math.abs(at(best) - z) ? p : best), places[0]!);
  // The shelf answers in the model's own units; loads are κ times smaller there.
  const sd = said.sd! / slope;
  const gap = vinylTypes[vinyl.type].gap;
  const sigma = priorDefaults.sigma.median;
  const off = (position: number) => (at(position) - said.z!) / slope;
  const chanceAt = (x: number, spread: number) => chanceOff(vinyl.type, wanted, x, spread);
  const spread = Math.hypot(sigma, sd);
  const position = nearest(said.z);
  const offset = shelf.offsetOf(id, on.cutter, on.blade)!;
  const { min, max } = limitsOf(axis);
  const interval = { low: nearest(said.interval!.low), high: nearest(said.interval!.high) };
  const stride = Math.max(1, Math.ceil((max - min) / 60));
  const positions = [...new Set([...places.filter((p) => (p - min) % stride === 0), position, max])].sort(
    (a, b) => a - b,
  );
  const mean = positions.map((p) => chanceAt(off(p), spread));
  const half = wanted === 'clean' ? windowHalfWidth(gap, sigma, summaryDefaults.windowChance) : 0;
  const reach = Number.isNaN(half) ? gap / 2 : half;
  const edge = (z: number) => ({
    at: nearest(z),
    interval: { low: nearest(z - 1.645 * said.sd!), high: nearest(z + 1.645 * said.sd!) },
  });
  const enough = wanted === 'clean' ? summaryDefaults.windowChance : summaryDefaults.throughChance;
  const inside = positions.filter((_, i) => mean[i]! >= enough);
  const chance = chanceAt(off(position), spread);
  return {
    basis: said.basis,
    position,
    ...interval,
    chance,
    z: said.z,
    slope,
    sd,
    crafters: said.crafters,
    models: said.models,
    offset: offset.offset,
    offsetSd: offset.sd,
    shown: shownFit({
      wanted,
      sentence: `Translated from other cutters. On this one look first at ${sayStrength(axis, position)}.`,
      evidence: { cells: 0, coupons: 0, grades: { uncut: 0, hangs: 0, clean: 0, scored: 0, through: 0 } },
      summary: {
        curve: { positions, mean },
        window: inside.length > 0 ? { low: inside[0]!, high: inside.at(-1)! } : null,
        edges: {
          low: edge(said.z - reach * slope),
          high: wanted === 'clean' ? edge(said.z + reach * slope) : { at: max, interval: { low: max, high: max } },
        },
        best: { position, chance },
        recommended: { position, chance },
      },
    }),
  };
}

/** The place on a cutter for a number that lies `off` (log load) beside what all say of its vinyl. */
export function placeBeside(model: CutterModel, translated: Pick<Translated, 'z' | 'slope'>, off: number): number {
  const axis = strengthAxis(model);
  const load = nominalLoad(axis);
  const z = translated.z + translated.slope * off;
  const places = positionsOf(axis);
  return places.reduce((best, p) => (Math.abs(load.at(p) - z) < Math.abs(load.at(best) - z) ? p : best), places[0]!);
}
