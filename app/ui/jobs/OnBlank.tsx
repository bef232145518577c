import type { MouseEvent } from 'react';
import type { JobBlank } from '#core/job/index.ts';
import type { Placed } from '#core/place/index.ts';
import { contrastOf } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import type { DrawnLayer } from './ArtDrawing.tsx';
import { shapeAt } from './ShapeDrawing.tsx';

type Props = {
  blank: JobBlank;
  art: { width: number; height: number; layers: readonly DrawnLayer[] };
  placed: Placed;
  design: { width: number; height: number };
  mirrored: boolean;
  /** Places to point at: shares of the design's width and height. */
  marks?: readonly { x: number; y: number }[];
  say: (um: number) => string;
  /** Its words are read from afar: larger, and fewer. */
  large?: boolean;
  /** Nothing lies on it yet: the blank alone. */
  bare?: boolean;
  /** A tap on the design: shares of its width and height. */
  onAnchor?: (anchor: { x: number; y: number }) => void;
};

/** More rings than these hide the drawing; the words say how many there are. */
const MOST_MARKS = 40;

/** Rings round places of the design. */
function Marks({
  marks,
  mirrored,
  at,
  r,
}: {
  marks: NonNullable<Props['marks']>;
  mirrored: boolean;
  at: { left: number; top: number; width: number; height: number };
  r: number;
}) {
  return marks.slice(0, MOST_MARKS).map((m, i) => (
    <g key={i} className="fault-mark" data-testid="fault-mark">
      {[5, 2.5].map((stroke) => (
        <circle
          key={stroke}
          cx={at.left + (mirrored ? 1 - m.x : m.x) * at.width}
          cy={at.top + m.y * at.height}
          r={r}
          strokeWidth={stroke}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </g>
  ));
}

/** How far from the edges it lies, and how wide it is. */
function Measures({
  blank,
  placed,
  design,
  unit,
  ink,
  large,
  say,
}: Pick<Props, 'blank' | 'placed' | 'design' | 'say'> & { unit: number; ink: string; large: boolean }) {
  const { left, top } = placed;
  const [cx, cy] = [left + design.width / 2, top + design.height];
  // Chromium draws no letter larger than 10 000 units, and these are µm: they are set small and scaled.
  const size = 3.3 * unit;
  const at = (x: number, y: number) => ({
    transform: `translate(${x} ${y}) scale(${size / 100})`,
    fontSize: 100,
    fill: ink,
  });
  return (
    <>
      <g stroke={ink} strokeWidth={1.4} vectorEffect="non-scaling-stroke" fill="none" className="measure">
        <path d={`M${placed.anchor.x} 0V${Math.max(0, top)}`} vectorEffect="non-scaling-stroke" />
        <path
          d={`M${left} ${cy + 3 * unit}H${left + design.width}M${left} ${cy + 2 * unit}v${2 * unit}M${left + design.width} ${cy + 2 * unit}v${2 * unit}`}
          vectorEffect="non-scaling-stroke"
        />
      </g>
      {top > 5 * unit && <text {...at(placed.anchor.x + 1.5 * unit, Math.max(0, top) / 2 + unit)}>{say(top)}</text>}
      <text
        {...at(cx, Math.min(cy + 8.5 * unit, Math.max(cy, blank.height - 1.4 * unit)))}
        textAnchor="middle"
        fontWeight={700}
      >
        {say(design.width)}
      </text>
      {!large && left > 16 * unit && (
        <>
          <text {...at(left / 2, top + design.height / 2)} textAnchor="middle">
            {say(left)}
          </text>
          <text {...at(left + design.width + placed.right / 2, top + design.height / 2)} textAnchor="middle">
            {say(placed.right)}
          </text>
        </>
      )}
    </>
  );
}

/** The design where it goes, to scale on its blank, with the sums drawn in. µm. */
export function OnBlank({
  blank,
  art,
  placed,
  design,
  mirrored,
  marks = [],
  say,
  large = false,
  bare = false,
  onAnchor,
}: Props) {
  const { body, lines, transform, box } = shapeAt(blank.shape, blank.width, blank.height);
  const pad = 0.03 * Math.max(box[2], box[3]);
  const unit = (Math.max(blank.width, blank.height) / 100) * (large ? 1.5 : 1);
  const ink = contrastOf(blank.hex, '#20242b') > 3 ? '#20242b' : '#f1eada';
  const { left, top } = placed;
  const tap = (event: MouseEvent<SVGRectElement>) => {
    const at = event.currentTarget.getBoundingClientRect();
    const share = (v: number) => Number(Math.max(0, Math.min(1, v)).toFixed(3));
    onAnchor?.({ x: share((event.clientX - at.left) / at.width), y: share((event.clientY - at.top) / at.height) });
  };
  return (
    <svg
      className="blank-sheet"
      viewBox={`${box[0] - pad} ${box[1] - pad} ${box[2] + 2 * pad} ${box[3] + 2 * pad}`}
      role="img"
      aria-label={`${words.jobSize.sums(say(left), '')} ${say(top)}`}
      data-left={left}
      data-top={top}
    >
      <path
        d={body}
        transform={transform}
        fill={blank.hex}
        stroke="var(--ink)"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
        strokeLinejoin="round"
      />
      {lines && (
        <path
          d={lines}
          transform={transform}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <line
        x1={placed.anchor.x}
        x2={placed.anchor.x}
        y1={0}
        y2={blank.height}
        className="centre-line"
        vectorEffect="non-scaling-stroke"
        stroke={ink}
      />
      <g
        transform={`translate(${left} ${top}) scale(${design.width / art.width})${mirrored ? ` translate(${art.width} 0) scale(-1 1)` : ''}`}
      >
        {art.layers.map((l) => (
          <path key={l.id} d={l.d} fill={l.hex} />
        ))}
      </g>
      <Marks
        marks={marks}
        mirrored={mirrored}
        at={{ left, top, ...design }}
        r={Math.min(3 * unit, 0.12 * design.width)}
      />
      {!bare && (
        <Measures blank={blank} placed={placed} design={design} unit={unit} ink={ink} large={large} say={say} />
      )}
      <circle
        cx={placed.anchor.x}
        cy={placed.anchor.y}
        r={1.6 * unit}
        fill="none"
        stroke={ink}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      <rect
        x={left}
        y={top}
        width={design.width}
        height={design.height}
        fill="transparent"
        onClick={tap}
        className={onAnchor ? 'tap' : undefined}
      />
    </svg>
  );
}
