import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { countAsked } from '#work/people/limits.ts';
import { awayThings } from '#work/answer/editable.ts';
import { listVinyls } from '#work/answer/list.ts';
import { words } from '../../messages/index.ts';
import { addressOf, visitorsBench, enter } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { AwayList } from '../../ui/base/AwayList.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { VinylRows } from '../../ui/answer/VinylRow.tsx';
import { Ways } from '../../ui/coupons/Ways.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  if (q) await countAsked('search', person, addressOf(args.context));
  const bench = await visitorsBench(args);
  const [vinyls, away] = await Promise.all([listVinyls(person, bench, q), q ? [] : awayThings(person, ['vinyl'])]);
  return { q, cutter: bench?.cutter.name, away, vinyls: leanRows(vinyls, bench?.cutter.model) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.places.vinyls) }];

export default function Vinyls({ loaderData }: Route.ComponentProps) {
  const { q, cutter, vinyls, away } = loaderData;
  return (
    <>
      <div className="head">
        <div>
          <h1>{cutter ? words.vinyls.title(cutter) : words.vinyls.titleNoBench}</h1>
          <p className="quiet" role="status">
            {q ? words.vinyls.found(vinyls.length, isolate(q)) : words.vinyls.count(vinyls.length)}
          </p>
        </div>
        <GoButton className="push" to="/vinyls/new" variant="contained">
          {words.vinyls.add}
        </GoButton>
      </div>
      <Ways
        label={words.places.vinyls}
        ways={[
          ['/blanks', words.vinyls.ways.blanks],
          ['/chart', words.vinyls.ways.chart],
          ['/vinyls/table', words.vinyls.ways.table],
          ['/stock', words.vinyls.ways.stock],
        ]}
      />
      {!cutter && (
        <p className="notice">
          <Link to="/workshop/cutters/new">{words.vinyls.noBench}</Link>
        </p>
      )}
      {vinyls.length === 0 ? (
        <p className="lede">{q ? words.vinyls.none(isolate(q)) : words.vinyls.empty}</p>
      ) : (
        <VinylRows vinyls={vinyls} />
      )}
      <AwayList things={away} />
    </>
  );
}
