import {
  depthOf,
  limitsOf,
  listPlace,
  passesOf,
  speedOf,
  startingSetting,
  strengthAxis,
  type Axis,
  type CutterModel,
  type Setting,
} from '../controls/index.ts';
import { normalQuantile } from '../stats/index.ts';
import type { VinylTypeKey } from '../vinyls/index.ts';
import { gradeIndex, gradeWords, type Grade } from '../grades/index.ts';
import {
  aroundDefaults,
  coldPrior,
  nominalLoad,
  priorDefaults,
  priorFor,
  summaryDefaults,
  type ShownSummary,
} from '../window/index.ts';
import type { ShelfScale, ShelfSetting } from './shelfInput.ts';

const evidenceDefaults = {
  /** A place that came out clean says where the window is no closer than this, in log load: half a window over √3. */
  confirmedSd: 0.12,
  /** A reading that took its number mostly from the prior says nothing of its own. */
  leastShare: 0.6,
};

/** Where a setting belongs on the shelf: one axis a model version, blade depth and number of passes. */
export function shelfModel(model: CutterModel, setting: Setting): string {
  const depth = depthOf(model, setting);
  const passes = passesOf(model, setting);
  return [
    `${model.key}@${model.version}`,
    ...(depth === undefined ? [] : [`depth ${depth}`]),
    ...(passes === 1 ? [] : [`${passes} passes`]),
  ].join(' ');
}

/** Nominal load at a position that may lie between two, and the width of a step there. */
function placeOn(axis: Axis, position: number): { z: number; step: number } {
  const load = nominalLoad(axis);
  const { min, max } = limitsOf(axis);
  const held = Math.min(max, Math.max(min, position));
  const low = Math.min(max - 1, Math.floor(held));
  const step = Math.abs(load.at(low + 1) - load.at(low));
  // A list has no places between its entries.
  return axis.kind === 'list' ? { z: load.at(Math.round(held)), step: 0 } : { z: load.at(held), step };
}
const entryOf = (axis: Axis, position: number) =>
  axis.kind === 'list' ? { entry: String(listPlace(axis, Math.round(position)).entry) } : {};

/**
 * Where the middle of a window lies by a reading, without what the reading took from its prior: two normal sources that were put
 * together are taken apart again. Undefined where hardly anything but the prior is left.
 *
 * @returns nominal log load with its standard error
 */
export function centreOf(
  axis: Axis,
  type: VinylTypeKey,
  wanted: 'clean' | 'through',
  { edges }: Pick<ShownSummary, 'edges'>,
): { z: number; se: number; step: number; position: number } | undefined {
  const q = 2 * normalQuantile((1 + summaryDefaults.credible) / 2);
  const sdOf = ({ low, high }: { low: number; high: number }) =>
    Math.abs(placeOn(axis, high).z - placeOn(axis, low).z) / q;
  const position = wanted === 'clean' ? (edges.low.at + edges.high.at) / 2 : edges.low.at;
  const ends = wanted === 'clean' ? [edges.low, edges.high] : [edges.low];
  const z = ends.reduce((s, e) => s + placeOn(axis, e.at).z, 0) / ends.length;
  // The two edges move together: their mean is about as unsure as either.
  const sd = Math.max(0.01, ends.reduce((s, e) => s + sdOf(e.interval), 0) / ends.length);
  const { centre } = priorFor(axis, type, wanted);
  const own = 1 / sd ** 2 - 1 / centre.sd ** 2;
  if (own * sd ** 2 < evidenceDefaults.leastShare) return undefined;
  return {
    z: (z / sd ** 2 - centre.mean / centre.sd ** 2) / own,
    se: 1 / Math.sqrt(own),
    step: placeOn(axis, position).step,
    position,
  };
}

type Where = {
  cutter: string;
  blade?: string | undefined;
  type: string;
  vinyl: string;
  batch?: string | undefined;
  person: string;
  foreign?: number;
};
const rowOf = (model: CutterModel, setting: Setting, w: Where) => ({
  model: shelfModel(model, setting),
  cutter: w.cutter,
  ...(w.blade === undefined ? {} : { blade: w.blade }),
  type: w.type,
  vinyl: w.vinyl,
  ...(w.batch === undefined ? {} : { batch: w.batch }),
  person: w.person,
  foreign: w.foreign ?? 1,
});

/**
 * What a cut's speed takes from its load, against the speed its model starts from: γ·log of their ratio (the model of a cut). A place found at
 * another speed is moved by it, and is less sure by what is not known of γ.
 */
function speedShift(model: CutterModel, setting: Setting): { load: number; sd: number } {
  const [used, start] = [speedOf(model, setting), speedOf(model, startingSetting(model))];
  if (used === undefined || start === undefined || used <= 0 || start <= 0) return { load: 0, sd: 0 };
  const { median, sdlog } = priorDefaults.speed;
  const ratio = Math.log(used / start);
  return { load: median * ratio, sd: median * sdlog * Math.abs(ratio) };
}

/** A reading as a row of the shelf, as if cut at the speed its model starts from. */
export function settingRow(
  model: CutterModel,
  setting: Setting,
  wanted: 'clean' | 'through',
  summary: Pick<ShownSummary, 'edges'>,
  where: Where,
): ShelfSetting | undefined {
  const axis = strengthAxis(model);
  const centre = centreOf(axis, where.type as VinylTypeKey, wanted, summary);
  const shift = speedShift(model, setting);
  return (
    centre && {
      ...rowOf(model, setting, where),
      ...entryOf(axis, centre.position),
      z: centre.z - shift.load,
      se: Math.hypot(centre.se, shift.sd),
      step: centre.step,
    }
  );
}

/** One cut that did as wanted, as a row of the shelf: it says less than a reading. */
export function confirmedRow(model: CutterModel, setting: Setting, where: Where): ShelfSetting {
  const axis = strengthAxis(model);
  const position = setting.steps[axis.key]!;
  const place = placeOn(axis, position);
  const shift = speedShift(model, setting);
  return {
    ...rowOf(model, setting, where),
    ...entryOf(axis, position),
    ...place,
    z: place.z - shift.load,
    se: Math.hypot(evidenceDefaults.confirmedSd, shift.sd),
  };
}

/**
 * One graded cut as a row of the shelf, whatever it came to: a cut that hung says that what was wanted lies above it, and about how far. The
 * gaps between grades are those of the prior of its type; where a grade has no other side (uncut, through), what was wanted lies somewhere
 * beyond, as far as another cutter's number is off at a guess (half-normal).
 *
 * @returns undefined for a place that is no number and did not do: nothing is known of how far the next entry is
 */
export function gradedRow(
  model: CutterModel,
  setting: Setting,
  wanted: 'clean' | 'through',
  grade: Grade,
  where: Where,
): ShelfSetting | undefined {
  const row = confirmedRow(model, setting, where);
  if (grade === wanted) return row;
  const axis = strengthAxis(model);
  if (axis.kind === 'list') return undefined;
  const { hangsGap: h, cleanGap: c, scoredGap: s } = coldPrior(axis, where.type as VinylTypeKey);
  const beyond = {
    mean: aroundDefaults.sd * Math.sqrt(2 / Math.PI),
    sd: aroundDefaults.sd * Math.sqrt(1 - 2 / Math.PI),
  };
  const within = (gap: number) => ({ mean: gap / 2, sd: gap / Math.sqrt(12) });
  /** From somewhere in a grade to its upper end, and to its lower. */
  const up = {
    uncut: beyond,
    hangs: within(h.median),
    clean: within(c.median),
    scored: within(s.median),
    through: beyond,
  };
  const gaps = { uncut: undefined, hangs: h, clean: c, scored: s, through: undefined };
  const at = gradeIndex[grade];
  /** The gaps that lie wholly between the grade and what was wanted. */
  const between = (low: number, high: number) =>
    gradeWords.slice(low + 1, high).flatMap((g) => (gaps[g] ? [gaps[g]] : []));
  const spread = (list: readonly { median: number; sdlog: number }[]) => ({
    mean: list.reduce((sum, g) => sum + g.median, 0),
    sd: Math.hypot(...list.map((g) => g.median * g.sdlog)),
  });
  const goal = gradeIndex[wanted];
  const rest = spread(between(Math.min(at, goal), Math.max(at, goal)));
  // To the middle of clean, or to the lower end of through.
  const end = wanted === 'clean' ? { mean: c.median / 2, sd: (c.median / 2) * c.sdlog } : { mean: 0, sd: 0 };
  const way = at < goal ? 1 : -1;
  return {
    ...row,
    z: row.z + way * (up[grade].mean + rest.mean + end.mean),
    se: Math.hypot(row.se, up[grade].sd, rest.sd, end.sd, priorDefaults.sigma.median),
  };
}

/** A kitchen scale's reading as a row of the shelf. */
export function scaleRow(
  model: CutterModel,
  setting: Setting,
  cutter: string,
  position: number,
  grams: number,
): ShelfScale {
  return { model: shelfModel(model, setting), cutter, z: placeOn(strengthAxis(model), position).z, grams };
}
