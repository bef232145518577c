import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Outcome, Symptom } from '#core/job/index.ts';
import { layerSchools, type LayerSchool } from '#core/press/index.ts';
import { words } from '../../messages/index.ts';
import { SelectField } from '../../ui/base/Field.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Countdown } from '../../ui/base/Countdown.tsx';
import { useNow } from '../../ui/base/useNow.ts';
import { useTone } from '../../ui/base/useTone.ts';
import { useTemperatureUnit } from '../../ui/people/usePerson.ts';
import { pressSetting } from '../../ui/jobs/pressSetting.ts';
import { OwnPresses } from '../../ui/workshop/OwnPresses.tsx';
import { recipeOf } from './recipeOf.ts';
import { Cautions } from './press/Cautions.tsx';
import { closedFor, closing } from './press/openedEarly.ts';
import { Lacks, PlanNotes } from './press/PlanNotes.tsx';
import { WayChoice } from './press/WayChoice.tsx';
import { sayTrust } from '../../ui/vinyls/sayPress.ts';
import { sayOutcome } from './sayOutcome.ts';
import { saidOf } from './saidOf.ts';
import { isLastPress } from './sayStep.ts';
import type { StepProps } from './useSheet.ts';

/** One press: the heat, a ring that counts down, the wait before the peel; what came up with its carrier leads on. */
export function PressStep({ job, work, step, answer, done, wrong }: StepProps) {
  const t = words.jobSheet.pressing;
  const press = job.press[step.press!]!;
  const unit = useTemperatureUnit();
  const tone = useTone();
  const at = { step: step.id, attempt: step.attempt };
  const say: Says = {
    start: () => {
      work.say({ ...at, ...closing(step) });
      tone.wake();
    },
    opened: () => work.say({ ...at, kind: 'opened' }),
    enough: () => work.say({ ...at, kind: 'agreed', to: words.pressRun.load.enoughSaid(was, press.seconds!) }),
    skip: () => work.say({ ...at, kind: 'skip' }),
  };
  const was = closedFor(press.seconds, step.rest);
  const outcome = (word: PressOutcome) => sayOutcome(job, work, step, word, recipeOf(press));
  const on = job.pressPlan.source;
  const heat = pressSetting(press, on, on?.shows ?? unit);
  const about = [
    press.pressure && `${t.pressure[press.pressure]}${press.hand ? ` (${press.hand})` : ''}`,
    press.cover && t.cover(press.cover),
    t.under[press.support],
  ].filter(Boolean);
  return (
    <div className="press-step">
      <div>
        <Button component={Link} to={`?run`} variant="outlined" className="run-open" preventScrollReset>
          {words.pressRun.open}
        </Button>
        {step.since && press.seconds && step.rest === undefined ? (
          <Pressed
            key={step.closed ?? step.since}
            since={step.closed ?? step.since}
            seconds={step.closesFor ?? press.seconds}
            wait={press.wait}
            tone={tone}
          />
        ) : (
          <p className="big-line">
            <span className="big wordy" data-testid="press-seconds">
              {step.rest ?? press.seconds ?? t.byLeaflet}
            </span>{' '}
            {press.seconds !== undefined && <span>{t.seconds}</span>}
          </p>
        )}
        <p className="press-about">
          <strong data-testid="press-heat">{heat?.set ?? t.byLeaflet}</strong>{' '}
          <span className="quiet">{heat?.really}</span> · {about.join(' · ')}
        </p>
        <Trust job={job} press={press} />
        {press.heat !== undefined && !on && <OwnPresses heat={press.heat} presses={job.presses} />}
        <p className="quiet">
          {press.parts > 1 && `${words.pressRun.load.parts(press.parts)} `}
          {on?.kind === 'iron' && `${words.pressRun.load.iron} `}
          {press.does === 'layer' && `${t.lay} `}
          {press.purpose !== 'hand' && t.purpose[press.purpose]} {press.then}
        </p>
      </div>
      {job.pressPlan.verdict === 'refused' && work.sheet.agreed.length === 0 ? (
        <Refused job={job} onAgree={(to) => work.say({ kind: 'agreed', step: step.id, attempt: step.attempt, to })} />
      ) : (
        <PressButtons
          step={step}
          press={press}
          say={say}
          was={was}
          done={done}
          wrong={wrong}
          outcome={isLastPress(job, step.press!) ? outcome : undefined}
        />
      )}
      {step.press === 0 && job.press.length > 2 && <School school={job.plan.school} held={job.held} />}
      {(step.press === 0 || press.heat === undefined || press.seconds === undefined) && (
        <Lacks plan={job.pressPlan} step={step} layers={step.press === 0 ? undefined : press.layers} answer={answer} />
      )}
      <WayChoice job={job} step={step} layers={press.layers} />
      {step.press === 0 && <PlanNotes plan={job.pressPlan} />}
      <Cautions />
    </div>
  );
}

/** Whose figures a press has, and what one's own hands change in them: one line. */
function Trust({ job, press }: Pick<StepProps, 'job'> & { press: Press }) {
  const of = saidOf(job, press);
  const habits = press.does === 'layer' ? (of?.habits ?? []) : [];
  return (
    <>
      {press.by && (
        <p className="press-source" data-testid="press-source">
          <strong>{sayTrust({ source: press.by, by: of?.by })}</strong> {habits.join(' ')}
        </p>
      )}
      {press.over && <p className="notice bad">{press.over}</p>}
    </>
  );
}

/** A stack that does not hold is pressed only by a deliberate yes, which is kept. */
function Refused({ job, onAgree }: { job: StepProps['job']; onAgree: (to: string) => void }) {
  const t = words.pressRun.refused;
  const because = job.pressPlan.because.map((b) => b.says);
  return (
    <div className="notice bad above-14" role="alert">
      <p>
        <strong>{t.title}</strong> {because.join(' ')}
      </p>
      <Button onClick={() => onAgree(because.join(' ').slice(0, 500))}>{t.button}</Button>
    </div>
  );
}

type Press = StepProps['job']['press'][number];
/** What hands say at a press. */
type Says = Record<'start' | 'opened' | 'enough' | 'skip', () => void>;

/** The press is closed: how long still; then how long until it may be peeled. */
function Pressed({
  since,
  seconds,
  wait,
  tone,
}: {
  since: string;
  seconds: number;
  wait: number;
  tone: ReturnType<typeof useTone>;
}) {
  const t = words.jobSheet.pressing;
  const now = useNow(true, 200);
  const end = Date.parse(since) + seconds * 1000;
  const cooling = now >= end && wait > 0 && now < end + wait * 1000;
  return cooling ? (
    <Countdown since={new Date(end).toISOString()} seconds={wait} says={t.cools} tone={tone} />
  ) : (
    <Countdown since={since} seconds={seconds} says={t.closed} tone={tone} />
  );
}

/** How a piece may come out of its last press, and what that is as something that went wrong. */
const pressOutcomes = {
  'edges lift': 'edges lift',
  'shine mark': 'shine mark',
  'not raised': 'not raised',
  scorched: 'scorched',
  'plate mark': 'plate mark',
  wrinkled: 'wrinkled',
  slipped: 'shifted',
  tore: 'tears',
} as const satisfies Partial<Record<Outcome, Symptom>>;
type PressOutcome = keyof typeof pressOutcomes | 'bonded';

function PressButtons({
  step,
  press,
  say,
  was,
  done,
  wrong,
  outcome,
}: Pick<StepProps, 'step' | 'done' | 'wrong'> & {
  press: Press;
  say: Says;
  /** How long it was closed, s, where it was opened early. */
  was: number;
  /** Says how the piece came out; undefined where another press follows. */
  outcome: ((word: PressOutcome) => void) | undefined;
}) {
  const t = words.jobSheet.pressing;
  const o = words.jobSheet.outcome;
  const [began, setBegan] = useState(false);
  const closed = step.closed !== undefined || began;
  const now = useNow(closed, 200);
  if (step.rest !== undefined) return <OpenedEarly rest={step.rest} was={was} press={press} say={say} />;
  if (!closed && press.ask) return <Asked press={press} say={say} outcome={outcome} />;
  if (!closed)
    return (
      <div className="actions">
        <Button
          variant="contained"
          size="large"
          onClick={() => {
            setBegan(true);
            say.start();
          }}
        >
          {t.start}
        </Button>
        {press.seconds === undefined && <Button onClick={done}>{words.jobSheet.done}</Button>}
      </div>
    );
  const needs = step.closesFor ?? press.seconds;
  // Nothing is peeled or done before its time: opened now, it keeps the rest.
  if (!step.opened && needs !== undefined && now < Date.parse(step.closed ?? '') + needs * 1000 - 1000)
    return (
      <div className="actions">
        <Button size="large" onClick={say.opened} data-testid="open-early">
          {t.open}
        </Button>
      </div>
    );
  // A design larger than the plate: the next part, until all of it was pressed.
  if (step.part > 0 && step.part < press.parts)
    return (
      <div className="actions">
        <Button variant="contained" size="large" onClick={say.start} data-testid="next-part">
          {words.pressRun.closed.next(step.part + 1, press.parts)}
        </Button>
      </div>
    );
  const peel =
    press.lifts === 'cover'
      ? words.pressRun.cools.lift
      : press.peel && press.peel !== 'by the leaflet'
        ? t.peel(press.peel)
        : t.peeled;
  const up = press.does === 'layer' && <Button onClick={() => wrong('came up')}>{t.up}</Button>;
  if (!outcome)
    return (
      <div className="actions">
        <Button variant="contained" size="large" onClick={done}>
          {press.does === 'layer' ? peel : t.open}
        </Button>
        {up}
      </div>
    );
  return (
    <>
      <h3>{o.ask}</h3>
      <div className="actions">
        <Button
          variant="contained"
          size="large"
          onClick={() => {
            outcome('bonded');
            done();
          }}
        >
          {o.words.bonded}
        </Button>
        {up}
        {(Object.keys(pressOutcomes) as (keyof typeof pressOutcomes)[])
          .filter((word) => (word !== 'not raised' && word !== 'wrinkled') || press.support === 'hard board')
          .map((word) => (
            <Button
              key={word}
              onClick={() => {
                outcome(word);
                wrong(pressOutcomes[word]);
              }}
            >
              {o.words[word]}
            </Button>
          ))}
      </div>
    </>
  );
}

/** The press was opened before its time: it is closed for the rest, or that is left at it. */
function OpenedEarly({ rest, was, press, say }: { rest: number; was: number; press: Press; say: Says }) {
  const t = words.pressRun.load;
  return (
    <div data-testid="opened-early">
      <p className="notice above-14">{t.early(was, press.seconds!, press.does === 'before')}</p>
      <div className="actions">
        <Button variant="contained" size="large" onClick={say.start}>
          {t.againButton(rest)}
        </Button>
        <Button onClick={say.enough}>{t.enough}</Button>
      </div>
    </div>
  );
}

/** A press that is left out where the answer is yes. */
function Asked({
  press,
  say,
  outcome,
}: {
  press: Press;
  say: Says;
  outcome: ((word: PressOutcome) => void) | undefined;
}) {
  const t = words.pressRun.asked;
  return (
    <>
      <h3>{press.ask}</h3>
      <div className="actions">
        <Button
          variant="contained"
          size="large"
          onClick={() => {
            outcome?.('bonded');
            say.skip();
          }}
        >
          {t.yes}
        </Button>
        <Button onClick={say.start}>{t.no(press.seconds ?? 0)}</Button>
      </div>
    </>
  );
}

/** Crafters press layers in several ways: the person's own choice. */
function School({ school, held }: { school: LayerSchool; held: StepProps['job']['held'] }) {
  const t = words.jobSheet.pressing;
  return (
    <details className="above-24">
      <summary>
        {t.school} {t.schools[school]}
      </summary>
      <WriteForm what="school" className="line-up above-8">
        <SelectField
          name="school"
          label={t.school}
          answer={undefined}
          initial={school}
          options={layerSchools.map((key) => {
            const seen = held.find((h) => h.school === key);
            return [key, `${t.schools[key]}: ${words.recipes.held(seen?.held ?? 0, seen?.pieces ?? 0)}`] as const;
          })}
        />
        <Button type="submit">{t.schoolDo}</Button>
      </WriteForm>
    </details>
  );
}
