import type { ReactNode } from 'react';
import type { FilmPiece } from '#core/job/index.ts';
import { contrastOf } from '#core/vinyls/index.ts';

/** Outlines with the box round them, in units of a drawing, and how many µm a unit is. */
type Shape = { d: string; box: { x: number; y: number; width: number; height: number }; scale: number };
type Props = {
  film: FilmPiece;
  /** What the copies show: one for all, or one for each. */
  shapes: readonly Shape[];
  hex: string;
  mirrored: boolean;
  mat?: { width: number } | undefined;
  /** How many test marks are cut where there is a place for them. */
  marks?: number;
  /** Filled as it stays, or only its lines; of a stencil what is round the design stays. */
  shows: 'lines' | 'stays' | 'round it stays';
  label: string;
  /** Drawn over it, µm from the left top corner of the film. */
  over?: ReactNode;
  /** As large as it is: so many pixels of this screen are a millimetre. */
  pxPerMm?: number | undefined;
  say: (um: number) => string;
};

/** Where the test mark is cut: a row of small frames with their figures. */
function MarkBox({ box, line, marks }: { box: { x: number; y: number; height: number }; line: string; marks: number }) {
  const [side, free] = [box.height / 2, box.height / 8];
  return (
    <g stroke={line} fill="none" strokeWidth={1}>
      {Array.from({ length: marks }, (_, i) => (
        <g key={i} transform={`translate(${box.x + free + i * (side + free)} ${box.y + free})`}>
          <rect width={side} height={side} vectorEffect="non-scaling-stroke" />
          <circle cx={side / 2} cy={side / 2} r={side / 4} vectorEffect="non-scaling-stroke" />
        </g>
      ))}
    </g>
  );
}

/** A piece of film as it lies on the mat: what is cut in it, how large it is. µm. */
export function FilmDrawing({ film, shapes, hex, mirrored, mat, marks = 1, shows, label, over, pxPerMm, say }: Props) {
  // On its mat it lies as it goes under the blade.
  const turned = mat !== undefined && film.turned;
  const [across, along] = turned ? [film.height, film.width] : [film.width, film.height];
  const width = Math.max(across, mat?.width ?? 0);
  const height = mat ? Math.max(along * 1.12, width * 0.45) : along;
  // A tall film is drawn small: its figures stay as large as the text round them.
  const unit = Math.max(width, 0.6 * height) / 100;
  const wide = width + (mat ? 4 : 19) * unit;
  const copies = film.copies.map(({ x, y }, i) => {
    const { d, box, scale } = shapes[shapes.length === 1 ? 0 : i]!;
    const at = mirrored
      ? `translate(${x + box.width * scale} ${y}) scale(${-scale} ${scale})`
      : `translate(${x} ${y}) scale(${scale})`;
    return { d, transform: `${at} translate(${-box.x} ${-box.y})` };
  });
  const hatch = `hatch-${shows.replaceAll(' ', '-')}`;
  const waste = `url(#${hatch})`;
  // Lines that can be seen on the film, whatever its colour.
  const line = shows !== 'lines' ? 'var(--ink)' : contrastOf(hex, '#20242b') > 3 ? '#20242b' : '#f1eada';
  return (
    <svg
      className="film"
      viewBox={`${-2 * unit} ${-2 * unit} ${wide} ${height + (mat ? 4 : 10) * unit}`}
      style={
        pxPerMm === undefined ? undefined : { width: (wide / 1000) * pxPerMm, maxWidth: 'none', maxHeight: 'none' }
      }
      role={over ? 'group' : 'img'}
      aria-label={label}
    >
      <defs>
        <pattern
          id={hatch}
          width={2.2 * unit}
          height={2.2 * unit}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width={2.2 * unit} height={2.2 * unit} fill="var(--ground)" />
          <line x1={0} y1={0} x2={0} y2={2.2 * unit} stroke="var(--muted)" strokeWidth={0.5 * unit} />
        </pattern>
      </defs>
      {mat && <rect x={0} y={0} width={width} height={height} rx={2 * unit} className="mat-ground" />}
      <g transform={turned ? `translate(${film.height} 0) rotate(90)` : undefined}>
        <rect
          x={0}
          y={0}
          width={film.width}
          height={film.height}
          fill={shows === 'stays' ? waste : hex}
          stroke="var(--ink)"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
        {copies.map(({ d, transform }, i) => (
          <path
            key={i}
            d={d}
            transform={transform}
            fill={shows === 'stays' ? hex : shows === 'lines' ? 'none' : waste}
            stroke={line}
            strokeWidth={1.4}
            vectorEffect="non-scaling-stroke"
            className={shows === 'lines' ? 'cut-lines' : undefined}
          />
        ))}
        {film.frame && (
          <rect {...film.frame} fill="none" stroke={line} strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
        )}
        {film.lines && (
          <path
            className="waste-lines"
            d={film.lines.map(([[a, b], [c, e]]) => `M${a} ${b}L${c} ${e}`).join('')}
            fill="none"
            stroke={line}
            strokeWidth={1.2}
            strokeDasharray="6 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {film.test && (
          <rect
            {...film.test}
            fill="none"
            stroke={line}
            strokeWidth={1.2}
            strokeDasharray="3 3"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {film.mark && <MarkBox box={film.mark} line={line} marks={marks} />}
        {over}
      </g>
      {!mat && (
        <g className="measure" fontSize={3.4 * unit} fill="var(--ink)">
          <text x={film.width / 2} y={film.height + 5 * unit} textAnchor="middle">
            {say(film.width)}
          </text>
          <text x={film.width + 2 * unit} y={film.height / 2}>
            {say(film.height)}
          </text>
        </g>
      )}
    </svg>
  );
}
