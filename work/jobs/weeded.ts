import { faultsOf, slowToWeed, type WeededPart } from '#core/artwork/index.ts';
import { layerOfPart } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/weeded.ts';
import type { Person } from '#work/people/person.ts';
import { jobOf, type JobView } from './view.ts';

/** Weedings that are looked at, the last ones; a clock under this was a tap, seconds. */
const CLOCKS = { parts: 30, least: 15 };

/** What a person weeded against the clock, for `weedTime`: counted when it is first asked for, and kept. */
export async function weededParts(person: Person | undefined): Promise<WeededPart[]> {
  if (!person) return [];
  const rows = await store.weedings(db(), person.id, CLOCKS.parts);
  const open = rows.filter((r) => !r.counted);
  const jobs = new Map(
    await Promise.all(
      [...new Set(open.map((r) => r.job_id))].map(async (id) => [id, await jobOf(person, id)] as const),
    ),
  );
  const counted = open.map((r) => ({ event: r.event_id, part: weededAt(jobs.get(r.job_id)!, r.event_id) }));
  await store.keepWeeded(db(), counted);
  return [...rows.flatMap((r) => r.part ?? []), ...counted.flatMap((c) => c.part ?? [])];
}

/** What was weeded when somebody said so; undefined where no clock ran, or the step is done no more. */
function weededAt(job: JobView, event: string): WeededPart | undefined {
  const step = job.sheet.steps.find((s) => s.by === event);
  if (step?.kind !== 'weed' || step.seconds < CLOCKS.least) return undefined;
  const layer = layerOfPart(job, step.about);
  if (!layer?.vinyl || layer.shown.length === 0) return undefined;
  const narrow = layer.shown.map((s) => faultsOf(s.artwork, s.art, layer.needs!, s.widthUm).length);
  const times = layer.shown.length === 1 ? layer.asked!.copies : 1;
  return {
    holes: layer.holes,
    pieces: layer.pieces,
    metres: layer.lengthUm / 1e6,
    narrow: times * narrow.reduce((s, n) => s + n, 0),
    slow: slowToWeed(layer.vinyl.type),
    minutes: step.seconds / 60,
  };
}
