import { deliver, type Outcome } from '#work/people/delivery.ts';
import type { Person } from '#work/people/person.ts';
import { jobEvents } from '#work/jobs/events.ts';
import { cellEvents } from '#work/shelf/evidence.ts';

/**
 * All that events may be about, each with the subject that takes it. What names none of them is read as an event of the first, which says what
 * it lacks.
 */
const subjects = [cellEvents, jobEvents] as const;

/** The one door for what hands said and an outbox sends: at cells of cuts and at steps of jobs. What became of each is the answer. */
export const takeAll = (person: Person, raw: readonly unknown[]): Promise<Outcome[]> => deliver(person, raw, subjects);
