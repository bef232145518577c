import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../../messages/index.ts';
import { SelectField } from '../../../ui/base/Field.tsx';
import { isolate } from '../../../ui/base/format.ts';
import { WriteForm } from '../../../ui/base/WriteForm.tsx';
import { Folded } from '../../../ui/base/Folded.tsx';
import type { Job } from '../useSheet.ts';

/** How the layers are planned at the press: what it comes to, what wants care, and why the other ways lose. */
export function PlanNotes({ plan }: { plan: Job['pressPlan'] }) {
  const t = words.pressPlan;
  if (plan.taken.length === 0 && plan.because.length === 0 && plan.lacks.length === 0) return null;
  const chosen = plan.source;
  return (
    <div className="plan-notes" data-testid="press-plan" data-verdict={plan.verdict}>
      <p>
        {plan.says}
        {plan.onFabric > 0 && plan.verdict !== 'refused' && <span className="quiet"> {t.onFabric(plan.onFabric)}</span>}
      </p>
      {chosen && (
        <p data-testid="press-with">
          {t.with} <strong>{isolate(chosen.name)}</strong>. <span className="quiet">{chosen.because}</span>{' '}
          {chosen.open && <Link to={`/workshop/presses/${chosen.id}`}>{t.find}</Link>}
        </p>
      )}
      {plan.sources.length > 1 && (
        <WriteForm what="press" className="line-up above-8">
          <SelectField
            name="press"
            label={t.with}
            answer={undefined}
            key={chosen?.id}
            initial={chosen?.id ?? ''}
            options={plan.sources.map((s) => [s.id, `${s.name}: ${s.because}`] as const)}
          />
          <Button type="submit">{t.use}</Button>
        </WriteForm>
      )}
      {plan.lacks.map(({ film, what }) => (
        <p key={film} className="care-line" data-testid="press-lacks">
          {t.lacks(isolate(film), what)}
        </p>
      ))}
      {plan.offers.map((offer) => (
        <p key={offer} className="quiet">
          {offer}
        </p>
      ))}
      {plan.helps.map((h) => (
        <p key={h.says}>{h.says}</p>
      ))}
      {plan.cautions.map((c) => (
        <p key={c} className="care-line">
          {c}
        </p>
      ))}
      {plan.alternatives.length > 0 && (
        <Folded summary={t.others}>
          {() => (
            <dl className="alternatives">
              {plan.alternatives.map((a) => (
                <div key={a.what}>
                  <dt>{a.what}</dt>
                  <dd className="quiet">{a.loses}</dd>
                </div>
              ))}
            </dl>
          )}
        </Folded>
      )}
    </div>
  );
}
