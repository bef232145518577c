import { NavLink } from 'react-router';
import { words } from '../../messages/index.ts';

/** The stages of a job, each a page; one that cannot be reached yet is only named. */
export function Stages({ job, missing }: { job: string; missing: 'design' | 'vinyls' | 'size' | undefined }) {
  const t = words.jobs.stages;
  const reached = {
    blank: true,
    art: true,
    vinyls: missing !== 'design',
    size: missing !== 'design' && missing !== 'vinyls',
    sheet: missing === undefined,
  };
  const to = {
    blank: `/jobs/${job}/blank`,
    art: `/jobs/art?job=${job}`,
    vinyls: `/jobs/${job}/vinyls`,
    size: `/jobs/${job}/size`,
    sheet: `/jobs/${job}`,
  };
  return (
    <nav className="stages" aria-label={words.jobs.stagesLabel}>
      {(Object.keys(t) as (keyof typeof t)[]).map((key) =>
        reached[key] ? (
          <NavLink key={key} to={to[key]} end>
            {t[key]}
          </NavLink>
        ) : (
          <span key={key} className="quiet">
            {t[key]}
          </span>
        ),
      )}
    </nav>
  );
}
