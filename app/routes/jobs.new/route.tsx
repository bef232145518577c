import type { Access } from '#work/people/permissions.ts';
import { shapeKeys } from '#core/place/index.ts';
import { beginJob } from '#work/jobs/jobs.ts';
import { ownBlanks, setBlankAway } from '#work/jobs/ownBlanks.ts';
import Button from '@mui/material/Button';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
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
    chosen: kept && { id: kept.id, name: kept.name },
    away: query.get('away'),
    start: kept?.blank ?? usualBlank(shape, person?.length_unit ?? 'mm'),
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    begin: async ({ person, form }) => `/jobs/art?job=${await beginJob(person, form)}`,
    away: async ({ person, form }) => {
      const id = String(form.get('blank'));
      await setBlankAway(person, id, true);
      return `/jobs/new?away=${id}`;
    },
    'take up': async ({ person, form }) => {
      const id = String(form.get('blank'));
      await setBlankAway(person, id, false);
      return `/jobs/new?blank=${id}`;
    },
  });

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobBlank.title) }];

export default function NewJob({ loaderData: { own, chosen, away, start }, actionData }: Route.ComponentProps) {
  const t = words.jobBlank;
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede">{t.lede}</p>
      {away && (
        <WriteForm what="take up" className="notice">
          <input type="hidden" name="blank" value={away} />
          {t.isAway}{' '}
          <Button type="submit" variant="text">
            {t.takeUp}
          </Button>
        </WriteForm>
      )}
      <ShapeNav shape={start.shape} own={own} chosen={chosen?.id} />
      <BlankForm
        key={chosen?.id}
        what="begin"
        start={start}
        keep={chosen?.name}
        count={1}
        name=""
        answer={actionData}
        submit={t.next}
      />
      {chosen && (
        <WriteForm what="away" className="above-24">
          <input type="hidden" name="blank" value={chosen.id} />
          <Button type="submit" variant="text">
            {t.putAway(isolate(chosen.name))}
          </Button>
        </WriteForm>
      )}
    </>
  );
}
