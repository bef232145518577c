import { timesInHundred } from '#core/window/index.ts';
import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { formatPosition, shortPosition, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { ListedCard } from '#work/shelf/list.ts';
import { shelfFor, type HereAnswer } from '#work/answer/shelf.ts';
import { RowCamps } from '../../ui/answer/VinylRow.tsx';
import { sayAnswer } from '../../ui/answer/sayAnswer.ts';
import { countAsked } from '#work/people/limits.ts';
import { words } from '../../messages/index.ts';
import { addressOf, visitorsBench, enter } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { isolate, loadPercent, percent } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { vinylLine, vinylName, vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** What crafters share: proven numbers with their evidence. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  if (q) await countAsked('search', person, addressOf(args.context));
  const bench = await visitorsBench(args);
  return { q, bench: bench?.cutter.name, model: bench?.cutter.model, cards: await shelfFor(person, bench, q) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.places.shelf) }];

type Shelved = ListedCard & { onBench: HereAnswer | undefined };

/** Cards of one vinyl, wanted one way, stand together where the best of them stands. */
function byVinyl(cards: readonly Shelved[]): [Shelved, ...Shelved[]][] {
  const groups = new Map<string, [Shelved, ...Shelved[]]>();
  for (const card of cards) {
    const key = `${card.vinyl.id} ${card.wanted}`;
    const group = groups.get(key);
    if (group) group.push(card);
    else groups.set(key, [card]);
  }
  return [...groups.values()];
}

const whose = (card: ListedCard) => {
  const t = words.shelf;
  const who = card.own ? t.yours(words.visibility[card.visibility]) : t.by(isolate(card.author), card.model.name);
  return card.home === undefined ? who : `${who} · ${t.elsewhere(isolate(card.home))}`;
};
const stands = (card: Shelved) => {
  const t = words.shelf;
  // The chance of the number that is shown, as its card says it.
  const chance = card.onBench?.answer.chance;
  if (chance !== undefined && !card.own) return words.card.chance(timesInHundred(chance), card.wanted);
  if (card.rank) return t.rank(percent(card.rank.chance), card.wanted, loadPercent(card.closeness ?? 0));
  if (card.graded > 0) return t.confirmed(card.confirmed, card.graded);
  return card.here ? t.from(card.crafters) : t.onTheirs(card.model.name);
};
const warnings = (card: ListedCard) => {
  const t = words.shelf;
  return [
    ...(card.hidden ? [t.hidden] : []),
    ...(card.standing === 'doubted' ? [t.doubted] : []),
    ...(card.split ? [t.split] : []),
  ].join(' · ');
};
const named = ({ vinyl }: ListedCard) => ({
  ...vinyl,
  type: vinyl.type as VinylTypeKey,
  colour: { name: vinyl.colour },
});
/** Cards of a vinyl beside the best one that lie open. */
const SHOWN = 2;

/** Another card of the vinyl above it, on one line; its colour where it is another than `colour`. Its number is its author's. */
function MoreRow({ card, colour }: { card: Shelved; colour: string }) {
  const axis = strengthAxis(card.model);
  return (
    <li>
      <Link className="row-more" to={`/cards/${card.id}`}>
        <span>
          {[whose(card), card.vinyl.colour !== colour && isolate(card.vinyl.colour)].filter(Boolean).join(' · ')}
        </span>
        <span>
          {words.cardStanding[card.standing]}
          {card.own && <strong> {shortPosition(axis, card.controls.steps[axis.key]!)}</strong>}
        </span>
        <span>{[stands(card), warnings(card)].filter(Boolean).join(' · ')}</span>
      </Link>
    </li>
  );
}

function CardRow({ card, bench }: { card: Shelved; bench: CutterModel | undefined }) {
  // On the bench where something can be said there; else as its author has it.
  const here = bench && card.onBench;
  const theirs = strengthAxis(card.model);
  const axis = here ? strengthAxis(bench) : theirs;
  const vinyl = named(card);
  const position = card.controls.steps[theirs.key]!;
  const mark = here ? here.answer.position : position;
  const result = here ? here.result : card.result;
  return (
    <Link className="row row-vinyl" to={`/cards/${card.id}`}>
      <Swatch type={vinyl.type} hex={card.vinyl.hex} standing={card.standing} />
      <div>
        <div className="row-name">{vinylName(vinyl)}</div>
        <div className="quiet">{vinylLine(vinyl)}</div>
        <div className="quiet small">{whose(card)}</div>
      </div>
      <div className="row-strip">
        {mark === undefined ? (
          <RowCamps camps={sayAnswer(axis, here!.answer)!} />
        ) : (
          <WindowStrip
            axis={axis}
            result={result}
            domain={stripDomain(axis, [result.summary], [mark])}
            mark={mark}
            width={420}
            height={22}
          />
        )}
      </div>
      <div className="row-from">
        <strong>{words.cardStanding[card.standing]}</strong>
        <div className="quiet small">{stands(card)}</div>
        {warnings(card) && <div className="small">{warnings(card)}</div>}
        <span className="visually-hidden">
          {theirs.word} {formatPosition(theirs, position)} ({card.model.name})
        </span>
      </div>
    </Link>
  );
}

export default function Shelf({ loaderData: { q, cards, bench, model } }: Route.ComponentProps) {
  const t = words.shelf;
  return (
    <>
      <div className="head">
        <div>
          <h1>{t.title}</h1>
          <p className="quiet" role="status">
            {q ? t.found(cards.length, isolate(q)) : bench ? t.for(bench) : t.lede}
          </p>
        </div>
        <GoButton className="push" to="/inbox">
          {t.inbox}
        </GoButton>
      </div>
      <form action="/shelf" method="get" role="search" aria-label={t.title} className="shelf-find">
        <input
          key={q}
          name="q"
          type="search"
          defaultValue={q}
          placeholder={t.find}
          aria-label={t.find}
          maxLength={200}
          autoComplete="off"
        />
        <button type="submit">{t.go}</button>
      </form>
      {cards.length === 0 ? (
        <p className="lede">{q ? t.none(isolate(q)) : t.empty}</p>
      ) : (
        <>
          {cards.some((c) => c.rank) && (
            <p className="quiet small" style={{ marginBottom: 12 }}>
              {t.ranked}
            </p>
          )}
          <ul className="rows">
            {byVinyl(cards).map(([best, ...more]) => (
              <li key={best.id} className={more.length > 0 ? 'with-more' : undefined}>
                <CardRow card={best} bench={model} />
                {more.length > 0 && (
                  <ul className="more" aria-label={t.more(vinylTitle(named(best)))}>
                    {more.slice(0, SHOWN).map((card) => (
                      <MoreRow key={card.id} card={card} colour={best.vinyl.colour} />
                    ))}
                    {more.length > SHOWN && (
                      <li>
                        <details>
                          <summary>{t.others(more.length - SHOWN)}</summary>
                          <ul>
                            {more.slice(SHOWN).map((card) => (
                              <MoreRow key={card.id} card={card} colour={best.vinyl.colour} />
                            ))}
                          </ul>
                        </details>
                      </li>
                    )}
                  </ul>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="quiet small" style={{ marginTop: 32, display: 'flex', gap: 24, flexWrap: 'wrap' }}>
        <a href={`/feed${q ? `?q=${encodeURIComponent(q)}` : ''}`}>{t.feed}</a>
        <Link to="/packs">{t.packs}</Link>
        <Link to="/order">{t.order}</Link>
      </p>
    </>
  );
}
