import { useEffect, useMemo, useRef, useState } from 'react';
import type { GradeEvent } from '#core/grades/index.ts';
import { fitInputFrom, type Evidence, type FitResult } from '#core/window/index.ts';

/** The reading of the evidence as it stands on this device, made in a worker; the last one stays until the next is there. */
export function useReading(
  evidence: Evidence,
  events: readonly GradeEvent[],
  first: FitResult,
): { result: FitResult; reading: boolean } {
  const input = useMemo(() => JSON.stringify(fitInputFrom(evidence, events)), [evidence, events]);
  const [answer, setAnswer] = useState({ input, result: first });
  const worker = useRef<Worker>(undefined);

  useEffect(() => {
    const made = new Worker(new URL('../../../workers/reading.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    return () => made.terminate();
  }, []);

  useEffect(() => {
    if (answer.input === input || !worker.current) return;
    const current = worker.current;
    const job = Math.random();
    const take = (message: MessageEvent<{ job: number; result: FitResult }>) => {
      if (message.data.job === job) setAnswer({ input, result: message.data.result });
    };
    current.addEventListener('message', take);
    current.postMessage({ job, input: JSON.parse(input) });
    return () => current.removeEventListener('message', take);
  }, [answer.input, input]);

  return { result: answer.result, reading: answer.input !== input };
}
