import type { FormAnswer } from '../../server/enter.server.ts';
import type { CutterModel } from '#core/controls/index.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import type { CardView } from '#work/shelf/view.ts';
import { words } from '../../messages/index.ts';
import { EvidenceTable } from '../../ui/shelf/EvidenceTable.tsx';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { Field } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import { SplitNotice } from '../../ui/shelf/Translated.tsx';
import { Remarks } from './Remarks.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** What others found and said, the evidence, the versions. */
export function Talk({
  card,
  cardRef,
  guest,
  steward,
  benchModel,
  actionData,
}: {
  card: CardView;
  cardRef: string;
  guest: boolean;
  steward: boolean;
  benchModel: CutterModel | undefined;
  actionData: FormAnswer | undefined;
}) {
  const t = words.card;
  const { content } = card;
  return (
    <div className="card-talk">
      {card.split && <SplitNotice split={card.split} model={benchModel} />}

      {card.found.length > 0 && <FoundByOthers card={card} />}

      <Remarks remarks={card.remarks} answer={actionData} may={!guest} steward={steward} from={card.from?.home} />

      <div className="actions above-32">
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
        {card.licence !== 'read' && <a href={`/cards/${cardRef}/pack`}>{t.pack}</a>}
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
      <Versions card={card} cardRef={cardRef} />
      {!card.own && (
        <details open={actionData?.values.what === 'report'}>
          <summary>{t.report}</summary>
          <WriteForm what="report" className="form above-8" noValidate>
            <Field name="why" label={t.why} answer={actionData} multiline minRows={2} />
            <div>
              <Button type="submit">{t.sendReport}</Button>
            </div>
          </WriteForm>
        </details>
      )}
    </div>
  );
}

/** What others found with the card. */
function FoundByOthers({ card }: { card: CardView }) {
  const t = words.card;
  const zone = useZone();
  return (
    <Section className="above-40" id="found" title={t.foundTitle}>
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
                {f.translated && ` · ${t.atTranslated}`}
                {f.cut && (
                  <>
                    {' '}
                    · <PutRightLink kind="cut" id={f.cut} />
                  </>
                )}
              </div>
            </div>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** Every version of the card, with what changed. */
function Versions({ card, cardRef }: { card: CardView; cardRef: string }) {
  const t = words.card;
  const zone = useZone();
  return (
    <details>
      <summary>{t.versions(card.versions.length)}</summary>
      <ol className="versions">
        {card.versions.map((v) => (
          <li key={v.number}>
            <Link to={`/cards/${cardRef}?version=${v.number}`}>{t.versionLink(v.number)}</Link> ·{' '}
            {day(v.publishedAt, zone)} · {words.licences[v.licence].name}
            {v.change && <p className="said">{v.change}</p>}
          </li>
        ))}
      </ol>
    </details>
  );
}
