import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import type { JobEvent } from '#core/job/index.ts';
import { useOutbox } from '../coupons/outbox.tsx';

type Said<E> = E extends unknown ? Omit<E, 'id' | 'device' | 'deviceAt' | 'job' | 'rev'> : never;

/**
 * What hands did at a job on this device and the loader has not told yet, and how to say more. Once all of it has arrived, the page asks
 * what followed from it.
 */
export function useJobEvents(job: string, rev: number): { mine: JobEvent[]; say: (event: Said<JobEvent>) => JobEvent } {
  const { waiting, refused, add } = useOutbox();
  const { revalidate } = useRevalidator();
  const [seen, setSeen] = useState<ReadonlyMap<string, JobEvent>>(new Map());
  const before = useRef(0);
  useEffect(() => {
    setSeen((known) => {
      const fresh = waiting.filter((e): e is JobEvent => 'job' in e && e.job === job && !known.has(e.id));
      return fresh.length === 0 ? known : new Map([...known, ...fresh.map((e) => [e.id, e] as const)]);
    });
    if (before.current > 0 && waiting.length === 0) void revalidate();
    before.current = waiting.length;
  }, [job, revalidate, waiting]);
  const say = useCallback((event: Said<JobEvent>) => add({ ...event, job, rev } as never) as JobEvent, [add, job, rev]);
  const mine = useMemo(() => {
    const never = new Set(refused.map((r) => r.event.id));
    return [...seen.values()].filter((e) => !never.has(e.id));
  }, [seen, refused]);
  return { mine, say };
}
