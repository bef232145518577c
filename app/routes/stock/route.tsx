import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { coloursOf } from '#work/vinyls/catalogue.ts';
import { awayThings } from '#work/answer/editable.ts';
import { addPiece, stockOf } from '#work/vinyls/stock.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { AwayList } from '../../ui/base/AwayList.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { Pieces } from './Pieces.tsx';
import { AddPiece } from './AddPiece.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What is left of everything; with a vinyl named, a form that puts more of it in. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const query = new URL(args.request.url).searchParams;
  const id = query.get('vinyl');
  const vinyl = id === null ? undefined : await vinylOf(person, id, query.get('colour') ?? undefined);
  return {
    vinyl: vinyl && { ...vinyl, colours: await coloursOf(vinyl.id) },
    pieces: (await stockOf(person)).filter((p) => !vinyl || p.vinyl.id === vinyl.id),
    away: await awayThings(person, ['piece']),
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    add: async ({ person, form }) => `/stock/${await addPiece(person, String(form.get('vinyl')), form)}`,
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.stock.title) }];

export default function Stock({ loaderData: { vinyl, pieces, away }, actionData }: Route.ComponentProps) {
  const t = words.stock;
  return (
    <>
      <div className="head">
        {vinyl && <Swatch type={vinyl.type} hex={vinylHex(vinyl)} size={64} />}
        <div>
          <h1>{t.title}</h1>
          <p className="quiet">
            {vinyl ? <Link to={`/vinyls/${vinyl.id}`}>{vinylTitle({ ...vinyl, colour: undefined })}</Link> : t.lede}
          </p>
        </div>
      </div>
      {pieces.length === 0 && !vinyl && (
        <>
          <p className="lede">{t.empty}</p>
          <div className="actions">
            <GoButton to="/vinyls" variant="contained">
              {words.coupons.choose}
            </GoButton>
          </div>
        </>
      )}
      {pieces.length > 0 && <Pieces pieces={pieces} />}
      {vinyl && <AddPiece vinyl={vinyl} actionData={actionData} />}
      <AwayList things={away} />
    </>
  );
}
