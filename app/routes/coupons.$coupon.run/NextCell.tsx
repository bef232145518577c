import type { LineView } from '#work/cuts/line.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import Button from '@mui/material/Button';
import { cutFileKinds } from '#core/cutfile/index.ts';
import { formatPosition, formatSetting, strengthAxis } from '#core/controls/index.ts';
import { micrometresToMm } from '#core/units/index.ts';
import { words } from '../../messages/index.ts';
import { BenchModeButton } from '../../ui/coupons/benchMode.tsx';
import { ToSet } from '../../ui/workshop/ControlDrawing.tsx';
import { ControlFacts } from '../../ui/workshop/ControlFacts.tsx';
import { useOutbox } from '../../ui/base/outbox.tsx';
import { useSteady } from '../../ui/base/useSteady.ts';
import { ByLine } from './ByLine.tsx';
import { FirstCell } from './FirstCell.tsx';
import { WholeSheet } from './WholeSheet.tsx';

/** The next cell: what to set, its file, and what to tap when it is cut. */
export function NextCell({
  coupon,
  next,
  left,
  line,
  meant,
  told,
  add,
}: {
  coupon: CouponView;
  next: CouponView['cells'][number];
  left: CouponView['cells'];
  line: LineView;
  meant: ReturnType<typeof useSteady>['meant'];
  told: boolean;
  add: ReturnType<typeof useOutbox>['add'];
}) {
  const { model } = coupon.cutter;
  const axis = strengthAxis(model);
  const t = words.run;
  const planned = next?.planned ?? 1;
  // Cells of other passes go out after these: a run has one number of passes.
  const alike = left.filter((c) => c.planned === planned);
  const place = coupon.sheet.cells.find((c) => c.number === next.number)!;
  const xs = place.paths.flatMap((p) => p.points.map(([x]) => x));
  const rest = formatSetting(model, place.setting).filter((p) => p.key !== axis.key);
  const first = next === coupon.cells[0];
  const file = (kind: string) => `/coupons/${coupon.id}/files/coupon.${kind}?cell=${next.number}`;
  return (
    <div>
      <p className="section-word" role="status">
        {t.title(next.number, coupon.cells.length)}
      </p>
      <h2 className="visually-hidden">{t.set(axis.word, formatPosition(axis, next.position))}</h2>
      <p aria-hidden="true" style={{ font: '700 1.5rem/1.2 var(--heading)', marginBottom: 8 }}>
        Set {axis.word} to
      </p>
      <ToSet axis={axis} position={next.position} />
      <dl className="facts inline">
        <ControlFacts parts={rest} />
      </dl>
      {planned > 1 && <p style={{ marginBottom: 16 }}>{t.twice(planned)}</p>}
      <div className="actions above-0">
        <Button component="a" href={file('svg')} download>
          {t.get(next.number)}
        </Button>
        <Button variant="contained" onClick={() => meant() && add({ kind: 'cut', cell: next.id, passes: planned })}>
          {left.length === 1 ? t.doneLast : t.done}
        </Button>
        <BenchModeButton />
      </div>
      <p className="notice" role="status" hidden={!told}>
        {t.justChanged}
      </p>
      <details>
        <summary>{t.other}</summary>
        <div className="actions above-0">
          {cutFileKinds
            .filter((k) => k !== 'svg')
            .map((kind) => (
              <Button key={kind} component="a" href={file(kind)} download>
                {words.coupon.files[kind]}
              </Button>
            ))}
        </div>
      </details>
      {line.devices.map((device) => (
        <ByLine
          key={device.key}
          coupon={coupon}
          line={line}
          device={device}
          next={next}
          alike={alike}
          planned={planned}
        />
      ))}
      {first && <WholeSheet coupon={coupon} left={left} meant={meant} add={add} />}
      <p className="quiet above-24">{t.leave}</p>
      <p className="quiet small above-8">
        {t.place(`${micrometresToMm(Math.min(...xs))} mm`, `${micrometresToMm(place.y)} mm`)}
      </p>
      {first && <FirstCell coupon={coupon} />}
    </div>
  );
}
