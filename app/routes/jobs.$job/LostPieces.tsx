import { cutMirrored } from '#core/vinyls/index.ts';
import Button from '@mui/material/Button';
import { useMemo, useState, type MouseEvent } from 'react';
import { filmShapes, nearestShape, type FilmShape } from '#core/artwork/index.ts';
import { jobLimits, type JobEvent, type SheetStep } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { sayPiece } from './sayStep.ts';
import type { Job, JobLayer } from './useSheet.ts';

/** The pieces of film that are gone, and of which drawing they are. */
export type LostShapes = NonNullable<Extract<JobEvent, { kind: 'lost' }>['shapes']>;

/** Pieces whose film lies on one sheet, so that each can be cut again by itself; none where it is cut again already. */
export function sharedBy(job: Job, step: SheetStep, layer: { id: string }): string[] {
  if (step.kind !== 'weed' && step.kind !== 'lift') return [];
  return job.plan.loads.flatMap((l) => l.parts).find((p) => p.id === step.about && p.layer === layer.id)?.pieces ?? [];
}

type Props = {
  job: Job;
  layer: JobLayer;
  /** What is decorated, whose film may be gone. */
  pieces: readonly string[];
  lost: (pieces: string[], shapes: LostShapes | undefined) => void;
  /** Cuts the whole sheet anew; undefined where each piece is cut for itself. */
  anew: (() => void) | undefined;
};

/** Which of several pieces lost some of their film, and which of it, tapped in the picture: that is cut again, everything else goes on. */
export function LostPieces({ job, layer, pieces, lost, anew }: Props) {
  const t = words.jobSheet.wrong;
  const [which, setWhich] = useState<string[]>(pieces.length === 1 ? [...pieces] : []);
  const [gone, setGone] = useState<string[]>([]);
  // Pieces with names of their own have drawings of their own: one at a time.
  const named = job.plan.pieces.some((p) => p.name);
  const at = which.length === 1 ? job.plan.pieces.findIndex((p) => p.id === which[0]) : 0;
  const shape = named
    ? which.length === 1
      ? layer.shapes[layer.shapes.length === 1 ? 0 : at]
      : undefined
    : layer.shapes[0];
  const artwork = (named && job.plan.pieces[at]?.name?.artwork) || job.plan.design!.artwork;
  const all = which.length === pieces.length && anew !== undefined;
  return (
    <div className="lost-pieces">
      {pieces.length > 1 && (
        <>
          <p className="above-8">{t.which}</p>
          <div className="actions" role="group" aria-label={t.which}>
            {pieces.map((id) => (
              <Button
                key={id}
                variant={which.includes(id) ? 'contained' : 'outlined'}
                aria-pressed={which.includes(id)}
                onClick={() => setWhich((w) => (w.includes(id) ? w.filter((o) => o !== id) : [...w, id]))}
              >
                {sayPiece(
                  job,
                  job.plan.pieces.findIndex((p) => p.id === id),
                )}
              </Button>
            ))}
          </div>
        </>
      )}
      {which.length > 0 && shape && (
        <TapLost
          d={shape.d}
          box={shape.box}
          hex={layer.hex}
          mirrored={cutMirrored(layer.lies.cutFrom, job.plan.design!.mirrored)}
          gone={gone}
          onTap={(id) => setGone((g) => (g.includes(id) ? g.filter((o) => o !== id) : [...g, id]))}
        />
      )}
      <div className="actions">
        {gone.length > 0 && (
          <Button
            variant="contained"
            size="large"
            disabled={which.length === 0 || gone.length > jobLimits.shapes}
            onClick={() => lost(which, { artwork, ids: gone })}
            data-testid="cut-these"
          >
            {t.these(gone.length)}
          </Button>
        )}
        <Button
          variant={gone.length > 0 ? 'text' : 'contained'}
          disabled={which.length === 0}
          onClick={() => (all ? anew() : lost(which, undefined))}
          data-remedy="cut for piece"
        >
          {t.again(which.length)}
        </Button>
      </div>
    </div>
  );
}

/** The layer as it lies, its pieces of film to be tapped: the nearest one wins, a second tap takes it back. */
function TapLost({
  d,
  box,
  hex,
  mirrored,
  gone,
  onTap,
}: {
  d: string;
  box: FilmShape['box'];
  hex: string;
  mirrored: boolean;
  gone: readonly string[];
  onTap: (id: string) => void;
}) {
  const t = words.jobSheet.wrong;
  const shapes = useMemo(() => filmShapes({ d }), [d]);
  const pad = Math.max(box.width, box.height) * 0.06;
  const view = { x: box.x - pad, y: box.y - pad, width: box.width + 2 * pad, height: box.height + 2 * pad };
  const tap = (event: MouseEvent<SVGSVGElement>) => {
    const to = event.currentTarget.getScreenCTM()?.inverse();
    if (!to) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(to);
    const hit = nearestShape(shapes, mirrored ? 2 * box.x + box.width - p.x : p.x, p.y);
    if (hit) onTap(hit.id);
  };
  return (
    <>
      <p className="above-16">
        <strong>{t.tapLost}</strong> <span className="quiet">{mirrored ? t.tapMirrored : t.tapAgain}</span>
      </p>
      <svg
        className="tap-lost"
        viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
        onClick={tap}
        role="group"
        aria-label={t.tapLost}
        data-testid="tap-lost"
      >
        <g transform={mirrored ? `translate(${2 * box.x + box.width} 0) scale(-1 1)` : undefined}>
          {shapes.map((s, i) => (
            <path
              key={s.id}
              d={s.d}
              fill={hex}
              className={gone.includes(s.id) ? 'gone' : undefined}
              tabIndex={0}
              role="checkbox"
              aria-checked={gone.includes(s.id)}
              aria-label={t.filmPiece(i + 1)}
              onKeyDown={(e) => {
                if (e.key !== ' ' && e.key !== 'Enter') return;
                e.preventDefault();
                onTap(s.id);
              }}
              data-shape={s.id}
            />
          ))}
          {shapes
            .filter((s) => gone.includes(s.id))
            .map((s) => (
              <circle
                key={s.id}
                cx={s.box.x + s.box.width / 2}
                cy={s.box.y + s.box.height / 2}
                r={Math.max(pad / 2, Math.hypot(s.box.width, s.box.height) / 2 + pad / 6)}
                className="gone-ring"
                vectorEffect="non-scaling-stroke"
              />
            ))}
        </g>
      </svg>
    </>
  );
}
