import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { Invalid } from '#work/base/errors.ts';
import { claimAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { addCutter } from '#work/workshop/cutters.ts';

// What tests of the work on the bench have in common: forms as a browser sends them, grades as an outbox sends them.

export const form = (fields: Record<string, string>): FormData => {
  const data = new FormData();
  for (const [key, value] of Object.entries(fields)) data.set(key, value);
  return data;
};

/** A measured shirt, as the form of a new job says it. */
export const shirtForm = (more: Record<string, string> = {}): FormData =>
  form({
    shape: 'shirt',
    surface: 'plain-cloth',
    width: '20 in',
    height: '26 in',
    side: 'front',
    edge: '1 in',
    top: '1 in',
    bottom: '2 in',
    size: 'M',
    hex: '#223344',
    count: '1',
    ...more,
  });

/** What an outbox says of a job, but for what it is. */
export const saidOf = (job: { id: string; rev: number }, more: object) => ({
  id: uuidv7(),
  job: job.id,
  attempt: 1,
  rev: job.rev,
  device: uuidv4(),
  deviceAt: new Date().toISOString(),
  ...more,
});

/** What was refused, field by field; any other error as it is. */
export const fieldsOf = async (work: Promise<unknown>) =>
  work.then(
    () => 'nothing was refused',
    (error: unknown) => (error instanceof Invalid ? error.fields : error),
  );

export const device = uuidv4();
/** A grade as one device sends it, so many seconds after the first. */
export const grade = (cell: string, word: string, passes = 1, seconds = 0) => ({
  id: uuidv7(),
  kind: 'grade',
  cell,
  figure: 1,
  passes,
  grade: word,
  device,
  deviceAt: new Date(1_790_000_000_000 + seconds * 1000).toISOString(),
});

/** The password of everybody made by `crafter`. */
export const password = 'lantern river seven';
/** Somebody with an account, a cutter and a blade. */
export async function crafter(name: string, model: string, email: string): Promise<Person> {
  const { person } = await becomeGuest();
  await addCutter(person, form({ model, name: `${name}’s machine`, blade: 'first', angle: '45', used: '0' }));
  await claimAccount(person, form({ email, password, name }));
  return { ...person, email, name, proven: true };
}
