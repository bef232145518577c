import { shortPosition, limitsOf, type Axis, type ScaleFit } from '#core/controls/index.ts';
import { stripTicks } from '#core/strip/index.ts';
import { words } from '../../messages/index.ts';

const W = 640;
const H = 260;
const R = 110;
const LEFT = 52;

/** The curve in grams with every reading on it, and below it how far each lies off. A reading left out is a cross. */
export function ScaleChart({ axis, fit }: { axis: Axis; fit: ScaleFit }) {
  const t = words.scale;
  const { min, max } = limitsOf(axis);
  const top = Math.max(...fit.curve.map((c) => c.grams), ...fit.readings.map((r) => r.grams)) * 1.08;
  const x = (p: number) => LEFT + ((W - LEFT - 16) * (p - min)) / (max - min);
  const y = (g: number) => H - 30 - ((H - 46) * g) / top;
  const line = (points: ScaleFit['curve']) =>
    points.map((c, i) => `${i ? 'L' : 'M'}${x(c.position)} ${y(c.grams)}`).join('');
  const from = fit.curve.findIndex((c) => c.weighed);
  const to = fit.curve.findLastIndex((c) => c.weighed);
  const off = Math.max(0.05, ...fit.readings.map((r) => Math.abs(r.residual)));
  const ry = (share: number) => R / 2 - (share / off) * (R / 2 - 14);
  const step = [10, 20, 50, 100, 200, 500, 1000].find((s) => top / s <= 6) ?? 2000;
  const grams = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step);
  const mark = (r: ScaleFit['readings'][number], cx: number, cy: number) =>
    r.wild ? (
      <path key={r.position} d={`M${cx - 6} ${cy - 6}l12 12m0 -12l-12 12`} stroke="var(--bad)" strokeWidth="3" />
    ) : (
      <circle key={r.position} cx={cx} cy={cy} r="6" fill="var(--action)" stroke="var(--sheet)" strokeWidth="1.5" />
    );
  return (
    <div className="scale-chart">
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={t.curve}>
        {grams.map((g) => (
          <g key={g}>
            <path d={`M${LEFT} ${y(g)}H${W - 16}`} stroke="var(--rule)" />
            <text x={LEFT - 8} y={y(g) + 5} textAnchor="end">
              {g} g
            </text>
          </g>
        ))}
        {stripTicks(axis, { from: min, to: max }).map((p) => (
          <text key={p} x={x(p)} y={H - 8} textAnchor="middle">
            {axis.kind === 'list' ? '' : shortPosition(axis, p)}
          </text>
        ))}
        {[fit.curve.slice(0, from + 1), fit.curve.slice(to)].map((part, i) => (
          <path key={i} d={line(part)} fill="none" stroke="var(--edge)" strokeWidth="2.5" strokeDasharray="5 5" />
        ))}
        <path d={line(fit.curve.slice(from, to + 1))} fill="none" stroke="var(--g-clean)" strokeWidth="3.5" />
        {fit.readings.map((r) => mark(r, x(r.position), y(r.grams)))}
      </svg>
      <svg viewBox={`0 0 ${W} ${R}`} role="img" aria-label={t.residuals}>
        <path d={`M${LEFT} ${R / 2}H${W - 16}`} stroke="var(--edge)" strokeWidth="1.5" />
        {[off, -off].map((s) => (
          <text key={s} x={LEFT - 8} y={ry(s) + 5} textAnchor="end">
            {`${s > 0 ? '+' : '−'}${Math.round(off * 100)} %`}
          </text>
        ))}
        {fit.readings.map((r) => (
          <g key={r.position}>
            <path d={`M${x(r.position)} ${R / 2}V${ry(r.residual)}`} stroke="var(--edge)" strokeWidth="2" />
            {mark(r, x(r.position), ry(r.residual))}
          </g>
        ))}
      </svg>
    </div>
  );
}
