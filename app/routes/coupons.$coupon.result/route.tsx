import { answerFor } from '#core/answer/index.ts';
import { shownFit, timesInHundred, placeToSet } from '#core/window/index.ts';
import type { Access } from '#work/people/permissions.ts';
import { useMemo } from 'react';
import { describeLimits, formatPosition, sayStrength, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { couponOf, ownCoupon } from '#work/coupons/coupons.ts';
import { evennessOf } from '#work/coupons/evenness.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { isolate } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { KeepForm } from '../../ui/cuts/KeepForm.tsx';
import { KeptLine } from '../../ui/cuts/KeptLine.tsx';
import { KeepNow } from '../../ui/cuts/KeepNow.tsx';
import { Sending } from '../../ui/cuts/Sending.tsx';
import { useCouponReading } from '../../ui/coupons/useCouponReading.ts';
import { useNextCoupon } from '../../ui/coupons/useNextCoupon.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';
import { Decided } from './Decided.tsx';
import { Grades } from './Grades.tsx';
import { HowSure } from './HowSure.tsx';
import { OverTheMat } from './OverTheMat.tsx';
import { OtherWays } from './OtherWays.tsx';
import { ChanceCurve } from './ChanceCurve.tsx';

export const access = { read: 'look round', write: 'begin' } as const satisfies Access;

export async function loader(args: Route.LoaderArgs) {
  const person = await enter(access, args);
  const coupon = await couponOf(person, args.params.coupon);
  const kept = await settingOf(person!.id, coupon.vinyl.id, coupon.cutter, coupon.wanted);
  return {
    coupon,
    kept: kept?.controls,
    evenness: coupon.plan.mode === 'even' ? await evennessOf(person, coupon.id) : undefined,
  };
}

export function action(args: Route.ActionArgs) {
  return actions(access, args, {
    keep: async ({ person, form }) => {
      await ownCoupon(person, args.params.coupon, 'change');
      await keepSetting(person, form);
      return `/coupons/${args.params.coupon}/result`;
    },
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: words.title(loaderData ? vinylTitle(loaderData.coupon.vinyl) : '') },
];

/** What the coupon says, how sure it is, and what to do with it. */
export default function Result({ loaderData: { coupon, kept, evenness }, actionData }: Route.ComponentProps) {
  const axis = strengthAxis(coupon.cutter.model);
  const t = words.result;
  const { dots, events, result } = useCouponReading(coupon);
  const next = useNextCoupon(coupon.evidence, events);
  const domain = useMemo(
    () =>
      stripDomain(
        axis,
        [result.summary],
        dots.map((d) => d.position),
      ),
    [axis, dots, result],
  );
  const { summary } = result;
  const show = (p: number) => formatPosition(axis, Math.round(p));
  const settled = result.verdict.kind === 'window';
  const best = placeToSet(summary);
  const keptAt = kept?.steps[axis.key];
  // The one answer, as the bench card has it: what was kept stays while another place would be no better.
  const answer = answerFor({ kept: keptAt, reading: shownFit(result), from: 'here', split: undefined });
  const stays = result.evidence.cells > 0 && answer.from === 'kept';
  /** Its chance, where another place is said beside it. */
  const beside = stays && keptAt !== best.position ? answer.chance : undefined;
  const number = { ...best, position: stays ? keptAt! : best.position };
  return (
    <>
      <CouponHead coupon={coupon} says={<Sending />} graded={dots.length > 0} />
      <div className="cols">
        <section aria-labelledby="set">
          <h2 className="section-word" id="set">
            {axis.word}{' '}
            <span className="quiet" style={{ fontWeight: 400, fontSize: '1rem' }}>
              {describeLimits(axis)}
            </span>
          </h2>
          <div className="big-line">
            <span className={show(number.position).length > 5 ? 'big wordy' : 'big'} data-testid="recommended">
              {settled || stays ? show(number.position) : `~${show(number.position)}`}
            </span>
          </div>
          <Decided coupon={coupon} dots={dots} />
          {coupon.job && dots.length > 0 && (
            <p className="above-14">
              <GoButton to={`/jobs/${coupon.job.id}`} variant="contained" size="large">
                {words.coupons.cutJob(isolate(coupon.job.name), show(number.position))}
              </GoButton>
            </p>
          )}
          <p className="lede" style={{ margin: '12px 0 20px' }} data-testid="sentence">
            {beside !== undefined
              ? t.stays(show(keptAt!), show(best.position), words.card.chance(timesInHundred(beside), coupon.wanted))
              : result.sentence}
          </p>
          <WindowStrip axis={axis} result={result} domain={domain} dots={dots} mark={number.position} scale />
        </section>
        <HowSure coupon={coupon} result={result} next={next} kept={beside} />
      </div>
      {kept !== undefined && (
        <KeptLine
          says={t.kept(sayStrength(axis, kept.steps[axis.key]!))}
          vinyl={coupon.vinyl.id}
          wanted={coupon.wanted}
        />
      )}
      {result.evidence.cells === 0 ? (
        <p>{t.ungraded}</p>
      ) : (
        <>
          {keptAt !== number.position && (
            <KeepNow
              vinyl={coupon.vinyl.id}
              cutter={coupon.cutter}
              wanted={coupon.wanted}
              position={number.position}
              label={words.vinyl.keep(sayStrength(axis, number.position))}
              main={kept === undefined}
            />
          )}
          <KeepForm
            answer={actionData}
            vinyl={coupon.vinyl.id}
            cutter={coupon.cutter}
            wanted={coupon.wanted}
            base={coupon.evidence.base}
            position={number.position}
            title={t.keepOther}
          />
        </>
      )}
      <Grades coupon={coupon} events={events} />
      {coupon.plan.mode === 'even' && <OverTheMat evenness={evenness} />}
      {next && next.ways.length > 1 && <OtherWays coupon={coupon} next={next} />}
      <ChanceCurve coupon={coupon} result={result} dots={dots} domain={domain} />
    </>
  );
}
