import { Link } from 'react-router';
import { openInbox } from '#work/cards.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { GradePatch } from '../../ui/CouponDrawing.tsx';
import { day, isolate } from '../../ui/format.ts';
import { GoButton } from '../../ui/Link.tsx';
import { useZone } from '../../ui/usePerson.ts';
import type { Route } from './+types/route';

/** What others found with one's cards. */
export async function loader(args: Route.LoaderArgs) {
  return { found: await openInbox(await enter('routes/inbox/route', args)) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.inbox.title) }];

export default function Inbox({ loaderData: { found } }: Route.ComponentProps) {
  const t = words.inbox;
  const zone = useZone();
  return (
    <>
      <h1>{t.title}</h1>
      {found.length === 0 ? (
        <>
          <p className="lede" style={{ margin: '16px 0 0' }}>
            {t.empty}
          </p>
          <div className="actions">
            <GoButton to="/vinyls">{words.places.vinyls}</GoButton>
          </div>
        </>
      ) : (
        <ul className="rows" style={{ marginTop: 24 }}>
          {found.map((f) => (
            <li key={f.cut}>
              <Link className="row row-found" to={`/cards/${f.card}`} data-grade={f.grade}>
                <GradePatch grade={f.grade} />
                <div>
                  <div className="row-name">
                    {f.unread && <span className="tag">{t.fresh}</span>} {isolate(f.vinyl)}:{' '}
                    {words.grades[f.grade].word}
                  </div>
                  {f.said && <p className="said">{f.said}</p>}
                  <div className="quiet small">
                    {t.by(isolate(f.who), f.model, day(f.at, zone))} · {f.grade === f.wanted ? t.agrees : t.differs}
                  </div>
                </div>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
