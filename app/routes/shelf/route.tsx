import { Link } from 'react-router';
import { formatPosition, shortPosition, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { listCards, type ListedCard } from '#work/cards.ts';
import { countSearch } from '#work/limits.ts';
import { benchOf } from '#work/workshop.ts';
import { words } from '../../messages/index.ts';
import { addressOf, enter, found } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/Link.tsx';
import { isolate } from '../../ui/format.ts';
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
  return { q, bench: bench?.cutter.name, cards: await listCards(person, bench, q) };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.places.shelf) }];

function CardRow({ card }: { card: ListedCard }) {
  const t = words.shelf;
  const axis = strengthAxis(card.model);
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
          </div>
        </div>
        <div className="row-strip">
          <WindowStrip
            axis={axis}
            result={card.result}
            domain={stripDomain(axis, [card.result.summary], [position])}
            {...(card.here ? {} : { mark: position })}
            width={420}
            height={22}
          />
        </div>
        <div className="row-from">
          <strong>
            {card.own ? words.standing[card.standing] : card.here ? t.from(card.crafters) : t.onTheirs(card.model.name)}
          </strong>
          <div className="quiet small">
            {card.graded > 0 ? t.confirmed(card.confirmed, card.graded) : t.unconfirmed}
          </div>
          <span className="visually-hidden">
            {axis.word} {formatPosition(axis, position)} ({shortPosition(axis, position)})
          </span>
        </div>
      </Link>
    </li>
  );
}

export default function Shelf({ loaderData: { q, cards, bench } }: Route.ComponentProps) {
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
        <ul className="rows">
          {cards.map((card) => (
            <CardRow key={card.id} card={card} />
          ))}
        </ul>
      )}
    </>
  );
}
