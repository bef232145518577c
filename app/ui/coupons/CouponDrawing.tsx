import { useId, type KeyboardEvent } from 'react';
import type { CouponSheet, Path } from '#core/coupon/index.ts';
import { pathData } from '#core/coupon/index.ts';
import type { Grade } from '#core/grades/index.ts';
import { gradeFill, GradePatterns } from '../base/grades.tsx';

type DrawnCell = { number: number; shown: string; grade?: Grade | undefined; done?: boolean; word?: string };

type Props = {
  sheet: CouponSheet;
  cells: DrawnCell[];
  hex: string;
  /** Show it from the other side than it lies. */
  turned?: boolean;
  current?: number | undefined;
  onPick?: (number: number) => void;
  label: string;
};

/** A cell as it looks with this grade: what has come away, what hangs, what the blade did to the carrier. */
function Weeded({
  paths,
  grade,
  hex,
  x,
  y,
  side,
  prefix,
}: {
  paths: Path[];
  grade: Grade | undefined;
  hex: string;
  x: number;
  y: number;
  side: number;
  prefix: string;
}) {
  // The last four paths of a cell are hole, bar, body and frame, in this order.
  const [hole, bar, body] = paths.slice(-4);
  const d = (p: Path | undefined) => (p ? pathData(p) : '');
  const carrier = '#f8f4ea';
  const line = { fill: 'none', stroke: '#20242b', strokeOpacity: 0.45, strokeWidth: 130 };
  const at = (fx: number, fy: number) => `${x + side * fx} ${y + side * fy}`;
  if (grade === undefined || grade === 'uncut')
    return (
      <>
        <rect x={x} y={y} width={side} height={side} fill={hex} />
        <path d={`${d(hole)}${d(bar)}${d(body)}`} {...line} />
      </>
    );
  return (
    <>
      <rect x={x} y={y} width={side} height={side} fill={carrier} />
      {grade === 'through' ? (
        // What falls out leaves the mat to be seen.
        <path d={`${d(body)}${d(bar)}`} fill={`url(#${prefix}-through)`} stroke="#7c2a18" strokeWidth="160" />
      ) : (
        <>
          <path
            d={`${d(body)}${d(hole)}`}
            fill={hex}
            fillRule="evenodd"
            stroke="#20242b"
            strokeOpacity="0.25"
            strokeWidth="80"
          />
          <path d={d(bar)} fill={hex} stroke="#20242b" strokeOpacity="0.25" strokeWidth="80" />
        </>
      )}
      {grade === 'hangs' && (
        // Waste that lifts but holds on at corners, in the hole and in the gap.
        <>
          <path
            d={`M${at(0, 0)}L${at(1, 0)}L${at(1, 0.34)}L${at(0.72, 0.2)}L${at(0.3, 0.26)}L${at(0, 0.42)}Z`}
            fill={hex}
            fillOpacity="0.82"
          />
          <path d={`M${at(0.56, 1)}L${at(0.86, 0.76)}L${at(1, 0.86)}L${at(1, 1)}Z`} fill={hex} fillOpacity="0.82" />
          <path d={d(hole)} fill={hex} />
        </>
      )}
      {grade === 'scored' && (
        <>
          <path d={`${d(body)}${d(bar)}`} fill="none" stroke="#b5781a" strokeWidth="420" strokeDasharray="520 300" />
          <path
            d={`M${at(0.06, 0.93)}Q${at(0.5, 0.985)} ${at(0.94, 0.93)}`}
            fill="none"
            stroke="#b5781a"
            strokeWidth="300"
          />
        </>
      )}
    </>
  );
}

/**
 * The coupon to scale, the way it lies on the mat (mirrored when it lies mirrored), with each cell's number, strength and
 * what its grade looks like. The words below the cells always read right.
 */
export function CouponDrawing({ sheet, cells, hex, turned = false, current, onPick, label }: Props) {
  const id = useId();
  // Long names take a line of their own.
  const wordy = cells.some((c) => c.shown.length > 6);
  const extra = wordy ? 2_000 : 0;
  const band = 4_500 + extra;
  const rows = Math.ceil(sheet.cells.length / sheet.columns);
  // Words need more room than the cut number: rows are moved apart, nothing else is changed.
  const row = (i: number) => Math.floor(i / sheet.columns);
  const drop = (i: number) => row(i) * (900 + extra);
  const height = sheet.height + (rows - 1) * (900 + extra) + extra;
  return (
    <svg
      className="sheet-drawing"
      viewBox={`0 0 ${sheet.width} ${height}`}
      role={onPick ? 'group' : 'img'}
      aria-label={label}
    >
      <GradePatterns prefix={id} />
      <rect width={sheet.width} height={height} fill="var(--mat)" stroke="var(--rule)" strokeWidth="120" />
      {sheet.cells.map((cell, i) => {
        const drawn = cells.find((c) => c.number === cell.number);
        const x = turned ? sheet.width - cell.x - sheet.frame : cell.x;
        const here = current === cell.number;
        // The name holds what is seen, in its order.
        const said = ['cell', cell.number, drawn?.shown, drawn?.word ?? drawn?.grade]
          .filter((w) => w !== undefined)
          .join(' ');
        return (
          <g
            key={cell.number}
            className={onPick ? 'cell-button' : undefined}
            data-cell={cell.number}
            data-grade={drawn?.grade ?? ''}
            transform={`translate(0 ${drop(i)})`}
            {...(onPick
              ? {
                  role: 'button',
                  'aria-label': said,
                  'aria-pressed': here,
                  onClick: () => onPick(cell.number),
                  tabIndex: 0,
                  onKeyDown: (e: KeyboardEvent) => {
                    if (e.key !== 'Enter' && e.key !== ' ') return;
                    e.preventDefault();
                    onPick(cell.number);
                  },
                }
              : {})}
          >
            <rect
              x={x - 800}
              y={cell.y - 800}
              width={sheet.frame + 1_600}
              height={sheet.frame + band}
              rx="700"
              fill={here ? 'var(--sheet)' : 'transparent'}
              stroke={here ? 'var(--action)' : 'none'}
              strokeWidth="260"
            />
            <g
              transform={turned ? `translate(${sheet.width} 0) scale(-1 1)` : undefined}
              opacity={drawn?.done === false ? 0.55 : 1}
            >
              <Weeded
                paths={cell.paths}
                grade={drawn?.grade}
                hex={hex}
                x={cell.x}
                y={cell.y}
                side={sheet.frame}
                prefix={id}
              />
            </g>
            <rect
              x={x}
              y={cell.y}
              width={sheet.frame}
              height={sheet.frame}
              fill="none"
              stroke={drawn?.grade === 'scored' ? '#b5781a' : 'var(--edge)'}
              strokeWidth={drawn?.grade === 'scored' ? 240 : 90}
            />
            <text x={x} y={cell.y + sheet.frame + 2_300} fontSize="1750" fontWeight="800" fill="var(--ink)">
              {`${cell.number} `}
            </text>
            <text
              x={wordy ? x : x + (cell.number > 9 ? 2_700 : 1_700)}
              y={cell.y + sheet.frame + 2_300 + extra}
              fontSize={wordy ? 1_500 : 1_600}
              fill="var(--muted)"
            >
              {`${drawn?.shown ?? ''} `}
            </text>
            <text
              x={x + sheet.frame}
              y={cell.y + sheet.frame + 2_300}
              fontSize="1600"
              fontWeight="700"
              textAnchor="end"
              fill="var(--ink)"
            >
              {drawn?.word ?? drawn?.grade ?? ''}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A patch of a grade's colour and texture, for the answers. */
export function GradePatch({ grade }: { grade: Grade }) {
  const id = useId();
  return (
    <svg width="44" viewBox="0 0 44 60" preserveAspectRatio="xMidYMid slice" aria-hidden="true">
      <GradePatterns prefix={id} />
      <rect width="44" height="60" fill={gradeFill(id, grade)} />
    </svg>
  );
}
