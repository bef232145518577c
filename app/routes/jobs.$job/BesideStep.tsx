import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { filmSteps, jobLimits, type SheetStep } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { layerOfStep } from './sayStep.ts';
import type { Job, Work } from './useSheet.ts';

/** The lines that hands need at a step: at most two. */
function tipsOf(job: Job, step: SheetStep): string[] {
  const kind = filmSteps.find((k) => k === step.kind);
  if (kind) return job.tips.layers[layerOfStep(job, step)?.id ?? '']?.[kind] ?? [];
  if (step.press === undefined) return [];
  const tips = job.tips.press[step.press]!;
  return step.opened ? tips.opened : tips.before;
}

/** What hands want beside a step: its tips, and what was noted there last time. */
export function StepTips({ job, step }: { job: Job; step: SheetStep }) {
  const vinyl = layerOfStep(job, step)?.vinyl.id;
  // What was noted on the card of a vinyl, or at a cut of it by itself, is wanted where it is cut.
  const at = (noted: string) => (noted === 'card' ? 'cut' : noted);
  const noted = job.reminders.filter((r) => at(r.step) === step.kind && r.vinyl === vinyl);
  return (
    <>
      {tipsOf(job, step).map((tip) => (
        <p key={tip} className="step-tip" data-testid="tip">
          {tip}
        </p>
      ))}
      {noted.map((n) => (
        <p key={n.at} className="step-tip noted" data-testid="noted">
          {words.jobSheet.noted(isolate(n.says))}
        </p>
      ))}
    </>
  );
}

/** One line of one's own: it comes again with the same vinyl, or on such a blank. */
export function NoteLine({ job, work, step }: { job: Job; work: Work; step: SheetStep }) {
  const t = words.jobSheet.note;
  const [text, setText] = useState<string>();
  const line = text?.trim() ?? '';
  if (text === undefined)
    return (
      <Button variant="text" onClick={() => setText('')} data-testid="note-open">
        {t.open}
      </Button>
    );
  return (
    <form
      className="line-up above-14"
      onSubmit={(e) => {
        e.preventDefault();
        if (line === '') return;
        const vinyl = layerOfStep(job, step)?.vinyl.id;
        work.say({ kind: 'note', step: step.id, attempt: step.attempt, text: line, ...(vinyl ? { vinyl } : {}) });
        setText(undefined);
      }}
    >
      <TextField
        label={t.says}
        value={text}
        onChange={(e) => setText(e.target.value)}
        slotProps={{ htmlInput: { maxLength: jobLimits.noteLine } }}
        autoFocus
        fullWidth
        size="small"
        className="note-line"
      />
      <Button type="submit" variant="outlined" disabled={line === ''}>
        {t.keep}
      </Button>
      <Button variant="text" onClick={() => setText(undefined)}>
        {t.drop}
      </Button>
    </form>
  );
}

/** What was done alike three times running is offered as a habit, and never taken for one. */
export function HabitOffers({ job }: { job: Job }) {
  const t = words.jobSheet.habit;
  return job.offers.map((o) => (
    <WriteForm key={o.topic} what="habit" className="notice line-up" preventScrollReset>
      <p data-testid="habit-offer">
        {t.ask[o.topic](
          o.topic === 'lifts'
            ? t.lifts[o.way as keyof typeof t.lifts]
            : o.topic === 'layers'
              ? words.jobSheet.pressing.schools[o.way as keyof typeof words.jobSheet.pressing.schools]
              : o.says,
        )}{' '}
        <strong>{t.do}</strong>
      </p>
      <input type="hidden" name="topic" value={o.topic} />
      <input type="hidden" name="shape" value={job.plan.blank.shape} />
      {o.vinyl && <input type="hidden" name="vinyl" value={o.vinyl} />}
      <Button type="submit" variant="contained" name="way" value={o.way}>
        {t.yes}
      </Button>
      <Button type="submit" variant="text" name="way" value="">
        {t.no}
      </Button>
    </WriteForm>
  ));
}
