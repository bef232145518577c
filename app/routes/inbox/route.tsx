import type { Access } from '#work/people/permissions.ts';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { markInboxRead, openInbox } from '#work/shelf/inbox.ts';
import { openNotices, type Notice } from '#work/shelf/social.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { GradePatch } from '../../ui/coupons/CouponDrawing.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** What others found with one's cards, what was asked and answered, and news of vinyls that are followed. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const until = new Date().toISOString();
  const [found, notices] = await Promise.all([openInbox(person), openNotices(person)]);
  return { found, notices, until };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    read: async ({ person, form }) => {
      await markInboxRead(person, form);
      return '/inbox';
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.inbox.title) }];

function noticeTitle(n: Notice): string {
  const t = words.notices;
  const standing = words.cardStanding[n.standing as keyof typeof words.cardStanding];
  switch (n.kind) {
    case 'question':
      return t.question(isolate(n.who ?? ''));
    case 'answer':
      return t.answer(isolate(n.who ?? ''));
    case 'best':
      return n.who ? t.best(isolate(n.who), standing) : t.none;
    case 'standing':
      return t.standing(standing, words.cardStanding[n.before as keyof typeof words.cardStanding]);
    case 'hidden':
      return t.hidden;
    case 'report':
      return t.report;
    case 'way gone':
      return t.wayGone;
  }
}

function NoticeRow({ notice: n }: { notice: Notice }) {
  const zone = useZone();
  return (
    <li>
      <Link className="row row-notice" to={n.card ? `/cards/${n.card}` : `/vinyls/${n.vinylId}`} data-kind={n.kind}>
        <div>
          <div className="row-name">
            {n.unread && <span className="tag">{words.inbox.fresh}</span>} {isolate(n.vinyl)}: {noticeTitle(n)}
          </div>
          {n.said && <p className="said">{n.said}</p>}
          <div className="quiet small">{day(n.at, zone)}</div>
        </div>
      </Link>
    </li>
  );
}

export default function Inbox({ loaderData: { found, notices, until } }: Route.ComponentProps) {
  const t = words.inbox;
  const unread = found.some((f) => f.unread) || notices.some((n) => n.unread);
  // Having been shown, it is read; the page itself stays as it is, so that what is new can be told until it is left.
  useEffect(() => {
    if (unread)
      void fetch('/inbox', {
        method: 'POST',
        body: new URLSearchParams({ what: 'read', until }),
        redirect: 'manual',
      }).catch(() => undefined);
  }, [unread, until]);
  const zone = useZone();
  return (
    <>
      <h1>{t.title}</h1>
      {notices.length > 0 && (
        <ul className="rows above-24" data-testid="notices">
          {notices.map((n) => (
            <NoticeRow key={n.id} notice={n} />
          ))}
        </ul>
      )}
      {found.length === 0 && notices.length > 0 ? null : found.length === 0 ? (
        <>
          <p className="lede" style={{ margin: '16px 0 0' }}>
            {t.empty}
          </p>
          <div className="actions">
            <GoButton to="/vinyls">{words.places.vinyls}</GoButton>
          </div>
        </>
      ) : (
        <ul className="rows above-24">
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
