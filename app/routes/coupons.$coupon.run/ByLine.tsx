import type { LineView } from '#work/cuts/line.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { sayStrength, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { SendButton } from '../../ui/cuts/CutterLine.tsx';

/** Sends what is left to a cutter on a line. */
export function ByLine({
  coupon,
  line,
  device,
  next,
  alike,
  planned,
}: {
  coupon: CouponView;
  line: LineView;
  device: LineView['devices'][number];
  next: CouponView['cells'][number];
  alike: CouponView['cells'];
  planned: number;
}) {
  const { model } = coupon.cutter;
  const axis = strengthAxis(model);
  const t = words.run;
  return (
    <section className="line" aria-label={t.send.title(device.name)}>
      <h2>
        {t.send.title(device.name)} {device.simulated && <span className="tag">{t.send.simulated}</span>}
      </h2>
      <p className="quiet" style={{ margin: '4px 0 12px' }}>
        {line.takesStrength ? t.send.allWhy : t.send.oneWhy(sayStrength(axis, next.position))}
      </p>
      <SendButton
        device={device}
        cells={line.takesStrength ? alike.map((c) => c.number) : [next.number]}
        pass={planned}
        label={line.takesStrength ? t.send.all(alike.length) : t.send.one(next.number)}
      />
    </section>
  );
}
