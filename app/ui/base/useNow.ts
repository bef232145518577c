import { useEffect, useState } from 'react';

/** The time, ms since 1970, looked at again while something runs. On the server, and where nothing runs, the moment of the first look. */
export function useNow(runs: boolean, every = 250): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!runs) return;
    const look = () => setNow(Date.now());
    look();
    const timer = setInterval(look, every);
    document.addEventListener('visibilitychange', look);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, [every, runs]);
  return now;
}
