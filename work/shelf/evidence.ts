import { benchEventSchema, type BenchEvent } from '#core/grades/index.ts';
import { afterCommit } from '#store/base/db.ts';
import { log } from '#work/base/log.ts';
import { storeEvents } from '#work/coupons/grade.ts';
import { readForBlade, refreshReading, refreshReadings } from '#work/coupons/readings.ts';
import { storeSetting } from '#work/cuts/keep.ts';
import { subjectOf } from '#work/people/delivery.ts';
import type { Person } from '#work/people/person.ts';
import { storeCatalogue } from '#work/vinyls/catalogue.ts';
import { rereadMerged } from './mergedVinyls.ts';
import { sharedAfterGrades } from './shared.ts';
import { refreshProofs } from './standing.ts';

// What changes evidence is stored by the subject it belongs to; what follows from it is made here, once it is committed: readings, where
// kept numbers stand, what cards say. What a crash cuts off in between is marked in the database and made up for by the task "tidy".

/** What follows from evidence and failed is said, and left to the task that makes up for it. */
const left = (what: string) => (error: unknown) =>
  log.warn({ event: 'left for later', what, err: error }, 'what follows from a change of evidence failed');

/** What the bench says of cells: stored in one go, then what was graded is read again. */
export const cellEvents = subjectOf<BenchEvent>({
  about: 'cell',
  schema: benchEventSchema,
  together: () => 'cells',
  take: async (person, events) => {
    const { outcomes, graded, cuts } = await storeEvents(person, events);
    await evidenceChanged(person, graded, cuts);
    return outcomes;
  },
});

/** Reads again what rests on graded cuts. What changed is safe by now: a reading that fails is made again by the task. */
export async function evidenceChanged(
  person: Person,
  graded: readonly { vinylId: string; cutterId: string }[],
  cuts: readonly string[],
): Promise<void> {
  await afterCommit(async () => {
    for (const { vinylId, cutterId } of graded)
      await refreshReadings(person.id, vinylId, cutterId)
        .then(() => refreshProofs(person.id, person.zone, vinylId, cutterId))
        .catch(left('readings'));
    // A cut wears the blade: where that goes a step on, every number on that cutter is read again.
    for (const cutterId of new Set(graded.map((g) => g.cutterId)))
      await readForBlade(person.id, cutterId).catch(left('readings of a blade'));
    await sharedAfterGrades(cuts).catch(left('shared cards'));
  });
}

/** Keeps a number as the setting for a vinyl on a cutter, and says where it stands. @throws Invalid with a message a field */
export async function keepSetting(person: Person, form: FormData): Promise<void> {
  const { vinylId, cutterId, wanted } = await storeSetting(person, form);
  await afterCommit(async () => {
    await refreshReading(person.id, vinylId, cutterId, wanted);
    await refreshProofs(person.id, person.zone, vinylId, cutterId);
  });
}

/** Changes what is said of a vinyl, and reads again what rests on it. @throws Invalid with a message a field */
export async function saveCatalogue(person: Person, id: string, form: FormData): Promise<void> {
  await rereadMerged(await storeCatalogue(person, id, form));
}
