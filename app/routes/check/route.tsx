import type { Access } from '#work/people/permissions.ts';
import { checkFilms, drawingOfJob } from '#work/jobs/check.ts';
import { weededParts } from '#work/jobs/weeded.ts';
import { takeMended } from '#work/jobs/mend.ts';
import { countDrawing } from '#work/people/limits.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter, visitorsBench } from '../../server/enter.server.ts';
import { FormNotice } from '../../ui/base/Field.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { CheckBoard } from './CheckBoard.tsx';
import { Choose } from './Choose.tsx';
import { useBoard } from './useBoard.ts';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

const jobIn = (request: Request): string | null => new URL(request.url).searchParams.get('job');

/** Will this drawing cut and weed? Read, judged and mended in the browser: a file that is only looked at goes nowhere. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const id = jobIn(args.request);
  const job = id === null ? undefined : await drawingOfJob(person, id);
  const [films, weeded, bench] = await Promise.all([
    checkFilms(
      person,
      job?.films.map((f) => f.vinyl),
    ),
    weededParts(person),
    visitorsBench(args),
  ]);
  return { films, weeded, job, bladeLifeUm: bench?.blade?.lifeUm };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    // Reading a drawing takes seconds on a thread: no transaction waits for it.
    use: apart(async ({ person, form }) => {
      await countDrawing(person);
      const id = jobIn(args.request) ?? '';
      await takeMended(person!, id, form);
      return `/jobs/${id}/size`;
    }),
  });
}

export const meta: Route.MetaFunction = () => [{ title: words.title(words.check.title) }];

export default function Check({ loaderData: { films, weeded, job, bladeLifeUm }, actionData }: Route.ComponentProps) {
  const t = words.check;
  const board = useBoard(job, films);
  return (
    <>
      {job ? <JobHead title={t.title} job={{ id: job.id, name: job.name, missing: undefined }} /> : <h1>{t.title}</h1>}
      {actionData && <FormNotice answer={actionData} text={words.errors.form} />}
      {board.now ? (
        <CheckBoard board={board} films={films} weeded={weeded} job={job} bladeLifeUm={bladeLifeUm} />
      ) : job && board.wrong === undefined ? (
        <p role="status">{words.jobArt.reading}</p>
      ) : (
        <Choose board={board} lede={t.lede} />
      )}
    </>
  );
}
