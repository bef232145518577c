import { useMemo } from 'react';
import { strengthAxis } from '#core/controls/index.ts';
import { currentGrades, gradesAmong, type GradeEvent } from '#core/grades/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { useHandEvents } from '../base/useHandEvents.ts';
import { useReading } from './useReading.ts';

/** A coupon as it stands on this device: what the loader told, what was tapped since, and what that amounts to. */
export function useCouponReading(coupon: CouponView) {
  const key = strengthAxis(coupon.cutter.model).key;
  const mine = useHandEvents(
    'cell',
    useMemo(() => coupon.cells.map((c) => c.id), [coupon.cells]),
  );
  const events = useMemo<GradeEvent[]>(() => [...coupon.events, ...gradesAmong(mine)], [coupon.events, mine]);
  const dots = useMemo(() => {
    const place = new Map(coupon.evidence.cells.map((c) => [c.id, c.setting.steps[key]!]));
    return currentGrades(events).flatMap((g) =>
      place.has(g.cell) ? [{ position: place.get(g.cell)!, grade: g.grade }] : [],
    );
  }, [key, coupon.evidence.cells, events]);
  return { mine, events, dots, ...useReading(coupon.evidence, events, coupon.result) };
}
