import type { FitResult } from '#core/window/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { HowItWeeded } from '../../ui/coupons/HowItWeeded.tsx';
import { GoButton } from '../../ui/base/Link.tsx';
import type { Grading } from './useGrading.ts';

/** Every cell has its grade: what it comes to. */
export function AllGraded({ coupon, grading, result }: { coupon: CouponView; grading: Grading; result: FitResult }) {
  const t = words.grading;
  return (
    <>
      <h2 aria-live="polite" style={{ fontSize: '1.75rem' }}>
        {t.done}
      </h2>
      <p className="lede" style={{ margin: '12px 0 24px' }}>
        {result.sentence}
      </p>
      <GoButton to={`/coupons/${coupon.id}/result`} variant="contained">
        {t.result}
      </GoButton>
      <p className="quiet above-16">{t.doneWhy}</p>
      {grading.lastClean && (
        <HowItWeeded cell={grading.lastClean.id} number={grading.lastClean.number} said={coupon.weeds} />
      )}
    </>
  );
}
