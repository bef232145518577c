import type { Access } from '#work/people/permissions.ts';
import { Link } from 'react-router';
import { jobsOf } from '#work/jobs/list.ts';
import { words } from '../../messages/index.ts';
import { enter } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { ShapeDrawing } from '../../ui/jobs/ShapeDrawing.tsx';
import { nextOf } from '../../ui/jobs/JobInHand.tsx';
import { day } from '../../ui/base/format.ts';
import { useZone } from '../../ui/people/usePerson.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round' } as const satisfies Access;

/** The jobs of a person, the one last worked at first. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [jobs, away] = await Promise.all([jobsOf(person), jobsOf(person, { archived: true, limit: 20 })]);
  return { jobs, away };
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobs.title) }];

export default function Jobs({ loaderData: { jobs, away } }: Route.ComponentProps) {
  const t = words.jobs;
  return (
    <>
      <h1>{t.title}</h1>
      <p className="lede">{jobs.length > 0 ? t.lede : away.length > 0 ? t.noneOpen : t.empty}</p>
      <div className="actions">
        <GoButton to="/jobs/new" variant="contained">
          {t.begin}
        </GoButton>
        <GoButton to="/check">{words.check.link}</GoButton> <GoButton to="/jobs/names">{words.names.link}</GoButton>
      </div>
      <ul className="rows above-24" aria-label={t.all}>
        {jobs.map((job) => (
          <JobLine key={job.id} job={job} />
        ))}
      </ul>
      {away.length > 0 && (
        <details className="above-24">
          <summary>{t.away}</summary>
          <ul className="rows">
            {away.map((job) => (
              <JobLine key={job.id} job={job} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function JobLine({ job }: { job: Route.ComponentProps['loaderData']['jobs'][number] }) {
  const t = words.jobs;
  const zone = useZone();
  return (
    <li>
      <Link className="row row-job" to={`/jobs/${job.id}`}>
        <ShapeDrawing shape={job.shape} hex={job.hex} size={56} />
        <div>
          <div className="row-name">{job.name}</div>
          <div className="quiet">{day(job.at, zone)}</div>
        </div>
        <div>
          <strong>{job.missing || job.next ? t.next(nextOf(job)) : t.finished}</strong>
          {!job.missing && job.next && (
            <div className="meter" aria-hidden="true">
              <span style={{ width: `${(100 * job.done) / job.of}%` }} />
            </div>
          )}
        </div>
      </Link>
    </li>
  );
}
