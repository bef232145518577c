import { benchEventSchema, type BenchEvent } from '#core/grades/index.ts';
import { db } from '#store/base/db.ts';
import { BadValue } from '#work/base/errors.ts';
import { quotas } from '#work/base/quotas.ts';
import type { Person } from '#work/people/person.ts';
import { can } from '#work/people/permissions.ts';
import * as eventStore from '#store/coupons/events.ts';

/**
 * What became of an event. `later`: what it speaks of has not arrived yet; the outbox keeps it and sends it again. `refused`: it will never
 * be taken, and why.
 */
export type Outcome = { id: string; outcome: 'stored' | 'already' | 'later' | 'refused'; why?: string };

/** At most this many events in one delivery. */
export const MAX_EVENTS = 200;

/** How long an event waits for what it speaks of, days since it was made. */
const WAITS_DAYS = 7;

/** When an id was made (RFC 9562, 5.7: the first 48 bits are milliseconds). */
const madeAt = (id: string): number => parseInt(id.replaceAll('-', '').slice(0, 12), 16);

/** An event about something that is not there: it waits a while, then it is refused for good. */
export const notYet = (id: string, why: string): Outcome =>
  Date.now() - madeAt(id) < WAITS_DAYS * 86_400_000 ? { id, outcome: 'later' } : { id, outcome: 'refused', why };

export const CANNOT_BE_KEPT = 'It holds something that cannot be kept.';
export const AHEAD = 'The clock of this device is more than a day ahead. Set it, then do it once more.';
/** Whether the clock of a device runs more than a day ahead of ours. */
export const isAhead = (deviceAt: string): boolean => Date.parse(deviceAt) > Date.now() + 86_400_000;

async function storeEvent(person: Person, event: BenchEvent): Promise<Outcome> {
  const { id } = event;
  const stored =
    event.kind === 'cut'
      ? await eventStore.insertCellCutEvent(db(), person.id, event)
      : event.kind === 'weed'
        ? await eventStore.insertWeedEvent(db(), person.id, event)
        : await eventStore.insertGradeEvent(db(), person.id, event);
  return { id, outcome: stored ? 'stored' : 'already' };
}

/** What the database says of one event that it cannot keep. A database that is away is an error for all of them. */
function refusal(id: string, error: unknown): Outcome {
  const { code } = error as { code?: string };
  // 23503: it takes back a grade that has not arrived. Other constraints it will never meet.
  if (code === '23503') return notYet(id, 'What it speaks of is not here.');
  if (error instanceof BadValue || code?.startsWith('23')) return { id, outcome: 'refused', why: CANNOT_BE_KEPT };
  throw error;
}

/** What became of each event; the vinyls and cutters that were graded, and on which cuts. */
export type Taken = { outcomes: Outcome[]; graded: { vinylId: string; cutterId: string }[]; cuts: string[] };

/**
 * Stores what the bench sends. Each event stands alone: it is stored, was there already, waits for what it speaks of, or is refused for good
 * with a reason; one that cannot be kept does not keep the others back. A failure of the database is an error, so that the outbox keeps
 * everything and tries again. Readings follow in work/shelf/evidence, after the events are safe.
 */
export async function storeEvents(person: Person, raw: unknown[]): Promise<Taken> {
  const outcomes: Outcome[] = [];
  const touched = new Map<string, { vinylId: string; cutterId: string }>();
  const cuts = new Set<string>();
  for (const item of raw) {
    const id = typeof item === 'object' && item && 'id' in item ? String(item.id).slice(0, 60) : '';
    const parsed = benchEventSchema.safeParse(item);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      outcomes.push({ id, outcome: 'refused', why: `${issue.path.join('.') || 'event'}: ${issue.message}` });
      continue;
    }
    // One clock for all: the zone a device writes its time in says nothing more.
    const event = { ...parsed.data, deviceAt: new Date(parsed.data.deviceAt).toISOString() };
    if (isAhead(event.deviceAt)) {
      outcomes.push({ id, outcome: 'refused', why: AHEAD });
      continue;
    }
    const cell = await eventStore.cellOwner(db(), event.cell);
    if (!cell || !can(person, 'grade', { owner: cell.person_id })) {
      // Another's cell and one that is not there look the same.
      outcomes.push(notYet(id, 'There is no such cell among your coupons.'));
      continue;
    }
    if (cell.told >= quotas.events.perCell) {
      outcomes.push({ id, outcome: 'refused', why: `${quotas.events.perCell} things were said of this cell already.` });
      continue;
    }
    const outcome = await storeEvent(person, event).catch((error: unknown) => refusal(id, error));
    outcomes.push(outcome);
    const kept = outcome.outcome === 'stored' || outcome.outcome === 'already';
    if (kept && (event.kind === 'grade' || event.kind === 'retract')) {
      cuts.add(cell.cut_id);
      touched.set(`${cell.vinyl_id} ${cell.cutter_id}`, { vinylId: cell.vinyl_id, cutterId: cell.cutter_id });
    }
  }
  return { outcomes, graded: [...touched.values()], cuts: [...cuts] };
}
