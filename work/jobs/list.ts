import { runSheet, type missing, type Plan } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import type { Person } from '#work/people/person.ts';
import { habitsOf, pressesOf, pressOf } from './press.ts';
import { factsOf, missingOf, vinylsOfPlan } from './view.ts';

export type JobRow = {
  id: string;
  name: string;
  at: string;
  done: number;
  of: number;
  next: string | undefined;
  missing: ReturnType<typeof missing>;
  hex: string;
  shape: Plan['blank']['shape'];
  surface: Plan['blank']['surface'];
};

/** The jobs of a person, the one last worked at first, each with how far it is. */
export async function jobsOf(person: Person | undefined, { limit = 20, archived = false } = {}): Promise<JobRow[]> {
  if (!person) return [];
  const rows = await store.jobsOf(db(), person.id, limit, archived);
  const ids = rows.map((r) => r.id);
  const [plans, events, facts, presses] = await Promise.all([
    store.newestPlans(db(), ids),
    store.eventsOf(db(), ids),
    factsOf(ids),
    pressesOf(person),
  ]);
  return Promise.all(
    rows.map(async (row) => {
      const { plan, widths } = plans.find((p) => p.job_id === row.id)!;
      const vinyls = await vinylsOfPlan(person, plan);
      const habits = await habitsOf(person, [...vinyls.values()], plan.blank.surface, presses);
      const sheet = runSheet(
        plan,
        widths.map((w) => w ?? undefined),
        events.filter((e) => e.job === row.id),
        facts.filter((f) => f.job === row.id && !f.undone),
        pressOf(plan, vinyls, habits).steps,
        0,
      );
      return {
        id: row.id,
        name: row.name,
        at: row.touched_at.toISOString(),
        done: sheet.done,
        of: sheet.steps.length,
        next: sheet.next,
        missing: missingOf(plan, vinyls),
        hex: plan.blank.hex,
        shape: plan.blank.shape,
        surface: plan.blank.surface,
      };
    }),
  );
}
