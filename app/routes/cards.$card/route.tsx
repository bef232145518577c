import { type Access, can } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { shortPosition, strengthAxis } from '#core/controls/index.ts';
import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { adoptCard } from '#work/shelf/adopt.ts';
import { answerForCard, pressForCard } from '#work/answer/shelf.ts';
import { cardRow } from '#work/shelf/cards.ts';
import { cardView, type CardView } from '#work/shelf/view.ts';
import { changeVisibility } from '#work/shelf/publish.ts';
import { setCardHidden, reportCard } from '#work/shelf/reports.ts';
import { confirmCard } from '#work/shelf/confirm.ts';
import { NotFound } from '#work/base/errors.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { followVinyl, hideRemark, remark, thank } from '#work/shelf/social.ts';
import type { Person } from '#work/people/person.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { words } from '../../messages/index.ts';
import { actions, visitorsBench, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import type { Route } from './+types/route';
import { leanPress } from '../../ui/vinyls/sayPress.ts';
import { AuthorsNumber } from './AuthorsNumber.tsx';
import { OnYours } from './OnYours.tsx';
import { Talk } from './Talk.tsx';

export const access = {
  read: 'look round',
  write: 'begin',
  acts: { hide: 'moderate' },
} as const satisfies Access;

/** A card: what somebody sets for a vinyl, what it rests on, what others found, and what it says to the cutter on the bench. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const bench = await visitorsBench(args);
  const query = new URL(args.request.url).searchParams;
  const asked = /^\d{1,4}$/.test(query.get('version') ?? '') ? Number(query.get('version')) : null;
  const card = await cardView(person, bench, args.params.card, asked);
  const [onBench, press] = await Promise.all([answerForCard(person, bench, card), pressForCard(person, card.vinylId)]);
  return {
    card,
    onBench,
    press,
    cardRef: args.params.card,
    cutter: bench?.cutter.id,
    bladed: bench?.blade !== undefined,
    cut: nextCutId(),
    reported: query.has('reported'),
    confirmed: query.has('confirmed'),
    guest: !person?.email,
    steward: can(person, 'moderate'),
    benchModel: bench?.cutter.model,
    origin: originOf(args.request),
  };
}

/** The cutter on the bench, where an act needs one. */
async function benchFor(person: Person) {
  const bench = await benchOf(person);
  if (!bench) throw new NotFound('There is no cutter on the bench.');
  return bench;
}

export function action(args: Route.ActionArgs) {
  const cardRef = args.params.card;
  const here = `/cards/${cardRef}`;
  return actions(access, args, {
    adopt: async ({ person, form }) => {
      await adoptCard(person, await benchFor(person), cardRef, form);
      return here;
    },
    visibility: async ({ person, form }) => {
      await changeVisibility(person, cardRef, form);
      return here;
    },
    confirm: async ({ person, form, address }) => {
      await confirmCard(person, await benchFor(person), cardRef, form, address);
      return `${here}?confirmed`;
    },
    thank: async ({ person, form }) => {
      await thank(person, await cardRow(person, cardRef), form.get('given') === 'yes');
      return here;
    },
    follow: async ({ person, form }) => {
      await followVinyl(person, (await cardRow(person, cardRef)).vinyl_id, form.get('on') === 'yes');
      return here;
    },
    remark: async ({ person, form, address }) => {
      await remark(person, await cardRow(person, cardRef), form, address);
      return here;
    },
    hide: async ({ person, form }) => {
      await setCardHidden(person, cardRef, form);
      return here;
    },
    'hide remark': async ({ person, form }) => {
      await hideRemark(person, String(form.get('remark')), form);
      return here;
    },
    report: async ({ person, form, address }) => {
      await reportCard(person, cardRef, form, address);
      return `${here}?reported`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => {
  const title = words.title(loaderData ? titleOf(loaderData.card) : '');
  const address = loaderData?.card.address;
  // What chats show of a link: only where others may see the card at all.
  return [
    { title },
    ...(loaderData && address
      ? [
          { property: 'og:type', content: 'article' },
          { property: 'og:site_name', content: words.product },
          { property: 'og:title', content: title },
          {
            property: 'og:description',
            content: loaderData.card.proof?.sentence ?? loaderData.card.content.result.sentence,
          },
          { property: 'og:url', content: `${loaderData.origin}/cards/${address}` },
          { property: 'og:image', content: `${loaderData.origin}/cards/${address}/picture.png` },
          { property: 'og:image:width', content: '1200' },
          { property: 'og:image:height', content: '630' },
          { name: 'twitter:card', content: 'summary_large_image' },
        ]
      : []),
  ];
};

const named = (card: CardView) => {
  const { vinyl } = card.content;
  return { ...vinyl, type: vinyl.type as VinylTypeKey, colour: { name: vinyl.colour } };
};
const titleOf = (card: CardView) => vinylTitle(named(card));
export default function CardPage({ loaderData, actionData }: Route.ComponentProps) {
  const { card, onBench, press, cardRef, cutter, bladed, cut, reported, confirmed, guest, steward, benchModel } =
    loaderData;
  const t = words.card;
  const zone = useZone();
  const { content } = card;
  const axis = strengthAxis(content.model);
  const position = content.controls.steps[axis.key]!;
  const type = content.vinyl.type as VinylTypeKey;
  const standing = card.proof?.standing ?? content.standing;
  return (
    <>
      <div className="head">
        <Swatch type={type} hex={content.vinyl.hex} size={92} standing={standing} />
        <div>
          <h1>{titleOf(card)}</h1>
          <p className="quiet">
            {vinylTypes[type].word} · {t.by(isolate(card.author))} ·{' '}
            {t.version(card.number, day(card.publishedAt, zone))}
            {card.from && ` · ${t.from(isolate(card.from.home))}${t.counts[card.from.counts]}`}
          </p>
        </div>
      </div>
      {actionData && actionData.fields.form && <FormNotice answer={actionData} text={words.errors.form} />}
      {reported && <p className="notice">{t.reported}</p>}
      {confirmed && (
        <p className="notice" role="status">
          {card.here.kind === 'other model' ? t.confirm.doneTranslated : t.confirm.done}
        </p>
      )}
      {card.hidden && <p className="notice bad">{t.hidden}</p>}
      {card.number < card.newest && (
        <p className="notice">
          {t.older(card.newest)} <Link to={`/cards/${cardRef}`}>{t.toNewest}</Link>
        </p>
      )}
      <div className="cols card-cols">
        <AuthorsNumber card={card} />
        <OnYours
          onBench={onBench}
          press={press && leanPress(press)}
          card={card}
          cardRef={cardRef}
          cutter={cutter}
          bladed={bladed}
          cut={cut}
          guest={guest}
          benchModel={benchModel}
          actionData={actionData}
        />
        <Talk
          card={card}
          cardRef={cardRef}
          guest={guest}
          steward={steward}
          benchModel={benchModel}
          actionData={actionData}
        />
      </div>
      <p className="quiet small above-24">{t.where(shortPosition(axis, position), content.model.name)}</p>
    </>
  );
}
