import { v7 as uuidv7 } from 'uuid';
import type { Plan } from '#core/job/index.ts';

/** Each layer on a load of its own, all pieces together or in as many rounds as were asked for: those that were there keep their ids. */
export function loadsFor(plan: Pick<Plan, 'layers' | 'pieces'>, before: Plan['loads']): Plan['loads'] {
  const pieces = plan.pieces.map((p) => p.id);
  return plan.layers.flatMap((layer) => {
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
}
