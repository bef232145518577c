import { formatPosition, type Axis } from '#core/controls/index.ts';
import type { Plan } from '#core/planner/index.ts';
import { stripTicks, stripX, type Domain } from '#core/strip/index.ts';
import { words } from '../../messages/index.ts';

const WIDTH = 420;
const BAR = 20;
const LABEL = 22;
const STEP = LABEL + BAR + 12;

/**
 * Why this coupon: where the right number may lie as things stand, and how closely it should be known once the cells are graded. The
 * same scale as the strip above it.
 */
export function WhyThisCoupon({
  axis,
  place,
  domain,
}: {
  axis: Axis;
  place: NonNullable<Plan['place']>;
  domain: Domain;
}) {
  const t = words.plan.why;
  const x = (p: number) => stripX(domain, p) * WIDTH;
  const say = (p: number) => formatPosition(axis, Math.round(p));
  const rows = [
    { ...place.now, text: t.now(say(place.now.low), say(place.now.high)), fill: 'url(#why-now)' },
    { ...place.after, text: t.after(say(place.after.low), say(place.after.high)), fill: 'var(--g-clean)' },
  ];
  const foot = rows.length * STEP;
  return (
    <figure className="why" data-testid="why">
      <h2 className="section-word">{t.title}</h2>
      <svg viewBox={`0 0 ${WIDTH} ${foot + 24}`} role="img" aria-label={rows.map((r) => r.text).join(' ')}>
        <pattern id="why-now" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--g-clean)" opacity="0.25" />
          <rect width="2" height="7" fill="var(--g-clean)" />
        </pattern>
        {rows.map((r, i) => (
          <g key={i} transform={`translate(0 ${i * STEP})`}>
            <text y="15" fontSize="15">
              {r.text}
            </text>
            <rect y={LABEL} width={WIDTH} height={BAR} rx="3" fill="var(--rule)" opacity="0.45" />
            <rect x={x(r.low)} y={LABEL} width={Math.max(3, x(r.high) - x(r.low))} height={BAR} rx="3" fill={r.fill} />
          </g>
        ))}
        {stripTicks(axis, domain).map((p) => (
          <text
            key={p}
            className="scale"
            x={Math.min(WIDTH - 16, Math.max(16, x(p)))}
            y={foot + 14}
            textAnchor="middle"
            fontSize="14"
          >
            {formatPosition(axis, p)}
          </text>
        ))}
      </svg>
      <figcaption className="quiet small">{t.legend}</figcaption>
    </figure>
  );
}
