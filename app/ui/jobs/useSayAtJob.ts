import { useCallback } from 'react';
import type { JobEvent } from '#core/job/index.ts';
import { useOutbox, type Unstamped } from '../base/outbox.tsx';

type Said<E> = E extends unknown ? Omit<E, 'job' | 'rev'> : never;

/** How a page of a job says what hands did at it, by the plan it shows. */
export function useSayAtJob(job: string, rev: number): (event: Said<Unstamped<JobEvent>>) => JobEvent {
  const { add } = useOutbox();
  return useCallback((event) => add({ ...event, job, rev } as Unstamped<JobEvent>) as JobEvent, [add, job, rev]);
}
