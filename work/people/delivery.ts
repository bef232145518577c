import type { ZodType } from 'zod';
import { madeAt, type Envelope } from '#core/events/index.ts';
import { transaction } from '#store/base/db.ts';
import { BadValue, Invalid, NotFound } from '#work/base/errors.ts';
import type { Person } from './person.ts';

/**
 * What became of an event. `later`: what it speaks of has not arrived yet; the outbox keeps it and sends it again. `refused`: it will never
 * be taken, and why.
 */
export type Outcome = { id: string; outcome: 'stored' | 'already' | 'later' | 'refused'; why?: string };

/** At most this many events in one delivery. */
export const MAX_EVENTS = 200;

/** How long an event waits for what it speaks of, days since it was made. */
const WAITS_DAYS = 7;
const DAY = 86_400_000;

const CANNOT_BE_KEPT = 'It holds something that cannot be kept.';
const AHEAD = 'The clock of this device is more than a day ahead. Set it, then do it once more.';

/** One kind of thing that events are about, and who takes them. */
export type Subject<E extends Envelope = Envelope> = {
  /** The field in which an event names what it is about. */
  about: string;
  schema: ZodType<E>;
  /** Events next to each other with the same answer are taken in one go; one without an answer alone. */
  together: (event: E) => string | undefined;
  /** Stores events, in order, in one transaction: one outcome each. @throws BadValue, Invalid, NotFound where one of them cannot be kept */
  take: (person: Person, events: readonly E[]) => Promise<Outcome[]>;
};

/** An event about something that is not there: it waits a while, then it is refused for good. */
export const notYet = (id: string, why: string): Outcome =>
  Date.now() - madeAt(id) < WAITS_DAYS * DAY ? { id, outcome: 'later' } : { id, outcome: 'refused', why };

/** What an error says of the one event that met it. A database that is away is an error for all of them. */
function refusal(id: string, error: unknown): Outcome {
  const { code } = error as { code?: string };
  if (code === '23503') return notYet(id, 'What it speaks of is not here.');
  if (error instanceof BadValue || code?.startsWith('23')) return { id, outcome: 'refused', why: CANNOT_BE_KEPT };
  if (error instanceof Invalid || error instanceof NotFound) return { id, outcome: 'refused', why: error.message };
  throw error;
}

type Read = { subject: Subject; event: Envelope } | { refused: Outcome };

/** One event as it was sent, by the subject it is about. */
function readEvent(raw: unknown, subjects: readonly [Subject, ...Subject[]]): Read {
  const fields = typeof raw === 'object' && raw ? raw : {};
  const id = 'id' in fields ? String(fields.id).slice(0, 60) : '';
  const subject = subjects.find((s) => s.about in fields) ?? subjects[0];
  const parsed = subject.schema.safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    return { refused: { id, outcome: 'refused', why: `${issue.path.join('.') || 'event'}: ${issue.message}` } };
  }
  // One clock for all: the zone a device writes its time in says nothing more.
  const event = { ...parsed.data, deviceAt: new Date(parsed.data.deviceAt).toISOString() };
  if (Date.parse(event.deviceAt) > Date.now() + DAY) return { refused: { id, outcome: 'refused', why: AHEAD } };
  return { subject, event };
}

/** Takes events of one subject in one go; where one of them cannot be kept, each alone, so that it does not keep the others back. */
async function takeTogether(person: Person, subject: Subject, events: readonly Envelope[]): Promise<Outcome[]> {
  try {
    return await transaction(() => subject.take(person, events));
  } catch (error) {
    const refused = refusal(events[0]!.id, error);
    if (events.length === 1) return [refused];
    const outcomes: Outcome[] = [];
    for (const event of events) outcomes.push(...(await takeTogether(person, subject, [event])));
    return outcomes;
  }
}

/**
 * Takes what hands said, in the order in which it came, so that a cut is there before it is graded. Each event stands alone: it is stored with
 * all that follows from it, was there already, waits for what it speaks of, or is refused for good with a reason. A failure of the database is
 * an error, so that the outbox keeps everything and tries again.
 *
 * @param raw events as they were sent
 * @returns what became of each, in order
 */
export async function deliver(
  person: Person,
  raw: readonly unknown[],
  subjects: readonly [Subject, ...Subject[]],
): Promise<Outcome[]> {
  const outcomes: Outcome[] = [];
  let run: { subject: Subject; key: string | undefined; events: Envelope[] } | undefined;
  const flush = async () => {
    if (run) outcomes.push(...(await takeTogether(person, run.subject, run.events)));
    run = undefined;
  };
  for (const item of raw) {
    const read = readEvent(item, subjects);
    if ('refused' in read) {
      await flush();
      outcomes.push(read.refused);
      continue;
    }
    const key = read.subject.together(read.event);
    if (run?.subject === read.subject && key !== undefined && run.key === key) run.events.push(read.event);
    else {
      await flush();
      run = { subject: read.subject, key, events: [read.event] };
    }
  }
  await flush();
  return outcomes;
}

/** A subject among others: what it takes is what its own schema has read. */
export const subjectOf = <E extends Envelope>(subject: Subject<E>): Subject => subject as unknown as Subject;
