import type { Access } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { useRevalidator } from 'react-router';
import { packView, type PackCardView } from '#work/packs/look.ts';
import { startImport, takeBack } from '#work/packs/imports.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { FormNotice } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { WhatCame, Shown } from './WhatCame.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  return { seen: await packView(person, args.params.pack) };
}

export function action(args: Route.ActionArgs) {
  const id = args.params.pack;
  return actions(access, args, {
    do: async ({ person, form }) => {
      await startImport(person, id, form);
      return `/packs/${id}`;
    },
    back: async ({ person }) => {
      await takeBack(person, id);
      return `/packs/${id}`;
    },
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.packs.title) }];

function CardRow({ card }: { card: PackCardView }) {
  const t = words.packs;
  return (
    <li className="row row-pack" data-state={card.state}>
      <Shown card={{ ...card, key: card.vinylKey }} />
      <div>
        <strong>{t.cardState[card.state]}</strong>
        <div className="quiet small">{t.brought(card.versions, card.found)}</div>
        {card.why.map((w) => (
          <div key={w} className="small">
            {isolate(w)}
          </div>
        ))}
      </div>
    </li>
  );
}

export default function SeenPack({ loaderData: { seen }, actionData }: Route.ComponentProps) {
  const t = words.packs;
  const zone = useZone();
  const { revalidate } = useRevalidator();
  const waiting = seen.state === 'queued';
  useEffect(() => {
    if (!waiting) return;
    const timer = setInterval(() => void revalidate(), 1500);
    return () => clearInterval(timer);
  }, [waiting, revalidate]);
  const news = seen.counts.new + seen.counts.more;
  const { report } = seen;
  return (
    <>
      <h1>{isolate(seen.title) || t.title}</h1>
      <p className="quiet" style={{ margin: '4px 0 20px' }}>
        {t.madeBy(isolate(seen.author), seen.home && isolate(seen.home))}
        {seen.licence && ` · ${words.licences[seen.licence].name}`} · {day(seen.at, zone)}
      </p>
      <FormNotice answer={actionData} text={words.errors.form} />
      {waiting && (
        <p className="notice" role="status">
          {t.waiting}
        </p>
      )}
      {seen.state === 'failed' && (
        <p className="notice bad" role="alert">
          {t.failed}
        </p>
      )}
      {report && (seen.state === 'done' || seen.state === 'withdrawn') && (
        <>
          <p className="notice" role="status" data-testid="report">
            {t.did(report.cards, report.versions, report.confirmations, report.vinyls, report.same)}
            {seen.state === 'withdrawn' && ` ${t.takenBack}`}
          </p>
          {report.left.length > 0 && (
            <>
              <h2 className="section-word">{t.left}</h2>
              <ul>
                {report.left.map((l) => (
                  <li key={l}>{isolate(l)}</li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
      {seen.state === 'done' && (
        <div className="actions">
          <GoButton to="/shelf" variant="contained">
            {t.toShelf}
          </GoButton>
          <WriteForm what="back">
            <Button type="submit">{t.back}</Button>
          </WriteForm>
        </div>
      )}
      {seen.brought.length > 0 && <WhatCame seen={seen} />}
      {(seen.state === 'seen' || seen.state === 'failed' || seen.state === 'withdrawn') && (
        <>
          <h2 className="section-word">{t.would}</h2>
          <ul data-testid="would" className="would">
            <li>
              <strong>{t.new(seen.counts.new)}</strong>
            </li>
            {seen.counts.more > 0 && <li>{t.more(seen.counts.more)}</li>}
            {seen.counts.same > 0 && <li>{t.same(seen.counts.same)}</li>}
            {seen.counts.conflict > 0 && <li>{t.conflict(seen.counts.conflict)}</li>}
            <li>
              {t.vinyls(
                seen.vinyls.filter((v) => v.state === 'new').length,
                seen.vinyls.filter((v) => v.state === 'same name').length,
              )}
            </li>
          </ul>
          {news > 0 || seen.state === 'withdrawn' ? (
            <WriteForm what="do" className="form" style={{ margin: '20px 0 32px' }}>
              {seen.steward ? (
                <Choices
                  name="weight"
                  legend={t.weight}
                  answer={actionData}
                  initial="half"
                  options={[
                    ['half', t.half, t.halfHelp],
                    ['full', t.full, t.fullHelp],
                  ]}
                />
              ) : (
                <p className="quiet">{t.oneVoice}</p>
              )}
              <div>
                <Button type="submit" variant="contained">
                  {t.do(news)}
                </Button>
              </div>
            </WriteForm>
          ) : (
            <p>{t.nothing}</p>
          )}
          <ul className="rows">
            {seen.cards.map((card) => (
              <CardRow key={card.key} card={card} />
            ))}
          </ul>
        </>
      )}
    </>
  );
}
