import { useId } from 'react';
import type { LeanStrip } from '#core/strip/index.ts';

type Props = { strip: LeanStrip | undefined; width: number; height: number };

/** Where the number stands above the band. */
const TOP = 26;
const FOOT = 6;

/**
 * The window strip of a row, of a few shapes: not through (hatched), clean (solid, fading where it is unsure), carrier scored (dotted), the
 * number to set. Its textures stand once on the page (PagePatterns).
 */
export function RowStrip({ strip, width, height }: Props) {
  const id = useId();
  if (!strip) return null;
  const split = Math.round(strip.split * width);
  const x = strip.at === undefined ? undefined : Math.round(strip.at * width);
  const half = strip.label.length * 4.6 + 2;
  return (
    <svg className="strip lean" viewBox={`0 0 ${width} ${TOP + height + FOOT}`} role="img" aria-label={strip.says}>
      <linearGradient id={id}>
        {strip.stops.map(([at, strength], i) => (
          <stop key={i} offset={at} stopOpacity={strength} />
        ))}
      </linearGradient>
      <path className="u" d={`M0 ${TOP}h${split}v${height}H0z`} />
      <path className="o" d={`M${split} ${TOP}H${width}v${height}H${split}z`} />
      <path fill={`url(#${id})`} d={`M0 ${TOP}H${width}v${height}H0z`} />
      {x !== undefined && (
        <>
          <path className="m" d={`M${x - 2} ${TOP - 5}h4v${height + 10}h-4z`} />
          <text x={Math.min(width - half, Math.max(half, x))} y={TOP - 10}>
            {strip.label}
          </text>
        </>
      )}
    </svg>
  );
}
