import { dropJob, jobOf } from '#work/jobs.ts';
import { words } from '../../messages/index.ts';
import { enter, enterToWrite, found, writeForm } from '../../server/enter.server.ts';
import { HowDidItGo } from '../../ui/HowDidItGo.tsx';
import { GoButton } from '../../ui/Link.tsx';
import { Refused, Sending } from '../../ui/Sending.tsx';
import { Swatch } from '../../ui/Swatch.tsx';
import { vinylHex, vinylTitle } from '../../ui/vinylName.ts';
import type { Route } from './+types/route';

export async function loader(args: Route.LoaderArgs) {
  const person = await enter('routes/cuts.$cut/route', args);
  return { job: await found(jobOf(person, args.params.cut)) };
}

/** "It was not cut after all." */
export async function action(args: Route.ActionArgs) {
  const { person, headers } = await enterToWrite('routes/cuts.$cut/route', args);
  return writeForm(new FormData(), headers, async () => {
    await dropJob(person, args.params.cut);
    return '/';
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.job.title) }];

/** The second of two taps: how did the cut go? */
export default function Job({ loaderData: { job } }: Route.ComponentProps) {
  return (
    <>
      <div className="head">
        <Swatch type={job.vinyl.type} hex={vinylHex(job.vinyl)} seed={job.vinyl.id} size={64} standing="tried" />
        <div>
          <h1>{vinylTitle(job.vinyl)}</h1>
          <p className="quiet">
            {words.job.noted} · <Sending />
          </p>
        </div>
      </div>
      <Refused />
      <div style={{ maxWidth: 640 }}>
        <HowDidItGo job={job} title={words.job.ask} />
        <p className="quiet" style={{ marginTop: 16 }}>
          {words.job.later}
        </p>
        <div className="actions">
          <GoButton to="/">{words.job.back}</GoButton>
        </div>
      </div>
    </>
  );
}
