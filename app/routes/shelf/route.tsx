import { Link } from 'react-router';
import { formatPosition, shortPosition, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { listCards, type ListedCard } from '#work/cards.ts';
import { countSearch } from '#work/limits.ts';
import { benchOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, found } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/Link.tsx';
import { isolate, loadPercent, percent } from '../../ui/format.ts';
import { Swatch } from '../../ui/Swatch.tsx';
import { vinylLine, vinylName } from '../../ui/vinylName.ts';
import { WindowStrip } from '../../ui/WindowStrip.tsx';
import type { Route } from './+types/route';

/** What crafters share: proven numbers with their evidence. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/shelf/route', args);
  const q = (new URL(args.request.url).searchParams.get('q') ?? '').trim().slice(0, 200);
  if (q) await found(async () => countSearch(person, addressOf(args.context)));
  const bench = await benchOf(person);
  return { q, bench: bench?.cutter.name, model: bench?.cutter.model, cards: await listCards(person, bench, q) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.places.shelf) }];

function CardRow({ card, bench }: { card: ListedCard; bench: CutterModel | undefined }) {
  const t = words.shelf;
  const axis = strengthAxis(card.model);
  // A translated strip lies on the axis of the cutter on the bench.
  const shownAxis = card.here === 'translated' && bench ? strengthAxis(bench) : axis;
  const type = card.vinyl.type as VinylTypeKey;
  const vinyl = { ...card.vinyl, type, colour: { name: card.vinyl.colour } };
  const position = card.controls.steps[axis.key]!;
  return (
    <li>
      <Link className="row row-vinyl" to={`/cards/${card.id}`}>
        <Swatch type={type} hex={card.vinyl.hex} seed={card.vinyl.id} standing={card.standing} />
        <div>
          <div className="row-name">{vinylName(vinyl)}</div>
          <div className="quiet">{vinylLine(vinyl)}</div>
          <div className="quiet small">
            {card.own ? t.yours(words.visibility[card.visibility]) : t.by(isolate(card.author), card.model.name)}
            {card.home !== undefined && ` · ${t.elsewhere(isolate(card.home))}`}
          </div>
        </div>
        <div className="row-strip">
          <WindowStrip
            axis={shownAxis}
            result={card.result}
            domain={stripDomain(shownAxis, [card.result.summary], [card.number ?? position])}
            {...(card.number !== undefined ? { mark: card.number } : card.here ? {} : { mark: position })}
            width={420}
            height={22}
          />
        </div>
        <div className="row-from">
          <strong>
            {words.cardStanding[card.standing]}
            {card.number !== undefined && <span className="row-number"> {shortPosition(shownAxis, card.number)}</span>}
          </strong>
          <div className="quiet small">
            {card.rank
              ? t.rank(percent(card.rank.chance), card.wanted, loadPercent(card.closeness ?? 0))
              : card.graded > 0
                ? t.confirmed(card.confirmed, card.graded)
                : card.here
                  ? t.from(card.crafters)
                  : t.onTheirs(card.model.name)}
          </div>
          {(card.standing === 'doubted' || card.split || card.hidden) && (
            <div className="small">
              {[
                ...(card.hidden ? [t.hidden] : []),
                ...(card.standing === 'doubted' ? [t.doubted] : []),
                ...(card.split ? [t.split] : []),
              ].join(' · ')}
            </div>
          )}
          <span className="visually-hidden">
            {axis.word} {formatPosition(axis, position)} ({shortPosition(axis, position)})
          </span>
        </div>
      </Link>
    </li>
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
            {cards.map((card) => (
              <CardRow key={card.id} card={card} bench={model} />
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
