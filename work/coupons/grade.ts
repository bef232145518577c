import type { BenchEvent } from '#core/grades/index.ts';
import { db } from '#store/base/db.ts';
import { quotas } from '#work/base/quotas.ts';
import { notYet, type Outcome } from '#work/people/delivery.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import * as eventStore from '#store/coupons/events.ts';

/** What became of each event; the vinyls and cutters that were graded, and on which cuts. */
type Taken = { outcomes: Outcome[]; graded: { vinylId: string; cutterId: string }[]; cuts: string[] };

/** Stores what the bench sends: grades, what is taken back, passes, how it weeded. Readings follow in work/shelf/evidence. */
export async function storeEvents(person: Person, events: readonly BenchEvent[]): Promise<Taken> {
  const ids = (of: (e: BenchEvent) => string) => [...new Set(events.map(of))];
  const [owners, there] = await Promise.all([
    eventStore.cellOwners(
      db(),
      ids((e) => e.cell),
    ),
    eventStore.eventsThere(
      db(),
      ids((e) => e.id),
    ),
  ]);
  const cells = new Map(owners.map((c) => [c.cell_id, { ...c }]));
  const known = new Set(there);
  const fresh: BenchEvent[] = [];
  const kept: BenchEvent[] = [];
  const refused = new Map<BenchEvent, Outcome>();
  for (const event of events) {
    const { id } = event;
    const cell = cells.get(event.cell);
    // Another's cell and one that is not there look the same.
    if (!cell || !can(person, 'grade', { owner: cell.person_id }))
      refused.set(event, notYet(id, 'There is no such cell among your coupons.'));
    else if (known.has(id)) kept.push(event);
    else if (cell.told >= quotas.events.perCell)
      refused.set(event, {
        id,
        outcome: 'refused',
        why: `${quotas.events.perCell} things were said of this cell already.`,
      });
    else {
      cell.told++;
      known.add(id);
      fresh.push(event);
      kept.push(event);
    }
  }
  // Of two processes that bring one event at one moment one has stored it; of a repeat within a delivery the first.
  const added = await eventStore.insertEvents(db(), person.id, fresh);
  const outcomes = events.map(
    (event): Outcome => refused.get(event) ?? { id: event.id, outcome: added.delete(event.id) ? 'stored' : 'already' },
  );
  const graded = new Map<string, { vinylId: string; cutterId: string }>();
  const cuts = new Set<string>();
  for (const event of kept) {
    if (event.kind !== 'grade' && event.kind !== 'retract') continue;
    const cell = cells.get(event.cell)!;
    cuts.add(cell.cut_id);
    graded.set(`${cell.vinyl_id} ${cell.cutter_id}`, { vinylId: cell.vinyl_id, cutterId: cell.cutter_id });
  }
  return { outcomes, graded: [...graded.values()], cuts: [...cuts] };
}
