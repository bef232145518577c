import type { StepKind } from '#core/job/index.ts';
import type { JobRow } from '#work/jobs/list.ts';
import { words } from '../../messages/index.ts';
import { GoButton } from '../base/Link.tsx';

/** What a job waits for, in a few words. */
export const nextOf = (job: Pick<JobRow, 'missing' | 'next'>): string =>
  job.missing
    ? words.jobs.stage[job.missing]
    : job.next
      ? words.jobs.nextKind[job.next.slice(0, job.next.indexOf('/')) as StepKind]
      : words.jobs.finished;

/** The job that is under the hands: one line, the next step, one button. */
export function JobInHand({ job }: { job: JobRow }) {
  return (
    <section className="job-now" aria-labelledby="job-in-hand" data-testid="job-in-hand">
      <div>
        <h2 id="job-in-hand">{job.name}</h2>
        <p className="quiet">{words.jobs.next(nextOf(job))}</p>
      </div>
      <GoButton to={`/jobs/${job.id}`} variant="contained">
        {words.jobs.goOn}
      </GoButton>
    </section>
  );
}
