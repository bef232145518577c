import type { CutterEvenness } from '#work/coupons/evenness.ts';
import { words } from '../../messages/index.ts';

const SIZE = 280;
const AIR = 34;

/** The mat from above as it is loaded, with how heavy or light each place cuts. */
export function MatMap({ evenness }: { evenness: CutterEvenness }) {
  const { places } = evenness;
  const span = (of: (p: { x: number; y: number }) => number) => {
    const values = places.map(of);
    return { min: Math.min(...values), size: Math.max(1, Math.max(...values) - Math.min(...values)) };
  };
  const [h, v] = [span((p) => p.x), span((p) => p.y)];
  const percent = (offset: number) => Math.round((Math.exp(offset) - 1) * 100);
  return (
    <svg className="mat-map" viewBox={`0 0 ${SIZE} ${SIZE}`} role="img" aria-label={words.even.said(evenness)}>
      <rect x="1" y="1" width={SIZE - 2} height={SIZE - 2} rx="10" fill="var(--sheet)" stroke="var(--ink)" />
      {places.map((p, i) => {
        const x = AIR + ((p.x - h.min) / h.size) * (SIZE - 2 * AIR);
        const y = AIR + ((p.y - v.min) / v.size) * (SIZE - 2 * AIR);
        const sure = p.low > 0 || p.high < 0;
        const value = percent(p.offset);
        return (
          <g key={i}>
            <circle
              cx={x}
              cy={y}
              r={18 + Math.min(10, Math.abs(value) * 0.8)}
              fill={value < 0 ? 'var(--g-hangs)' : 'var(--g-scored)'}
              fillOpacity={sure ? 0.85 : 0.22}
              stroke="var(--ink)"
              strokeWidth={sure ? 2 : 0.75}
            />
            <text x={x} y={y + 5} textAnchor="middle" fontSize="14" fontWeight={sure ? 700 : 400}>
              {value > 0 ? `+${value}` : value < 0 ? `−${-value}` : '0'}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
