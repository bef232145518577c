import type { LineView } from '#work/cuts/line.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import Button from '@mui/material/Button';
import { sayStrength, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { GoButton } from '../../ui/base/Link.tsx';
import { SendButton } from '../../ui/cuts/CutterLine.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { useSteady } from '../../ui/base/useSteady.ts';

const MOST_PASSES = 4;

/** All is cut: lift a corner before unloading, and run again what does not lift. */
export function CheckMat({
  coupon,
  passes,
  spoiled,
  byLine,
  line,
  meant,
  add,
}: {
  coupon: CouponView;
  passes: ReadonlyMap<string, number>;
  spoiled: ReadonlySet<string>;
  byLine: boolean;
  line: LineView;
  meant: ReturnType<typeof useSteady>['meant'];
  add: ReturnType<typeof useOutbox>['add'];
}) {
  const { model } = coupon.cutter;
  const axis = strengthAxis(model);
  const t = words.run;
  const strongest = coupon.cells.at(-1)!;
  return (
    <div style={{ fontSize: '1.25rem' }}>
      <h2 style={{ fontSize: '2rem' }}>{t.check}</h2>
      <p style={{ margin: '16px 0 24px', maxWidth: '44ch' }}>{t.checkWhy(strongest.number)}</p>
      <div className="actions above-0">
        <GoButton to={`/coupons/${coupon.id}/grade`} variant="contained">
          {t.checkYes}
        </GoButton>
      </div>
      <p style={{ margin: '36px 0 12px', fontWeight: 700 }}>{t.whichAgain}</p>
      <div className="again">
        {[...coupon.cells].reverse().map((cell) => {
          const run = passes.get(cell.id) ?? 0;
          if (run === 0 || run >= MOST_PASSES || spoiled.has(cell.id)) return null;
          const label = t.checkAgain(cell.number, sayStrength(axis, cell.position), run + 1);
          return byLine ? (
            <SendButton key={cell.id} device={line.devices[0]!} cells={[cell.number]} pass={run + 1} label={label} />
          ) : (
            <Button
              key={cell.id}
              onClick={() => {
                if (!meant()) return;
                // What the lifted corner showed is evidence too, at the passes run so far.
                add({ kind: 'grade', cell: cell.id, figure: 1, passes: run, grade: 'uncut' });
                add({ kind: 'cut', cell: cell.id, passes: run + 1 });
              }}
            >
              {label}
            </Button>
          );
        })}
      </div>
      {!byLine && (
        <p className="quiet" style={{ marginTop: 12, fontSize: '1.0625rem' }}>
          {t.again}
        </p>
      )}
    </div>
  );
}
