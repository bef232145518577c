import type { Plan } from '#core/job/index.ts';
import { shapes } from '#core/place/index.ts';
import { applySteps } from '#core/press/index.ts';
import { blanks } from '#core/vinyls/index.ts';
import type { PlannedFilm, PressStepView } from './pressView.ts';

/** What is stuck on, painted through or glued by hand, once everything is pressed; then steps of one's own. */
export function appliedOf(plan: Plan, films: readonly PlannedFilm[]): PressStepView[] {
  const applied = films.map((f) => ({
    id: f.id,
    name: f.name,
    type: f.type,
    bond: f.bond,
    face: f.face,
    carry: f.carry,
    stencil: plan.layers.find((l) => l.id === f.id)?.stencil,
    widthUm: (plan.layers.find((l) => l.id === f.id)?.box?.width ?? 1) * (plan.design?.widthUm ?? 0),
  }));
  const byHand = (what: string, layers: string[], says: string[], rest: number | undefined): PressStepView => ({
    does: 'last',
    purpose: 'full',
    heat: undefined,
    seconds: undefined,
    pressure: undefined,
    cover: undefined,
    support: 'as usual',
    peel: undefined,
    wait: 0,
    change: undefined,
    ask: undefined,
    then: undefined,
    toSet: undefined,
    hand: undefined,
    by: undefined,
    over: undefined,
    parts: 1,
    kind: 'apply',
    byHand: false,
    lifts: 'carrier',
    what: `apply ${what}`,
    layers,
    says,
    rest,
  });
  return [
    ...applySteps(applied, { ...blanks[plan.blank.surface], round: shapes[plan.blank.shape].round === true }).map((s) =>
      byHand(s.does, s.films, s.says, s.rest),
    ),
    ...plan.finish.map((s) => byHand(`own ${s.id}`, [], [s.says], s.rest || undefined)),
  ];
}
