import { pressId, type SheetStep } from '#core/job/index.ts';
import { words } from '../../messages/index.ts';
import { vinylName } from '../../ui/vinyls/vinylName.ts';
import type { Job } from './useSheet.ts';

/** What a layer is called at the bench: its colour, and the vinyl where two layers have the same. */
export function layerWord(job: Job, id: string | undefined): string {
  const layer = job.layers.find((l) => l.id === id);
  if (!layer) return '';
  const colour = layer.vinyl.colour?.name;
  const alike = job.layers.filter((l) => l.vinyl.colour?.name === colour).length > 1;
  return colour && !alike ? colour : [vinylName(layer.vinyl), colour].filter(Boolean).join(', ');
}

/** A step in a few words: "Trim navy", "Press coral, piece 2 of 6". */
export function sayStep(job: Job, step: SheetStep): string {
  const t = words.jobSheet;
  if (step.kind === 'press') {
    const { does } = job.press[step.press!]!;
    const piece = pieceOf(job, step);
    const said = does === 'layer' || does === 'raise' ? t.press[does](layerWord(job, step.layer)) : t.press[does];
    return `${said}${whose(job, piece)}`;
  }
  if (step.kind === 'wash')
    return t.kinds.wash(
      `${job.name}${whose(
        job,
        job.plan.pieces.findIndex((p) => p.id === step.about),
      )}`,
    );
  return t.kinds[step.kind](layerWord(job, step.layer));
}

/** Which of several pieces: by the name on it, where it has one. */
function whose(job: Job, piece: number): string {
  const { pieces } = job.plan;
  const name = pieces[piece]?.name?.says;
  return name ? words.names.piece(name) : words.jobSheet.piece(piece + 1, pieces.length);
}

/** The place of the piece that a step at the press is about. */
export const pieceOf = (job: Job, step: SheetStep): number =>
  job.plan.pieces.findIndex((p) => pressId(p.id, job.press[step.press!]!.what) === step.about);
