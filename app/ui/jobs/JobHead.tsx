import { Stages } from './Stages.tsx';

/** What stands at the top of every page of a job: what it asks, which job it is, and its stages. */
export function JobHead({
  title,
  job,
}: {
  title: string;
  job: { id: string; name?: string; missing: Parameters<typeof Stages>[0]['missing'] };
}) {
  return (
    <div className="job-head">
      <h1>
        {title} {job.name !== undefined && <span className="quiet job-name">{job.name}</span>}
      </h1>
      <Stages job={job.id} missing={job.missing} />
    </div>
  );
}
