import type { Route } from './+types/route';
import type { FormAnswer } from '../../server/enter.server.ts';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { Field } from '../../ui/base/Field.tsx';
import { day, isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** Batches that somebody reported. */
export function ReportedBatches({
  batches,
  actionData,
  zone,
}: {
  batches: Route.ComponentProps['loaderData']['batches'];
  actionData: FormAnswer | undefined;
  zone: string;
}) {
  const t = words.order;
  return (
    <Section className="above-32" id="batches" title={t.batches}>
      <ul className="remarks">
        {batches.map((r) => (
          <li key={r.id}>
            <p>
              {isolate(r.vinyl)}: <strong>{isolate(r.label)}</strong>
            </p>
            <p className="said">{r.why}</p>
            <div className="quiet small">
              {r.who && isolate(r.who)} · {day(r.at, zone)}
            </div>
            <WriteForm what="batch" className="form" noValidate>
              <input type="hidden" name="report" value={r.id} />
              <Field
                id={`batch-why-${r.id}`}
                name="why"
                label={t.why}
                answer={actionData?.values.what === 'batch' ? actionData : undefined}
              />
              <div className="actions above-0">
                <Button type="submit" name="hide" value="yes">
                  {t.hideBatch}
                </Button>
                <Button type="submit" name="hide" value="no">
                  {t.leaveBatch}
                </Button>
              </div>
            </WriteForm>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** Cards that somebody reported. */
export function Reports({
  reports,
  actionData,
  zone,
}: {
  reports: Route.ComponentProps['loaderData']['reports'];
  actionData: FormAnswer | undefined;
  zone: string;
}) {
  const t = words.order;
  return (
    <Section className="above-32" id="reports" title={t.reports}>
      {reports.length === 0 && <p className="quiet">{t.noReports}</p>}
      <ul className="remarks">
        {reports.map((r) => (
          <li key={r.id}>
            <p>
              <Link to={`/cards/${r.card_id}`}>{isolate(r.vinyl)}</Link>
            </p>
            <p className="said">{r.why}</p>
            <div className="quiet small">
              {t.reported(r.who && isolate(r.who), isolate(r.author))} · {day(r.at, zone)}
            </div>
            <WriteForm what="settle" className="form" noValidate>
              <input type="hidden" name="report" value={r.id} />
              <Field
                id={`why-${r.id}`}
                name="why"
                label={t.why}
                answer={actionData?.values.report === String(r.id) ? actionData : undefined}
              />
              <div>
                <Button type="submit">{t.leave}</Button>
              </div>
            </WriteForm>
          </li>
        ))}
      </ul>
    </Section>
  );
}
