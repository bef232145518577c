import Button from '@mui/material/Button';
import { useEffect, useState, type ReactNode } from 'react';
import type { Artwork, ArtLayer } from '#core/artwork/index.ts';
import { contrastOf } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { MOST_MARKS, type Mark } from './marks.ts';
import { useView } from './useView.ts';

type Shown = Pick<ArtLayer, 'id' | 'd' | 'hex'> & {
  /** How far its edge moves outward in the press, in units of the drawing. */
  growth: number;
  /** What its film may look like on the blank, from one side to the other; one colour where it always looks alike. */
  range: readonly string[];
};
type Props = {
  artwork: Pick<Artwork, 'width' | 'height'>;
  layers: readonly Shown[];
  marks: readonly Mark[];
  mark: number | undefined;
  onMark: (n: number) => void;
  /** The colour of the blank. */
  ground: string;
  onGround: (hex: string) => void;
  name: string;
  /** Lines through the waste of one layer, in units of the drawing: the others step back. */
  strips?: { layer: string; d: string } | undefined;
  /** Somebody is to tap a place of the drawing: shares of its width and height. */
  onPlace?: ((x: number, y: number) => void) | undefined;
  /** What can be done with the whole drawing. */
  children: ReactNode;
};
type Look = keyof typeof words.check.looks;

/** The drawing on the blank's colour, as it is cut, weeded, as it lies, or grown; with what is wrong marked by numbers. */
export function Stage({
  artwork,
  layers,
  marks,
  mark,
  onMark,
  ground: hex,
  onGround,
  name,
  strips,
  onPlace,
  children,
}: Props) {
  const t = words.check;
  const [look, setLook] = useState<Look>('weeded');
  const { width, height } = artwork;
  const view = useView(width, height);
  const { lookAt } = view;
  const chosen = marks.find((m) => m.n === mark);
  useEffect(() => {
    if (chosen) lookAt(chosen.x * width, chosen.y * height);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only another mark moves the view
  }, [mark]);
  const ink = contrastOf(hex, '#20242b') > 3 ? '#20242b' : '#f1eada';
  const grows = layers.some((l) => l.growth > 0);
  const r = 0.017 * view.w;
  return (
    <div className="stage">
      <svg
        ref={view.stage}
        className="stage-art"
        viewBox={view.box}
        style={{ background: hex }}
        role="group"
        aria-label={t.stage(name)}
        tabIndex={0}
        data-look={look}
        data-taps={onPlace ? true : undefined}
        {...view.hands}
        onClick={(e) => {
          if (!onPlace || view.moved()) return;
          const at = view.placeOf(e.clientX, e.clientY);
          onPlace(look === 'lies' ? 1 - at.x / width : at.x / width, at.y / height);
        }}
      >
        <RangeDefs layers={layers} />
        <g transform={look === 'lies' ? `translate(${width} 0) scale(-1 1)` : undefined}>
          {layers.map((l) => (
            <path
              key={l.id}
              d={l.d}
              opacity={strips && strips.layer !== l.id ? 0.12 : undefined}
              fill={look === 'lines' ? 'none' : l.range.length > 1 ? `url(#range-${l.id})` : l.hex}
              stroke={look === 'lines' ? ink : look === 'grown' && l.growth > 0 ? l.hex : 'none'}
              strokeWidth={look === 'lines' ? 1.3 : 2 * l.growth}
              strokeLinejoin="round"
              vectorEffect={look === 'lines' ? 'non-scaling-stroke' : undefined}
            />
          ))}
          {strips && (
            <path
              className="waste-lines"
              d={strips.d}
              fill="none"
              stroke={ink}
              strokeWidth={1.5}
              strokeDasharray="7 4"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </g>
        {marks.slice(0, MOST_MARKS).map((m) => (
          <MarkDot
            key={m.n}
            mark={m}
            x={(look === 'lies' ? 1 - m.x : m.x) * width}
            y={m.y * height}
            r={r}
            chosen={m.n === mark}
            onMark={onMark}
          />
        ))}
      </svg>
      <div className="stage-bar">
        <div className="two-ways" role="group" aria-label={t.look}>
          {(Object.keys(t.looks) as Look[])
            .filter((l) => l !== 'grown' || grows)
            .map((l) => (
              <button key={l} type="button" aria-pressed={l === look} onClick={() => setLook(l)}>
                {t.looks[l]}
              </button>
            ))}
        </div>
        <span className="stage-zoom">
          <Button variant="text" onClick={view.zoomOut} aria-label={t.further}>
            −
          </Button>
          <Button variant="text" onClick={view.all}>
            {t.whole}
          </Button>
          <Button variant="text" onClick={view.zoomIn} aria-label={t.nearer}>
            +
          </Button>
        </span>
        <label className="line-up small">
          {t.ground} <input type="color" value={hex} onChange={(e) => onGround(e.target.value)} />
        </label>
      </div>
      {children}
    </div>
  );
}

/** Colours of films that have no one look, from one side to the other. */
function RangeDefs({ layers }: Pick<Props, 'layers'>) {
  return (
    <defs>
      {layers.map(
        (l) =>
          l.range.length > 1 && (
            <linearGradient key={l.id} id={`range-${l.id}`} x1="0" y1="0" x2="1" y2="0.6">
              {l.range.map((h, i) => (
                <stop key={i} offset={i / (l.range.length - 1)} stopColor={h} />
              ))}
            </linearGradient>
          ),
      )}
    </defs>
  );
}

/** A numbered mark beside its place: the place itself stays in sight. */
function MarkDot({
  mark,
  x,
  y,
  r,
  chosen,
  onMark,
}: {
  mark: Mark;
  x: number;
  y: number;
  r: number;
  chosen: boolean;
  onMark: (n: number) => void;
}) {
  const t = words.check;
  return (
    <g
      className={['stage-mark', mark.fault ? '' : 'care', chosen ? 'chosen' : ''].filter(Boolean).join(' ')}
      role="button"
      aria-label={t.markLabel(mark.n)}
      aria-pressed={chosen}
      data-mark={mark.n}
      onClick={() => onMark(mark.n)}
    >
      {/* Drawn small and scaled: a browser knows no letters ten thousand units high. */}
      <g transform={`translate(${x} ${y}) scale(${r / 10})`}>
        <circle className="place" r={4.2} strokeWidth={2.5} vectorEffect="non-scaling-stroke" />
        <path d="M4-4L13-13" strokeWidth={2} vectorEffect="non-scaling-stroke" />
        <circle className="tag" cx={20} cy={-20} r={12} strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
        <text x={20} y={-20} fontSize={13.5} textAnchor="middle" dominantBaseline="central">
          {mark.n}
        </text>
      </g>
    </g>
  );
}
