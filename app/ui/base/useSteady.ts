import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';

/** How long a question has to be on screen before an answer to it counts, ms: a second tap of a double one comes sooner. */
const READ = { tap: 350, key: 120 };
/** How long it is said that a tap was not taken. */
const TOLD = 4_000;

/**
 * Whether what a tap is about has been on screen long enough to be meant. The page may have gone on to the next question between the eye
 * and the finger: then the tap is told, not obeyed.
 *
 * @param about what is asked now
 * @returns `meant`: whether a tap may be obeyed; `chosen`: to be called when this very person goes to another question, who then knows what is
 *   asked; `told`: whether a tap was just not taken
 */
export function useSteady(about: string): {
  meant: (by?: keyof typeof READ) => boolean;
  chosen: () => void;
  told: boolean;
} {
  const since = useRef<number>(undefined);
  const own = useRef(false);
  const [told, setTold] = useState(0);
  // With the drawing itself: an effect that waits for an idle moment is late for a second tap on a busy device.
  useLayoutEffect(() => {
    // The first question of a page was not changed under anybody's finger.
    since.current = since.current === undefined || own.current ? 0 : performance.now();
    own.current = false;
  }, [about]);
  useEffect(() => {
    if (told === 0) return;
    const over = setTimeout(() => setTold(0), TOLD);
    return () => clearTimeout(over);
  }, [told]);
  const meant = useCallback((by: keyof typeof READ = 'tap') => {
    // When the finger came down, not when a slow device got round to it: by then the next question may stand there for long.
    const at = window.event?.timeStamp ?? performance.now();
    const ok = at - (since.current ?? 0) >= READ[by];
    setTold((n) => (ok ? 0 : n + 1));
    return ok;
  }, []);
  const chosen = useCallback(() => {
    own.current = true;
  }, []);
  return { meant, chosen, told: told > 0 };
}
