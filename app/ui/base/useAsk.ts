import { useEffect, useState } from 'react';

/**
 * Asks the server for something beside the page, a moment after the last change: what was asked before is given up, and an answer
 * that does not come leaves the page as it is. (A fetcher of the router would put its failure in place of the page.)
 *
 * @param path address of a resource that answers JSON; nothing is asked without one
 * @param pause milliseconds to wait for a further change
 */
export function useAsk<T>(path: string | undefined, pause: number): T | undefined {
  const [answer, setAnswer] = useState<T>();
  useEffect(() => {
    if (path === undefined) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      fetch(path, { signal: stop.signal, headers: { Accept: 'application/json' } })
        .then(async (response) => {
          if (response.ok) setAnswer((await response.json()) as T);
        })
        // Given up, or no connection: the next key asks again.
        .catch(() => undefined);
    }, pause);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [path, pause]);
  return answer;
}
