import {
  atStrength,
  formatSetting,
  startingSetting,
  strengthAxis,
  type Axis,
  type CutterModel,
  type SettingPart,
} from '#core/controls/index.ts';
import type { Behaviour, VinylTypeKey } from '#core/vinyls/index.ts';
import type { ShownFit } from '#core/window/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/vinyls/vinyls.ts';
import type { Answer } from '#core/answer/index.ts';
import type { PressAnswer } from '#core/press/index.ts';
import type { Person } from '#work/people/person.ts';
import { quotas } from '#work/base/quotas.ts';
import { behaviourOfRow, foundIds } from '#work/vinyls/vinyls.ts';
import { vinylRows } from './list.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import type { Bench } from '#work/workshop/bench.ts';

/** At most so many cutters side by side, and rows on a chart. */
export const chartLimits = { cutters: 3, rows: quotas.chartRows, screen: 60 };

export type ChartCell = { answer: Answer; parts: SettingPart[] };
export type ChartRow = {
  id: string;
  brand: string;
  name: string;
  type: VinylTypeKey;
  typeWord: string;
  hex: string | undefined;
  behaviour: Behaviour;
  /** How it is pressed on plain cloth, and what that rests on. */
  press: PressAnswer;
  result: ShownFit | undefined;
  mark: number | undefined;
  cells: ChartCell[];
  standing: string | undefined;
};
export type Chart = {
  cutters: { id: string; name: string; model: CutterModel; axis: Axis }[];
  rows: ChartRow[];
  /** How many vinyls the whole chart has; those beyond its most found no place. */
  all: number;
  left: number;
};

/**
 * The wall chart: what is in hand, or what a search finds, by name; for each of up to three cutters what to set. The strip is
 * that of the first.
 * @param page which part of so many rows as a screen shows, from 0; all of it when left out
 */
export async function chartOf(
  person: Person | undefined,
  search: string,
  cutterIds: readonly string[],
  page?: number,
): Promise<Chart> {
  const benches = await chartCutters(person, cutterIds);
  const found =
    search.trim() !== ''
      ? await foundIds(person, search, chartLimits.rows + 1)
      : person
        ? await store.myVinyls(db(), person.id, chartLimits.rows + 1)
        : [];
  const full = new Map((await store.vinylsByIds(db(), found)).map((r) => [r.id, r]));
  const order = new Intl.Collator('en', { sensitivity: 'base' });
  const name = (id: string) => [full.get(id)!.brand, full.get(id)!.name].filter(Boolean).join(' ');
  const sorted = found
    .filter((id) => full.has(id))
    .sort((a, b) => order.compare(name(a), name(b)) || (a < b ? -1 : 1))
    .slice(0, chartLimits.rows);
  const { screen } = chartLimits;
  const ids = page === undefined ? sorted : sorted.slice(page * screen, (page + 1) * screen);
  // Paper is printed once: it waits for every number.
  const patient = page === undefined ? { patience: 60_000 } : {};
  const perCutter = await Promise.all(
    benches.map((b, i) => vinylRows(person, b, ids, { ...patient, pressed: i === 0 })),
  );
  const plain = benches.length === 0 ? await vinylRows(person, undefined, ids, { pressed: true }) : perCutter[0]!;
  const rows = plain.map((v, i): ChartRow => {
    const first = perCutter[0]?.[i];
    return {
      id: v.id,
      brand: v.brand,
      name: v.name,
      type: v.type,
      typeWord: v.typeWord,
      hex: v.colour?.hex,
      behaviour: behaviourOfRow(full.get(v.id)!),
      press: v.press!,
      result: first?.result,
      mark: first?.answer.position,
      cells: benches.map(({ cutter: { model } }, c) => {
        const { answer, controls } = perCutter[c]![i]!;
        const setting =
          answer.position === undefined
            ? controls
            : atStrength(model, controls ?? startingSetting(model), answer.position);
        return { answer, parts: setting ? formatSetting(model, setting) : [] };
      }),
      standing: v.standing,
    };
  });
  return {
    cutters: benches.map((b) => ({ ...b.cutter, axis: strengthAxis(b.cutter.model) })),
    rows,
    all: sorted.length,
    left: Math.max(0, found.length - chartLimits.rows),
  };
}

/** The cutters a chart speaks for: those asked for, else the first three. */
async function chartCutters(person: Person | undefined, ids: readonly string[]): Promise<Bench[]> {
  const { cutters } = await workshopOf(person);
  const asked = ids.flatMap((id) => cutters.filter((c) => c.cutter.id === id));
  return (asked.length > 0 ? asked : cutters).slice(0, chartLimits.cutters);
}
