import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import { SideDrawing } from '../../ui/vinyls/SideDrawing.tsx';
import { vinylHex } from '../../ui/vinyls/vinylName.ts';

/** Before the first cell: which side goes down, and whether it lies mirrored. */
export function FirstCell({ coupon }: { coupon: CouponView }) {
  const t = words.run;
  const { cutFrom, side } = coupon.vinyl.behaviour;
  return (
    <section style={{ marginTop: 32, display: 'flex', gap: 24, flexWrap: 'wrap' }} aria-labelledby="first">
      <div style={{ flex: '1 1 280px' }}>
        <h2 id="first">{t.first}</h2>
        <p className="above-8">
          {words.side[side].says} {words.side[side].sure}
        </p>
        <p className="above-8">{t.mirror[cutFrom]}</p>
      </div>
      <SideDrawing hex={vinylHex(coupon.vinyl)} side={side} />
    </section>
  );
}
