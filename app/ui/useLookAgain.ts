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
    const look = () => {
      if (document.visibilityState === 'visible' && idle.current) void revalidate();
    };
    const timer = every === undefined ? undefined : setInterval(look, every);
    document.addEventListener('visibilitychange', look);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, [every, revalidate]);
}
