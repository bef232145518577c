import { words } from '../../messages/index.ts';
import { isolate, loadPercent } from '../base/format.ts';

type Row = { id: string; name: string; at: number; sd: number; wild: boolean };

const WIDTH = 720;
const NAME = 260;
const LINE = 40;

/**
 * A cutter's offset and each setting it rests on, on one scale of per cent load: a bar for what nine in ten would hold, a mark in its
 * middle. Drawn as the strip is: wide where unsure.
 */
export function OffsetChart({ offset, rows }: { offset: { offset: number; sd: number }; rows: readonly Row[] }) {
  const t = words.against;
  const q = 1.645;
  const ends = [
    ...rows.map((r) => [r.at - q * r.sd, r.at + q * r.sd]),
    [offset.offset - q * offset.sd, offset.offset + q * offset.sd],
  ];
  const reach = Math.max(
    0.15,
    ...ends
      .flat()
      .map(Math.abs)
      .map((v) => Math.min(v, 0.6)),
  );
  const x = (v: number) => NAME + ((Math.max(-reach, Math.min(reach, v)) + reach) / (2 * reach)) * (WIDTH - NAME - 8);
  const height = rows.length * LINE + 76;
  const ticks = [-40, -30, -20, -10, 0, 10, 20, 30, 40]
    .map((p) => Math.log1p(p / 100))
    .filter((v) => Math.abs(v) <= reach);
  // Labels that would run into the one before are left out: per cent lie closer to the right.
  const said = ticks.reduce<number[]>(
    (kept, v) => (kept.length === 0 || x(v) - x(kept.at(-1)!) >= 56 ? [...kept, v] : kept),
    [],
  );
  return (
    <div className="chart-scroll">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        width={WIDTH}
        height={height}
        role="img"
        aria-label={t.rests}
        className="offsets"
      >
        {ticks.map((v) => (
          <g key={v}>
            <path d={`M${x(v)} 24V${height - 28}`} stroke="var(--rule)" strokeWidth={v === 0 ? 2 : 1} />
            {said.includes(v) && (
              <text x={x(v)} y={height - 8} textAnchor="middle" fontSize="14" fill="var(--muted)">
                {v === 0 ? '0' : `${v > 0 ? '+' : '−'}${Math.abs(loadPercent(v))} %`}
              </text>
            )}
          </g>
        ))}
        <text x={x(0)} y={14} textAnchor="middle" fontSize="14" fill="var(--muted)">
          {t.middle}
        </text>
        <rect
          x={x(offset.offset - q * offset.sd)}
          y={24}
          width={Math.max(2, x(offset.offset + q * offset.sd) - x(offset.offset - q * offset.sd))}
          height={height - 52}
          fill="var(--g-clean)"
          opacity="0.16"
        />
        <path d={`M${x(offset.offset)} 24V${height - 28}`} stroke="var(--g-clean)" strokeWidth="3" />
        {rows.map((r, i) => {
          const y = 48 + i * LINE;
          return (
            <g key={`${r.id} ${i}`} opacity={r.wild ? 0.55 : 1}>
              <text x="0" y={y + 6} fontSize="16" fill="var(--ink)">
                {isolate(r.name.length > 30 ? `${r.name.slice(0, 29)}…` : r.name)}
              </text>
              {r.wild && (
                <text x="0" y={y + 22} fontSize="12" fill="var(--muted)">
                  {t.off}
                </text>
              )}
              <path
                d={`M${x(r.at - q * r.sd)} ${y}H${x(r.at + q * r.sd)}`}
                stroke="var(--ink)"
                strokeWidth="2"
                strokeDasharray={r.wild ? '5 4' : undefined}
              />
              <circle cx={x(r.at)} cy={y} r="6" fill="var(--ink)" />
            </g>
          );
        })}
      </svg>
    </div>
  );
}
