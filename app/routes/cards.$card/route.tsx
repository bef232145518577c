import { type Access, can } from '#work/people/permissions.ts';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { formatSetting, shortPosition, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { adoptCard } from '#work/shelf/adopt.ts';
import { cardRow } from '#work/shelf/cards.ts';
import { cardView, type CardView } from '#work/shelf/view.ts';
import { changeVisibility } from '#work/shelf/publish.ts';
import { hideCardHere, reportCard } from '#work/shelf/reports.ts';
import { confirmHere } from '#work/shelf/confirm.ts';
import { NotFound } from '#work/base/errors.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { followVinyl, hideRemark, remark, thank } from '#work/shelf/social.ts';
import type { Person } from '#work/people/person.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { words } from '../../messages/index.ts';
import { actions, benchHere, enter } from '../../server/enter.server.ts';
import { originOf } from '../../server/site.server.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { EvidenceTable } from '../../ui/shelf/EvidenceTable.tsx';
import { Field, FormNotice } from '../../ui/base/Field.tsx';
import { capital, day, isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Swatch } from '../../ui/vinyls/Swatch.tsx';
import { useZone } from '../../ui/people/usePerson.ts';
import { howTranslated, SplitNotice } from '../../ui/shelf/Translated.tsx';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import { ConfirmForm, TranslatedNumber } from './Here.tsx';
import { Remarks } from './Remarks.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** A card: what somebody sets for a vinyl, what it rests on, what others found, and what it says to the cutter on the bench. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const bench = await benchHere(args);
  const query = new URL(args.request.url).searchParams;
  const asked = /^\d{1,4}$/.test(query.get('version') ?? '') ? Number(query.get('version')) : null;
  const card = await cardView(person, bench, args.params.card, asked);
  return {
    card,
    ref: args.params.card,
    cutter: bench?.cutter.id,
    bladed: bench?.blade !== undefined,
    cut: nextCutId(),
    reported: query.has('reported'),
    confirmed: query.has('confirmed'),
    guest: !person?.email,
    steward: can(person, 'keep order'),
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
  const ref = args.params.card;
  const here = `/cards/${ref}`;
  return actions(access, args, {
    adopt: async ({ person }) => {
      await adoptCard(person, await benchFor(person), ref);
      return here;
    },
    visibility: async ({ person, form }) => {
      await changeVisibility(person, ref, form);
      return here;
    },
    confirm: async ({ person, form, address }) => {
      await confirmHere(person, await benchFor(person), ref, form, address);
      return `${here}?confirmed`;
    },
    thank: async ({ person, form }) => {
      await thank(person, await cardRow(person, ref), form.get('given') === 'yes');
      return here;
    },
    follow: async ({ person, form }) => {
      await followVinyl(person, (await cardRow(person, ref)).vinyl_id, form.get('on') === 'yes');
      return here;
    },
    remark: async ({ person, form, address }) => {
      await remark(person, await cardRow(person, ref), form, address);
      return here;
    },
    hide: async ({ person, form }) => {
      await hideCardHere(person, ref, form);
      return here;
    },
    'hide remark': async ({ person, form }) => {
      await hideRemark(person, String(form.get('remark')), form);
      return here;
    },
    report: async ({ person, form, address }) => {
      await reportCard(person, ref, form, address);
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
  const { card, ref, cutter, bladed, cut, reported, confirmed, guest, steward, benchModel } = loaderData;
  const t = words.card;
  const zone = useZone();
  const { content, here } = card;
  const axis = strengthAxis(content.model);
  const position = content.controls.steps[axis.key]!;
  const dots = content.evidence.map((e) => ({ position: e.setting.steps[axis.key]!, grade: e.grade }));
  const domain = stripDomain(axis, [content.result.summary], [...dots.map((d) => d.position), position]);
  const rest = formatSetting(content.model, content.controls).filter((p) => p.key !== axis.key);
  const agreeing = card.found.filter((f) => f.grade === card.wanted).length;
  const type = content.vinyl.type as VinylTypeKey;
  const standing = card.proof?.standing ?? content.standing;
  const { recommended, best } = here.kind === 'same model' ? here.result.summary : {};
  // What to set on one's own machine of this model: what was adopted, or what the evidence of others comes to here.
  const onMine =
    here.kind === 'same model' && here.adopted !== undefined
      ? here.controls.steps[axis.key]!
      : ((recommended ?? best)?.position ?? position);
  // The number to take is the one for the cutter on the bench: where there is one, the author's stands back.
  const hereKnown = here.kind === 'same model' || (here.kind === 'other model' && here.translated !== undefined);
  const mayConfirm = !card.own && bladed && (here.kind === 'other model' || here.kind === 'same model');
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
          {t.confirm.done}
        </p>
      )}
      {card.hidden && <p className="notice bad">{t.hidden}</p>}
      {card.number < card.newest && (
        <p className="notice">
          {t.older(card.newest)} <Link to={`/cards/${ref}`}>{t.toNewest}</Link>
        </p>
      )}
      <div className="cols card-cols">
        <section className={hereKnown ? 'card-cut less' : 'card-cut'} aria-labelledby="cut">
          <h2 className="section-word" id="cut">
            {t.on(content.model.name)}
          </h2>
          <ToSet axis={axis} position={position} testId="card-sets" />
          <div style={{ margin: '20px 0 12px' }}>
            <WindowStrip axis={axis} result={content.result} domain={domain} dots={dots} mark={position} scale />
          </div>
          <p>{content.result.sentence}</p>
          {card.proof && (
            <p className="proof" data-testid="proof">
              {capital(card.proof.sentence)}.
            </p>
          )}
          <dl className="facts" style={{ marginTop: 20 }}>
            <ControlFacts parts={rest} />
            <dt>{t.wanted}</dt>
            <dd>{card.wanted === 'clean' ? words.vinyl.clean : words.vinyl.through}</dd>
            <dt>{t.standing}</dt>
            <dd>
              <strong data-testid="standing">{words.cardStanding[standing]}</strong>{' '}
              <span>{words.from.cells(content.result.evidence.cells, content.result.evidence.coupons)}</span>
            </dd>
            <dt>{t.others}</dt>
            <dd>{card.found.length === 0 ? t.nobody : t.agree(agreeing, card.found.length)}</dd>
            <dt>{t.licence}</dt>
            <dd>{words.licences[card.licence].name}</dd>
          </dl>
          {content.conditions && (
            <p className="said" style={{ marginTop: 20 }}>
              {content.conditions}
            </p>
          )}
        </section>
        <section className="card-here" aria-labelledby="here">
          <h2 className="section-word" id="here">
            {here.kind === 'same model' || here.kind === 'other model'
              ? t.onYours(here.cutter)
              : here.kind === 'own'
                ? t.ownTitle
                : t.yours}
          </h2>
          {here.kind === 'no bench' && (
            <>
              <p>{t.noBench}</p>
              <div className="actions">
                <GoButton to="/workshop/cutters/new" variant="contained">
                  {words.bench.start}
                </GoButton>
              </div>
            </>
          )}
          {here.kind === 'other model' && here.translated && (
            <>
              <TranslatedNumber said={here.translated} model={here.model} wanted={card.wanted} cutter={cutter} />
              {bladed && (
                <p style={{ marginTop: 16 }}>
                  <Link to={`/coupons/new?vinyl=${card.vinylId}&cells=3&wanted=${card.wanted}`}>{t.checkHere}</Link>
                </p>
              )}
            </>
          )}
          {here.kind === 'other model' && !here.translated && (
            <div data-testid="not-comparable">
              <p style={{ fontSize: '1.25rem', fontWeight: 700 }}>{t.notComparable}</p>
              <p style={{ margin: '8px 0 20px' }}>{t.notComparableWhy(content.model.name)}</p>
              <GoButton to={`/coupons/new?vinyl=${card.vinylId}&cells=3&wanted=${card.wanted}`} variant="contained">
                {t.check}
              </GoButton>
            </div>
          )}
          {here.kind === 'same model' && (
            <div data-testid="same-model">
              <ToSet axis={axis} position={onMine} sure={here.adopted !== undefined || recommended !== undefined} />
              <div style={{ margin: '20px 0 12px' }}>
                <WindowStrip
                  axis={axis}
                  result={here.result}
                  domain={stripDomain(axis, [content.result.summary, here.result.summary], [position, onMine])}
                  mark={onMine}
                  scale
                  width={430}
                />
              </div>
              <p style={{ fontSize: '1.25rem' }}>{here.result.sentence}</p>
              {here.translated && here.translated.basis !== 'type' && (
                <p style={{ marginTop: 8 }} data-testid="how">
                  {howTranslated(here.translated)}{' '}
                  {cutter && <Link to={`/workshop/cutters/${cutter}/others`}>{t.offset}</Link>}
                </p>
              )}
              <p className="quiet" style={{ margin: '8px 0 20px' }}>
                {here.result.verdict.kind === 'elsewhere' ? t.wider : t.withYours}
              </p>
              {bladed && (
                <p style={{ marginBottom: 20 }}>
                  <Link to={`/coupons/new?vinyl=${card.vinylId}&wanted=${card.wanted}&mode=check&card=${ref}`}>
                    {t.checkHere}
                  </Link>
                </p>
              )}
              {here.adopted === undefined ? (
                <WriteForm what="adopt">
                  <Button type="submit" variant="contained">
                    {t.adopt}
                  </Button>
                  <p className="legend">{t.adoptWhy}</p>
                </WriteForm>
              ) : (
                <div style={{ display: 'grid', gap: 14 }}>
                  <p className="notice" style={{ marginBottom: 0 }} data-testid="adopted">
                    {t.adopted(here.adopted)}
                  </p>
                  {bladed && (
                    <WriteForm what="cut" action={`/vinyls/${card.vinylId}`}>
                      <input type="hidden" name="cut" value={cut} />
                      <input type="hidden" name="vinyl" value={card.vinylId} />
                      <input type="hidden" name="cutter" value={cutter} />
                      <input type="hidden" name="wanted" value={card.wanted} />
                      <input type="hidden" name="setting" value={JSON.stringify(here.controls)} />
                      <Button type="submit" variant="contained">
                        {words.vinyl.iCut}
                      </Button>
                      <p className="legend">{t.confirmWhy}</p>
                    </WriteForm>
                  )}
                  <Link to={`/vinyls/${card.vinylId}?wanted=${card.wanted}`}>{t.toVinyl}</Link>
                </div>
              )}
            </div>
          )}
          {mayConfirm && (here.kind === 'other model' || here.kind === 'same model') && (
            <section style={{ marginTop: 32 }} aria-labelledby="confirm">
              <h2 className="section-word" id="confirm">
                {t.confirm.title}
              </h2>
              <ConfirmForm
                key={cut}
                model={benchModel!}
                start={
                  here.kind === 'other model'
                    ? (here.translated?.number ?? here.controls.steps[strengthAxis(benchModel!).key]!)
                    : here.controls.steps[axis.key]!
                }
                cut={cut}
                answer={actionData?.values.what === 'confirm' ? actionData : undefined}
                guest={guest}
                wanted={card.wanted}
              />
            </section>
          )}

          {here.kind === 'own' && <Own card={card} answer={actionData} />}
          {here.kind !== 'own' && card.own && <Own card={card} answer={actionData} />}
        </section>
        <div className="card-talk">
          {card.split && <SplitNotice split={card.split} model={benchModel} />}

          {card.found.length > 0 && (
            <section style={{ marginTop: 40 }} aria-labelledby="found">
              <h2 className="section-word" id="found">
                {t.foundTitle}
              </h2>
              <ul className="rows">
                {card.found.map((f, i) => (
                  <li key={i} className="row row-grade" data-testid="found">
                    <strong>{f.outcome ? t.confirm.outcome[f.outcome] : words.grades[f.grade].word}</strong>
                    <div>
                      {f.outcome && (
                        <div>
                          {words.grades[f.grade].word}
                          {f.better && `, ${t.confirm.instead(f.better)}`}
                        </div>
                      )}
                      {f.said && <p className="said">{f.said}</p>}
                      <div className="quiet small">
                        {isolate(f.who)}
                        {f.home !== undefined && ` (${isolate(f.home)})`} · {f.model}, {words.frame.blade(f.angle)} ·{' '}
                        {day(f.at, zone)} · {t.withVersion(f.version)}
                      </div>
                    </div>
                  </li>
                ))}
              </ul>
            </section>
          )}

          <Remarks remarks={card.remarks} answer={actionData} may={!guest} steward={steward} from={card.from?.home} />

          <div className="actions" style={{ marginTop: 32 }}>
            {!card.own && !guest && (
              <WriteForm what="thank" preventScrollReset>
                <input type="hidden" name="given" value={card.thanks.mine ? 'no' : 'yes'} />
                <Button type="submit">{card.thanks.mine ? t.unthank : t.thank}</Button>
              </WriteForm>
            )}
            {!guest && (
              <WriteForm what="follow" preventScrollReset>
                <input type="hidden" name="on" value={card.followed ? 'no' : 'yes'} />
                <Button type="submit">{card.followed ? t.unfollow : t.follow}</Button>
              </WriteForm>
            )}
            {card.thanks.n > 0 && <span className="quiet">{t.thanks(card.thanks.n)}</span>}
            {card.address && <a href={`/cards/${card.address}/picture.png`}>{t.picture}</a>}
            {card.licence !== 'read' && <a href={`/cards/${ref}/pack`}>{t.pack}</a>}
            <a href={`/feed/vinyls/${card.vinylId}`}>{t.feed}</a>
          </div>
          {steward && (
            <details open={actionData?.values.what === 'hide'}>
              <summary>{card.hidden ? t.show : t.hide}</summary>
              <WriteForm what="hide" className="form" noValidate>
                <input type="hidden" name="hide" value={card.hidden ? 'no' : 'yes'} />
                <Field name="why" label={t.hideWhy} answer={actionData} />
                <div>
                  <Button type="submit">{card.hidden ? t.show : t.hide}</Button>
                </div>
              </WriteForm>
            </details>
          )}

          <EvidenceTable model={content.model} rows={content.evidence} />
          <details>
            <summary>{t.versions(card.versions.length)}</summary>
            <ol className="versions">
              {card.versions.map((v) => (
                <li key={v.number}>
                  <Link to={`/cards/${ref}?version=${v.number}`}>{t.versionLink(v.number)}</Link> ·{' '}
                  {day(v.publishedAt, zone)} · {words.licences[v.licence].name}
                  {v.change && <p className="said">{v.change}</p>}
                </li>
              ))}
            </ol>
          </details>
          {!card.own && (
            <details open={actionData?.values.what === 'report'}>
              <summary>{t.report}</summary>
              <WriteForm what="report" className="form" style={{ marginTop: 8 }} noValidate>
                <Field name="why" label={t.why} answer={actionData} multiline minRows={2} />
                <div>
                  <Button type="submit">{t.sendReport}</Button>
                </div>
              </WriteForm>
            </details>
          )}
        </div>
      </div>
      <p className="quiet small" style={{ marginTop: 24 }}>
        {t.where(shortPosition(axis, position), content.model.name)}
      </p>
    </>
  );
}

/** What the author can do: who may see it, the link, the next version. */
function Own({ card, answer }: { card: CardView; answer: Route.ComponentProps['actionData'] }) {
  const t = words.card;
  const [origin, setOrigin] = useState('');
  useEffect(() => setOrigin(window.location.origin), []);
  return (
    <div style={{ display: 'grid', gap: 20 }} data-testid="own">
      <p>
        {t.ownIs(words.visibility[card.visibility])}
        {card.address && (
          <>
            <br />
            <span className="address" data-testid="address">{`${origin}/cards/${card.address}`}</span>
          </>
        )}
      </p>
      <WriteForm what="visibility" style={{ display: 'grid', gap: 14 }} key={card.visibility}>
        <Choices
          name="visibility"
          legend={words.publish.who}
          answer={answer}
          initial={card.visibility}
          options={(['public', 'link', 'private'] as const).map((v) => [
            v,
            words.visibility[v],
            words.publish.visibility[v],
          ])}
        />
        <div>
          <Button type="submit">{t.saveVisibility}</Button>
        </div>
      </WriteForm>
      <div>
        <GoButton to={`/cards/new?vinyl=${card.vinylId}&wanted=${card.wanted}`}>{t.newVersion}</GoButton>
      </div>
    </div>
  );
}
