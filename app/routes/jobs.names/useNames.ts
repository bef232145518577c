import { useEffect, useState } from 'react';
import type { LetteringAsked, LetteringSaid, NameDrawn } from '../../../workers/lettering.worker.ts';
import { words } from '../../messages/index.ts';
import { filesOf, type FaceKey, type Own } from './faces.ts';

/** After the last key the names are drawn this much later, ms; a font that takes longer than `MOST` is given up. */
const LATER = 350;
const MOST = 15_000;

type Wanted = Omit<LetteringAsked, 'files'> & { face: FaceKey; own: Own | undefined };
type Drawn = { names: NameDrawn[]; wrong?: string };

/** Draws names in a worker of their own whenever what is wanted changes. */
export function useNames(wanted: Wanted): Drawn & { busy: boolean } {
  const [drawn, setDrawn] = useState<Drawn & { of: string }>();
  const { face, own, ...rest } = wanted;
  const key = JSON.stringify([rest, face, own?.name, own?.bytes.byteLength]);
  useEffect(() => {
    let over = false;
    let stop = () => undefined as void;
    const done = (said: Drawn) => !over && setDrawn({ ...said, of: key });
    const wait = setTimeout(() => {
      if (rest.texts.length === 0) return void done({ names: [] });
      void filesOf(face, own).then(
        (files) => {
          if (over) return;
          if (!files) return void done({ names: [] });
          stop = draw({ ...rest, files }, done);
        },
        () => done({ names: [], wrong: words.names.notLoaded }),
      );
    }, LATER);
    return () => {
      over = true;
      clearTimeout(wait);
      stop();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- everything that is wanted is in its key
  }, [key]);
  // While a new list is drawn the one before stays in sight.
  return { names: drawn?.names ?? [], ...(drawn?.wrong ? { wrong: drawn.wrong } : {}), busy: drawn?.of !== key };
}

/** Asks the worker; a font that keeps it too long is given up. @returns what stops it */
function draw(asked: LetteringAsked, done: (said: Drawn) => void): () => void {
  const worker = new Worker(new URL('../../../workers/lettering.worker.ts', import.meta.url), { type: 'module' });
  const end = (said: Drawn) => {
    clearTimeout(late);
    worker.terminate();
    done(said);
  };
  const late = setTimeout(() => end({ names: [], wrong: words.names.tooLong }), MOST);
  worker.onmessage = ({ data }: MessageEvent<LetteringSaid>) =>
    end('wrong' in data ? { names: [], wrong: data.wrong } : data);
  worker.onerror = () => end({ names: [], wrong: words.names.notDrawn });
  worker.postMessage(asked);
  return () => {
    clearTimeout(late);
    worker.terminate();
  };
}
