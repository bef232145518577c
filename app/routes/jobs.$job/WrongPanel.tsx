import Button from '@mui/material/Button';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import {
  causesOf,
  symptomKeys,
  symptoms,
  type Outcome,
  type RankedCause,
  type Symptom,
  type WrongRecord,
} from '#core/job/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { words } from '../../messages/index.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { Countdown } from '../../ui/base/Countdown.tsx';
import { useTone } from '../../ui/base/useTone.ts';
import { recipeOf } from './recipeOf.ts';
import { sayOutcome } from './sayOutcome.ts';
import { pieceOf } from './sayStep.ts';
import { LostPieces, sharedBy, type LostShapes } from './LostPieces.tsx';
import { SendPart } from './SendPart.tsx';
import type { StepProps } from './useSheet.ts';

type Props = Omit<StepProps, 'done' | 'wrong'> & {
  seen: Symptom | 'ask';
  setSeen: (seen: Symptom | 'ask' | undefined) => void;
};

/** What is seen is a grade where nobody gave one yet. */
const gradeOf: Partial<Record<Symptom, Grade>> = {
  'holds at corners': 'hangs',
  'holds everywhere': 'uncut',
  'scored all over': 'scored',
};

/** What is seen at the press says how the piece came out. */
const outcomeOf: Partial<Record<Symptom, Outcome>> = {
  'edges lift': 'edges lift',
  'shine mark': 'shine mark',
  'plate mark': 'plate mark',
  'not raised': 'not raised',
  scorched: 'scorched',
  wrinkled: 'wrinkled',
};

/** The cut of the part a step is about. */
const factOf = ({ work, step, layer }: Pick<Props, 'work' | 'step' | 'layer'>) =>
  work.facts.find((f) => f.part === layer.part && f.attempt === step.attempt);

/** What the device itself adds to the record: whether it lies on the mat, and how long the press was closed. */
function recordOf({ job, work, step, layer }: Omit<Props, 'seen' | 'setSeen'>): WrongRecord {
  const fact = factOf({ work, step, layer });
  const pressed = work.sheet.steps
    .filter((s) => s.kind === 'press' && (step.kind !== 'press' || s.id === step.id))
    .flatMap((s) => {
      const press = job.press[s.press!]!;
      // From closed to opened where the run said so; else until it was done, the wait with it.
      const until = s.opened ? Date.parse(s.opened) : work.now;
      const seconds = s.closed && (s.opened || s.since) ? (until - Date.parse(s.closed)) / 1000 : s.seconds;
      return press.seconds !== undefined && seconds > 0 && press.purpose !== 'dry'
        ? [{ press, seconds, opened: s.opened }]
        : [];
    });
  const late = pressed.flatMap((p) => (p.opened ? [p.seconds - p.press.seconds!] : [])).filter((s) => s > 3);
  const early = pressed.map(({ press, seconds }) => press.seconds! - seconds).filter((s) => s > 1);
  // What was opened too early was not peeled too warm: one thing at a time.
  const peeled = early.length > 0 ? [] : pressed.filter(({ press }) => press.does === 'layer' && press.wait > 0);
  return {
    ...(job.records[layer.id] ?? { proven: false }),
    peel: step.kind === 'press' ? job.press[step.press!]!.peel : undefined,
    peeledLate:
      step.kind === 'press' && step.opened
        ? Math.max(0, (work.now - Date.parse(step.opened)) / 1000 - job.press[step.press!]!.wait - HOT)
        : undefined,
    lifts: layer.hands.lifts === 'wait' || layer.hands.lifts === 'again' ? layer.hands.lifts : undefined,
    onMat: step.kind === 'cut' || step.kind === 'lift',
    passes: fact?.passes,
    openedEarly: pressed.length > 0 ? Math.max(0, ...early) : undefined,
    peeledEarly:
      peeled.length > 0
        ? peeled.some(({ press, seconds, opened }) =>
            opened
              ? (work.now - Date.parse(opened)) / 1000 < press.wait - 2
              : seconds < press.seconds! + press.wait - 2,
          )
        : undefined,
    openedLate: late.length > 0 ? Math.max(...late) : undefined,
    byPiece: step.kind === 'press' || sharedBy(job, step, layer).length > 1,
    covered:
      step.kind === 'press'
        ? job.press[step.press!]!.cover !== undefined || job.press[step.press!]!.does === 'layer'
        : undefined,
  };
}

/** What went wrong: what is seen, the likeliest cause by the record, and one button that does something about it. */
export function WrongPanel({ seen, setSeen, ...at }: Props) {
  const t = words.jobSheet.wrong;
  const here = symptomKeys.toSorted((a, b) => Number(speaksOf(b, at.step.kind)) - Number(speaksOf(a, at.step.kind)));
  if (seen === 'ask')
    return (
      <section className="wrong" aria-labelledby="wrong">
        <h3 id="wrong">{t.ask}</h3>
        <div className="symptoms">
          {here.map((s) => (
            <Button key={s} onClick={() => setSeen(s)} data-symptom={s}>
              {t.seen[s]}
            </Button>
          ))}
        </div>
        <Button variant="text" onClick={() => setSeen(undefined)}>
          {t.nothing}
        </Button>
      </section>
    );
  const [first, ...others] = causesOf(seen, recordOf(at));
  return (
    <section className="wrong" aria-labelledby="wrong" data-testid="wrong">
      <p className="quiet">
        {t.seen[seen]}.{' '}
        <button type="button" className="link-button" onClick={() => setSeen('ask')}>
          {t.other}
        </button>
      </p>
      <h3 id="wrong" className="cause" data-cause={first!.cause}>
        {others.length > 0 ? t.likely(first!.word) : `${first!.word}.`}
      </h3>
      {(others.length > 0 || first!.because.length > 0) && (
        <p>{first!.because.length > 0 ? first!.because.join(' ') : t.usual}</p>
      )}
      <Remedy {...at} seen={seen} cause={first!} close={() => setSeen(undefined)} />
      <Button variant="text" onClick={() => setSeen(undefined)}>
        {t.nothing}
      </Button>
      {others.length > 0 && (
        <details className="above-16">
          <summary>{t.others}</summary>
          <ul className="causes">
            {others.map((c) => (
              <li key={c.cause}>
                <p>
                  <strong>{c.word}.</strong> <span className="quiet">{c.because.join(' ')}</span>
                </p>
                <Remedy {...at} seen={seen} cause={c} close={() => setSeen(undefined)} small />
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const speaksOf = (seen: Symptom, kind: string): boolean => (symptoms[seen] as readonly string[]).includes(kind);

type RemedyProps = Omit<Props, 'seen' | 'setSeen'> & {
  seen: Symptom;
  cause: RankedCause;
  close: () => void;
  small?: boolean;
};

/** The film of some pieces is cut again; what was pressed of them, from this layer on, is to be pressed once more. */
function sayLost(
  { job, work, step, layer }: Omit<Props, 'seen' | 'setSeen'>,
  pieces: readonly string[],
  shapes?: LostShapes,
) {
  const part = job.layers.find((l) => l.id === layer.id)!.part;
  work.say({
    kind: 'lost',
    step: step.id,
    attempt: step.attempt,
    part,
    pieces: [...pieces],
    ...(shapes ? { shapes } : {}),
  });
  if (step.kind !== 'press') return;
  for (const s of work.sheet.steps)
    if (s.kind === 'press' && s.press! >= step.press! && pieces.includes(job.plan.pieces[pieceOf(job, s)]!.id)) {
      if (s.by) work.say({ kind: 'undo', event: s.by, step: s.id, attempt: s.attempt });
      else if (s.closed) work.say({ kind: 'pause', step: s.id, attempt: s.attempt });
    }
}

/** Keeps with the job what was seen and what is done about it; returns the grade it is of a cut that has none yet. */
function sayWrong({ job, work, step, layer, seen, cause }: Omit<RemedyProps, 'close' | 'small'>): Grade | undefined {
  work.say({
    kind: 'wrong',
    step: step.id,
    attempt: step.attempt,
    seen,
    cause: cause.cause,
    remedy: cause.remedy,
    vinyl: layer.vinyl.id,
  });
  const word = outcomeOf[seen];
  if (step.kind === 'press' && word) sayOutcome(job, work, step, word, recipeOf(job.press[step.press!]!));
  const fact = factOf({ work, step, layer });
  return fact && fact.passes > 0 && fact.grade === undefined ? gradeOf[seen] : undefined;
}

/** The button that does something about a cause. What was seen and what was done about it is kept with the job. */
function Remedy({ job, work, step, layer, seen, cause, close, small = false }: RemedyProps) {
  const t = words.jobSheet.wrong;
  const { add } = useOutbox();
  const navigate = useNavigate();
  const tone = useTone();
  const [waits, setWaits] = useState<string>();
  const fact = factOf({ work, step, layer });
  const record = job.records[layer.id];
  const { remedy } = cause;
  const keep = () => {
    const grade = sayWrong({ job, work, step, layer, seen, cause });
    if (fact && grade) add({ kind: 'grade', cell: fact.cell, figure: 1, passes: fact.passes, grade });
  };
  const go = (to: string) => {
    keep();
    void navigate(to);
  };
  const button = (says: string, act: () => void) => (
    <Button variant={small ? 'outlined' : 'contained'} onClick={act} data-remedy={remedy}>
      {says}
    </Button>
  );
  const done = (act: () => void) => () => {
    keep();
    act();
    close();
  };
  /** The step is open again, and its clock runs from now on. */
  const pressAgain = () => {
    if (step.by) work.say({ kind: 'undo', event: step.by, step: step.id, attempt: step.attempt });
    else if (step.since) work.say({ kind: 'pause', step: step.id, attempt: step.attempt });
    work.say({ kind: 'start', step: step.id, attempt: step.attempt });
  };
  const cutAnew = () => work.say({ kind: 'start', step: `trim/${layer.part}`, attempt: (fact?.attempt ?? 1) + 1 });
  const noteIt = (text: string) =>
    work.say({ kind: 'note', step: step.id, attempt: step.attempt, text, vinyl: layer.vinyl.id });
  /** What the hands do, then the button that says so. */
  const noted = (act: () => void) => (
    <>
      <p className="above-8">{t.how[remedy as keyof typeof t.how]}</p>
      {button(t.does[remedy], act)}
    </>
  );
  if (waits) return <Countdown since={waits} seconds={WAIT} says={t.cools} tone={tone} />;
  switch (remedy) {
    case 'run again': {
      const pass = (fact?.passes ?? 0) + 1;
      if (fact && (job.line?.devices.length ?? 0) > 0)
        return (
          <div className="actions" onSubmit={keep}>
            <SendPart job={job} step={step} layer={layer} stock="" pass={pass} says={words.jobSheet.lift.againSend} />
          </div>
        );
      return button(
        t.does['run again'],
        done(() => fact && add({ kind: 'cut', cell: fact.cell, passes: pass })),
      );
    }
    case 'new blade':
      return button(t.does[remedy], () => go(job.bench ? `/workshop/cutters/${job.bench.id}/blade` : '/workshop'));
    case 'wash mat':
      return (
        <WriteForm what="wash" onSubmit={keep}>
          <input type="hidden" name="mat" value={record?.mat} />
          <Button type="submit" variant={small ? 'outlined' : 'contained'} data-remedy={remedy}>
            {t.does[remedy]}
          </Button>
        </WriteForm>
      );
    case 'other mat':
      return button(t.does[remedy], () => go('/workshop#mats'));
    case 'cut anew':
      return button(t.does[remedy], done(cutAnew));
    case 'make larger':
      return button(t.does[remedy], () => go(`/jobs/${job.id}/size`));
    case 'plan coupon':
      return button(t.does[remedy], () => go(`/coupons/new?vinyl=${layer.vinyl.id}`));
    case 'wait and peel':
      return button(t.does[remedy], () => {
        keep();
        tone.wake();
        // At the run its clock runs beside the others.
        if (step.opened) {
          work.say({ kind: 'opened', step: step.id, attempt: step.attempt, wait: WAIT });
          close();
        } else setWaits(new Date().toISOString());
      });
    case 'press cooler':
      return noted(done(() => noteIt(t.coolerNote)));
    case 'smooth warm':
    case 'damp cloth':
    case 'remove it':
    case 'check the display':
    case 'dry it':
    case 'lay it flat':
      return noted(done(() => undefined));
    case 'cut for piece':
      return <CutAgain at={{ job, work, step, layer }} keep={done} anew={cutAnew} />;
    case 'press again':
      return step.kind === 'press'
        ? button(t.does[remedy], done(pressAgain))
        : button(
            t.noted,
            done(() => undefined),
          );
    case 'press covered':
      return button(
        t.does[remedy],
        done(() => noteIt(t.coverNote)),
      );
  }
}

/** How long a hot peel may take to begin before its film is cold, s. Judgement. */
const HOT = 30;

/** How long what came up too warm is left to cool, s. Source: common practice: 45 s to a minute. */
const WAIT = 60;

/** What is gone is cut again: some of its film, or the layer, for those pieces that lost it. */
function CutAgain({
  at,
  keep,
  anew,
}: {
  at: Omit<Props, 'seen' | 'setSeen'>;
  /** What was seen is kept with what is done about it. */
  keep: (act: () => void) => () => void;
  anew: () => void;
}) {
  const t = words.jobSheet.wrong;
  const { job, step, layer } = at;
  const pieces = step.kind === 'press' ? [job.plan.pieces[pieceOf(job, step)]!.id] : sharedBy(job, step, layer);
  if (pieces.length === 0)
    return (
      <Button variant="contained" onClick={keep(anew)} data-remedy="cut for piece">
        {t.does['cut anew']}
      </Button>
    );
  return (
    <>
      {step.kind === 'press' && <p className="above-8">{t.how['cut for piece']}</p>}
      <LostPieces
        job={job}
        layer={layer}
        pieces={pieces}
        lost={(gone, shapes) => keep(() => sayLost(at, gone, shapes))()}
        // All that lies on the sheet is gone: it is cut anew.
        anew={step.kind === 'press' ? undefined : keep(anew)}
      />
    </>
  );
}

/** What was done about what went wrong, until somebody says whether it helped. */
export function DidItHelp({ work }: { work: StepProps['work'] }) {
  const t = words.jobSheet.wrong;
  const open = work.sheet.wrongs.filter((w) => w.helped === undefined && w.acted);
  return open.map((w) => {
    const say = (helped: boolean) =>
      work.say({ kind: 'helped', step: w.step, attempt: w.attempt, event: w.id, helped });
    return (
      <p key={w.id} className="notice did-it-help" data-testid="helped">
        {t.did(t.seen[w.seen], t.done[w.remedy])} {t.helped}{' '}
        <Button size="small" onClick={() => say(true)}>
          {t.yes}
        </Button>{' '}
        <Button size="small" onClick={() => say(false)}>
          {t.no}
        </Button>
      </p>
    );
  });
}
