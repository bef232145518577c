import type { Ahead } from '#workers/planning.worker.ts';
import type { CouponView } from '#work/coupons/coupons.ts';
import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { words } from '../../messages/index.ts';
import { percent } from '../../ui/base/format.ts';
import { Section } from '../../ui/base/Section.tsx';

/** One pass against two, slow against fast. */
export function OtherWays({ coupon, next }: { coupon: CouponView; next: Ahead }) {
  const axis = strengthAxis(coupon.cutter.model);
  const show = (p: number) => formatPosition(axis, Math.round(p));
  return (
    <Section className="above-40" id="ways" title={words.ways.title}>
      <table className="compare" data-testid="ways">
        <thead>
          <tr>
            {[
              words.ways.way,
              `${words.ways.set} ${axis.word}`,
              words.ways.chance[coupon.wanted],
              words.ways.damaged,
              words.ways.time,
              words.ways.advice,
            ].map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {next.ways.map((w) => (
            <tr key={`${w.passes} ${w.speed}`} className={w.chosen ? 'taken' : undefined}>
              <td>
                {words.ways.passes(w.passes)}
                {w.speed !== undefined && `, ${words.plan.alsoWays.speed} ${w.speed}`}
              </td>
              <td>{show(w.position)}</td>
              <td>{percent(w.chance)}</td>
              <td>{percent(w.damaged)}</td>
              <td>×{Number(w.time.toFixed(1))}</td>
              <td>{w.chosen && words.ways.take}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet small">{words.ways.about}</p>
    </Section>
  );
}
