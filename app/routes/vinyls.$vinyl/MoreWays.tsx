import type { Piece } from '#work/vinyls/stock.ts';
import type { ListedCoupon } from '#work/coupons/coupons.ts';
import { Link } from 'react-router';
import { words } from '../../messages/index.ts';
import { CouponRow } from '../../ui/coupons/CouponRow.tsx';
import { WriteForm } from '../../ui/base/WriteForm.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** The coupons of this vinyl on the cutter on the bench. */
export function Coupons({ coupons }: { coupons: readonly ListedCoupon[] }) {
  const t = words.vinyl;
  return (
    <Section className="above-40" id="coupons" title={t.coupons}>
      <ul className="rows">
        {coupons.map((c) => (
          <CouponRow key={c.id} coupon={c} />
        ))}
      </ul>
      <p className="above-16">
        <Link to="/coupons">{words.places.coupons}</Link>
      </p>
    </Section>
  );
}

/** What else can be done with a vinyl. */
export function MoreWays({
  vinyl,
  inHand,
  stock,
  pinned,
  bench,
}: {
  vinyl: { id: string };
  inHand: string | undefined;
  stock: readonly Piece[];
  pinned: boolean;
  bench: { followed: boolean };
}) {
  const t = words.vinyl;
  return (
    <div className="ways">
      <Link to={`/vinyls/${vinyl.id}/about`}>{t.about}</Link>
      <Link to={`/stock?vinyl=${vinyl.id}${inHand ? `&colour=${inHand}` : ''}`}>
        {stock.length > 0
          ? `${t.stock}: ${stock.map((p) => `${words.stock.kinds[p.kind]} ${p.code}`).join(', ')}`
          : t.open}
      </Link>
      <WriteForm what="pin" preventScrollReset>
        {inHand && <input type="hidden" name="colour" value={inHand} />}
        <input type="hidden" name="pinned" value={pinned ? 'no' : 'yes'} />
        <button type="submit" className="as-link">
          {pinned ? t.unpin : t.pin}
        </button>
      </WriteForm>
      <WriteForm what="follow" preventScrollReset>
        {inHand && <input type="hidden" name="colour" value={inHand} />}
        <input type="hidden" name="on" value={bench.followed ? 'no' : 'yes'} />
        <button type="submit" className="as-link">
          {bench.followed ? words.card.unfollow : words.card.follow}
        </button>
      </WriteForm>
    </div>
  );
}
