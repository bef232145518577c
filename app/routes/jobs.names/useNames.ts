import { useEffect, useState } from 'react';
import type { LetteringAsked, LetteringSaid, NameDrawn } from '../../../workers/lettering.worker.ts';
import { words } from '../../messages/index.ts';
import { askWorker, Refused, TooLong } from '../../ui/base/askWorker.ts';
import { filesOf, type FaceKey, type Own } from './faces.ts';

/** After the last key the names are drawn this much later, ms; a font that takes longer than `MOST` is given up. */
const LATER = 350;
const MOST = 15_000;

type Wanted = Omit<LetteringAsked, 'files'> & { face: FaceKey; own: Own | undefined };
type Drawn = { names: NameDrawn[]; wrong?: string };

const wrongOf = (error: unknown): string =>
  error instanceof Refused ? error.message : error instanceof TooLong ? words.names.tooLong : words.names.notDrawn;

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
          const asked = ask({ ...rest, files });
          stop = asked.stop;
          asked.answer.then(
            (names) => done({ names }),
            (error: unknown) => done({ names: [], wrong: wrongOf(error) }),
          );
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

/** Asks the worker; a font that keeps it too long is given up. */
function ask(asked: LetteringAsked) {
  const worker = new Worker(new URL('../../../workers/lettering.worker.ts', import.meta.url), { type: 'module' });
  return askWorker<LetteringSaid, NameDrawn[]>(
    worker,
    asked,
    (said) => ('wrong' in said ? said : { done: said.names }),
    MOST,
  );
}
