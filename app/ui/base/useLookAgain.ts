import { useEffect, useRef } from 'react';
import { useRevalidator } from 'react-router';

/**
 * Asks the server again every so often, and when the page is looked at again: what a cutter or another device does shows by
 * itself. Nothing is asked while the page is hidden.
 * @param every milliseconds; undefined asks only when the page is looked at again
 */
export function useLookAgain(every: number | undefined): void {
  const { revalidate, state } = useRevalidator();
  const idle = useRef(true);
  useEffect(() => {
    idle.current = state === 'idle';
  }, [state]);
  useEffect(() => {
    let gone = false;
    const look = async () => {
      if (document.visibilityState !== 'visible' || !idle.current) return;
      // A question that fails would take the page away from under the hands: first see whether anybody is there.
      const there = await fetch('/health', { signal: AbortSignal.timeout(3_000) }).then(
        (answer) => answer.ok,
        () => false,
      );
      if (there && !gone && idle.current) void revalidate();
    };
    const ask = () => void look();
    const timer = every === undefined ? undefined : setInterval(ask, every);
    document.addEventListener('visibilitychange', ask);
    return () => {
      gone = true;
      clearInterval(timer);
      document.removeEventListener('visibilitychange', ask);
    };
  }, [every, revalidate]);
}
