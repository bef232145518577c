import type { FormAnswer } from '../../server/enter.server.ts';
import { type Axis, type CutterModel, formatPosition, type Setting, strengthAxis } from '#core/controls/index.ts';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { stripDomain } from '#core/strip/index.ts';
import type { CardView } from '#work/shelf/view.ts';
import { words } from '../../messages/index.ts';
import { Choices } from '../../ui/base/Choices.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { howTranslated } from '../../ui/shelf/Translated.tsx';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Answer } from '#core/answer/index.ts';
import type { HereAnswer } from '#work/answer/shelf.ts';
import { ConfirmForm, numberHere, TranslatedNumber } from './Here.tsx';
import { sayPress, type LeanPress } from '../../ui/vinyls/sayPress.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { PutOnBench } from '../../ui/workshop/PutOnBench.tsx';
import type { Route } from './+types/route';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';
import { placeToSet } from '#core/window/index.ts';

/** What the card says to the cutter on the bench, and what can be done with it there. */
export function OnYours({
  card,
  onBench: known,
  press,
  cardRef,
  cutter,
  bladed,
  cut,
  guest,
  benchModel,
  actionData,
}: {
  card: CardView;
  /** What to set for its vinyl here. */
  onBench: HereAnswer | undefined;
  /** How it is pressed, as its bench card says. */
  press: LeanPress | undefined;
  cardRef: string;
  cutter: string | undefined;
  bladed: boolean;
  cut: string;
  guest: boolean;
  benchModel: CutterModel | undefined;
  actionData: FormAnswer | undefined;
}) {
  const t = words.card;
  const { content, here } = card;
  const axis = strengthAxis(content.model);
  const onBench = here.kind === 'same model' || here.kind === 'other model' ? here : undefined;
  return (
    <Section
      id="here"
      title={onBench ? t.onYours(onBench.cutter) : here.kind === 'own' ? t.ownTitle : t.yours}
      className="card-here"
    >
      {here.kind === 'no bench' && (
        <>
          <p>{t.noBench}</p>
          <div className="actions">
            <PutOnBench />
          </div>
        </>
      )}
      {here.kind === 'other model' && here.translated && (
        <>
          <TranslatedNumber
            said={here.translated}
            answer={known?.answer}
            model={here.model}
            wanted={card.wanted}
            cutter={cutter}
          />
          {bladed && (
            <p className="small-gap">
              <Link to={`/coupons/new?vinyl=${card.vinylId}&cells=3&wanted=${card.wanted}`}>{t.checkHere}</Link>
            </p>
          )}
          <Adopt
            card={card}
            cutter={cutter}
            bladed={bladed}
            cut={cut}
            axis={strengthAxis(here.model)}
            position={numberHere(known?.answer, here.translated.number)!}
            controls={here.controls}
            adopted={here.adopted}
          />
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
        <SameModel
          answer={known?.answer}
          card={card}
          cardRef={cardRef}
          cutter={cutter}
          bladed={bladed}
          cut={cut}
          here={here}
        />
      )}
      {onBench && !card.own && bladed && (
        <Section className="above-32" id="confirm" title={t.confirm.title}>
          <ConfirmForm
            key={cut}
            model={benchModel!}
            start={
              onBench.kind === 'other model'
                ? (numberHere(known?.answer, onBench.translated?.number) ??
                  onBench.controls.steps[strengthAxis(benchModel!).key]!)
                : onBench.controls.steps[axis.key]!
            }
            cut={cut}
            answer={actionData?.values.what === 'confirm' ? actionData : undefined}
            guest={guest}
            wanted={card.wanted}
          />
        </Section>
      )}

      {card.own && <Own card={card} answer={actionData} />}
      {press && press !== 'none' && <PressLine press={press} vinyl={card.vinylId} />}
    </Section>
  );
}

/** How its vinyl is pressed on plain cloth, by the one answer that every screen shows. */
function PressLine({ press, vinyl }: { press: LeanPress; vinyl: string }) {
  const said = sayPress(press, useTemperatureUnit())!;
  return (
    <p className="above-24" data-testid="card-press">
      {words.vinyl.press}: <strong>{said.figures}</strong>{' '}
      <span className="quiet">
        {said.source}. {words.pressSource.onCloth}
      </span>{' '}
      <Link to={`/vinyls/${vinyl}/press`}>{words.recipes.link}</Link>
    </p>
  );
}

/** What the card comes to on a cutter of the same model, and taking it over. */
function SameModel({
  answer,
  card,
  cardRef,
  cutter,
  bladed,
  cut,
  here,
}: {
  answer: Answer | undefined;
  card: CardView;
  cardRef: string;
  cutter: string | undefined;
  bladed: boolean;
  cut: string;
  here: Extract<CardView['here'], { kind: 'same model' }>;
}) {
  const t = words.card;
  const { content } = card;
  const axis = strengthAxis(content.model);
  const position = content.controls.steps[axis.key]!;
  const { recommended, best } = here.result.summary;
  // What to set on one's own machine of this model: what was adopted, or what the evidence of others comes to here.
  const onMine =
    here.adopted !== undefined
      ? here.controls.steps[axis.key]!
      : (numberHere(answer, here.translated?.number) ?? placeToSet({ recommended, best }).position);
  return (
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
        <p className="above-8" data-testid="how">
          {howTranslated(here.translated)} {cutter && <Link to={`/workshop/cutters/${cutter}/others`}>{t.offset}</Link>}
        </p>
      )}
      <p className="quiet" style={{ margin: '8px 0 20px' }}>
        {here.result.verdict.kind === 'elsewhere' ? t.wider : t.withYours}
      </p>
      {bladed && (
        <p style={{ marginBottom: 20 }}>
          <Link to={`/coupons/new?vinyl=${card.vinylId}&wanted=${card.wanted}&mode=check&card=${cardRef}`}>
            {t.checkHere}
          </Link>
        </p>
      )}
      <Adopt
        card={card}
        cutter={cutter}
        bladed={bladed}
        cut={cut}
        axis={axis}
        position={position}
        controls={here.controls}
        adopted={here.adopted}
      />
    </div>
  );
}

/** Takes the card's number over, or once it is kept here, says that it was cut. */
function Adopt({
  card,
  cutter,
  bladed,
  cut,
  axis,
  position,
  controls,
  adopted,
}: {
  card: CardView;
  cutter: string | undefined;
  bladed: boolean;
  cut: string;
  axis: Axis;
  position: number;
  controls: Setting;
  adopted: number | undefined;
}) {
  const t = words.card;
  if (adopted === undefined)
    return (
      <WriteForm what="adopt">
        <input type="hidden" name="position" value={position} />
        <Button type="submit" variant="contained">
          {t.adopt(formatPosition(axis, position))}
        </Button>
        <p className="legend">{t.adoptWhy}</p>
      </WriteForm>
    );
  return (
    <div className="stack">
      <p className="notice" data-testid="adopted">
        {t.adopted(adopted)}
      </p>
      {bladed && (
        <WriteForm what="cut" action={`/vinyls/${card.vinylId}`}>
          <input type="hidden" name="cut" value={cut} />
          <input type="hidden" name="vinyl" value={card.vinylId} />
          <input type="hidden" name="cutter" value={cutter} />
          <input type="hidden" name="wanted" value={card.wanted} />
          <input type="hidden" name="setting" value={JSON.stringify(controls)} />
          <Button type="submit" variant="contained">
            {words.vinyl.iCut}
          </Button>
          <p className="legend">{card.here.kind === 'other model' ? t.confirmWhyTranslated : t.confirmWhy}</p>
        </WriteForm>
      )}
      <Link to={`/vinyls/${card.vinylId}?wanted=${card.wanted}`}>{t.toVinyl}</Link>
    </div>
  );
}

/** Copies an address, and says so. Where the browser does not allow it, the address stands beside it to be marked by hand. */
function CopyLink({ address }: { address: string }) {
  const t = words.card;
  const [copied, setCopied] = useState(false);
  return (
    <Button
      variant="text"
      onClick={() => {
        // No clipboard on a page without TLS: nothing is lost by that.
        navigator.clipboard?.writeText(address).then(
          () => setCopied(true),
          () => undefined,
        );
      }}
    >
      <span role="status">{copied ? t.copied : t.copy}</span>
    </Button>
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
            <br />
            <CopyLink address={`${origin}/cards/${card.address}`} />
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
