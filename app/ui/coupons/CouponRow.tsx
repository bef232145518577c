import { Link } from 'react-router';
import type { ListedCoupon } from '#work/coupons/coupons.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { day } from '../base/format.ts';
import { Swatch } from '../vinyls/Swatch.tsx';
import { useZone } from '../people/usePerson.ts';
import { vinylName } from '../vinyls/vinylName.ts';

/** Where a coupon stands, and the page that goes on with it. */
export function nextOf(c: { id: string; cells: number; graded: number; cut: number; set_aside_at: Date | null }) {
  if (c.graded >= c.cells)
    return { says: words.coupons.done(c.cells), go: words.coupons.next.read, to: `/coupons/${c.id}/result` };
  if (c.set_aside_at) return { says: words.coupons.aside, go: words.coupons.next.read, to: `/coupons/${c.id}/result` };
  if (c.cut < c.cells && c.graded === 0)
    return { says: words.coupons.toCut(c.cut, c.cells), go: words.coupons.next.cut, to: `/coupons/${c.id}/run` };
  return { says: words.coupons.toGrade(c.graded, c.cells), go: words.coupons.next.grade, to: `/coupons/${c.id}/grade` };
}

export function CouponRow({ coupon: c }: { coupon: ListedCoupon }) {
  const next = nextOf(c);
  const zone = useZone();
  const type = c.type as VinylTypeKey;
  return (
    <li>
      <Link className="row row-coupon" to={next.to}>
        <Swatch type={type} hex={c.hex ?? '#b9b2a3'} standing={c.graded > 0 ? 'tried' : 'draft'} />
        <div>
          <div className="row-name">{vinylName({ brand: c.brand, name: c.vinyl })}</div>
          <div className="quiet">
            {c.colour} · {c.cutter}
          </div>
        </div>
        <div>
          <div>{c.left_out_at ? words.coupons.leftOut : next.says}</div>
          <div className="quiet small">{day(c.created_at, zone)}</div>
        </div>
        <strong style={{ color: 'var(--action)' }}>{next.go}</strong>
      </Link>
    </li>
  );
}
