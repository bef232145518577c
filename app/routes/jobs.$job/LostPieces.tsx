import Button from '@mui/material/Button';
import { useState } from 'react';
import type { SheetStep } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { sayPiece } from './sayStep.ts';
import type { Job } from './useSheet.ts';

/** Pieces whose film lies on one sheet, so that each can be cut again by itself; none where it is cut again already. */
export function sharedBy(job: Job, step: SheetStep, layer: { id: string }): string[] {
  if (step.kind !== 'weed' && step.kind !== 'lift') return [];
  return job.plan.loads.flatMap((l) => l.parts).find((p) => p.id === step.about && p.layer === layer.id)?.pieces ?? [];
}

/** Which of several pieces lost some of their film: those are cut again, the others go on. */
export function LostPieces({
  job,
  pieces,
  lost,
}: {
  job: Job;
  pieces: readonly string[];
  lost: (pieces: string[]) => void;
}) {
  const t = words.jobSheet.wrong;
  const [which, setWhich] = useState<string[]>([]);
  return (
    <div className="lost-pieces">
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
      <Button
        variant="contained"
        disabled={which.length === 0 || which.length === pieces.length}
        onClick={() => lost(which)}
        data-remedy="cut for piece"
      >
        {t.again(which.length)}
      </Button>
      {which.length === pieces.length && <p className="quiet">{t.allLost}</p>}
    </div>
  );
}
