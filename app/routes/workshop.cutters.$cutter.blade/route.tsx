import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { movedBy } from '#work/answer/newBlade.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylHex, vinylLine, vinylName } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** A blade was put on: which numbers it moved, all in one list. */
export async function loader(args: Route.LoaderArgs) {
  return movedBy(await enter(access, args), args.params.cutter);
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.newBlade.title) }];

export default function NewBlade({ loaderData: { cutter, on } }: Route.ComponentProps) {
  const t = words.newBlade;
  const zone = useZone();
  const axis = strengthAxis(cutter.model);
  const said = (position: number) => formatPosition(axis, position);
  const moved = on?.moved ?? [];
  const lower = moved.length > 0 && moved.every((m) => m.after < m.before);
  return (
    <>
      <h1>{moved.length === 0 ? t.same : lower ? t.lower : t.other}</h1>
      <p className="quiet">{on && t.on(isolate(on.blade), isolate(cutter.name), day(on.mountedAt, zone))}</p>
      {moved.length > 0 && (
        <>
          <p className="lede new-blade-lede">{t.lede}</p>
          <ul className="rows" data-testid="moved">
            {moved.map(({ vinyl, before, after }) => (
              <li key={vinyl.id}>
                <Link className="row row-moved" to={`/vinyls/${vinyl.id}`}>
                  <Swatch type={vinyl.type} hex={vinylHex(vinyl)} size={48} />
                  <div>
                    <div className="row-name">{vinylName(vinyl)}</div>
                    <div className="quiet">{vinylLine(vinyl)}</div>
                  </div>
                  <div className="moved-numbers">
                    <span className="quiet">{said(before)}</span> → <strong>{said(after)}</strong>
                  </div>
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="actions">
        <GoButton to="/" variant="contained">
          {words.cut.back}
        </GoButton>
        <GoButton to="/workshop">{words.places.workshop}</GoButton>
      </div>
    </>
  );
}
