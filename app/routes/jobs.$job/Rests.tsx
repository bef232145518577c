import { useEffect } from 'react';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { clockOf } from '../../ui/base/format.ts';
import { useNow } from '../../ui/base/useNow.ts';
import { useTone, useTonesAt } from '../../ui/base/useTone.ts';
import { sayStep } from './sayStep.ts';
import type { Job, Work } from './useSheet.ts';

/** What rests meanwhile, each with its clock and its tone, whichever step is in hand: halves under a weight, a coat that dries. */
export function Rests({ job, work }: { job: Job; work: Work }) {
  const t = words.jobSheet.applied;
  const tone = useTone();
  const rests = work.sheet.steps
    .flatMap((step) => {
      const rest = step.kind === 'apply' && step.state === 'open' ? job.press[step.press!]!.rest : undefined;
      // The step in hand has its ring.
      return rest === undefined || !step.since || step.id === work.step?.id
        ? []
        : [{ step, due: Date.parse(step.since) + rest * 1000 }];
    })
    .sort((a, b) => a.due - b.due);
  const now = useNow(rests.length > 0, 1000);
  const key = rests.map((r) => r.due).join();
  const { ready, wake } = tone;
  useTonesAt(tone, key);
  const runs = rests.length > 0 && !ready;
  useEffect(() => {
    if (!runs) return;
    // A browser lets nothing sound before something was tapped: the next tap will do.
    document.addEventListener('pointerdown', wake);
    return () => document.removeEventListener('pointerdown', wake);
  }, [runs, wake]);
  if (rests.length === 0) return null;
  return (
    <ul className="rests" data-testid="rests" aria-label={t.resting}>
      {rests.map(({ step, due }) => (
        <li key={step.id} data-due={now >= due ? 'now' : undefined}>
          <Link to={`?step=${step.id}`} preventScrollReset>
            {sayStep(job, step)}
          </Link>{' '}
          <strong>{now >= due ? t.rested : t.left(clockOf((due - now) / 1000))}</strong>
        </li>
      ))}
    </ul>
  );
}
