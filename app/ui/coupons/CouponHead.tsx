import { Link } from 'react-router';
import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { PutRightLink } from '../base/PutRightLink.tsx';
import { bothSizes, isolate } from '../base/format.ts';
import { Swatch } from '../vinyls/Swatch.tsx';
import { useLengthUnit, useNumberStyle } from '../people/usePerson.ts';
import { typeWord, vinylHex, vinylTitle } from '../vinyls/vinylName.ts';

/** Which vinyl, which coupon, and where it stands. */
export function CouponHead({
  coupon,
  says,
  graded = false,
}: {
  coupon: CouponView;
  says: React.ReactNode;
  graded?: boolean;
}) {
  const { vinyl, sheet } = coupon;
  const [size] = bothSizes(sheet.width, sheet.height, useLengthUnit(), useNumberStyle());
  return (
    <div className="head">
      <Swatch
        type={vinyl.type}
        hex={vinylHex(vinyl)}
        size={64}
        standing={graded || coupon.events.length > 0 ? 'tried' : 'draft'}
      />
      <div>
        <h1>
          <Link to={`/vinyls/${vinyl.id}`} style={{ color: 'inherit', textDecoration: 'none' }}>
            {vinylTitle(vinyl)}
          </Link>
        </h1>
        <p className="quiet">
          {typeWord(vinyl)} · {words.plural(coupon.cells.length, 'cell')}, {size} · {says} ·{' '}
          <PutRightLink kind="coupon" id={coupon.id} />
        </p>
        {coupon.job && (
          <p>
            <Link to={`/jobs/${coupon.job.id}`} data-testid="back-to-job">
              {words.coupons.forJob(isolate(coupon.job.name))}
            </Link>
          </p>
        )}
      </div>
    </div>
  );
}
