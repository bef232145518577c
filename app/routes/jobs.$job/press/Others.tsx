import { words } from '../../../messages/index.ts';
import { layersWord } from '../sayStep.ts';
import type { Job } from '../useSheet.ts';
import type { Run } from './useRun.ts';

const clock = (ms: number) => {
  const s = Math.max(0, Math.ceil(ms / 1000));
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
};

/** Everything else that is hot: in the press, or cooling, each with its own clock. The earliest stands first. */
export function Others({ job, run }: { job: Job; run: Run }) {
  const t = words.pressRun.others;
  const p = words.jobSheet.pressing;
  if (run.others.length === 0) return null;
  return (
    <ul className="run-others" data-testid="run-others">
      {run.others.map(({ step, does, due }) => {
        const plan = job.press[step.press]!;
        const what = layersWord(job, plan.layers);
        const says =
          does === 'open'
            ? t.open
            : plan.does === 'layer' && plan.peel && plan.peel !== 'by the leaflet'
              ? `${what}: ${p.peel(plan.peel).toLowerCase()}`
              : t.peel;
        return (
          <li key={step.id}>
            <strong>{run.piece(step)}</strong>
            <span className="quiet">{says}</span>
            <span className="run-clock">{due > run.now ? clock(due - run.now) : t.over}</span>
          </li>
        );
      })}
    </ul>
  );
}
