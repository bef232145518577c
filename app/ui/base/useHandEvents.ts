import { useEffect, useMemo, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { useOutbox, type EventsAbout } from './outbox.tsx';

/**
 * What hands said on this device about these cells or jobs and the loader has not told yet: everything in the outbox, and what was sent since
 * the page was loaded. Repeats do no harm, as events are told apart by id.
 *
 * @param about what events name: a cell of a cut, or a job
 * @param ids which of them
 * @param follows whether the page asks what followed, once all of it has arrived
 */
export function useHandEvents<A extends keyof EventsAbout>(
  about: A,
  ids: readonly string[],
  follows = false,
): EventsAbout[A][] {
  const { waiting, refused } = useOutbox();
  const { revalidate } = useRevalidator();
  const [seen, setSeen] = useState<ReadonlyMap<string, EventsAbout[A]>>(new Map());
  const before = useRef(0);
  const key = ids.join(' ');
  useEffect(() => {
    const own = new Set<unknown>(key.split(' '));
    setSeen((known) => {
      const fresh = waiting.filter((e) => own.has((e as { [field in A]?: string })[about]) && !known.has(e.id));
      return fresh.length === 0
        ? known
        : new Map([...known, ...fresh.map((e) => [e.id, e as EventsAbout[A]] as const)]);
    });
    if (follows && before.current > 0 && waiting.length === 0) void revalidate();
    before.current = waiting.length;
  }, [about, follows, key, revalidate, waiting]);
  return useMemo(() => {
    const never = new Set(refused.map((r) => r.event.id));
    return [...seen.values()].filter((e) => !never.has(e.id));
  }, [seen, refused]);
}
