import { useId } from 'react';
import { formatPosition, shortPosition, type Axis } from '#core/controls/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { stripShades, stripSplit, stripTicks, stripX, type Domain } from '#core/strip/index.ts';
import type { ShownFit } from '#core/window/index.ts';
import { GradeMark, GradePatterns } from './grades.tsx';
import { placeToSet } from '#core/window/index.ts';

type Props = {
  axis: Axis;
  result: Pick<ShownFit, 'summary' | 'sentence'>;
  domain: Domain;
  dots?: { position: number; grade: Grade }[];
  /** Where cells are going to be cut: small notches at the foot of the band. */
  planned?: number[];
  /** The number marked, when it is not the recommendation. */
  mark?: number;
  /** Draw the scale below. */
  scale?: boolean;
  width?: number;
  height?: number;
};

/** On a phone the same strip is drawn narrower, so that its numbers stay as large as the text round it. */
const PHONE = 358;

export function WindowStrip(props: Props) {
  if (!props.scale) return <Strip {...props} />;
  return (
    <>
      <div className="desk-only">
        <Strip {...props} />
      </div>
      <div className="phone-only">
        <Strip {...props} width={PHONE} />
      </div>
    </>
  );
}

/**
 * The window strip, the sign of this product: not through (hatched), clean (solid, fading where it is unsure), carrier scored
 * (dotted), what was tried, and the number to set. Said in words for those who do not see it.
 */
function Strip({
  axis,
  result,
  domain,
  dots = [],
  planned = [],
  mark,
  scale = false,
  width = 562,
  height = 30,
}: Props) {
  const id = useId();
  const { summary } = result;
  const split = stripSplit(summary, domain) * width;
  const shades = stripShades(axis, summary, domain);
  const position = mark ?? placeToSet(summary).position;
  const x = stripX(domain, position) * width;
  const top = 26;
  const label = shortPosition(axis, position);
  const half = label.length * 4.6 + 2;
  const ticks = scale ? stripTicks(axis, domain) : [];
  const size = axis.kind === 'list' ? 13 : 15;
  // Names are long: those that would run into their neighbour go one row down, or are left out.
  const ends = [-Infinity, -Infinity];
  const named = ticks.map((t) => {
    const text = formatPosition(axis, t);
    const wide = text.length * size * 0.5;
    const middle = Math.min(width - wide / 2, Math.max(wide / 2, stripX(domain, t) * width));
    const row = axis.kind === 'list' ? ends.findIndex((end) => middle - wide / 2 > end + 8) : 0;
    if (row >= 0) ends[row] = middle + wide / 2;
    return { t, text, middle, row };
  });
  const foot = !scale ? 6 : named.some((n) => n.row === 1) ? 48 : 30;
  // Cells at one place stand above each other as far as there is room.
  const seen = new Map<number, number>();
  return (
    <svg className="strip" viewBox={`0 0 ${width} ${top + height + foot}`} role="img" aria-label={result.sentence}>
      <GradePatterns prefix={id} />
      <linearGradient id={`${id}-clean`} x1="0" x2="1" y1="0" y2="0">
        {shades.map((s, i) => (
          <stop key={i} offset={s.x} stopColor="var(--g-clean)" stopOpacity={s.strength} />
        ))}
      </linearGradient>
      <clipPath id={`${id}-band`}>
        <rect x="0" y={top} width={width} height={height} rx="3" />
      </clipPath>
      <g clipPath={`url(#${id}-band)`}>
        <rect x="0" y={top} width={split} height={height} fill={`url(#${id}-under)`} />
        <rect x={split} y={top} width={width - split} height={height} fill={`url(#${id}-over)`} />
        <rect x="0" y={top} width={width} height={height} fill={`url(#${id}-clean)`} />
      </g>
      {planned.map((p) => {
        const at = stripX(domain, p) * width;
        return (
          <path
            key={p}
            d={`M${at - 6} ${top + height}h12l-6 -11z`}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="1.4"
          />
        );
      })}
      {dots.map((d, i) => {
        if (d.position < domain.from || d.position > domain.to) return null;
        const before = seen.get(d.position) ?? 0;
        seen.set(d.position, before + 1);
        const offset = before === 0 ? 0 : (before % 2 ? 1 : -1) * Math.ceil(before / 2) * 9;
        return (
          <GradeMark
            key={i}
            grade={d.grade}
            x={stripX(domain, d.position) * width}
            y={top + height / 2 + Math.max(-9, Math.min(9, offset))}
          />
        );
      })}
      <rect x={x - 1.8} y={top - 5} width="3.6" height={height + 10} fill="var(--ink)" />
      <text
        x={Math.min(width - half, Math.max(half, x))}
        y={top - 10}
        textAnchor="middle"
        fontSize="17"
        fontWeight="700"
      >
        {label}
      </text>
      {named.map(({ t, text, middle, row }) => (
        <g key={t}>
          <rect x={stripX(domain, t) * width - 0.5} y={top + height} width="1" height="6" fill="var(--muted)" />
          {row >= 0 && (
            <text className="scale" x={middle} y={top + height + 23 + row * 18} textAnchor="middle" fontSize={size}>
              {text}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
