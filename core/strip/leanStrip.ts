import { formatPosition, shortPosition, type Axis } from '../controls/index.ts';
import type { ShownFit } from '../window/index.ts';
import { stripDomain, stripShades, stripSplit, stripX, type Domain, type Shade } from './stripGeometry.ts';
import { placeToSet } from '../window/index.ts';

/** All that a strip in a row is drawn from: places as shares of its width, 0 to 1. A few hundred bytes, where a fit has thousands. */
export type LeanStrip = {
  /** Where too little ends and too much begins. */
  split: number;
  /** The clean zone, from left to right: place and strength, 0 to 1. Between two it runs straight. */
  stops: [x: number, strength: number][];
  /** The number to set, and where it lies; undefined where there is no one number. */
  at: number | undefined;
  label: string;
  /** The strip in words. */
  says: string;
};

/** How far a left-out place may lie off the line between its neighbours, in strength: less than an eye sees. */
const UNSEEN = 0.05;

/** Leaves out what the eye does not miss (Ramer 1972; Douglas and Peucker 1973, with the distance measured along the strength). */
export function thinShades(shades: readonly Shade[]): Shade[] {
  if (shades.length < 3) return [...shades];
  const first = shades[0]!;
  const last = shades.at(-1)!;
  let worst = 0;
  let at = 0;
  for (let i = 1; i < shades.length - 1; i++) {
    const s = shades[i]!;
    const share = last.x === first.x ? 0 : (s.x - first.x) / (last.x - first.x);
    const off = Math.abs(s.strength - (first.strength + share * (last.strength - first.strength)));
    if (off > worst) [worst, at] = [off, i];
  }
  if (worst <= UNSEEN) return [first, last];
  return [...thinShades(shades.slice(0, at + 1)), ...thinShades(shades.slice(at)).slice(1)];
}

const three = (n: number) => Number(n.toFixed(3));
const two = (n: number) => Number(n.toFixed(2));

/**
 * The strip of a row.
 * @param list the stretch that the list shows
 * @param mark the position that is marked: the number to set; none where there is no one number
 */
export function leanStrip(axis: Axis, result: ShownFit, list: Domain, mark: number | undefined): LeanStrip {
  const domain = rowDomain(axis, result, list);
  const { summary } = result;
  return {
    split: three(stripSplit(summary, domain)),
    stops: thinShades(stripShades(axis, summary, domain)).map((s) => [three(s.x), two(s.strength)]),
    at: mark === undefined ? undefined : three(stripX(domain, mark)),
    label: mark === undefined ? '' : shortPosition(axis, mark),
    says: mark === undefined ? result.sentence : `Set ${formatPosition(axis, mark)}.`,
  };
}

/** The stretch of an axis that a list shows: that of all its clean windows, so that rows can be laid against each other. */
export const listDomain = (axis: Axis, results: readonly (ShownFit | undefined)[]): Domain =>
  stripDomain(
    axis,
    results.flatMap((r) => (r?.wanted === 'clean' ? [r.summary] : [])),
    [],
  );

/**
 * The stretch that a row of the list shows: the list's own, and for what is cut through one round its own number, which may lie far above all
 * clean windows.
 */
export const rowDomain = (axis: Axis, result: ShownFit, list: Domain): Domain =>
  result.wanted === 'through' ? stripDomain(axis, [result.summary], [placeToSet(result.summary).position]) : list;
