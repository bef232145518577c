import { jobLimits, type Plan } from '#core/job/index.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
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
    if (changed.reduce((sum, l) => sum + (l.rounds ?? 1), 0) > jobLimits.loads)
      throw new Invalid({
        form: `A job is cut in at most ${jobLimits.loads} loads. Lay a larger mat, or begin two jobs.`,
      });
    return { ...plan, layers: changed };
  });
}
