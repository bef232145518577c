import { nextAfter, type Next } from '#core/answer/index.ts';
import { strengthAxis } from '#core/controls/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { sayMissing } from '#core/proof/index.ts';
import { readingFor, settingOf } from '#work/coupons/readings.ts';
import type { CutView } from '#work/cuts/cuts.ts';
import type { Person } from '#work/people/person.ts';

/** What to do after a cut was graded: what to set next time, what is kept, and what is missing for proof. */
export type AfterCut = {
  next: Next;
  kept: number | undefined;
  missing: string | undefined;
  standing: string | undefined;
};

/** Undefined as long as the cut has no grade after the passes it was cut with. */
export async function afterCut(person: Person, cut: CutView): Promise<AfterCut | undefined> {
  const graded = currentGrades(cut.events).find((g) => g.cell === cut.cell && g.passes === cut.passesSet);
  if (!graded) return undefined;
  const axis = strengthAxis(cut.model);
  const { result } = await readingFor(person.id, cut.vinyl.id, cut.cutterId, cut.wanted, undefined);
  const kept = await settingOf(
    person.id,
    cut.vinyl.id,
    { id: cut.cutterId, model: cut.model },
    cut.wanted,
    cut.vinyl.colour?.id,
  );
  return {
    next: nextAfter(axis, cut.position, graded.grade, cut.wanted, result),
    kept: kept?.controls.steps[axis.key],
    missing: kept?.proof?.missing && sayMissing(kept.proof.missing),
    standing: kept?.standing,
  };
}
