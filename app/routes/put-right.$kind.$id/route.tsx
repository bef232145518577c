import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import type { Access } from '#work/people/permissions.ts';
import { seenOf } from '#work/base/seen.ts';
import { Link } from 'react-router';
import { correct, remove, setAway, thingOf, type Place, type Thing } from '#work/answer/editable.ts';
import { words } from '../../messages/index.ts';
import { actions, enter, over } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { PutAway } from './PutAway.tsx';
import { SayRight } from './SayRight.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** The page of a thing, and the one to go on with once it is gone. */
function pagesOf({ kind, id, of }: Place): { own: string; gone: string } {
  switch (kind) {
    case 'vinyl':
      return { own: `/vinyls/${id}/about`, gone: '/vinyls' };
    case 'colour':
      return { own: `/vinyls/${of}/about`, gone: `/vinyls/${of}/about` };
    case 'piece':
      return { own: `/stock/${id}`, gone: '/stock' };
    case 'type':
      return { own: '/types/new', gone: '/types/new' };
    case 'coupon':
      return { own: `/coupons/${id}`, gone: '/coupons' };
    case 'cut':
      return { own: `/cuts/${id}`, gone: '/' };
    case 'batch':
      return { own: `/vinyls/${of}/about`, gone: `/vinyls/${of}/about` };
    case 'remark':
      return { own: `/cards/${of}`, gone: `/cards/${of}` };
    default:
      return { own: '/workshop', gone: '/workshop' };
  }
}

export async function loader(args: Route.LoaderArgs) {
  const thing = await thingOf(await enter(access, args), args.params.kind, args.params.id);
  return { thing, page: pagesOf(thing).own, seen: seenOf(said(thing)) };
}

/** What the form shows of a thing. */
function said({ rests: _, mayGo: __, ...thing }: Thing) {
  return thing;
}

export function action(args: Route.ActionArgs) {
  const { kind, id } = args.params;
  const here = `/put-right/${kind}/${id}`;
  return actions(access, args, {
    save: over(
      here,
      async (person) => said(await thingOf(person, kind, id)),
      async ({ person, form }) => pagesOf(await correct(person, kind, id, form)).own,
    ),
    away: async ({ person }) => {
      await setAway(person, kind, id, true);
      return here;
    },
    'take up': async ({ person }) => pagesOf(await setAway(person, kind, id, false)).own,
    delete: async ({ person }) => pagesOf(await remove(person, kind, id)).gone,
  });
}

const nameOf = (thing: Thing): string =>
  isolate(thing.kind === 'remark' ? `${thing.body.slice(0, 40)}${thing.body.length > 40 ? ' …' : ''}` : thing.name);

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? words.putRight.title(nameOf(loaderData.thing)) : '') },
];

/** One page for everything that a hand made: what is said of it, and whether it stays. */
export default function PutRight({ loaderData: { thing, page, seen }, actionData }: Route.ComponentProps) {
  const t = words.putRight;
  const zone = useZone();
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title(nameOf(thing))}</h1>
          <p className="quiet">
            {t.kinds[thing.kind]}
            {'at' in thing && ` · ${day(thing.at, zone)}`}
            {thing.kind === 'cut' && ` · ${thing.said}`}
            {thing.kind === 'coupon' && ` · ${words.plural(Number(thing.said), 'cell')}`} ·{' '}
            <Link to={page}>{t.back}</Link>
          </p>
        </div>
      </div>
      {thing.away && (
        <p className="notice" role="status" data-testid="is-away">
          {t.is[thing.kind]}
        </p>
      )}
      {actionData && <FormNotice answer={actionData} text={words.errors.form} />}
      <div className="put-right-page">
        {thing.own && (
          <SayRight seen={seen} thing={thing} answer={actionData?.values.what === 'save' ? actionData : undefined} />
        )}
        <PutAway thing={thing} />
      </div>
    </>
  );
}
