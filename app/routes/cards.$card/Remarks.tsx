import Button from '@mui/material/Button';
import type { Remark } from '#work/shelf/social.ts';
import { words } from '../../messages/index.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { PutRightLink } from '../../ui/base/PutRightLink.tsx';
import { Field } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

function Said({ remark, steward }: { remark: Omit<Remark, 'answers'>; steward: boolean }) {
  const t = words.card;
  const zone = useZone();
  return (
    <>
      <p className={remark.body === undefined ? 'quiet' : 'said'}>
        {remark.body ?? (remark.takenBack ? t.takenBack : t.hiddenRemark)}
      </p>
      <div className="quiet small">
        {isolate(remark.who)}
        {remark.byAuthor && ` (${t.author})`} · {day(remark.at, zone)}
        {remark.changed && remark.body !== undefined && ` · ${t.changedOn(day(remark.changed, zone))}`}
        {remark.own && (remark.body !== undefined || remark.takenBack) && (
          <>
            {' '}
            · <PutRightLink kind="remark" id={remark.id} />
          </>
        )}
      </div>
      {steward && remark.body !== undefined && (
        <details>
          <summary>{t.hide}</summary>
          <WriteForm what="hide remark" className="form">
            <input type="hidden" name="remark" value={remark.id} />
            <Field name="why" label={t.hideWhy} answer={undefined} />
            <div>
              <Button type="submit">{t.hide}</Button>
            </div>
          </WriteForm>
        </details>
      )}
    </>
  );
}

/** Questions under a card with their answers, the oldest first. */
export function Remarks({
  remarks,
  answer,
  may,
  steward,
  from,
}: {
  remarks: readonly Remark[];
  answer: FormAnswer | undefined;
  /** Whether this person may write. */
  may: boolean;
  steward: boolean;
  /** The server its author is on, where that is another one. */
  from: string | undefined;
}) {
  const t = words.card;
  const tried = answer?.values.what === 'remark' ? answer : undefined;
  return (
    <Section className="above-40" id="questions" title={t.questions} data-testid="questions">
      {remarks.length === 0 && <p className="quiet">{t.noQuestions}</p>}
      {from !== undefined && <p className="quiet">{t.authorElsewhere(isolate(from))}</p>}
      <ul className="remarks">
        {remarks.map((r) => (
          <li key={r.id}>
            <Said remark={r} steward={steward} />
            {r.answers.length > 0 && (
              <ul>
                {r.answers.map((a) => (
                  <li key={a.id}>
                    <Said remark={a} steward={steward} />
                  </li>
                ))}
              </ul>
            )}
            {may && r.body !== undefined && (
              <details open={tried?.values.answers === r.id}>
                <summary>{t.answer}</summary>
                <WriteForm what="remark" className="form" noValidate>
                  <input type="hidden" name="answers" value={r.id} />
                  <Field
                    id={`answer-${r.id}`}
                    name="body"
                    label={t.answering}
                    answer={tried?.values.answers === r.id ? tried : undefined}
                    multiline
                    minRows={2}
                  />
                  <div>
                    <Button type="submit">{t.answer}</Button>
                  </div>
                </WriteForm>
              </details>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <details open={tried !== undefined && !tried.values.answers}>
          <summary>{t.ask}</summary>
          <WriteForm what="remark" className="form" noValidate>
            <Field
              name="body"
              label={t.asking}
              answer={tried && !tried.values.answers ? tried : undefined}
              multiline
              minRows={2}
            />
            <div>
              <Button type="submit">{t.ask}</Button>
            </div>
          </WriteForm>
        </details>
      )}
    </Section>
  );
}
