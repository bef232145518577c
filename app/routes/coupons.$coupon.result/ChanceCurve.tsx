import type { Domain } from '#core/strip/index.ts';
import type { Grade } from '#core/grades/index.ts';
import type { FitResult } from '#core/window/index.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { ChanceChart } from '../../ui/coupons/ChanceChart.tsx';
import { percent } from '../../ui/base/format.ts';
import { Section } from '../../ui/base/Section.tsx';
import { placeToSet } from '#core/window/index.ts';

/** The chance over the axis, as a curve and as a table. */
export function ChanceCurve({
  coupon,
  result,
  dots,
  domain,
}: {
  coupon: CouponView;
  result: FitResult;
  dots: { position: number; grade: Grade }[];
  domain: Domain;
}) {
  const axis = strengthAxis(coupon.cutter.model);
  const t = words.result;
  const { summary } = result;
  const show = (p: number) => formatPosition(axis, Math.round(p));
  const number = placeToSet(summary);
  const shownRows = summary.curve.positions
    .map((p, i) => ({ p, i }))
    .filter(
      ({ p, i }) =>
        p >= domain.from &&
        p <= domain.to &&
        (summary.curve.positions.length < 30 || i % 4 === 0 || p === number.position),
    );
  return (
    <Section className="above-40" id="chart" title={t.chance}>
      <ChanceChart axis={axis} result={result} domain={domain} dots={dots} />
      <details>
        <summary>{t.table}</summary>
        <table style={{ borderCollapse: 'collapse' }}>
          <thead>
            <tr>
              {[axis.word, t.wanted[coupon.wanted], 'between', 'and'].map((h) => (
                <th key={h} scope="col" style={{ textAlign: 'right', padding: '4px 20px 4px 0' }}>
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shownRows.map(({ p, i }) => (
              <tr key={p}>
                {[
                  show(p),
                  percent(summary.curve.mean[i]!),
                  percent(summary.curve.low[i]!),
                  percent(summary.curve.high[i]!),
                ].map((v, k) => (
                  <td key={k} style={{ textAlign: 'right', padding: '2px 20px 2px 0' }}>
                    {v}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Section>
  );
}
