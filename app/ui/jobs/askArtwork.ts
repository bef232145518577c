import type { ArtworkAsked, ArtworkDone, ArtworkSaid } from '../../../workers/artwork.worker.ts';

/** What the worker found wrong with a drawing, in one line. */
export class WrongDrawing extends Error {}
/** Somebody stopped it. */
export class Stopped extends Error {}

/** Asks something of a drawing in a worker of its own. */
export function askArtwork(
  asked: ArtworkAsked,
  onShare: (share: number) => void = () => undefined,
): { answer: Promise<ArtworkDone>; stop: () => void } {
  const worker = new Worker(new URL('../../../workers/artwork.worker.ts', import.meta.url), { type: 'module' });
  let stop = () => undefined as void;
  const answer = new Promise<ArtworkDone>((done, failed) => {
    stop = () => failed(new Stopped());
    worker.onmessage = ({ data }: MessageEvent<ArtworkSaid>) => {
      if ('share' in data) onShare(data.share);
      else if ('wrong' in data) failed(new WrongDrawing(`${data.wrong}.`));
      else done(data.done);
    };
    worker.onerror = (event) => failed(new Error(event.message));
    worker.postMessage(asked);
  }).finally(() => worker.terminate());
  return { answer, stop };
}
