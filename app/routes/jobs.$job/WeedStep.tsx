import Button from '@mui/material/Button';
import { useState } from 'react';
import { words } from '../../messages/index.ts';
import { Folded } from '../../ui/base/Folded.tsx';
import { PeelArrows } from './PeelArrows.tsx';
import { StepFilm } from './StepFilm.tsx';
import { TrueSize } from './TrueSize.tsx';
import { useScreen } from './useScreen.ts';
import type { StepProps } from './useSheet.ts';
import { useLifted, type Numbered } from './useLifted.ts';

const clock = (s: number) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;

/** The picture as it lies, inner pieces numbered and counted off, a clock that runs only while somebody weeds. */
export function WeedStep({ job, work, step, layer, done, wrong }: StepProps) {
  const t = words.jobSheet.weed;
  const { pieces, all, lifted, toggle, next } = useLifted(job, layer, `${step.id} ${step.attempt}`);
  const [full, setFull] = useState(false);
  const screen = useScreen();
  const [size, setSize] = useState<'fits' | 'true' | 'measure'>('fits');
  const ways = layer.shapes.some((s) => s.hints.length > 0);
  const tap = (kind: 'start' | 'pause') => work.say({ kind, step: step.id, attempt: step.attempt });
  return (
    <div className={full ? 'weed-map full' : 'weed-map'}>
      {size === 'measure' && (
        <TrueSize
          onMeasured={(px) => {
            screen.measure(px);
            setSize('true');
          }}
        />
      )}
      <StepFilm
        job={job}
        step={step}
        layer={layer}
        shows={layer.stencil ? 'round it stays' : 'stays'}
        says={t.lies}
        pxPerMm={size === 'true' ? screen.pxPerMm : undefined}
        over={
          <>
            {!layer.stencil && <PeelArrows job={job} layer={layer} />}
            {(layer.stencil ? [] : pieces).map((p) => (
              <InnerNumber key={p.n} piece={p} off={lifted.has(p.n)} next={p.n === next} onTap={() => toggle(p.n)} />
            ))}
          </>
        }
      />
      <Hands layer={layer} />
      <p className="quiet">{layer.stencil ? t.stencil : `${t.lies} ${all > 0 ? t.order : ''} ${ways ? t.ways : ''}`}</p>
      {layer.stencil ? null : all > 0 ? (
        <p className="big-line">
          <span className="big wordy" data-testid="holes">
            {t.holes(lifted.size, all)}
          </span>
          <Button onClick={() => next !== undefined && toggle(next)} disabled={next === undefined}>
            {t.one}
          </Button>
        </p>
      ) : (
        <p>{t.none}</p>
      )}
      <div className="line-up">
        <Button variant="text" onClick={() => setFull(!full)} aria-pressed={full}>
          {full ? t.small : t.full}
        </Button>
        <Button
          variant="text"
          aria-pressed={size === 'true'}
          onClick={() => setSize(size === 'true' ? 'fits' : screen.pxPerMm === undefined ? 'measure' : 'true')}
          data-testid="true-size"
        >
          {size === 'true' ? t.screen.fit : t.screen.show}
        </Button>
        {size === 'true' && (
          <Button variant="text" onClick={() => setSize('measure')}>
            {t.screen.again}
          </Button>
        )}
      </div>
      <Folded summary={t.mishap.title}>
        {() => (
          <>
            <ul>
              {t.mishap.says.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            <Button onClick={() => wrong('tears')}>{t.mishap.tears}</Button>
          </>
        )}
      </Folded>
      <div className="actions">
        {step.since ? (
          <Button onClick={() => tap('pause')}>
            {t.pause} · {clock(step.seconds)}
          </Button>
        ) : (
          <Button onClick={() => tap('start')}>
            {t.start}
            {step.seconds > 0 && ` · ${t.time(clock(step.seconds))}`}
          </Button>
        )}
        <Button variant="contained" onClick={done}>
          {t.button}
        </Button>
      </div>
    </div>
  );
}

/** What these hands do while they weed: on the mat or off it, the carrier wide or close. */
function Hands({ layer: { hands } }: Pick<StepProps, 'layer'>) {
  const t = words.jobSheet.weed.hands;
  const says = [
    hands.weeding && t.weeding[hands.weeding as keyof typeof t.weeding],
    hands.margin && t.margin[hands.margin as keyof typeof t.margin],
  ].filter(Boolean);
  return says.length > 0 ? <p data-testid="weed-hands">{says.join(' ')}</p> : null;
}

/** The number of an inner piece on the film; tapped, it is counted off. */
function InnerNumber({ piece, off, next, onTap }: { piece: Numbered; off: boolean; next: boolean; onTap: () => void }) {
  return (
    <g
      className={['inner', off ? 'off' : '', next ? 'next' : ''].filter(Boolean).join(' ')}
      role="button"
      aria-label={words.jobSheet.weed.piece(piece.n)}
      aria-pressed={off}
      transform={`translate(${piece.x} ${piece.y}) scale(${piece.r / 10})`}
      onClick={onTap}
      data-inner={piece.n}
    >
      <circle r={10} />
      <text fontSize={11} textAnchor="middle" dominantBaseline="central">
        {off ? '✓' : piece.n}
      </text>
    </g>
  );
}
