import { useEffect, useState } from 'react';
import type { ArtworkAsked, ArtworkDone } from '../../../workers/artwork.worker.ts';
import { askArtwork } from '../../ui/jobs/askArtwork.ts';

/** After the size was dragged the worker is asked this much later, ms. */
const LATER = 400;

/**
 * What the worker says of a drawing at a size; undefined until it is worked out, and where it cannot be.
 * @param asked nothing is asked while it is undefined
 * @param of what the answer holds for: another asks anew
 */
export function useAsked(asked: ArtworkAsked | undefined, of: readonly unknown[]): ArtworkDone | undefined {
  const [found, setFound] = useState<{ of: readonly unknown[]; done: ArtworkDone }>();
  useEffect(() => {
    let stop = () => undefined as void;
    if (!asked) return;
    const wait = setTimeout(() => {
      const running = askArtwork(asked);
      stop = running.stop;
      running.answer.then(
        (done) => setFound({ of, done }),
        () => undefined,
      );
    }, LATER);
    return () => {
      clearTimeout(wait);
      stop();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it holds for says when to ask
  }, [...of, asked === undefined]);
  return asked && found && found.of.every((o, i) => o === of[i]) ? found.done : undefined;
}
