import type { Plan } from '#core/job/index.ts';
import { minutes, sectionsOf, type HeatSource } from '#core/press/index.ts';
import type { PlannedFilm, PressStepView } from './pressView.ts';

/** In how many parts layers are pressed, all of them where a step names none: a plate may be smaller than where they lie. */
export function partsOn(plan: Plan, ids: readonly string[], source: HeatSource): number {
  if (!plan.design) return 1;
  const boxes = plan.layers.flatMap((l) => (l.box && (ids.length === 0 || ids.includes(l.id)) ? [l.box] : []));
  // Names of their own lie where they lie: the whole width is pressed.
  const whole = boxes.length === 0 || plan.pieces.some((p) => p.name);
  const span = (from: number[], to: number[]) => (Math.max(...to) - Math.min(...from)) * plan.design!.widthUm;
  return sectionsOf(
    {
      widthUm: whole
        ? plan.design.widthUm
        : span(
            boxes.map((b) => b.x),
            boxes.map((b) => b.x + b.width),
          ),
      heightUm:
        boxes.length === 0
          ? 0
          : span(
              boxes.map((b) => b.y),
              boxes.map((b) => b.y + b.height),
            ),
    },
    source,
  );
}

/** What pressing in parts adds, in words; nothing where all is pressed at once. */
export function sayParts(
  steps: readonly Pick<PressStepView, 'parts' | 'seconds'>[],
  films: readonly Pick<PlannedFilm, 'type'>[],
): string[] {
  const most = Math.max(1, ...steps.map((s) => s.parts));
  const more = steps.reduce((s, step) => s + (step.parts - 1) * (step.seconds ?? 0), 0);
  if (most === 1) return [];
  return [
    `It is larger than the plate: up to ${most} parts a press, each for its time, about ${minutes(more)} more a piece.`,
    // Common practice, no source: a doubled overlap does no harm to plain film.
    ...(films.some((f) => f.type !== 'smooth')
      ? ['Where parts overlap it is heated twice. Plain film bears that; try any other on a scrap.']
      : []),
  ];
}
