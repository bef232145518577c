import { useEffect, useMemo, useState } from 'react';
import type { BenchEvent } from '#core/grades/index.ts';
import { useOutbox } from './outbox.tsx';

/**
 * What was tapped on this device about these cells and the loader has not told yet: everything in the outbox, and what was
 * sent since the page was loaded. Repeats do no harm: events are told apart by id.
 */
export function useBenchEvents(cells: readonly string[]): BenchEvent[] {
  const { waiting, refused } = useOutbox();
  const [seen, setSeen] = useState<ReadonlyMap<string, BenchEvent>>(new Map());
  const key = cells.join(' ');
  useEffect(() => {
    const own = new Set(key.split(' '));
    setSeen((before) => {
      const fresh = waiting.filter((e): e is BenchEvent => 'cell' in e && own.has(e.cell) && !before.has(e.id));
      return fresh.length === 0 ? before : new Map([...before, ...fresh.map((e) => [e.id, e] as const)]);
    });
  }, [key, waiting]);
  return useMemo(() => {
    const never = new Set(refused.map((r) => r.event.id));
    return [...seen.values()].filter((e) => !never.has(e.id));
  }, [seen, refused]);
}
