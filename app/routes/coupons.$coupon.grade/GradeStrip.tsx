import type { Grading } from './useGrading.ts';
import { type FitResult, timesInHundred } from '#core/window/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { useState } from 'react';
import { formatPosition } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { stripDomain } from '#core/strip/index.ts';
import { words } from '../../messages/index.ts';
import { WindowStrip } from '../../ui/base/WindowStrip.tsx';

/** The window so far, and the number. */
export function GradeStrip({
  coupon,
  grading,
  result,
  dots,
  reading,
}: {
  coupon: CouponView;
  grading: Grading;
  result: FitResult;
  dots: { position: number; grade: Grade }[];
  reading: boolean;
}) {
  const t = words.grading;
  const { axis, asked, graded } = grading;
  // The stretch shown is fixed by the plan, so that the strip moves and its scale does not.
  const [domain] = useState(() =>
    stripDomain(
      axis,
      [coupon.result.summary],
      [],
      coupon.cells.map((c) => c.position),
    ),
  );
  const { recommended, window: open } = result.summary;
  return (
    <div className="grade-strip">
      <WindowStrip axis={axis} result={result} domain={domain} dots={dots} scale />
      <div data-testid="recommendation" data-reading={reading} aria-live="polite">
        {open && recommended ? (
          <p style={{ font: '700 1.25rem/1.3 var(--heading)' }}>
            {words.result.set(formatPosition(axis, recommended.position))}{' '}
            {words.result.times(coupon.wanted, timesInHundred(recommended.chance))}
          </p>
        ) : (
          <p style={{ fontWeight: 700 }}>{result.sentence}</p>
        )}
        <p className="quiet small">
          {open &&
            coupon.wanted === 'clean' &&
            axis.kind !== 'list' &&
            `window ${formatPosition(axis, open.low)} to ${formatPosition(axis, open.high)} · `}
          {t.of(graded, asked.length)}
          {reading && ` · ${t.reading}`}
        </p>
      </div>
    </div>
  );
}
