import { currentGrades } from '#core/grades/index.ts';
import { currentWeeds, learntLeast, weedReading, type LearntLeast } from '#core/weed/index.ts';
import { db } from '#store/base/db.ts';
import * as eventStore from '#store/coupons/events.ts';
import type { Person } from '#work/people/person.ts';

/** How fine some vinyls may be cut, by what a person's own clean cells lost or kept in weeding; those nobody told of are not among them. */
export async function learntLeasts(
  person: Person | undefined,
  vinylIds: readonly string[],
): Promise<Map<string, LearntLeast>> {
  const found = new Map<string, LearntLeast>();
  if (!person || vinylIds.length === 0) return found;
  const rows = await eventStore.weededCells(db(), person.id, vinylIds);
  if (rows.length === 0) return found;
  const cells = rows.map((r) => r.cell_id);
  const [grades, weeds] = await Promise.all([
    eventStore.eventsOfCells(db(), cells),
    eventStore.weedsOfCells(db(), cells),
  ]);
  const clean = new Set(currentGrades(grades).flatMap((g) => (g.grade === 'clean' ? [g.cell] : [])));
  const told = currentWeeds(weeds).filter((w) => clean.has(w.cell));
  for (const id of new Set(rows.map((r) => r.vinyl_id))) {
    const own = new Set(rows.flatMap((r) => (r.vinyl_id === id ? [r.cell_id] : [])));
    const least = learntLeast(weedReading(told.filter((w) => own.has(w.cell))));
    if (least) found.set(id, least);
  }
  return found;
}
