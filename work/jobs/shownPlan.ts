import type { Plan } from '#core/job/index.ts';
import type { Person } from '#work/people/person.ts';
import { ownJob, planOf } from './jobs.ts';

/** What each page of a job is filled in from, of its plan. */
const shown = {
  size: ({ design }: Plan) => design,
  blank: ({ blank, pieces }: Plan) => [blank, pieces.length],
  vinyls: ({ layers }: Plan) => layers.map(({ id, vinyl, colour }) => [id, vinyl, colour]),
  drawing: ({ design, layers }: Plan) => [design?.artwork, layers.map((l) => l.path)],
  names: ({ pieces }: Plan) => pieces,
};
export type ShownPage = keyof typeof shown;

/** Of a plan what a page shows. */
export const shownOn = (page: ShownPage, plan: Plan): unknown => shown[page](plan);

/** The same of the plan as it stands: a form that was filled in from something older is told so. */
export const shownNow =
  (page: ShownPage, job: string) =>
  async (person: Person): Promise<unknown> => {
    await ownJob(person, job);
    return shownOn(page, (await planOf(job)).plan);
  };
