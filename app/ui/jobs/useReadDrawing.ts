import { useEffect, useRef, useState } from 'react';
import type { ArtworkDone } from '../../../workers/artwork.worker.ts';
import { Refused, Stopped } from '../base/askWorker.ts';
import { askArtwork } from './askArtwork.ts';

/** A drawing that takes no longer than this is read without a word, ms. */
const QUIET = 250;

/** Reads a drawing in a worker before it is used: how far it is, what is wrong with it, and a way to stop. */
export function useReadDrawing() {
  const [share, setShare] = useState<number>();
  const [wrong, setWrong] = useState<string>();
  const stop = useRef<() => void>(undefined);
  useEffect(() => () => stop.current?.(), []);

  /** What was read; undefined where it cannot be used or somebody stopped it, "unread" where the worker failed: the server reads it too. */
  const read = async (svg: string): Promise<ArtworkDone | 'unread' | undefined> => {
    stop.current?.();
    setWrong(undefined);
    const from = performance.now();
    const asked = askArtwork({ read: svg }, (at) => performance.now() - from > QUIET && setShare(at));
    stop.current = asked.stop;
    try {
      return await asked.answer;
    } catch (error) {
      if (error instanceof Refused) setWrong(error.message);
      else if (!(error instanceof Stopped)) return 'unread';
      return undefined;
    } finally {
      setShare(undefined);
      stop.current = undefined;
    }
  };
  return { read, share, wrong, stop: () => stop.current?.() };
}
