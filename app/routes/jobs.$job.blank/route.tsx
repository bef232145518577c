import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { seenOf } from '#work/base/seen.ts';
import type { Access } from '#work/people/permissions.ts';
import { shapeKeys } from '#core/place/index.ts';
import { changeBlank } from '#work/jobs/jobs.ts';
import { shownNow, shownOn } from '#work/jobs/shownPlan.ts';
import { jobOf } from '#work/jobs/view.ts';
import { words } from '../../messages/index.ts';
import { actions, enter, over } from '../../server/enter.server.ts';
import { BlankForm, ShapeNav, usualBlank } from '../../ui/jobs/BlankForm.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** The blank of a job, measured anew. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const job = await jobOf(person, args.params.job);
  const shape = shapeKeys.find((k) => k === new URL(args.request.url).searchParams.get('shape'));
  const { blank } = job.plan;
  return {
    id: job.id,
    name: job.name,
    missing: job.missing,
    seen: seenOf(shownOn('blank', job.plan)),
    count: job.plan.pieces.length,
    start: shape && shape !== blank.shape ? usualBlank(shape, person?.length_unit ?? 'mm') : blank,
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    blank: over(args.params.job, shownNow('blank', args.params.job), async ({ person, form }) => {
      await changeBlank(person, args.params.job, form);
      return `/jobs/${args.params.job}`;
    }),
  });

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobBlank.change) }];

export default function JobBlankPage({
  loaderData: { id, name, missing, seen, count, start },
  actionData,
}: Route.ComponentProps) {
  const t = words.jobBlank;
  return (
    <>
      <JobHead title={t.change} job={{ id, missing }} />
      <ShapeNav shape={start.shape} own={[]} chosen={undefined} />
      <BlankForm what="blank" seen={seen} start={start} count={count} name={name} answer={actionData} submit={t.save} />
    </>
  );
}
