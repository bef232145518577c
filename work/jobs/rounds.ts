import type { Plan } from '#core/job/index.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { revise } from './jobs.ts';

/** In how many rounds the pieces of a layer are cut, where they do not lie on the mat at once. @throws NotFound, Invalid beyond the loads of a job */
export async function setRounds(person: Person, id: string, layer: string, rounds: number): Promise<void> {
  await revise(person, id, (plan) => {
    const { layers } = plan;
    if (!layers.some((l) => l.id === layer)) throw new NotFound('No such layer.');
    const changed = layers.map(({ rounds: had, ...l }): Plan['layers'][number] => {
      const now = l.id === layer ? rounds : had;
      return now !== undefined && now > 1 ? { ...l, rounds: Math.min(now, plan.pieces.length) } : l;
    });
    return { ...plan, layers: changed };
  });
}
