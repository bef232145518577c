import Button from '@mui/material/Button';
import type { CouponView } from '#work/coupons/coupons.ts';
import { words } from '../../messages/index.ts';
import type { useOutbox } from '../../ui/base/outbox.tsx';
import type { useSteady } from '../../ui/base/useSteady.ts';

/**
 * Every cell from one file, where the cutter takes its strength from the file or the program has one for each colour: two taps instead of two
 * a cell. Offered before the first cell, and only where all cells have one pass: a file runs once.
 */
export function WholeSheet({
  coupon,
  left,
  meant,
  add,
}: {
  coupon: CouponView;
  left: CouponView['cells'];
  meant: ReturnType<typeof useSteady>['meant'];
  add: ReturnType<typeof useOutbox>['add'];
}) {
  const t = words.run.sheet;
  if (left.length < coupon.cells.length || left.some((c) => c.planned > 1)) return null;
  const kind = coupon.cutter.model.hpgl ? 'hpgl' : 'svg';
  return (
    <section className="whole-sheet" aria-label={t.title}>
      <p>
        <strong>{t.title}</strong> {kind === 'hpgl' ? t.byFile : t.byColour}
      </p>
      <div className="actions">
        <Button component="a" href={`/coupons/${coupon.id}/files/coupon.${kind}`} download>
          {t.get(words.coupon.files[kind])}
        </Button>
        <Button
          onClick={() => {
            if (meant()) for (const cell of left) add({ kind: 'cut', cell: cell.id, passes: 1 });
          }}
        >
          {t.done(left.length)}
        </Button>
      </div>
    </section>
  );
}
