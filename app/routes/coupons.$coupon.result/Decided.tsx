import { useMemo } from 'react';
import { sayStrength, strengthAxis } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { decide } from '#core/planner/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';

type Props = { coupon: CouponView; dots: readonly { position: number; grade: Grade }[] };

/** Which of two camps' numbers works here, in one sentence; nothing for a coupon that asks something else. */
export function Decided({ coupon, dots }: Props) {
  const t = words.result.decided;
  const axis = strengthAxis(coupon.cutter.model);
  const { camps } = coupon.plan;
  const { vinyl, wanted } = coupon;
  const told = useMemo(
    () => camps && decide({ axis, type: vinyl.type, camps, wanted, seed: 1 }, dots).verdict,
    [axis, camps, dots, vinyl.type, wanted],
  );
  if (!camps || !told) return null;
  const [first, second] = camps.map((p) => sayStrength(axis, p)) as [string, string];
  return (
    <p className="lede" data-testid="decided" data-verdict={told}>
      {t[told](first, second)}
    </p>
  );
}
