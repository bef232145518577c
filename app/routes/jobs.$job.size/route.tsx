import type { Access } from '#work/people/permissions.ts';
import { tipsFor } from '#work/jobs/beside.ts';
import { habitsIn } from '#work/jobs/habits.ts';
import { followPlace } from '#work/jobs/placeHabit.ts';
import { setSize } from '#work/jobs/jobs.ts';
import { jobOf } from '#work/jobs/view.ts';
import { largestPlaten } from '#work/workshop/presses.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { TroubleList } from '../../ui/jobs/TroubleList.tsx';
import { PlaceWays } from './PlaceWays.tsx';
import { SizeForm } from './SizeForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** How wide a design is and where it goes, with what that does to it in each vinyl. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [job, platen] = await Promise.all([jobOf(person, args.params.job), largestPlaten(person)]);
  const { plan, artwork } = job;
  const habits = (await habitsIn(person, plan.blank.shape)).place;
  if (!artwork || !plan.design)
    return { id: job.id, name: job.name, missing: job.missing, size: undefined, troubles: [], tips: [] };
  return {
    id: job.id,
    name: job.name,
    missing: job.missing,
    troubles: job.troubles,
    tips: tipsFor(job).design,
    size: {
      habits,
      blank: plan.blank,
      design: plan.design,
      width: artwork.width,
      height: artwork.height,
      usual: job.placed!.usual!,
      matWidthUm: job.matWidthUm,
      // What sticks by itself needs no press.
      platen: job.press.some((p) => p.kind === 'press') ? platen : undefined,
      layers: job.layers.map((l) => ({
        id: l.id,
        path: l.art.id,
        hex: l.hex,
        d: l.art.d,
        box: l.art.box,
        narrow: l.art.narrow,
        pieces: l.art.pieces,
        length: l.art.length,
        vinyl: l.vinyl && { brand: l.vinyl.brand, name: l.vinyl.name, type: l.vinyl.type, colour: l.vinyl.colour },
        needs: l.needs,
      })),
    },
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    size: async ({ person, form }) => {
      await setSize(person, args.params.job, form);
      return `/jobs/${args.params.job}`;
    },
    habit: async ({ person, form }) => {
      await followPlace(person, args.params.job, form);
      return `/jobs/${args.params.job}/size`;
    },
  });

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobSize.title) }];

export default function JobSize({
  loaderData: { id, name, missing, size, troubles, tips },
  actionData,
}: Route.ComponentProps) {
  const t = words.jobSize;
  return (
    <>
      <JobHead title={t.title} job={{ id, name, missing }} />
      <TroubleList troubles={troubles} />
      {size ? (
        <>
          <SizeForm
            key={`${size.design.artwork} ${size.design.widthUm} ${size.design.spot.down}`}
            job={id}
            size={size}
            answer={actionData}
          />
          <PlaceWays shape={size.blank.shape} habits={size.habits} />
          {tips.length > 0 && (
            <section className="above-24" aria-labelledby="mind">
              <h2 id="mind" className="section-word">
                {t.mind}
              </h2>
              {tips.map((tip) => (
                <p key={tip} className="step-tip">
                  {tip}
                </p>
              ))}
            </section>
          )}
        </>
      ) : (
        <p className="lede">{words.jobArt.lede}</p>
      )}
    </>
  );
}
