import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import { needSeen, seenOf } from '#work/base/seen.ts';
import { shownNow, shownOn } from '#work/jobs/shownPlan.ts';
import type { Access } from '#work/people/permissions.ts';
import { setDrawing } from '#work/jobs/jobs.ts';
import { changeLayers } from '#work/jobs/layers.ts';
import { proposeVinyls } from '#work/jobs/offers.ts';
import { jobOf } from '#work/jobs/view.ts';
import { countDrawing } from '#work/people/limits.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { words } from '../../messages/index.ts';
import { actions, apart, enter } from '../../server/enter.server.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { ArtDrawing } from '../../ui/jobs/ArtDrawing.tsx';
import { Bring } from '../../ui/jobs/Bring.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { Layers } from './Layers.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

const jobIn = (request: Request): string => new URL(request.url).searchParams.get('job') ?? '';

/** The drawing of a job, its layers, and a few of ours to try. A page of its own: a drawing is larger than a form may be. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const job = await jobOf(person, jobIn(args.request));
  return {
    id: job.id,
    name: job.name,
    missing: job.missing,
    seen: seenOf(shownOn('drawing', job.plan)),
    art: job.artwork && {
      name: job.plan.design!.name,
      width: job.artwork.width,
      height: job.artwork.height,
      notes: job.artwork.notes,
      layers: job.layers.map(({ id, hex, art }) => ({ id, hex, d: art.d, pieces: art.pieces, holes: art.holes })),
      left: job.leftOut,
    },
  };
}

export function action(args: Route.ActionArgs) {
  const id = jobIn(args.request);
  return actions(access, args, {
    // Reading a drawing takes seconds on a thread: no transaction waits for it.
    set: apart(async ({ person, form }) => {
      await countDrawing(person);
      await setDrawing(person!, id, form);
      const whole = await proposeVinyls(person!, await benchOf(person!), id);
      return `/jobs/${id}/${whole ? 'size' : 'vinyls'}`;
    }),
    layers: apart(async ({ person, form }) => {
      await countDrawing(person);
      await needSeen(form, id, () => shownNow('drawing', id)(person!));
      await changeLayers(person!, id, form);
      return `/jobs/art?job=${id}`;
    }),
  });
}

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobArt.title) }];

export default function JobArt({ loaderData: { id, name, missing, seen, art }, actionData }: Route.ComponentProps) {
  const t = words.jobArt;
  return (
    <>
      <JobHead title={t.title} job={{ id, name, missing }} />
      {art ? (
        <div className="art-page">
          <ArtDrawing width={art.width} height={art.height} layers={art.layers} label={art.name} />
          <div>
            {art.notes.map((note) => (
              <p key={note} className="notice">
                {note}
              </p>
            ))}
            <Layers art={art} seen={seen} answer={actionData} />
            <div className="actions">
              <GoButton to={`/jobs/${id}/${missing === 'vinyls' ? 'vinyls' : 'size'}`} variant="contained">
                {t.next}
              </GoButton>
            </div>
          </div>
        </div>
      ) : (
        <p className="lede">{t.lede}</p>
      )}
      <p className="above-24">
        <GoButton to={`/jobs/names?job=${id}`}>{words.names.open}</GoButton>
      </p>
      <Bring problem={actionData?.fields.file} answer={actionData} open={!art} />
    </>
  );
}
