import { useEffect, useMemo, useState } from 'react';
import type { GradeEvent } from '#core/grades/index.ts';
import { planDefaults, type PlanInput } from '#core/planner/index.ts';
import { fitInputFrom, type Evidence } from '#core/window/index.ts';
import type { Ahead } from '#workers/planning.worker.ts';

/** What one more coupon is expected to bring, looked at in a worker; undefined until that is known. */
export function useNextCoupon(evidence: Evidence, events: readonly GradeEvent[]): Ahead | undefined {
  const asked = useMemo(() => {
    const { model, type, wanted, target, cells, around } = fitInputFrom(evidence, events);
    if (cells.length === 0) return undefined;
    const input: PlanInput = {
      format: 'versipel-plan/1',
      model,
      type,
      cells,
      wanted,
      target,
      base: evidence.base,
      ...(around ? { around } : {}),
      mode: 'new',
      also: [],
      count: planDefaults.cells,
      seed: 1,
    };
    return JSON.stringify(input);
  }, [evidence, events]);
  const [answer, setAnswer] = useState<{ asked: string; ahead: Ahead }>();
  useEffect(() => {
    if (asked === undefined) return;
    const worker = new Worker(new URL('../../../workers/planning.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = (message: MessageEvent<Ahead>) => setAnswer({ asked, ahead: message.data });
    worker.postMessage(JSON.parse(asked) as PlanInput);
    return () => worker.terminate();
  }, [asked]);
  return answer?.asked === asked ? answer?.ahead : undefined;
}
