import { z } from 'zod';
import {
  checksum,
  openLicences,
  packConfirmationSchema,
  packVersionSchema,
  pseudonym,
  type PackConfirmation,
  type PackVersion,
} from '#core/pack/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import * as cardStore from '#store/shelf/cards.ts';
import * as store from '#store/packs/packs.ts';
import { wallClock } from '#work/base/clock.ts';

/** Versions published before cutters were kept with them have one cutter an author. */
export const cutterOfVersion = (v: { cutter_id: string | null }, personId: string) =>
  v.cutter_id ?? pseudonym('cutter of', personId);

export const isOpen = (licence: cardStore.Licence): licence is (typeof openLicences)[number] =>
  (openLicences as readonly string[]).includes(licence);

/** A version as it travels. What it says is the same wherever it has been. */
export function packVersion(v: store.PackedVersion, personId: string, zone: string): PackVersion {
  const { content } = v;
  return packVersionSchema.parse({
    number: v.number,
    published: v.published_at.toISOString(),
    change: v.change,
    licence: v.licence as PackVersion['licence'],
    cutter: pseudonym('cutter', cutterOfVersion(v, personId)),
    ...(v.blade_id ? { blade: pseudonym('blade', v.blade_id) } : {}),
    vinyl: { ...content.vinyl, type: content.vinyl.type as VinylTypeKey },
    setting: content.controls,
    conditions: content.conditions,
    asked: content.asked ?? { target: {} },
    cells: content.cells,
    evidence: content.evidence.map((e) => ({ ...e, at: wallClock(e.at, content.zone ?? zone) })),
  } satisfies z.input<typeof packVersionSchema>);
}

export function packConfirmation(f: cardStore.FoundRow): PackConfirmation {
  return packConfirmationSchema.parse({
    key: f.cut_id,
    version: f.version,
    person: pseudonym('person', f.person_id),
    cutter: pseudonym('cutter', f.cutter_id),
    blade: pseudonym('blade', f.blade_id),
    at: wallClock(f.made_at, f.zone),
    setting: f.setting,
    passes: f.passes,
    grade: f.grade,
    ...(f.outcome === null ? {} : { outcome: f.outcome }),
    ...(f.better === null ? {} : { better: f.better }),
    said: f.said,
    ...(f.batch ? { batch: f.batch } : {}),
  } satisfies z.input<typeof packConfirmationSchema>);
}
/** What a confirmation says, whenever it was said. */
export const gist = ({ at: _, ...said }: PackConfirmation): string => checksum(said);
export const versionSum = (v: PackVersion): string => checksum(v);
