import Button from '@mui/material/Button';
import { useState } from 'react';
import { words } from '../../messages/index.ts';
import { StepFilm } from './StepFilm.tsx';
import type { StepProps } from './useSheet.ts';

const clock = (s: number) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;

/** The picture as it lies, inner pieces counted off, a clock that runs only while somebody weeds. */
export function WeedStep({ job, work, step, layer, done }: StepProps) {
  const t = words.jobSheet.weed;
  const [lifted, setLifted] = useState(0);
  const holes = layer.holes * job.plan.pieces.length;
  const tap = (kind: 'start' | 'pause') => work.say({ kind, step: step.id, attempt: step.attempt });
  return (
    <>
      <StepFilm job={job} step={step} layer={layer} shows="stays" says={t.lies} />
      <p className="quiet">{t.lies}</p>
      {holes > 0 ? (
        <p className="big-line">
          <span className="big wordy" data-testid="holes">
            {t.holes(lifted, holes)}
          </span>
          <Button onClick={() => setLifted(Math.min(holes, lifted + 1))} disabled={lifted >= holes}>
            {t.one}
          </Button>
        </p>
      ) : (
        <p>{t.none}</p>
      )}
      <div className="actions">
        {step.since ? (
          <Button onClick={() => tap('pause')}>
            {t.pause} · {clock(step.seconds)}
          </Button>
        ) : (
          <Button onClick={() => tap('start')}>
            {t.start}
            {step.seconds > 0 && ` · ${t.time(clock(step.seconds))}`}
          </Button>
        )}
        <Button variant="contained" onClick={done}>
          {t.button}
        </Button>
      </div>
    </>
  );
}
