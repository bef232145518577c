import { v7 as uuidv7 } from 'uuid';
import { jobLimits, type Plan } from '#core/job/index.ts';
import { Invalid } from '#work/base/errors.ts';

/** Each layer on a load of its own, all pieces together or in as many rounds as were asked for: those that were there keep their ids. @throws Invalid beyond what a job has */
export function loadsFor(plan: Pick<Plan, 'layers' | 'pieces'>, before: Plan['loads']): Plan['loads'] {
  const pieces = plan.pieces.map((p) => p.id);
  const loads = plan.layers.flatMap((layer) => {
    const had = before.filter((l) => l.parts[0]!.layer === layer.id);
    const rounds = Math.min(layer.rounds ?? 1, pieces.length);
    const from = (round: number) => Math.round((round * pieces.length) / rounds);
    return Array.from({ length: rounds }, (_, i) => {
      const these = pieces.slice(from(i), from(i + 1));
      const load = had[i];
      return load
        ? { id: load.id, parts: [{ ...load.parts[0]!, pieces: these }] }
        : { id: uuidv7(), parts: [{ id: uuidv7(), layer: layer.id, pieces: these }] };
    });
  });
  if (loads.length > jobLimits.loads)
    throw new Invalid({
      form: `A job is cut in at most ${jobLimits.loads} loads. Lay a larger mat, or begin two jobs.`,
    });
  return loads;
}
