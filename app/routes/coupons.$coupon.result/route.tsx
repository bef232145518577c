import type { Access } from '#work/people/permissions.ts';
import { useMemo } from 'react';
import { describeLimits, formatPosition, sayStrength, strengthAxis } from '#core/controls/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { timesInHundred } from '#core/window/index.ts';
import { couponOf, ownCoupon } from '#work/coupons/coupons.ts';
import { evennessOf } from '#work/coupons/evenness.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { words } from '../../messages/index.ts';
import { actions, enter } from '../../server/enter.server.ts';
import { ChanceChart } from '../../ui/coupons/ChanceChart.tsx';
import { CouponHead } from '../../ui/coupons/CouponHead.tsx';
import { percent } from '../../ui/base/format.ts';
import { KeepForm } from '../../ui/cuts/KeepForm.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import { MatMap } from '../../ui/workshop/MatMap.tsx';
import { Sending } from '../../ui/cuts/Sending.tsx';
import { useCouponReading } from '../../ui/coupons/useCouponReading.ts';
import { useNextCoupon } from '../../ui/coupons/useNextCoupon.ts';
import { vinylTitle } from '../../ui/vinyls/vinylName.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';
import type { Route } from './+types/route';

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
  const number = summary.recommended ?? summary.best;
  const shownRows = summary.curve.positions
    .map((p, i) => ({ p, i }))
    .filter(
      ({ p, i }) =>
        p >= domain.from &&
        p <= domain.to &&
        (summary.curve.positions.length < 30 || i % 4 === 0 || p === number.position),
    );
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
              {settled ? show(number.position) : `~${show(number.position)}`}
            </span>
          </div>
          <p className="lede" style={{ margin: '12px 0 20px' }} data-testid="sentence">
            {result.sentence}
          </p>
          <WindowStrip axis={axis} result={result} domain={domain} dots={dots} scale />
        </section>
        <section aria-labelledby="sure">
          <h2 className="section-word" id="sure">
            {t.sure}
          </h2>
          <dl className="facts">
            <dt>{t.wanted[coupon.wanted]}</dt>
            <dd>
              {percent(number.chance)}{' '}
              {summary.recommended && (
                <span>
                  between {percent(summary.recommended.interval.low)} and {percent(summary.recommended.interval.high)}
                </span>
              )}
            </dd>
            {summary.recommended && (
              <>
                <dt>too little</dt>
                <dd>
                  {percent(
                    coupon.wanted === 'clean'
                      ? summary.recommended.grades.uncut + summary.recommended.grades.hangs
                      : 1 - summary.recommended.grades.through,
                  )}
                </dd>
                {coupon.wanted === 'clean' && (
                  <>
                    <dt>too much</dt>
                    <dd>{percent(summary.recommended.grades.scored + summary.recommended.grades.through)}</dd>
                  </>
                )}
              </>
            )}
            <dt>lower edge</dt>
            <dd>
              <span>between</span> {show(summary.edges.low.interval.low)} <span>and</span>{' '}
              {show(summary.edges.low.interval.high)}
            </dd>
            {coupon.wanted === 'clean' && (
              <>
                <dt>upper edge</dt>
                <dd>
                  <span>between</span> {show(summary.edges.high.interval.low)} <span>and</span>{' '}
                  {show(summary.edges.high.interval.high)}
                </dd>
              </>
            )}
            <dt>rests on</dt>
            <dd>{words.from.cells(result.evidence.cells, result.evidence.coupons)}</dd>
          </dl>
          <p className="quiet small" style={{ marginTop: 12 }}>
            {t.band}
          </p>
          <p style={{ marginTop: 16, minHeight: '3em' }} role="status" data-testid="one-more">
            {next &&
              (next.why === undefined
                ? t.enough(timesInHundred(number.chance))
                : next.why === 'gain'
                  ? t.more(
                      coupon.wanted,
                      timesInHundred(number.chance),
                      timesInHundred(Math.min(0.99, number.chance + next.gain)),
                    )
                  : t[next.why])}
          </p>
          <div className="actions">
            <GoButton
              to={`/coupons/new?vinyl=${coupon.vinyl.id}&wanted=${coupon.wanted}`}
              variant={settled ? 'outlined' : 'contained'}
            >
              {t.next}
            </GoButton>
          </div>
        </section>
      </div>
      {kept !== undefined && (
        <p className="notice" style={{ marginTop: 24 }} data-testid="kept">
          {t.kept(sayStrength(axis, kept.steps[axis.key]!))}
        </p>
      )}
      {result.evidence.cells === 0 ? (
        <p>{t.ungraded}</p>
      ) : (
        <KeepForm
          answer={actionData}
          vinyl={coupon.vinyl.id}
          cutter={coupon.cutter}
          wanted={coupon.wanted}
          base={coupon.evidence.base}
          recommended={summary.recommended?.position}
          kept={kept}
        />
      )}
      {coupon.plan.mode === 'even' && (
        <section style={{ marginTop: 40 }} aria-labelledby="even">
          <h2 className="section-word" id="even">
            {words.even.title}
          </h2>
          {evenness && (
            <div className="mat-reading">
              <MatMap evenness={evenness} />
              <div>
                <p className="lede" data-testid="evenness">
                  {words.even.said(evenness)}
                </p>
                <p className="quiet">{words.even.legend}</p>
                <p className="quiet">{words.even.again}</p>
              </div>
            </div>
          )}
        </section>
      )}
      {next && next.ways.length > 1 && (
        <section style={{ marginTop: 40 }} aria-labelledby="ways">
          <h2 className="section-word" id="ways">
            {words.ways.title}
          </h2>
          <table className="compare" data-testid="ways">
            <thead>
              <tr>
                {[
                  words.ways.way,
                  `${words.ways.set} ${axis.word}`,
                  words.ways.chance[coupon.wanted],
                  words.ways.damaged,
                  words.ways.time,
                  words.ways.advice,
                ].map((h) => (
                  <th key={h} scope="col">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {next.ways.map((w) => (
                <tr key={`${w.passes} ${w.speed}`} className={w.chosen ? 'taken' : undefined}>
                  <td>
                    {words.ways.passes(w.passes)}
                    {w.speed !== undefined && `, ${words.plan.alsoWays.speed} ${w.speed}`}
                  </td>
                  <td>{show(w.position)}</td>
                  <td>{percent(w.chance)}</td>
                  <td>{percent(w.damaged)}</td>
                  <td>×{Number(w.time.toFixed(1))}</td>
                  <td>{w.chosen && words.ways.take}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet small">{words.ways.about}</p>
        </section>
      )}
      <section style={{ marginTop: 40 }} aria-labelledby="chart">
        <h2 className="section-word" id="chart">
          {t.chance}
        </h2>
        <ChanceChart axis={axis} result={result} domain={domain} dots={dots} />
        <details>
          <summary>{t.table}</summary>
          <table style={{ borderCollapse: 'collapse' }}>
            <thead>
              <tr>
                {[axis.word, t.wanted[coupon.wanted], 'between', 'and'].map((h) => (
                  <th key={h} scope="col" style={{ textAlign: 'right', padding: '4px 20px 4px 0' }}>
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {shownRows.map(({ p, i }) => (
                <tr key={p}>
                  {[
                    show(p),
                    percent(summary.curve.mean[i]!),
                    percent(summary.curve.low[i]!),
                    percent(summary.curve.high[i]!),
                  ].map((v, k) => (
                    <td key={k} style={{ textAlign: 'right', padding: '2px 20px 2px 0' }}>
                      {v}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </section>
    </>
  );
}
