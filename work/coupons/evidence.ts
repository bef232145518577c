import { carrySetting, depthOf, startingSetting, type CutterModel, type Setting } from '#core/controls/index.ts';
import { currentGrades, type GradeEvent } from '#core/grades/index.ts';
import { bladeWear } from '#core/wear/index.ts';
import { currentWeeds, weedReading, type WeedReading } from '#core/weed/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { Evidence } from '#core/window/index.ts';
import type { EvidenceRow, Wanted } from '#store/coupons/coupons.ts';
import * as coupons from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as vinyls from '#store/vinyls/vinyls.ts';
import * as workshop from '#store/workshop/workshop.ts';
import { NotFound } from '#work/base/errors.ts';
import * as eventStore from '#store/coupons/events.ts';

export type { EvidenceRow };

/** A setting in the terms of a model's version; undefined where it belongs to another model or has no place there. */
export async function inTermsOf(model: CutterModel, setting: Setting): Promise<Setting | undefined> {
  if (setting.model !== model.key) return undefined;
  if (setting.version === model.version) return setting;
  const from = await workshop.modelByVersion(db(), setting.model, setting.version);
  return from && carrySetting(from.definition, model, setting);
}

/** The controls that the coming cut of a vinyl starts from: what is kept, else what was cut last, else the maker's start. */
export async function baseFor(
  personId: string,
  vinylId: string,
  cutter: { id: string; model: CutterModel },
  wanted: Wanted,
): Promise<Setting> {
  const last = await coupons.lastControls(db(), personId, vinylId, cutter.id, wanted);
  return (last && (await inTermsOf(cutter.model, last.setting))) ?? startingSetting(cutter.model);
}

/** What a reading is asked for, where it is not the usual. */
export type Asked = {
  /** Controls of the coming cut other than strength; those of `baseFor` when left out. */
  base?: Setting;
  /** The cutter's model in another version, for what was planned with that. */
  version?: CutterModel;
  /** The colour and batch in hand; the vinyl's first colour when left out. */
  colour?: string | undefined;
  batch?: string | undefined;
  /** A coupon that is looked at by itself: its cells are there even where it was left out of the count. */
  alone?: string;
};

/** A blade's wear in steps: a metre more is no reason to read everything anew. */
export const wearOf = (share: number): number => Math.round(share * 20) / 20;

/** All evidence one person has for a vinyl, under any of its entries, on a cutter, and every event about it. */
export async function evidenceFor(
  personId: string,
  vinylId: string,
  cutterId: string,
  wanted: Wanted,
  { base, version, colour, batch, alone }: Asked = {},
): Promise<{ evidence: Evidence; events: GradeEvent[] }> {
  const [vinyl, cutter, cells] = await Promise.all([
    vinyls.vinylById(db(), vinylId),
    workshop.cutterById(db(), cutterId),
    coupons.evidenceCells(db(), personId, vinylId, cutterId, alone ?? null),
  ]);
  if (!vinyl || !cutter) throw new NotFound('No such vinyl or cutter.');
  const model = version ?? cutter.model;
  const [events, standing, carried, around] = await Promise.all([
    eventStore.eventsOfCells(
      db(),
      cells.map((c) => c.cell_id),
    ),
    base ?? baseFor(personId, vinylId, { id: cutterId, model }, wanted),
    Promise.all(cells.map((c) => inTermsOf(model, c.setting))),
    coupons.aroundOf(db(), personId, vinylId, cutterId, wanted),
  ]);
  return {
    evidence: {
      model,
      type: vinyl.type as VinylTypeKey,
      wanted,
      target: {
        ...(colour || vinyl.colour_id ? { colour: colour ?? vinyl.colour_id! } : {}),
        ...(batch ? { batch } : {}),
        ...(cutter.blade_id
          ? {
              blade: cutter.blade_id,
              wear: wearOf(bladeWear(cutter.blade_runs, cutter.blade_before_um!, cutter.blade_life_um!).share),
            }
          : {}),
      },
      ...(around && around.version === model.version ? { around: around.around } : {}),
      base: standing,
      cells: cells.flatMap((c, i) => {
        const setting = carried[i];
        return setting
          ? [
              {
                id: c.cell_id,
                cut: c.cut_id,
                ...(c.colour_id ? { colour: c.colour_id } : {}),
                ...(c.batch_id ? { batch: c.batch_id } : {}),
                blade: c.blade_id,
                ...(c.wear === null ? {} : { wear: c.wear }),
                setting,
              },
            ]
          : [];
      }),
    },
    events,
  };
}

/** The graded cells a reading rests on: when, on which occasion, with what blade, and what was seen. */
export async function evidenceRows(evidence: Evidence, events: readonly GradeEvent[]): Promise<EvidenceRow[]> {
  const details = new Map(
    (
      await coupons.cellDetails(
        db(),
        evidence.cells.map((c) => c.id),
      )
    ).map((d) => [d.cell_id, d]),
  );
  return currentGrades(events).flatMap((g): EvidenceRow[] => {
    const cell = evidence.cells.find((c) => c.id === g.cell);
    const d = details.get(g.cell);
    // Another blade depth is another cut: it does not speak for this number.
    if (!cell || !d || depthOf(evidence.model, cell.setting) !== depthOf(evidence.model, evidence.base)) return [];
    return [
      {
        at: d.at.toISOString(),
        kind: d.kind,
        setting: cell.setting,
        passes: g.passes,
        grade: g.grade,
        angle: d.angle,
        colour: d.colour ?? '',
        batch: d.batch ?? '',
      },
    ];
  });
}

/** What weeding the clean cells of a vinyl told, on any cutter of one's own. */
export async function weedingOf(evidence: Evidence, events: readonly GradeEvent[]): Promise<WeedReading | undefined> {
  const clean = currentGrades(events).flatMap((g) => (g.grade === 'clean' ? [g.cell] : []));
  if (clean.length === 0 || evidence.cells.length === 0) return undefined;
  return weedReading(currentWeeds(await eventStore.weedsOfCells(db(), clean)));
}
