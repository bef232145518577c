import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { QueueStep, Symptom } from '#core/job/index.ts';
import { words } from '../../../messages/index.ts';
import { ahead, useTone, useTonesAt } from '../../../ui/base/useTone.ts';
import { useLookAgain } from '../../../ui/base/useLookAgain.ts';
import { useTemperatureUnit } from '../../../ui/people/usePerson.ts';
import { recipeOf } from '../recipeOf.ts';
import { sayOutcome } from '../sayOutcome.ts';
import { isLastPress } from '../sayStep.ts';
import type { Job, Work } from '../useSheet.ts';
import { WrongPanel } from '../WrongPanel.tsx';
import { Cautions } from './Cautions.tsx';
import { Others } from './Others.tsx';
import { closedFor, closing } from './openedEarly.ts';
import { RunFace } from './RunFace.tsx';
import { pressRunView, type PressRunView } from './pressRunView.ts';
import { useLive } from './useLive.ts';
import { useRun } from './useRun.ts';

/** How often the run asks what another device has said, ms. */
const LOOK_AGAIN = 5_000;

/** The press run: the whole screen, one ring, one number, one sentence, one big button; the other pieces with clocks of their own. */
export function PressRun({ job, work }: { job: Job; work: Work }) {
  const t = words.pressRun;
  const run = useRun(job, work);
  const tone = useTone();
  // Two pairs of hands at one job, each with a device: what one closed the other sees.
  useLookAgain(LOOK_AGAIN);
  const unit = useTemperatureUnit();
  const [wrong, setWrong] = useState<{ step: QueueStep; seen: Symptom | 'ask' }>();
  const { turn } = run;
  const agreed = job.pressPlan.verdict !== 'refused' || work.sheet.agreed.length > 0;
  const say = useSaying(job, work);
  const live = useLive(job.pressPlan.source?.name);
  const turned = pressRunView(job, run, unit, agreed, work.sheet.plate?.shows, live);
  const last = useRef(0);
  const act = () => {
    // A pedal that bounces is one tap.
    if (Date.now() - last.current < 600) return;
    last.current = Date.now();
    tone.wake();
    say(turned);
  };
  useSignal(run, tone);
  useKeys(act, wrong === undefined && turned.does !== undefined && !turned.behind);
  const sheetStep = wrong && work.sheet.steps.find((s) => s.id === wrong.step.id);
  return (
    <div className="press-run" data-testid="press-run" data-turn={turn.do} data-due={turned.over ? 'now' : undefined}>
      <p className="run-head">
        {t.of(job.name, run.done, run.of)}
        <Link to={`/jobs/${job.id}`} preventScrollReset className="run-close">
          {t.close}
        </Link>
      </p>
      <RunFace job={job} run={run} turned={turned} live={live} />
      <div className="run-side">
        {wrong && sheetStep ? (
          <WrongPanel
            key={wrong.seen}
            job={job}
            work={work}
            step={sheetStep}
            layer={job.layers.find((l) => l.id === sheetStep.layer) ?? job.layers[0]!}
            seen={wrong.seen}
            setSeen={(seen) => setWrong(seen && { step: wrong.step, seen })}
          />
        ) : (
          <>
            <h1 data-testid="run-title">{turned.title}</h1>
            {turned.lines.map((line) => (
              <p key={line} className="run-line">
                {line}
              </p>
            ))}
            <Others job={job} run={run} />
            <RunButtons turned={turned} act={act} say={say} onWrong={setWrong} jobId={job.id} />
          </>
        )}
        <Cautions />
      </div>
    </div>
  );
}

type Say = ReturnType<typeof useSaying>;

function RunButtons({
  turned,
  act,
  say,
  onWrong,
  jobId,
}: {
  turned: PressRunView;
  act: () => void;
  say: Say;
  onWrong: (wrong: { step: QueueStep; seen: Symptom | 'ask' }) => void;
  jobId: string;
}) {
  const t = words.pressRun;
  const { step } = turned;
  if (!turned.does)
    return (
      <div className="actions run-actions">
        <Button component={Link} to={`/jobs/${jobId}`} variant="contained" size="large">
          {turned.button}
        </Button>
      </div>
    );
  return (
    <>
      <div className="actions run-actions">
        <Button
          variant={turned.behind ? 'outlined' : 'contained'}
          size="large"
          onClick={act}
          data-testid={turned.behind ? 'run-anyway' : 'run-big'}
        >
          {turned.button}
        </Button>
        {turned.does === 'heat' && turned.other !== undefined && (
          <Button
            onClick={() => say({ ...turned, shows: turned.shows === 'F' ? 'C' : 'F' })}
            data-testid="run-other-scale"
          >
            {turned.other}
          </Button>
        )}
        {step && turned.also && (
          <Button
            onClick={() =>
              turned.also!.does === 'close' ? say({ ...turned, does: 'close' }) : say({ ...turned, does: 'agree' })
            }
            data-testid="run-also"
          >
            {turned.also.says}
          </Button>
        )}
        {step && turned.canComeUp && <Button onClick={() => onWrong({ step, seen: 'came up' })}>{t.up}</Button>}
        {step && turned.does !== 'agree' && turned.does !== 'heat' && (
          <Button onClick={() => onWrong({ step, seen: 'ask' })}>{t.else}</Button>
        )}
      </div>
      {!turned.behind && <p className="quiet small run-key">{t.key}</p>}
    </>
  );
}

/** Says what hands did. A device that sends the same twice changes nothing: the sheet follows from what was said. */
function useSaying(job: Job, work: Work) {
  return (turned: PressRunView) => {
    const { step } = turned;
    const sheet = work.sheet.steps.find((s) => s.id === step?.id);
    if (!step || !sheet) return;
    const at = { step: sheet.id, attempt: sheet.attempt };
    switch (turned.does) {
      case 'agree':
        if (step.rest !== undefined) {
          const of = job.press[step.press]!.seconds ?? 0;
          work.say({ ...at, kind: 'agreed', to: words.pressRun.load.enoughSaid(closedFor(of, step.rest), of) });
          return;
        }
        work.say({
          ...at,
          kind: 'agreed',
          to: job.pressPlan.because
            .map((b) => b.says)
            .join(' ')
            .slice(0, 500),
        });
        return;
      case 'heat':
        work.say({
          ...at,
          kind: 'plate',
          heat: turned.heat!,
          shows: turned.shows,
          ...(job.pressPlan.source ? { source: job.pressPlan.source.id } : {}),
        });
        return;
      case 'close':
      case 'next':
        work.say({ ...at, ...closing(step) });
        return;
      case 'ask':
        // It has risen: the press that the question is about is left out.
        if (isLastPress(job, step.press)) sayOutcome(job, work, sheet, 'bonded', recipeOf(job.press[step.press]!));
        work.say({ ...at, kind: 'skip' });
        return;
      case 'open': {
        work.say({ ...at, kind: 'opened' });
        // Nothing to peel, nothing to wait for, nothing to ask: it is done, once it had its time.
        const plan = job.press[step.press]!;
        const last = isLastPress(job, step.press);
        if (plan.seconds !== undefined && !turned.over) return;
        if (!last && plan.wait === 0 && plan.does !== 'layer') work.say({ ...at, kind: 'done' });
        return;
      }
      case 'hand':
        work.say({ ...at, kind: 'done' });
        return;
      case 'peel': {
        if (isLastPress(job, step.press)) sayOutcome(job, work, sheet, 'bonded', recipeOf(job.press[step.press]!));
        work.say({ ...at, kind: 'done' });
        return;
      }
      case undefined:
    }
  };
}

/** Any key but those that move about: a foot pedal sends one of several. */
function useKeys(act: () => void, on: boolean) {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    if (!on) return;
    const press = (event: KeyboardEvent) => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
      if (['Tab', 'Shift', 'Escape', 'Control', 'Alt', 'Meta', 'F5', 'F11', 'F12'].includes(event.key)) return;
      // A button in focus does its own work.
      if (event.target instanceof HTMLElement && event.target.closest('button, a, summary, input, select, textarea')) {
        if (!(event.target as HTMLElement).closest('[data-testid=run-big]')) return;
      }
      event.preventDefault();
      event.stopPropagation();
      latest.current();
    };
    // Before anything else on the page hears it.
    window.addEventListener('keydown', press, true);
    return () => window.removeEventListener('keydown', press, true);
  }, [on]);
}

/** A tone, a shake and a flash when something is due: of every clock that runs. */
function useSignal({ turn, others }: ReturnType<typeof useRun>, tone: ReturnType<typeof useTone>) {
  const dues = [...(turn.do === 'open' || turn.do === 'peel' ? [turn.due] : []), ...others.map((o) => o.due)];
  const key = dues.sort((a, b) => a - b).join();
  useTonesAt(tone, key);
  useEffect(() => {
    if (!tone.ready) return;
    const shakes = ahead(key).map((ms) => setTimeout(() => navigator.vibrate?.([200, 100, 200]), ms));
    return () => shakes.forEach(clearTimeout);
  }, [key, tone.ready]);
}
