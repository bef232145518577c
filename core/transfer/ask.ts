import { startingSetting, type CutterModel } from '../controls/index.ts';
import { camps, type Camps } from '../proof/index.ts';
import type { VinylTypeKey } from '../vinyls/index.ts';
import { shelfModel } from './evidence.ts';
import { translateTo, type Translated } from './onCutter.ts';
import { Shelf } from './shelf.ts';
import type { ShelfInput } from './shelfInput.ts';

/** A question to a shelf that may be known here by its key. */
export type ShelfAsked = { key: string; input?: Pick<ShelfInput, 'settings' | 'scales'>; ask: ShelfQuestion };
type On = { model: CutterModel; cutter: string; blade?: string };
export type ShelfQuestion =
  | { kind: 'summary' }
  | (On & { kind: 'translate'; wanted: 'clean' | 'through'; vinyls: { id: string; type: string }[] })
  | (On & { kind: 'offset' });
export type ShelfAnswer =
  | { kind: 'unknown' }
  | {
      kind: 'summary';
      wild: { row: number; off: number }[];
      /** How far each setting lies from what the shelf says of its vinyl on its own cutter, in log load. */
      off: number[];
      splits: { vinyl: string; split: NonNullable<Camps['split']>; centre: number }[];
    }
  | {
      kind: 'translate';
      rows: {
        vinyl: string;
        said: Translated | { basis: 'not comparable' | 'nothing'; crafters: number; models: number };
      }[];
    }
  | {
      kind: 'offset';
      offset: { offset: number; sd: number; settings: number } | undefined;
      /** What each setting of this cutter says by itself, against what all others say of its vinyl: in log load. */
      rests: { vinyl: string; z: number; se: number; off: number; wild: boolean }[];
      sharpen: { vinyl: string; sd: number }[];
    };
/** Shelves by their key, and answers to questions about them. Those last asked about are kept: fitting one takes a while. */
export function shelfKeeper(): (asked: ShelfAsked) => ShelfAnswer {
  const shelves = new Map<string, Shelf>();
  return (asked) => {
    const shelf = shelfOf(shelves, asked);
    return shelf ? answer(shelf, asked.ask) : { kind: 'unknown' };
  };
}

const KEPT = 3;
/** A shelf that grew by no more than this is added to; beyond, it is fitted anew. */
const ADDED = 40;

function shelfOf(shelves: Map<string, Shelf>, { key, input }: ShelfAsked): Shelf | undefined {
  const known = shelves.get(key);
  if (known || !input) return known;
  const shelf = grown([...shelves.values()].at(-1), input) ?? Shelf.fit(input.settings, input.scales);
  shelves.set(key, shelf);
  for (const old of [...shelves.keys()].slice(0, -KEPT)) shelves.delete(old);
  return shelf;
}

/** The newest shelf with the few settings that came since: variances, slopes and axes stay as they were. */
function grown(last: Shelf | undefined, input: Pick<ShelfInput, 'settings' | 'scales'>): Shelf | undefined {
  const had = last?.settings ?? [];
  const more = input.settings.length - had.length;
  // Few rows move the variances much: then all is fitted.
  if (!last || more < 1 || more > Math.min(ADDED, had.length / 50)) return undefined;
  if (!had.every((s, i) => JSON.stringify(s) === JSON.stringify(input.settings[i]))) return undefined;
  return input.settings.slice(had.length).reduce<Shelf | undefined>((shelf, s) => shelf?.add(s), last);
}

function answer(shelf: Shelf, ask: ShelfQuestion): ShelfAnswer {
  if (ask.kind === 'summary') return { kind: 'summary', wild: shelf.wild(), ...placesOf(shelf) };
  const on = { cutter: ask.cutter, ...(ask.blade === undefined ? {} : { blade: ask.blade }) };
  if (ask.kind === 'translate')
    return {
      kind: 'translate',
      rows: ask.vinyls.map((v) => ({
        vinyl: v.id,
        said: translateTo(shelf, ask.model, on, { vinyl: v.id, type: v.type as VinylTypeKey }, ask.wanted),
      })),
    };
  const model = shelfModel(ask.model, startingSetting(ask.model));
  const known = new Map<string, { type: string; vinyl: string; times: number }>();
  for (const s of shelf.settings) {
    const before = known.get(s.vinyl);
    known.set(s.vinyl, { type: s.type, vinyl: s.vinyl, times: (before?.times ?? 0) + 1 });
  }
  // The vinyls in most hands are the ones somebody has at home.
  const candidates = [...known.values()].sort((a, b) => b.times - a.times).slice(0, 24);
  return {
    kind: 'offset',
    offset: shelf.offsetOf(model, ask.cutter, ask.blade),
    rests: shelf.restsOf(model, ask.cutter),
    sharpen: shelf.sharpen({ model, ...on }, candidates),
  };
}

/** Fewer settings than this are no schools. */
const SCHOOLS_FROM = 4;

/** Where every setting lies against the shelf, and the vinyls whose settings fall into two schools. */
function placesOf(shelf: Shelf) {
  const loads = shelf.impliedLoads();
  const byVinyl = new Map<string, typeof loads>();
  for (const l of loads) byVinyl.set(l.vinyl, [...(byVinyl.get(l.vinyl) ?? []), l]);
  const off = new Array<number>(loads.length).fill(0);
  const splits: { vinyl: string; split: NonNullable<Camps['split']>; centre: number }[] = [];
  for (const [vinyl, rows] of byVinyl) {
    const centre = shelf.loadOf(vinyl, shelf.settings[rows[0]!.row]!.type);
    for (const r of rows) off[r.row] = r.at - centre;
    if (rows.length < SCHOOLS_FROM) continue;
    const { split } = camps({
      points: rows.map((r) => {
        const s = shelf.settings[r.row]!;
        return { at: r.at, sd: r.sd, person: s.person ?? s.cutter, model: s.model, batch: s.batch, blade: s.kind };
      }),
    });
    if (split)
      splits.push({
        vinyl,
        centre,
        split: { ...split, camps: split.camps.map((c) => ({ ...c, points: c.points.map((p) => rows[p]!.row) })) },
      });
  }
  return { off, splits };
}
