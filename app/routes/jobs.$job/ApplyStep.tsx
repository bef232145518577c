import Button from '@mui/material/Button';
import type { Outcome } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { Countdown } from '../../ui/base/Countdown.tsx';
import { useTone } from '../../ui/base/useTone.ts';
import { sayOutcome } from './sayOutcome.ts';
import type { StepProps } from './useSheet.ts';

/** A film that is not pressed: cleaned, taped, laid, painted through or glued, each with what to do, and a timer where it rests. */
export function ApplyStep({ job, work, step, done, wrong }: StepProps) {
  const t = words.jobSheet;
  const plan = job.press[step.press!]!;
  const tone = useTone();
  // The last that is done to the film says how it holds; steps of one's own come after it.
  const last = job.press.findLast((s) => s.kind === 'apply' && !s.byHand && s.layers.length > 0)?.what === plan.what;
  const say = (word: Outcome) => sayOutcome(job, work, step, word, plan.what);
  return (
    <div className="press-step">
      <ol className="apply-says">
        {plan.says.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      {plan.rest !== undefined &&
        (step.since ? (
          <Countdown since={step.since} seconds={plan.rest} says={t.applied.rests} tone={tone} />
        ) : (
          <div className="actions">
            <Button
              onClick={() => {
                work.say({ kind: 'start', step: step.id, attempt: step.attempt });
                tone.wake();
              }}
            >
              {t.applied.rest(`${Math.round(plan.rest / 60)} min`)}
            </Button>
          </div>
        ))}
      {last && <h3>{t.applied.ask}</h3>}
      <div className="actions">
        <Button
          variant="contained"
          size="large"
          onClick={() => {
            if (last) say('bonded');
            done();
          }}
        >
          {last ? t.outcome.words.bonded : t.done}
        </Button>
        {last && (
          <Button
            onClick={() => {
              say('edges lift');
              wrong('edges lift');
            }}
          >
            {t.outcome.words['edges lift']}
          </Button>
        )}
      </div>
    </div>
  );
}
