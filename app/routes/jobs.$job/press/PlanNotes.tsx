import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { words } from '../../../messages/index.ts';
import { SelectField } from '../../../ui/base/Field.tsx';
import { isolate } from '../../../ui/base/format.ts';
import { WriteForm } from '../../../ui/base/WriteForm.tsx';
import { Folded } from '../../../ui/base/Folded.tsx';
import type { SheetStep } from '#core/job/index.ts';
import type { FormAnswer } from '../../../server/enter.server.ts';
import { LeafletForm } from '../../../ui/vinyls/LeafletForm.tsx';
import type { Job } from '../useSheet.ts';

/** Figures that nobody says, each asked for where it is missed: copied from the leaflet, or said as one's own. */
export function Lacks({
  plan,
  step,
  layers,
  answer,
}: {
  plan: Job['pressPlan'];
  step: SheetStep;
  /** The layers of this press; all of the plan when left out. */
  layers: readonly string[] | undefined;
  answer: FormAnswer | undefined;
}) {
  const t = words.pressPlan;
  const lacks = plan.lacks.filter((l) => layers === undefined || layers.includes(l.layer));
  return lacks.map(({ film, vinyl, what }) => {
    const mine = answer?.values.what === 'leaflet' && answer.values.vinyl === vinyl ? answer : undefined;
    return (
      <div key={film} className="above-14" data-testid="press-lacks">
        <p className="care-line">
          {plan.source?.kind === 'iron' ? t.lacksIron(isolate(film)) : t.lacks(isolate(film), what)}
        </p>
        <Folded summary={t.say} open={mine !== undefined} testId="say-press">
          {() => <LeafletForm vinyl={vinyl} leaflet={undefined} answer={mine} inJob step={step.id} />}
        </Folded>
      </div>
    );
  });
}

/** How the layers are planned at the press: what it comes to, what wants care, and why the other ways lose. */
export function PlanNotes({ plan }: { plan: Job['pressPlan'] }) {
  const t = words.pressPlan;
  if (plan.taken.length === 0 && plan.because.length === 0) return null;
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
