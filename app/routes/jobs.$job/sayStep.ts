import { pressId, recutLoad, type SheetStep } from '#core/job/index.ts';
import { shapes } from '#core/place/index.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
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

/** Layers that are pressed at once, in words. */
export const layersWord = (job: Job, ids: readonly string[]): string =>
  ids.map((id) => layerWord(job, id)).join(words.jobSheet.and);

/** What a piece is called: by the name on it, else by its place; what it is where there is one only. */
export function sayPiece(job: Job, at: number): string {
  const { pieces, blank } = job.plan;
  return (
    pieces[at]?.name?.says ??
    (pieces.length > 1 ? `${shapes[blank.shape].word} ${at + 1}` : `the ${shapes[blank.shape].word}`)
  );
}

/** A step in a few words: "Trim navy", "Press coral, piece 2 of 6". */
export function sayStep(job: Job, step: SheetStep): string {
  const t = words.jobSheet;
  if (step.kind === 'press') {
    const { does, layers } = job.press[step.press!]!;
    const piece = pieceOf(job, step);
    const said =
      does === 'layer' || does === 'raise'
        ? t.press[does](layersWord(job, layers))
        : does === 'backing off'
          ? t.backing(layersWord(job, layers))
          : t.press[does];
    return `${said}${whose(job, piece)}`;
  }
  if (step.kind === 'apply') {
    const { what, layers, says, byHand } = job.press[step.press!]!;
    if (byHand) return `${t.backing(layersWord(job, layers))}${whose(job, pieceOf(job, step))}`;
    const does = what.replace('apply ', '');
    const said = does in t.apply ? t.apply[does as keyof typeof t.apply](layersWord(job, layers)) : isolate(says[0]!);
    return `${said}${whose(job, pieceOf(job, step))}`;
  }
  if (step.kind === 'wash')
    return t.kinds.wash(
      `${job.name}${whose(
        job,
        job.plan.pieces.findIndex((p) => p.id === step.about),
      )}`,
    );
  const part = layerOfStep(job, step);
  const which = part?.again ? t.again : part?.round ? t.round(part.round.at, part.round.of) : '';
  return `${t.kinds[step.kind](layerWord(job, step.layer))}${which}`;
}

/** The layer a step is about, as it is cut there: a round of it, or what was lost and is cut again; undefined where it is about the blank. */
export function layerOfStep(job: Job, step: SheetStep): Job['layers'][number] | undefined {
  const load = job.plan.loads.find((l) => l.id === step.about);
  const about = load?.parts[0]?.id ?? step.about;
  return (
    job.parts.find((l) => l.part === about || recutLoad(l.part) === about) ??
    job.layers.find((l) => l.id === step.layer)
  );
}

/** Which of several pieces: by the name on it, where it has one. */
function whose(job: Job, piece: number): string {
  const { pieces } = job.plan;
  const name = pieces[piece]?.name?.says;
  return name ? words.names.piece(name) : words.jobSheet.piece(piece + 1, pieces.length);
}

/** Whether a step is the last at the press: what is laid by hand comes after it. */
export const isLastPress = (job: Job, at: number): boolean => !job.press.slice(at + 1).some((p) => p.kind === 'press');

/** The place of the piece that a step at the press is about. */
export const pieceOf = (job: Job, step: SheetStep): number =>
  job.plan.pieces.findIndex((p) => pressId(p.id, job.press[step.press!]!.what) === step.about);
