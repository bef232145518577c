import type { Ahead } from '#workers/planning.worker.ts';
import { type FitResult, timesInHundred, placeToSet } from '#core/window/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { percent } from '../../ui/base/format.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** How sure the number is, and whether another coupon would pay. */
export function HowSure({
  coupon,
  result,
  next,
  kept,
}: {
  coupon: CouponView;
  result: FitResult;
  next: Ahead | undefined;
  /** The chance at the number that was kept, where it stays beside another. */
  kept: number | undefined;
}) {
  const axis = strengthAxis(coupon.cutter.model);
  const t = words.result;
  const { summary } = result;
  const show = (p: number) => formatPosition(axis, Math.round(p));
  const settled = result.verdict.kind === 'window';
  const number = kept === undefined ? placeToSet(summary) : { chance: kept };
  const told = kept === undefined ? summary.recommended : undefined;
  return (
    <Section id="sure" title={t.sure}>
      <dl className="facts">
        <dt>{t.wanted[coupon.wanted]}</dt>
        <dd>
          {percent(number.chance)}{' '}
          {told && (
            <span>
              between {percent(told.interval.low)} and {percent(told.interval.high)}
            </span>
          )}
        </dd>
        {told && (
          <>
            <dt>too little</dt>
            <dd>
              {percent(coupon.wanted === 'clean' ? told.grades.uncut + told.grades.hangs : 1 - told.grades.through)}
            </dd>
            {coupon.wanted === 'clean' && (
              <>
                <dt>too much</dt>
                <dd>{percent(told.grades.scored + told.grades.through)}</dd>
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
      <p className="quiet small above-12">{t.band}</p>
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
    </Section>
  );
}
