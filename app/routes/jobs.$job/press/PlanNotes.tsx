import { words } from '../../../messages/index.ts';
import { Folded } from '../../../ui/base/Folded.tsx';
import type { Job } from '../useSheet.ts';

/** How the layers are planned at the press: what it comes to, what wants care, and why the other ways lose. */
export function PlanNotes({ plan }: { plan: Job['pressPlan'] }) {
  const t = words.pressPlan;
  if (plan.taken.length === 0 && plan.because.length === 0) return null;
  return (
    <div className="plan-notes" data-testid="press-plan" data-verdict={plan.verdict}>
      <p>
        {plan.says}
        {plan.onFabric > 0 && plan.verdict !== 'refused' && <span className="quiet"> {t.onFabric(plan.onFabric)}</span>}
      </p>
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
