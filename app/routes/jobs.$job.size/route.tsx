import { againWhenChanged } from '../../ui/base/againWhenChanged.ts';
import Button from '@mui/material/Button';
import type { Access } from '#work/people/permissions.ts';
import { seenOf } from '#work/base/seen.ts';
import { layerOfPart } from '#core/job/index.ts';
import { tipsFor } from '#work/jobs/beside.ts';
import { habitsIn } from '#work/jobs/habits.ts';
import { followPlace } from '#work/jobs/placeHabit.ts';
import { setSize } from '#work/jobs/jobs.ts';
import { mendJob, unmendJob } from '#work/jobs/mend.ts';
import { setRounds } from '#work/jobs/rounds.ts';
import { layMat } from '#work/workshop/mats.ts';
import { whyOffered } from '#work/jobs/offers.ts';
import { shownNow, shownOn } from '#work/jobs/shownPlan.ts';
import { jobOf } from '#work/jobs/view.ts';
import { largestPlaten } from '#work/workshop/presses.ts';
import { words } from '../../messages/index.ts';
import { actions, enter, over, visitorsBench } from '../../server/enter.server.ts';
import { leanRows } from '../../server/rows.server.ts';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { JobHead } from '../../ui/jobs/JobHead.tsx';
import { TroubleList } from '../../ui/jobs/TroubleList.tsx';
import { PlaceWays } from './PlaceWays.tsx';
import { SizeForm } from './SizeForm.tsx';
import type { Route } from './+types/route';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

/** How wide a design is and where it goes, with what that does to it in each vinyl. */
export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const [job, platen, bench] = await Promise.all([
    jobOf(person, args.params.job),
    largestPlaten(person),
    visitorsBench(args),
  ]);
  const { plan, artwork } = job;
  const habits = (await habitsIn(person, plan.blank.shape)).place;
  if (!artwork || !plan.design)
    return {
      id: job.id,
      name: job.name,
      rev: job.rev,
      missing: job.missing,
      size: undefined,
      troubles: [],
      tips: [],
      mended: false,
    };
  const seen = await whyOffered(person, bench, job);
  const lean = leanRows(
    seen.flatMap((s) => (s.row ? [s.row] : [])),
    bench?.cutter.model,
  );
  return {
    id: job.id,
    name: job.name,
    rev: job.rev,
    missing: job.missing,
    mended: new URL(args.request.url).searchParams.has('mended'),
    troubles: job.troubles,
    tips: tipsFor(job).design,
    size: {
      seen: seenOf(shownOn('size', plan)),
      habits,
      blank: plan.blank,
      design: plan.design,
      width: artwork.width,
      height: artwork.height,
      usual: job.placed!.usual!,
      under: job.under,
      /** Each piece shows a name of its own: it is changed where it is lettered. */
      named: plan.pieces.some((p) => p.name),
      // What is cut already, and how wide the design was then.
      cut: job.facts.flatMap((f) => {
        const layer = layerOfPart(job, f.part);
        const at = job.sheet.steps.find((s) => s.kind === 'cut' && s.about === f.part)?.attempt;
        const rev = job.events.findLast((e) => e.kind === 'cut' && e.part === f.part && e.attempt === f.attempt)?.rev;
        const widthUm = rev === undefined ? undefined : job.widths[rev - 1];
        return layer && !layer.again && !f.undone && f.attempt === at && widthUm !== undefined
          ? [{ layer: layer.id, part: f.part, attempt: f.attempt, widthUm }]
          : [];
      }),
      // What sticks by itself needs no press.
      platen: job.press.some((p) => p.kind === 'press') ? platen : undefined,
      layers: job.layers.map((l) => ({
        id: l.id,
        path: l.art.id,
        hex: l.hex,
        d: l.art.d,
        box: l.art.box,
        narrow: l.art.narrow,
        row: lean.find((r) => r.id === l.vinyl?.id),
        why: seen.find((s) => s.layer === l.id)?.words ?? [],
        vinyl: l.vinyl && { brand: l.vinyl.brand, name: l.vinyl.name, type: l.vinyl.type, colour: l.vinyl.colour },
        needs: l.needs,
        asked: l.asked,
        rounds: plan.layers.find((p) => p.id === l.id)?.rounds ?? 1,
      })),
    },
  };
}

export const action = (args: Route.ActionArgs) =>
  actions(access, args, {
    // Wherever somebody goes from here, what they set goes along.
    size: over(args.params.job, shownNow('size', args.params.job), async ({ person, form }) => {
      const { job } = args.params;
      const then = String(form.get('then') ?? '');
      await setSize(person, job, form, then === '');
      if (then === 'check') return `/check?job=${job}`;
      if (/^film [0-9a-f-]{36}$/.test(then)) return `/jobs/${job}/vinyls?layer=${then.slice(5)}`;
      const rounds = /^rounds ([0-9a-f-]{36}) (\d{1,2})$/.exec(then);
      if (rounds) await setRounds(person, job, rounds[1]!, Math.max(1, Number(rounds[2])));
      if (/^mat [0-9a-f-]{36}$/.test(then)) await layMat(person, then.slice(4));
      if (rounds || then.startsWith('mat ')) return `/jobs/${job}/size`;
      if (then !== 'mend') return `/jobs/${job}`;
      await mendJob(person, job);
      return `/jobs/${job}/size?mended`;
    }),
    unmend: async ({ person }) => {
      await unmendJob(person, args.params.job);
      return `/jobs/${args.params.job}/size`;
    },
    habit: async ({ person, form }) => {
      await followPlace(person, args.params.job, form);
      return `/jobs/${args.params.job}/size`;
    },
  });

export const shouldRevalidate = againWhenChanged;

export const meta: Route.MetaFunction = () => [{ title: words.title(words.jobSize.title) }];

export default function JobSize({
  loaderData: { id, name, rev, missing, mended, size, troubles, tips },
  actionData,
}: Route.ComponentProps) {
  const t = words.jobSize;
  return (
    <>
      <JobHead title={t.title} job={{ id, name, missing }} />
      <TroubleList troubles={troubles} />
      {size ? (
        <>
          {mended && (
            <WriteForm what="unmend" className="notice line-up" data-testid="mended">
              <p>{t.mend.did}</p>
              <Button type="submit">{t.mend.undo}</Button>
            </WriteForm>
          )}
          <SizeForm
            key={`${size.design.artwork} ${size.design.widthUm} ${size.design.spot.down}`}
            job={id}
            rev={rev}
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
