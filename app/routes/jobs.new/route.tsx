import type { Access } from '#work/people/permissions.ts';
import { shapeKeys } from '#core/place/index.ts';
import { beginJob, ownBlanks } from '#work/jobs/jobs.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { BlankForm, ShapeNav, usualBlank } from '../../ui/jobs/BlankForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** A blank to begin with: one that is kept, or a shape with its usual measures. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const own = await ownBlanks(person);
  const kept = own.find((b) => b.id === query.get('blank'));
  const shape = kept?.blank.shape ?? shapeKeys.find((k) => k === query.get('shape')) ?? 'shirt';
  return {
    own: own.map(({ id, name }) => ({ id, name })),
    chosen: kept?.id,
    start: kept?.blank ?? usualBlank(shape, person?.length_unit ?? 'mm'),
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    begin: async ({ person, form }) => `/jobs/art?job=${await beginJob(person, form)}`,
  });

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobBlank.title) }];

export default function NewJob({ loaderData: { own, chosen, start }, actionData }: Route.ComponentProps) {
  const t = words.jobBlank;
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede">{t.lede}</p>
      <ShapeNav shape={start.shape} own={own} chosen={chosen} />
      <BlankForm what="begin" start={start} count={1} name="" answer={actionData} submit={t.next} />
    </>
  );
}
