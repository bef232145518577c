import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { Symptom } from '#core/job/index.ts';
import { shapes } from '#core/place/index.ts';
import { words } from '../../messages/index.ts';
import { ApplyStep } from './ApplyStep.tsx';
import { NoteLine, StepTips } from './BesideStep.tsx';
import { CutStep } from './CutStep.tsx';
import { LiftStep } from './LiftStep.tsx';
import { MatStep } from './MatStep.tsx';
import { PressStep } from './PressStep.tsx';
import { layerOfStep, sayStep } from './sayStep.ts';
import { TrimStep } from './TrimStep.tsx';
import { WashStep } from './WashStep.tsx';
import { WeedStep } from './WeedStep.tsx';
import { WrongPanel } from './WrongPanel.tsx';
import type { FormAnswer } from '../../server/enter.server.ts';
import type { Job, Work } from './useSheet.ts';

const parts = {
  trim: TrimStep,
  mat: MatStep,
  cut: CutStep,
  lift: LiftStep,
  weed: WeedStep,
  press: PressStep,
  apply: ApplyStep,
  wash: WashStep,
};

/** The step in hand: what to do, with its numbers and one button; what was done can be taken back. */
export function StepPanel({ job, work, answer }: { job: Job; work: Work; answer: FormAnswer | undefined }) {
  const t = words.jobSheet;
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const { step, say } = work;
  // What is seen to be wrong, with the step at which it was asked.
  const [asked, setAsked] = useState<{ step: string; seen: Symptom | 'ask' }>();
  if (!step) return <p className="lede">{t.allDone[shapes[job.plan.blank.shape].then]}</p>;
  const layer = layerOfStep(job, step) ?? job.layers[0]!;
  // Where no step was asked for there is nowhere to go: the next one shows by itself, with or without a network.
  const onward = () => {
    if (query.has('step')) void navigate(`/jobs/${job.id}`, { preventScrollReset: true });
  };
  const done = () => {
    say({ kind: 'done', step: step.id, attempt: step.attempt });
    onward();
  };
  const Part = parts[step.kind];
  const wrong = (seen: Symptom | 'ask' | undefined) => setAsked(seen && { step: step.id, seen });
  const seen = asked?.step === step.id ? asked.seen : undefined;
  return (
    <section aria-labelledby="step" className="step-panel" data-step={step.id}>
      <h2 id="step">{sayStep(job, step)}</h2>
      {seen ? (
        <WrongPanel key={seen} job={job} work={work} step={step} layer={layer} seen={seen} setSeen={wrong} />
      ) : step.state === 'open' ? (
        <>
          {!step.ready && <p className="quiet">{t.waits}</p>}
          <StepTips job={job} step={step} />
          {layer.tooLarge && (step.kind === 'trim' || step.kind === 'mat' || step.kind === 'cut') && (
            <p className="notice bad" data-testid="too-large">
              <strong>{t.larger}</strong> <Link to={`/jobs/${job.id}/size`}>{t.fitIt}</Link>
            </p>
          )}
          <Part
            key={`${step.id} ${step.attempt}`}
            job={job}
            work={work}
            step={step}
            layer={layer}
            answer={answer}
            done={done}
            wrong={wrong}
          />
        </>
      ) : (
        <p>
          {t.done}.{' '}
          {step.by && (
            <Button
              variant="text"
              onClick={() => say({ kind: 'undo', event: step.by!, step: step.id, attempt: step.attempt })}
            >
              {t.undo}
            </Button>
          )}
        </p>
      )}
      {!seen && (
        <Button variant="text" className="went-wrong" onClick={() => wrong('ask')}>
          {t.wrong.open}
        </Button>
      )}
      <NoteLine key={step.id} job={job} work={work} step={step} />
      {!seen && step.state === 'open' && (
        <Button
          variant="text"
          className="skip-step"
          onClick={() => {
            say({ kind: 'skip', step: step.id, attempt: step.attempt });
            onward();
          }}
        >
          {t.skip}
        </Button>
      )}
    </section>
  );
}
